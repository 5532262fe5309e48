package app.schublade.core.sieve;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Sized;
import app.schublade.core.place.FolderRef;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Reads rules from a Sieve script (RFC 5228). What has no counterpart here is listed with its line, and the rule it
 * belongs to is left out; nothing is guessed.
 */
public final class SieveReader {
    private static final int MAX_NAME = 100;
    private static final Map<String, String> REFUSED = Map.of(
            "redirect", "forwarding by rule has no counterpart here yet",
            "notify", "notices have no counterpart here yet",
            "reject", "mail that has arrived cannot be refused any more",
            "ereject", "mail that has arrived cannot be refused any more");

    private final SieveWorld world;
    private final TestReader tests;
    private final List<Rule> rules = new ArrayList<>();
    private final List<ReadingRemark> remarks = new ArrayList<>();

    private SieveReader(SieveWorld world) {
        this.world = world;
        tests = new TestReader(world);
    }

    /** What came of reading; the rules are numbered from 1 by their ids. */
    public record Read(List<Rule> rules, List<ReadingRemark> remarks) {}

    /**
     * Something that a script says and rules cannot, or say otherwise.
     *
     * @param line of the script, from 1
     * @param leftOut whether there is no rule for it
     */
    public record ReadingRemark(int line, boolean leftOut, String what) {}

    /** @throws SieveException if this is no Sieve */
    public static Read read(String script, SieveWorld world) throws SieveException {
        SieveReader reader = new SieveReader(world);
        reader.walk(SieveParser.parse(script), new Context(List.of(), List.of(), ""));
        return new Read(List.copyOf(reader.rules), List.copyOf(reader.remarks));
    }

    /** Under which tests commands stand, and what the script calls that. */
    private record Context(List<Test> when, List<Test> unless, String name) {
        Context in(Test test, String inner) {
            List<Test> all = new ArrayList<>(when);
            all.add(test);
            return new Context(all, unless, inner.isEmpty() ? name : inner);
        }

        Context without(Test test) {
            List<Test> all = new ArrayList<>(unless);
            all.add(test);
            return new Context(when, all, name);
        }
    }

    private void walk(List<Command> commands, Context context) {
        List<Command> actions = new ArrayList<>();
        Context chain = context;
        for (Command command : commands) {
            boolean follows = command.is("elsif") || command.is("else");
            if (!follows) {
                chain = context;
            }
            if (command.test() == null && !follows) {
                actions.add(command);
                continue;
            }
            if (folder(command).isPresent()) {
                actions.add(command);
                continue;
            }
            take(actions, context);
            actions.clear();
            if (command.anywhere().equals(SieveWriter.END)) {
                continue;
            }
            Context inner = command.test() == null ? chain : chain.in(command.test(), command.comment());
            walk(command.block(), inner);
            chain = command.test() == null ? chain : chain.without(command.test());
        }
        take(actions, context);
    }

    /** The folder that a command of {@link SieveWriter}'s files into unless an earlier one did. */
    private static Optional<String> folder(Command command) {
        boolean ours = SieveWriter.NOT_FILED.equals(command.test())
                && command.block().size() == 1
                && command.block().get(0).is("set")
                && command.block().get(0).arguments().size() == 2
                && command.block().get(0).arguments().get(0).equals(Argument.text("folder"));
        return ours ? command.block().get(0).texts().stream().findFirst() : Optional.empty();
    }

    /** Makes a rule of actions that stand together. */
    private void take(List<Command> actions, Context context) {
        List<Effect> effects = new ArrayList<>();
        boolean last = false;
        int line = 0;
        for (Command action : actions) {
            if (action.is("require") || last) {
                continue;
            }
            line = line == 0 ? action.line() : line;
            try {
                last |= action.is("stop") || action.anywhere().equals(SieveWriter.LAST);
                effects.addAll(effects(action));
            } catch (Unsayable e) {
                remarks.add(new ReadingRemark(action.line(), true, e.what()));
            }
        }
        if (effects.isEmpty() && !last) {
            return;
        }
        try {
            Rule rule = rule(context, effects, last);
            boolean files = rule.then().stream().anyMatch(Effect.FileInto.class::isInstance);
            boolean filed = actions.stream().anyMatch(one -> one.is("fileinto"));
            boolean earlier = rules.stream()
                    .anyMatch(one -> !one.last() && one.then().stream().anyMatch(Effect.FileInto.class::isInstance));
            if (files && filed && earlier) {
                remarks.add(new ReadingRemark(
                        line,
                        false,
                        "the script may file a message here that it filed before; here the first folder wins"));
            }
            rules.add(rule);
        } catch (Unsayable e) {
            remarks.add(new ReadingRemark(line, true, e.what()));
        }
    }

    private Rule rule(Context context, List<Effect> effects, boolean last) throws Unsayable {
        List<Condition> when = new ArrayList<>();
        List<Condition> unless = new ArrayList<>();
        for (Test test : context.when()) {
            for (Test part : test.is("allof") ? parts(test) : List.of(test)) {
                if (!part.equals(SieveWriter.NOT_LAST)) {
                    Condition condition = tests.condition(part);
                    if (condition instanceof Not not) {
                        unless.add(not.condition());
                    } else {
                        when.add(condition);
                    }
                }
            }
        }
        unless.addAll(tests.conditions(context.unless()));
        if (when.isEmpty()) {
            when.add(unless.isEmpty() ? new Sized(false, true, 0) : new Not(unless.remove(0)));
        }
        int number = rules.size() + 1;
        String name = context.name().isBlank() ? sentence(when.get(0)) : context.name();
        return new Rule(
                number, name.substring(0, Math.min(name.length(), MAX_NAME)), true, when, unless, effects, last);
    }

    /** The parts of an {@code allof}, unless all of it is one condition. */
    private List<Test> parts(Test test) {
        try {
            boolean several = tests.condition(test) instanceof Group;
            return several ? test.tests() : List.of(test);
        } catch (Unsayable e) {
            return test.tests();
        }
    }

    private static String sentence(Condition condition) {
        String sentence = condition.sentence();
        return sentence.substring(0, 1).toUpperCase(Locale.ROOT) + sentence.substring(1);
    }

    private List<Effect> effects(Command action) throws Unsayable {
        Optional<String> folder = folder(action);
        if (folder.isPresent()) {
            return List.of(new Effect.FileInto(world.folder(folder.get())));
        }
        if (REFUSED.containsKey(action.name())) {
            throw new Unsayable(REFUSED.get(action.name()));
        }
        return switch (action.name()) {
            case "fileinto" -> fileInto(action);
            case "vacation" -> List.of(answer(action));
            case "keep" -> flags(action.texts(), true);
            case "discard" -> {
                remarks.add(
                        new ReadingRemark(action.line(), false, "what the script would lose goes to the trash here"));
                yield List.of(new Effect.FileInto(world.trash()));
            }
            case "setflag" -> {
                remarks.add(new ReadingRemark(action.line(), false, "flags that were set before stay here"));
                yield flags(action.texts(), true);
            }
            case "addflag" -> flags(action.texts(), true);
            case "removeflag" -> flags(action.texts(), false);
            case "stop" -> List.of();
            default -> {
                if (action.anywhere().equals(SieveWriter.LAST)) {
                    yield List.of();
                }
                throw new Unsayable("the command “%s” has no counterpart here".formatted(action.name()));
            }
        };
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

    private List<Effect> fileInto(Command action) throws Unsayable {
        if (action.texts().size() != 1 || action.texts().get(0).contains("${")) {
            throw new Unsayable("the name of this folder is put together only when mail arrives");
        }
        List<Effect> effects = new ArrayList<>();
        int flags = action.arguments().indexOf(Argument.tag("flags"));
        if (flags >= 0
                && flags + 1 < action.arguments().size()
                && action.arguments().get(flags + 1) instanceof Argument.Strings names) {
            effects.addAll(flags(names.values(), true));
        }
        FolderRef folder = world.folder(action.texts().get(0));
        if (action.has("copy")) {
            if (!effects.isEmpty()) {
                throw new Unsayable("a copy with flags of its own has no counterpart here");
            }
            return List.of(new Effect.CopyInto(folder));
        }
        effects.add(new Effect.FileInto(folder));
        return effects;
    }

    private List<Effect> flags(List<String> names, boolean on) throws Unsayable {
        if (!on && names.equals(world.categoryKeywords())) {
            return List.of(new Effect.Categorise(null));
        }
        List<Effect> effects = new ArrayList<>();
        for (String list : names) {
            for (String name : list.strip().split("\\s+", -1)) {
                effects.add(flag(name, on));
            }
        }
        return effects;
    }

    private Effect flag(String name, boolean on) throws Unsayable {
        if (name.equalsIgnoreCase(SieveWriter.SEEN)) {
            return new Effect.MarkRead(on);
        }
        if (name.equalsIgnoreCase(SieveWriter.FLAGGED)) {
            return new Effect.Flag(on);
        }
        Effect effect = world.effect(name, on);
        if (effect == null) {
            throw new Unsayable("the keyword “%s” stands for no label or category here".formatted(name));
        }
        return effect;
    }
}
