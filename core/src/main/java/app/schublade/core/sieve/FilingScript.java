package app.schublade.core.sieve;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.sieve.SieveWriter.WritingRemark;
import app.schublade.core.sieve.SieveWriter.Written;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Writes rules as a script (RFC 5228) that files on the server of one account in our place, with the other rules acting here on
 * what it leaves. What it does counts as done, so it must be what the rules would have done here:
 *
 * <ul>
 *   <li>Of each rule it asks first whether the server may read this message otherwise ({@link ExactTests}). If so, it does
 *       nothing at all, and the message is filed here.
 *   <li>All is done at the end, in one go: flags are on the message and on its copies.
 *   <li>A rule that a server cannot carry out is left out if no other one depends on whether it acted; else messages that
 *       may be for it are left alone.
 * </ul>
 */
public final class FilingScript {
    private static final Command LEAVE_ALONE = Command.of("stop");
    private static final Command NO_FLAGS = Command.of("setflag", Argument.text(""));
    private static final String INBOX = "INBOX";
    /** Servers allow for so many variables, and some more. */
    private static final int MOST_COPIES = 40;

    private final SieveWorld world;
    private final Set<String> extensions;
    private final String mark;
    private final ExactTests tests;

    /**
     * @param extensions those that the server knows
     * @param mark a keyword that each message gets that the script decided on
     * @param zone of the user
     */
    public FilingScript(SieveWorld world, Set<String> extensions, String mark, ZoneId zone, Instant now) {
        this.world = world;
        this.extensions = Set.copyOf(extensions);
        this.mark = mark;
        tests = new ExactTests(world, zone, now);
    }

    /** What of a message an effect is about: two effects of one aspect depend on their order. */
    private enum AspectKind {
        PLACE,
        COPY,
        LABEL,
        CATEGORY,
        READ,
        FLAG,
        NOTHING
    }

    /** One aspect, of labels one for each. */
    private record Aspect(AspectKind kind, long id) {
        static Aspect of(AspectKind kind) {
            return new Aspect(kind, 0);
        }
    }

    /** What a script says of a rule. */
    private static final class Said {
        private final Rule rule;
        private final Decidable when;
        private final @Nullable List<Command> then;
        private final String why;

        /**
         * @param then null if a server cannot do it
         * @param why what it cannot
         */
        Said(Rule rule, Decidable when, @Nullable List<Command> then, String why) {
            this.rule = rule;
            this.when = when;
            this.then = then;
            this.why = why;
        }

        /** Whether nothing is known of which messages it is for. */
        boolean mayBeForAll() {
            return (then == null
                            ? when.possibly()
                            : Decidable.both(List.of(when.possibly(), Decidable.not(when.surely()))))
                    .equals(Test.TRUE);
        }

        boolean isWhole() {
            return then != null && when.doubts().isEmpty();
        }
    }

    /** Writes the rules that are on, in their order. */
    public Written write(List<Rule> rules) {
        List<WritingRemark> remarks = new ArrayList<>();
        Map<String, String> copies = new LinkedHashMap<>();
        List<Said> said = new ArrayList<>();
        for (Rule rule : rules) {
            if (rule.on() && !rule.when().isEmpty()) {
                said.add(say(rule, copies));
            } else {
                remarks.add(new WritingRemark(rule, true, rule.on() ? "it has no conditions" : "it is switched off"));
            }
        }
        Map<Rule, String> here = leftOut(said);
        List<Command> commands = new ArrayList<>();
        List<Rule> written = new ArrayList<>();
        boolean lastBefore = false;
        for (Said one : said) {
            String why = here.get(one.rule);
            if (why != null) {
                remarks.add(new WritingRemark(one.rule, true, why));
                continue;
            }
            commands.add(command(one, lastBefore));
            written.add(one.rule);
            lastBefore |= one.then != null && one.rule.last();
            if (!one.isWhole()) {
                remarks.add(new WritingRemark(one.rule, false, partly(one)));
            }
        }
        boolean files = commands.stream().anyMatch(SieveWriter::files);
        copies.values()
                .removeIf(variable ->
                        commands.stream().noneMatch(one -> one.block().contains(ExactTests.set(variable))));
        commands.add(SieveWriter.flag(true, mark).commented("What was decided is done here, once."));
        copies.forEach((folder, variable) -> copy(folder, variable, commands));
        if (files) {
            commands.add(SieveWriter.END);
        }
        commands.addAll(0, facts(commands));
        commands.add(0, Command.of("require", Argument.text(List.copyOf(SieveWriter.extensions(commands)))));
        return new Written(SievePrinter.print(commands), remarks, written);
    }

    /** Each fact that something asks for is found out first. */
    private List<Command> facts(List<Command> commands) {
        String script = SievePrinter.print(commands);
        return tests.facts().entrySet().stream()
                .filter(fact -> script.contains("${" + fact.getKey() + "}"))
                .map(fact -> Command.when(fact.getValue(), List.of(ExactTests.set(fact.getKey()))))
                .toList();
    }

    private static String partly(Said one) {
        return one.then == null
                ? "mail that may be for it is filed here: " + one.why
                : "is decided here for mail with " + String.join("; ", new TreeSet<>(one.when.doubts()));
    }

    private Said say(Rule rule, Map<String, String> copies) {
        Decidable when = Decidable.all(tests.all(rule.when()));
        if (!rule.unless().isEmpty()) {
            when = Decidable.all(
                    List.of(when, Decidable.any(tests.all(rule.unless())).not()));
        }
        Command asked = Command.when(Test.any(List.of(when.surely(), when.possibly())), List.of());
        List<Command> tested = new ArrayList<>(facts(List.of(asked)));
        tested.add(asked);
        Set<String> unknown = SieveWriter.extensions(tested);
        unknown.removeAll(extensions);
        if (!unknown.isEmpty()) {
            return new Said(rule, Decidable.unknown(""), null, unknownTo(unknown));
        }
        try {
            List<Command> then = new ArrayList<>();
            Map<String, String> wanted = new LinkedHashMap<>(copies);
            for (Effect effect : rule.then()) {
                then.addAll(effect.accept(new Deferred(wanted)));
            }
            unknown.addAll(SieveWriter.extensions(then));
            unknown.addAll(Set.of("fileinto", "mailbox", "variables", "imap4flags"));
            if (wanted.size() > copies.size()) {
                unknown.add("copy");
            }
            unknown.removeAll(extensions);
            if (!unknown.isEmpty()) {
                throw new Unsayable(unknownTo(unknown));
            }
            copies.putAll(wanted);
            return new Said(rule, when, then, "");
        } catch (Unsayable e) {
            return new Said(rule, when, null, e.what());
        }
    }

    private static String unknownTo(Set<String> extensions) {
        return "the server does not know " + String.join(", ", extensions);
    }

    /** Rules that act here alone, with the reason. What depends on one of those acts here too. */
    private static Map<Rule, String> leftOut(List<Said> all) {
        Map<Rule, String> here = new LinkedHashMap<>();
        int before;
        do {
            before = here.size();
            for (int i = 0; i < all.size(); i++) {
                Said one = all.get(i);
                if (!here.containsKey(one.rule)) {
                    reason(one, i, all, here);
                }
            }
        } while (here.size() > before);
        return here;
    }

    private static void reason(Said one, int at, List<Said> all, Map<Rule, String> here) {
        boolean isAskedFor = false;
        for (int i = 0; i < all.size(); i++) {
            Rule other = all.get(i).rule;
            if (here.containsKey(other) && dependsOn(one.rule, at, other, i)) {
                here.put(one.rule, "“%s” acts here, and may change what it does".formatted(other.name()));
                return;
            }
            isAskedFor |= i != at && dependsOn(other, i, one.rule, at);
        }
        if (one.mayBeForAll() || (one.then == null && !isAskedFor)) {
            here.put(one.rule, one.then == null ? one.why : "a server cannot tell which messages it is for");
        }
    }

    /** Whether what a rule does depends on whether another one acted. */
    private static boolean dependsOn(Rule rule, int at, Rule other, int otherAt) {
        return at != otherAt && (otherAt < at ? comesBefore(other, rule) : changesCopies(other, rule));
    }

    private static boolean comesBefore(Rule earlier, Rule later) {
        if (earlier.last()) {
            return true;
        }
        Set<Aspect> both = new HashSet<>(aspects(earlier));
        both.retainAll(aspects(later));
        both.remove(Aspect.of(AspectKind.NOTHING));
        both.remove(Aspect.of(AspectKind.COPY));
        return !both.isEmpty() || changesCopies(earlier, later);
    }

    /** Copies are as the message is in the end. */
    private static boolean changesCopies(Rule changing, Rule copying) {
        return aspects(copying).contains(Aspect.of(AspectKind.COPY))
                && aspects(changing).stream()
                        .anyMatch(aspect -> aspect.kind() != AspectKind.NOTHING && aspect.kind() != AspectKind.COPY);
    }

    private static Set<Aspect> aspects(Rule rule) {
        Set<Aspect> aspects = new HashSet<>();
        rule.then().forEach(effect -> aspects.add(effect.accept(new AspectOf())));
        return aspects;
    }

    private static final class AspectOf implements Effect.EffectVisitor<Aspect, RuntimeException> {
        @Override
        public Aspect fileInto(Effect.FileInto effect) {
            return Aspect.of(AspectKind.PLACE);
        }

        @Override
        public Aspect tickle(Effect.Tickle effect) {
            return Aspect.of(AspectKind.PLACE);
        }

        @Override
        public Aspect putInto(Effect.PutInto effect) {
            return Aspect.of(AspectKind.PLACE);
        }

        @Override
        public Aspect byHand(Effect.ByHand effect) {
            return Aspect.of(AspectKind.PLACE);
        }

        @Override
        public Aspect copyInto(Effect.CopyInto effect) {
            return Aspect.of(AspectKind.COPY);
        }

        @Override
        public Aspect label(Effect.SetLabel effect) {
            return new Aspect(AspectKind.LABEL, effect.label().id());
        }

        @Override
        public Aspect categorise(Effect.Categorise effect) {
            return Aspect.of(AspectKind.CATEGORY);
        }

        @Override
        public Aspect markRead(Effect.MarkRead effect) {
            return Aspect.of(AspectKind.READ);
        }

        @Override
        public Aspect flagAs(Effect.FlagAs effect) {
            return Aspect.of(AspectKind.FLAG);
        }

        @Override
        public Aspect flag(Effect.Flag effect) {
            return Aspect.of(AspectKind.FLAG);
        }

        @Override
        public Aspect due(Effect.Due effect) {
            return Aspect.of(AspectKind.FLAG);
        }

        @Override
        public Aspect answer(Effect.Answer effect) {
            return Aspect.of(AspectKind.NOTHING);
        }

        @Override
        public Aspect forward(Effect.Forward effect) {
            return Aspect.of(AspectKind.NOTHING);
        }

        @Override
        public Aspect answerAtOnce(Effect.AnswerAtOnce effect) {
            return Aspect.of(AspectKind.NOTHING);
        }

        @Override
        public Aspect awaitAnswer(Effect.AwaitAnswer effect) {
            return Aspect.of(AspectKind.NOTHING);
        }

        @Override
        public Aspect notify(Effect.Notify effect) {
            return Aspect.of(AspectKind.NOTHING);
        }
    }

    private static Command command(Said one, boolean lastBefore) {
        List<Command> block = new ArrayList<>();
        Test surely = one.then == null ? Test.FALSE : one.when.surely();
        if (!one.isWhole()) {
            List<Command> leave = List.of(NO_FLAGS, LEAVE_ALONE);
            block.addAll(surely.equals(Test.FALSE) ? leave : List.of(Command.when(Decidable.not(surely), leave)));
        }
        if (one.then != null && !surely.equals(Test.FALSE)) {
            block.addAll(one.then);
            if (one.rule.last()) {
                block.add(SieveWriter.LAST);
            }
        }
        return Command.when(guarded(one.when.possibly(), lastBefore), block).commented(SieveWriter.name(one.rule));
    }

    private static Test guarded(Test test, boolean lastBefore) {
        return lastBefore ? Decidable.both(List.of(SieveWriter.NOT_LAST, test)) : test;
    }

    /** Where the message itself goes no copy is made. */
    private static void copy(String folder, String variable, List<Command> commands) {
        Test wanted = ExactTests.isSet(variable);
        Test elsewhere = folder.equalsIgnoreCase(INBOX)
                ? Test.not(SieveWriter.NOT_FILED)
                : Test.not(Test.of("string", Argument.tag("is"), Argument.text("${folder}"), Argument.text(folder)));
        commands.add(Command.when(
                Test.all(List.of(wanted, elsewhere)),
                List.of(Command.of("fileinto", SieveWriter.COPY, Argument.tag("create"), Argument.text(folder)))));
    }

    /** Copies are made at the end, with the flags that the message has then. */
    private final class Deferred extends EffectCommands {
        private final Map<String, String> copies;

        /** @param copies the variables that tell of each folder whether a copy is wanted there */
        Deferred(Map<String, String> copies) {
            super(world);
            this.copies = copies;
        }

        @Override
        public List<Command> copyInto(Effect.CopyInto effect) throws Unsayable {
            if (copies.size() >= MOST_COPIES) {
                throw new Unsayable("there are more folders for copies than a script can name");
            }
            String variable = copies.computeIfAbsent(
                    SieveWriter.mailbox(effect.folder(), world), folder -> "copy" + (copies.size() + 1));
            return List.of(ExactTests.set(variable));
        }

        /** Whom one answered, and when, is known here. */
        @Override
        public List<Command> answer(Effect.Answer effect) throws Unsayable {
            throw cannot(effect);
        }
    }
}
