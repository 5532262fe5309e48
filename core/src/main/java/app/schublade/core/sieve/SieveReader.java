package app.schublade.core.sieve;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Sized;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Reads rules from a Sieve script (RFC 5228). What has no counterpart here is listed with its line, and the rule it
 * belongs to is left out; nothing is guessed.
 */
public final class SieveReader {
    private static final int MAX_NAME = 100;
    /** After so many branches of one condition a further one would be hard to read, and slow. */
    private static final int MAX_BRANCHES = 200;

    private final TestReader tests;
    private final ActionReader actions;
    private final ActionSequence sequence = new ActionSequence();
    private final List<Rule> rules = new ArrayList<>();
    private final List<ReadingRemark> remarks = new ArrayList<>();

    private SieveReader(SieveWorld world) {
        tests = new TestReader(world);
        actions = new ActionReader(world, (line, leftOut, what) -> remarks.add(new ReadingRemark(line, leftOut, what)));
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

    /** Returns whether all of the commands are one rule that ends all others, so that what follows is about other mail. */
    private boolean walk(List<Command> commands, Context context) {
        List<Command> together = new ArrayList<>();
        Context chain = context;
        boolean alone = true;
        for (Command command : commands) {
            boolean follows = command.is("elsif") || command.is("else");
            if (!follows) {
                chain = context;
            }
            if ((command.test() == null && !follows)
                    || ActionReader.folder(command).isPresent()) {
                together.add(command);
                continue;
            }
            take(together, context);
            together.clear();
            if (command.anywhere().equals(SieveWriter.END)) {
                continue;
            }
            alone = false;
            Context inner = command.test() == null ? chain : chain.in(command.test(), command.comment());
            boolean ends = walk(command.block(), inner);
            chain = command.test() == null || ends ? chain : chain.without(command.test());
        }
        return take(together, context) && alone;
    }

    /** Makes a rule of actions that stand together; returns whether it ends all others. */
    private boolean take(List<Command> commands, Context context) {
        ActionReader.Done done = actions.read(commands);
        if (done.effects().isEmpty() && !done.last()) {
            if (done.actions().stream().anyMatch(one -> one.is("keep"))) {
                follow(done, context);
            }
            return false;
        }
        try {
            Rule rule = rule(context, done.effects(), done.last(), done.line());
            follow(done, context);
            rules.add(rule);
            return rule.last();
        } catch (Unsayable e) {
            remarks.add(new ReadingRemark(done.line(), true, e.what()));
            return false;
        }
    }

    /** What is done otherwise here because something else was done before. */
    private void follow(ActionReader.Done done, Context context) {
        if (context.unless().size() <= MAX_BRANCHES) {
            sequence.differences(context.when(), context.unless(), done.actions())
                    .forEach(told -> remarks.add(new ReadingRemark(done.line(), false, told)));
        }
    }

    private Rule rule(Context context, List<Effect> effects, boolean last, int line) throws Unsayable {
        if (context.unless().size() > MAX_BRANCHES) {
            throw new Unsayable("it comes after more than %d other branches; let each of them end with “stop”"
                    .formatted(MAX_BRANCHES));
        }
        tests.listen(what -> remarks.add(new ReadingRemark(line, false, what)));
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
        for (Test test : context.unless()) {
            unless.add(tests.condition(test));
        }
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
}
