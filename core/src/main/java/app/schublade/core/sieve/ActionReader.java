package app.schublade.core.sieve;

import app.schublade.core.filing.Effect;
import app.schublade.core.place.FolderRef;
import app.schublade.core.problem.InputProblem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Makes effects of actions that stand together in a script: what one of them means depends on the others. */
final class ActionReader {
    /** What may stand at {@code fileinto} and changes nothing here: a folder that is not there is made in any case. */
    private static final Set<String> HARMLESS = Set.of("create", "copy", "flags");

    private final SieveWorld world;
    private final Remarks remarks;

    ActionReader(SieveWorld world, Remarks remarks) {
        this.world = world;
        this.remarks = remarks;
    }

    /** Takes note of something that rules say otherwise, or not at all. */
    interface Remarks {
        /** @param leftOut whether there is nothing for it here */
        void add(int line, boolean leftOut, String what);
    }

    /**
     * What actions come to.
     *
     * @param actions those that are come to, up to a {@code stop}
     * @param line of the first of them
     */
    record Done(List<Effect> effects, boolean last, List<Command> actions, int line) {}

    Done read(List<Command> commands) {
        List<Command> actions = untilStop(commands);
        List<Effect> effects = new ArrayList<>();
        boolean keeps = actions.stream().anyMatch(action -> action.is("keep"));
        boolean goes = false;
        boolean last = false;
        for (Command action : actions) {
            try {
                last |= action.is("stop") || action.anywhere().equals(SieveWriter.LAST);
                List<Effect> more = effects(action, keeps || goes);
                goes |= more.stream().anyMatch(Effect.FileInto.class::isInstance);
                effects.addAll(more);
            } catch (Unsayable e) {
                remarks.add(action.line(), true, e.what());
            } catch (InputProblem e) {
                remarks.add(action.line(), true, String.valueOf(e.getMessage()));
            }
        }
        boolean isPassedOn = actions.stream().anyMatch(action -> action.is("redirect") && !action.has("copy"));
        if (isPassedOn && !keeps && !goes && effects.stream().anyMatch(Effect.Forward.class::isInstance)) {
            remarks.add(line(actions), false, "what the script passes on and does not keep goes to the trash here");
            effects.add(new Effect.FileInto(world.trash()));
        }
        return new Done(effects, last, actions, line(actions));
    }

    private static List<Command> untilStop(List<Command> commands) {
        List<Command> actions = new ArrayList<>();
        for (Command command : commands) {
            if (!command.is("require")) {
                actions.add(command);
            }
            if (command.is("stop") || command.anywhere().equals(SieveWriter.LAST)) {
                break;
            }
        }
        return actions;
    }

    private static int line(List<Command> actions) {
        return actions.isEmpty() ? 0 : actions.get(0).line();
    }

    /** The folder that a command of {@link SieveWriter}'s files into unless an earlier one did. */
    static Optional<String> folder(Command command) {
        boolean ours = SieveWriter.NOT_FILED.equals(command.test())
                && command.block().size() == 1
                && command.block().get(0).is("set")
                && command.block().get(0).arguments().size() == 2
                && command.block().get(0).arguments().get(0).equals(Argument.text("folder"));
        return ours ? command.block().get(0).texts().stream().findFirst() : Optional.empty();
    }

    /** @param stays whether the message is kept, or filed already, so that it can only be copied from there */
    private List<Effect> effects(Command action, boolean stays) throws Unsayable {
        Optional<String> folder = folder(action);
        if (folder.isPresent()) {
            return List.of(new Effect.FileInto(world.folder(folder.get())));
        }
        return switch (action.name()) {
            case "fileinto" -> fileInto(action, stays);
            case "vacation" -> List.of(answer(action));
            case "keep" -> flags(action, action.texts(), true);
            case "discard" -> discard(action, stays);
            case "redirect" -> List.of(forward(action));
            case "notify" -> {
                remarks.add(action.line(), false, "the notice is shown by the browser here");
                yield List.of(new Effect.Notify(false));
            }
            case "reject", "ereject" -> throw new Unsayable("mail that has arrived cannot be refused any more");
            case "setflag" -> {
                remarks.add(action.line(), false, "flags that were set before stay here");
                yield flags(action, action.texts(), true);
            }
            case "addflag" -> flags(action, action.texts(), true);
            case "removeflag" -> flags(action, action.texts(), false);
            case "stop" -> List.of();
            default -> {
                if (action.anywhere().equals(SieveWriter.LAST)) {
                    yield List.of();
                }
                throw new Unsayable("the command “%s” has no counterpart here".formatted(action.name()));
            }
        };
    }

    /** RFC 5228, section 4.4: it takes back that the message is kept by itself, and nothing else. */
    private List<Effect> discard(Command action, boolean stays) {
        if (stays) {
            return List.of();
        }
        remarks.add(action.line(), false, "what the script would lose goes to the trash here");
        return List.of(new Effect.FileInto(world.trash()));
    }

    private Effect forward(Command action) throws Unsayable {
        refuseAllBut(action, Set.of("copy"));
        if (action.texts().size() != 1 || action.texts().get(0).contains("${")) {
            throw new Unsayable("this address is put together only when mail arrives");
        }
        remarks.add(
                action.line(),
                false,
                "it is passed on in a message of your own here, not as if its sender had written there");
        return new Effect.Forward(action.texts().get(0), false, "");
    }

    private static void refuseAllBut(Command action, Set<String> tags) throws Unsayable {
        for (Argument argument : action.arguments()) {
            if (argument instanceof Argument.Tag tag && !tags.contains(tag.name())) {
                throw new Unsayable("“%s :%s” has no counterpart here".formatted(action.name(), tag.name()));
            }
        }
    }

    private static Effect answer(Command action) throws Unsayable {
        List<Argument> plain =
                List.of(Argument.tag("days"), new Argument.Count(SieveWriter.DAYS), Argument.text(action.texts()));
        if (action.texts().size() != 1
                || !(action.arguments().equals(plain) || action.arguments().equals(plain.subList(2, plain.size())))) {
            throw new Unsayable("here a sender is answered once in %d days, with a text and nothing else"
                    .formatted(SieveWriter.DAYS));
        }
        return new Effect.Answer(action.texts().get(0));
    }

    private List<Effect> fileInto(Command action, boolean stays) throws Unsayable {
        refuseAllBut(action, HARMLESS);
        if (action.texts().size() != 1 || action.texts().get(0).contains("${")) {
            throw new Unsayable("the name of this folder is put together only when mail arrives");
        }
        List<Effect> effects = new ArrayList<>();
        int flags = action.arguments().indexOf(Argument.tag("flags"));
        if (flags >= 0
                && flags + 1 < action.arguments().size()
                && action.arguments().get(flags + 1) instanceof Argument.Strings names) {
            effects.addAll(flags(action, names.values(), true));
        }
        FolderRef folder = world.folder(action.texts().get(0));
        if (stays || action.has("copy")) {
            if (!effects.isEmpty()) {
                throw new Unsayable("a copy with flags of its own has no counterpart here");
            }
            return List.of(new Effect.CopyInto(folder));
        }
        effects.add(new Effect.FileInto(folder));
        return effects;
    }

    /** Those that mean something here; of the others it is said. */
    private List<Effect> flags(Command action, List<String> names, boolean on) {
        if (!on && names.equals(world.categoryKeywords())) {
            return List.of(new Effect.Categorise(null));
        }
        List<Effect> effects = new ArrayList<>();
        for (String list : names) {
            for (String name : list.strip().split("\\s+", -1)) {
                Effect effect = flag(name, on);
                if (effect != null) {
                    effects.add(effect);
                } else if (!name.isEmpty()) {
                    remarks.add(
                            action.line(),
                            true,
                            "the keyword “%s” stands for no label or category here".formatted(name));
                }
            }
        }
        return effects;
    }

    private @Nullable Effect flag(String name, boolean on) {
        if (name.equalsIgnoreCase(SieveWriter.SEEN)) {
            return new Effect.MarkRead(on);
        }
        if (name.equalsIgnoreCase(SieveWriter.FLAGGED)) {
            return new Effect.Flag(on);
        }
        return world.effect(name, on);
    }
}
