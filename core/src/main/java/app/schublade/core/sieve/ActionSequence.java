package app.schublade.core.sieve;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * What a script has done with a message before it comes to further actions. A script files and keeps as often as it is told to,
 * and each time with the flags that are set then (RFC 5232, section 2); here a message lies in one folder, and has its flags
 * wherever it lies. So it matters whether actions can meet.
 */
final class ActionSequence {
    private static final Set<String> SETS_FLAGS = Set.of("addflag", "setflag", "removeflag");

    private final List<Block> filing = new ArrayList<>();
    private final List<Block> keeping = new ArrayList<>();
    private final List<Block> marking = new ArrayList<>();
    private final List<Block> copying = new ArrayList<>();
    private final List<Block> naming = new ArrayList<>();

    /**
     * Actions that stand together.
     *
     * @param when tests that hold for them
     * @param unless tests that do not
     */
    private record Block(List<Test> when, List<Test> unless, List<Command> actions) {
        boolean files() {
            return actions.stream().anyMatch(ActionSequence::isFiling);
        }

        boolean copies() {
            return actions.stream().anyMatch(ActionSequence::isCopying);
        }

        /** Whether it copies into a folder that others file into. */
        boolean copiesWhereFiled(Block other) {
            return actions.stream()
                    .filter(ActionSequence::isCopying)
                    .anyMatch(copy -> other.actions.stream()
                            .anyMatch(one -> isFiling(one) && one.texts().equals(copy.texts())));
        }

        boolean keeps() {
            return actions.stream().anyMatch(one -> one.is("keep"));
        }

        boolean marks() {
            return actions.stream().anyMatch(one -> SETS_FLAGS.contains(one.name()));
        }

        /** Whether it gives what it files or keeps flags of its own, in place of those that are set. */
        boolean names() {
            return actions.stream().anyMatch(one -> one.has("flags"));
        }

        /** Whether it names flags for one place and then files, copies or keeps elsewhere. */
        boolean namesEarly() {
            boolean named = false;
            for (Command one : actions) {
                if (named && isDelivery(one)) {
                    return true;
                }
                named |= one.has("flags");
            }
            return false;
        }

        boolean delivers() {
            return actions.stream().anyMatch(ActionSequence::isDelivery);
        }

        /** Whether it sets flags after it has filed or kept. */
        boolean marksLate() {
            boolean done = false;
            for (Command one : actions) {
                if (done && SETS_FLAGS.contains(one.name())) {
                    return true;
                }
                done |= isFiling(one) || one.is("keep");
            }
            return false;
        }

        boolean meetsOneOf(List<Block> before) {
            return before.stream().anyMatch(one -> one.meets(this));
        }

        /** Whether both can be come to for one message, as far as the tests tell. */
        boolean meets(Block later) {
            return when.stream().noneMatch(later.unless::contains)
                    && later.when.stream().noneMatch(unless::contains);
        }
    }

    private static boolean isCopying(Command one) {
        return one.is("fileinto") && one.has("copy");
    }

    private static boolean isDelivery(Command one) {
        return one.is("fileinto") || one.is("keep");
    }

    private static boolean isFiling(Command one) {
        return one.is("fileinto") && !one.has("copy");
    }

    /** What these actions, coming after the others, do otherwise than here; each in a sentence. */
    List<String> differences(List<Test> when, List<Test> unless, List<Command> actions) {
        Block now = new Block(List.copyOf(when), List.copyOf(unless), List.copyOf(actions));
        List<String> told = new ArrayList<>();
        boolean filed = now.meetsOneOf(filing);
        boolean kept = now.meetsOneOf(keeping);
        if (now.files() && (filed || kept)) {
            told.add(
                    filed
                            ? "the script may file a message here that it filed before; here the first folder wins"
                            : "the script may file a message here that it keeps in the Inbox too; here it goes into the folder alone");
        }
        if (now.keeps() && filed) {
            told.add(
                    "the script may keep a message in the Inbox that it filed before; here it lies in the folder alone");
        }
        if (now.files()
                && (now.copiesWhereFiled(now)
                        || copying.stream().anyMatch(one -> one.copiesWhereFiled(now) && one.meets(now)))) {
            told.add("the script copies into the folder that it files into, and may keep the message in the Inbox too");
        }
        if (now.marksLate() || (now.marks() && (filed || kept))) {
            told.add("what the script filed or kept before is without these flags there; here it has them");
        }
        if (now.namesEarly() || (now.delivers() && now.meetsOneOf(naming))) {
            told.add(
                    "flags named for one folder before are put on there alone; here the message has them from then on");
        }
        if (now.names() && (now.marks() || now.meetsOneOf(marking))) {
            told.add("the flags named here are put in place of those that were set before; here they are put on too");
        }
        if (actions.stream().noneMatch(one -> one.is("stop"))) {
            note(now);
        }
        return told;
    }

    /** By what it does, so that what comes later need not look through all that was before. */
    private void note(Block block) {
        if (block.files()) {
            filing.add(block);
        }
        if (block.keeps()) {
            keeping.add(block);
        }
        if (block.marks()) {
            marking.add(block);
        }
        if (block.copies()) {
            copying.add(block);
        }
        if (block.names()) {
            naming.add(block);
        }
    }
}
