package app.schublade.core.sieve;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderRef;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Writes rules as a Sieve script (RFC 5228) that people can read and take elsewhere. As here, the first folder wins: a
 * variable (RFC 5229) holds it, and the message is filed once, at the end; another one tells that no later rules are wanted.
 * For a script that acts in our place see {@link FilingScript}.
 */
public final class SieveWriter {
    static final String SEEN = "\\Seen";
    static final String FLAGGED = "\\Flagged";
    static final Test NOT_FILED = unset("folder");
    static final Test NOT_LAST = unset("last");
    static final Command LAST = Command.of("set", Argument.text("last"), Argument.text("yes"));
    static final Command END = Command.when(
            Test.not(NOT_FILED), List.of(Command.of("fileinto", Argument.tag("create"), Argument.text("${folder}"))));

    /** Between two answers to the same sender. */
    static final int DAYS = 7;
    /** RFC 3894 */
    static final Argument COPY = Argument.tag("copy");

    private static final int KEYWORD_START = 2;

    private final SieveWorld world;
    private final TestWriter tests;
    private final EffectCommands effects;

    public SieveWriter(SieveWorld world) {
        this.world = world;
        tests = new TestWriter(world);
        effects = new ReadableEffects();
    }

    /**
     * What came of writing.
     *
     * @param script in lines that end with a line feed
     * @param remarks in the order of the rules
     * @param rules those that are in the script
     */
    public record Written(String script, List<WritingRemark> remarks, List<Rule> rules) {}

    /**
     * What a script cannot say of a rule.
     *
     * @param leftOut whether the rule is not in the script for that
     * @param what why it is left out, or else the end of a sentence that begins with the rule
     */
    public record WritingRemark(Rule rule, boolean leftOut, String what) {}

    static Test unset(String variable) {
        return Test.of("string", Argument.tag("is"), Argument.text("${" + variable + "}"), Argument.text(""));
    }

    /** Writes the rules that are on, in their order. */
    public Written write(List<Rule> rules) {
        List<Command> commands = new ArrayList<>();
        List<WritingRemark> remarks = new ArrayList<>();
        List<Rule> written = new ArrayList<>();
        boolean lastBefore = false;
        for (Rule rule : rules) {
            if (!rule.on() || rule.when().isEmpty()) {
                remarks.add(new WritingRemark(rule, true, rule.on() ? "it has no conditions" : "it is switched off"));
                continue;
            }
            try {
                commands.add(command(rule, lastBefore));
                written.add(rule);
                lastBefore |= rule.last();
                if (hasAccents(rule)) {
                    remarks.add(new WritingRemark(rule, false, "is compared with accents as they are written"));
                }
            } catch (Unsayable e) {
                remarks.add(new WritingRemark(rule, true, e.what()));
            }
        }
        if (commands.stream().anyMatch(SieveWriter::files)) {
            commands.add(END.commented("What was decided is done here, once."));
        }
        Set<String> needed = extensions(commands);
        List<Command> all = new ArrayList<>();
        if (!needed.isEmpty()) {
            all.add(Command.of("require", Argument.text(List.copyOf(needed))));
        }
        all.addAll(commands);
        return new Written(SievePrinter.print(all), remarks, written);
    }

    static boolean files(Command command) {
        return command.block().stream().anyMatch(one -> NOT_FILED.equals(one.test()));
    }

    private Command command(Rule rule, boolean guarded) throws Unsayable {
        List<Test> all = new ArrayList<>();
        if (guarded) {
            all.add(NOT_LAST);
        }
        all.addAll(tests.tests(rule.when()));
        if (!rule.unless().isEmpty()) {
            all.add(Test.not(Test.any(tests.tests(rule.unless()))));
        }
        List<Command> block = new ArrayList<>();
        for (Effect effect : rule.then()) {
            block.addAll(effect.accept(effects));
        }
        if (rule.last()) {
            block.add(LAST);
        }
        Command command = Command.when(Test.all(all), block).commented(name(rule));
        checkVariables(command);
        return command;
    }

    static String name(Rule rule) {
        return rule.name().replaceAll("\\s+", " ").strip();
    }

    /** A copy is made where the rule stands, and servers answer by themselves (RFC 5230). */
    private final class ReadableEffects extends EffectCommands {
        ReadableEffects() {
            super(world);
        }

        @Override
        public List<Command> copyInto(Effect.CopyInto copy) throws Unsayable {
            return List.of(
                    Command.of("fileinto", COPY, Argument.tag("create"), Argument.text(mailbox(copy.folder(), world))));
        }

        @Override
        public List<Command> answer(Effect.Answer answer) {
            return List.of(Command.of(
                    "vacation", Argument.tag("days"), new Argument.Count(DAYS), Argument.text(answer.text())));
        }
    }

    static Command flag(boolean on, String name) {
        return Command.of(on ? "addflag" : "removeflag", Argument.text(name));
    }

    private static boolean hasAccents(Rule rule) {
        return Stream.of(rule.when(), rule.unless())
                .flatMap(List::stream)
                .map(Condition::sentence)
                .map(sentence -> sentence.replaceAll("[“”’…]", ""))
                .anyMatch(sentence -> sentence.chars().anyMatch(sign -> sign >= 0x80));
    }

    /** @throws Unsayable if the name would be taken for a variable (RFC 5229, section 3) */
    static String mailbox(FolderRef folder, SieveWorld world) throws Unsayable {
        String name = world.mailbox(folder);
        if (name.contains("${")) {
            throw new Unsayable("“${” in the name of a folder means something else in a script");
        }
        return name;
    }

    /** Text that would be taken for a variable (RFC 5229, section 3) cannot be written. */
    private static void checkVariables(Command command) throws Unsayable {
        Command plain = command.commented("");
        String script = SievePrinter.print(List.of(plain));
        for (int at = script.indexOf("${"); at >= 0; at = script.indexOf("${", at + KEYWORD_START)) {
            if (!script.startsWith("${folder}", at) && !script.startsWith("${last}", at)) {
                throw new Unsayable("“${” means something else in a script");
            }
        }
    }

    /** What a server must know to understand them (RFC 5228, section 2.10.5). */
    static Set<String> extensions(List<Command> commands) {
        Set<String> needed = new TreeSet<>();
        commands.forEach(command -> collect(command, needed));
        return needed;
    }

    private static void collect(Command command, Set<String> needed) {
        switch (command.name()) {
            case "addflag", "removeflag", "setflag" -> needed.add("imap4flags");
            case "set" -> needed.add("variables");
            case "vacation" -> needed.add("vacation");
            case "fileinto" -> {
                needed.addAll(List.of("fileinto", "mailbox"));
                if (command.arguments().contains(COPY)) {
                    needed.add("copy");
                }
            }
            default -> {}
        }
        if (command.test() != null) {
            needed.addAll(command.test().extensions());
        }
        command.block().forEach(one -> collect(one, needed));
    }
}
