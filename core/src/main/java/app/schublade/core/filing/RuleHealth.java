package app.schublade.core.filing;

import app.schublade.core.message.Amount;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.FolderRef;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Finds rules that do not do what their user thinks: by reasoning on the rules, and by what they have done. */
public final class RuleHealth {
    /** After so many months without acting a rule is worth a word. */
    private static final int IDLE_MONTHS = 3;
    /** Fewer messages in 30 days are never too many. */
    private static final int MANY = 20;
    /** So many times as much as was expected is worth a word. */
    private static final int FAR_MORE = 5;

    private RuleHealth() {}

    /** What is wrong with a rule. */
    public enum FindingKind {
        /** It is the same as an earlier one. */
        TWICE,
        /** It never comes to act, because an earlier one takes all of its mail and ends the rules. */
        SHADOWED,
        /** It never chooses the folder, because an earlier one files all of its mail. */
        OUTRANKED,
        /** No message can have what it asks for. */
        IMPOSSIBLE,
        /** The last day on which it can act has passed. */
        OVER,
        /** It files into a folder that was deleted. */
        FOLDER_GONE,
        /** It deletes mail that nobody has read. */
        DELETES_UNREAD,
        /** Mail that it forwards comes back to it. */
        CIRCLE,
        /** It takes far more than it would have when it was made. */
        TOO_BROAD,
        /** It has not acted since it was made. */
        NEVER,
        /** It has not acted for a long time. */
        IDLE
    }

    /**
     * What is so around the rules.
     *
     * @param pasts by the ids of rules
     * @param folders ids of the folders that are there
     * @param trash the id of the trash
     * @param accounts the addresses of each account
     */
    public record Circumstances(
            LocalDate today, Map<Long, Past> pasts, Set<Long> folders, long trash, Map<Long, OwnAddresses> accounts) {}

    /**
     * What one rule has done so far.
     *
     * @param since the day it was made
     * @param last the day on which the last message arrived on which it acted; null if it never acted
     * @param lately on how many messages of the last 30 days it acted
     * @param expected on how many it would have acted in 30 days of the year before it was made; null if that is not known
     */
    public record Past(
            LocalDate since,
            @Nullable LocalDate last,
            int lately,
            @Nullable Double expected) {
        private boolean isTooMuch() {
            return expected != null && lately >= MANY && lately > Math.max(1, expected) * FAR_MORE;
        }
    }

    /**
     * One rule with something wrong.
     *
     * @param number the place of the rule that stands in its way or forwards back, from 1; or for how many months it has not
     *     acted; or how many messages it took lately
     * @param expected how many those should have been
     * @param what what no message can have; empty for the other kinds
     */
    public record Finding(Rule rule, FindingKind kind, int number, int expected, String what) {
        Finding(Rule rule, FindingKind kind, int number) {
            this(rule, kind, number, 0, "");
        }

        /** As the user is told. */
        public String says() {
            return switch (kind) {
                case TWICE -> "This is rule %d once more.".formatted(number);
                case SHADOWED ->
                    "It never acts: rule %d takes all of its mail and says “no later rules”.".formatted(number);
                case OUTRANKED -> "It never chooses the folder: rule %d files all of its mail.".formatted(number);
                case IMPOSSIBLE -> "It never acts: no message can have this: %s.".formatted(what);
                case OVER -> "It is over: its last day has passed.";
                case FOLDER_GONE -> "Its folder was deleted; the next message that it files makes it again.";
                case DELETES_UNREAD -> "It deletes mail that nobody has read.";
                case CIRCLE ->
                    "It forwards in a circle: to an address of yours, from where rule %d forwards again."
                            .formatted(number);
                case TOO_BROAD ->
                    "It took %s in 30 days; as it was made, it would have taken %s."
                            .formatted(
                                    Amount.messages(number),
                                    expected == 0 ? "hardly any" : "about %,d".formatted(expected));
                case NEVER -> "It has never acted in the %s since it was made.".formatted(Amount.of(number, "month"));
                case IDLE -> "It has not acted for %s.".formatted(Amount.of(number, "month"));
            };
        }

        /** Whether the rule would do what it says if it stood before the other one. */
        public boolean wantsToBeFirst() {
            return kind == FindingKind.SHADOWED || kind == FindingKind.OUTRANKED;
        }

        /** Whether another rule has to do with it. */
        public boolean isAboutAnother() {
            return kind == FindingKind.TWICE || wantsToBeFirst();
        }
    }

    /** As {@link #of(RuleBook)}, and by what is so around the rules. */
    public static List<Finding> of(RuleBook book, Circumstances circumstances) {
        Map<Long, Finding> byReason =
                of(book).stream().collect(Collectors.toMap(one -> one.rule().id(), Function.identity()));
        new ForwardingCircles(book.rules(), circumstances.accounts())
                .find()
                .forEach((rule, next) -> byReason.put(
                        rule.id(),
                        new Finding(rule, FindingKind.CIRCLE, book.rules().indexOf(next) + 1)));
        List<Finding> findings = new ArrayList<>();
        for (Rule rule : book.rules()) {
            Finding found = byReason.get(rule.id());
            if (found == null && rule.on()) {
                found = byCircumstances(rule, circumstances);
            }
            if (found != null) {
                findings.add(found);
            }
        }
        return findings;
    }

    private static @Nullable Finding byCircumstances(Rule rule, Circumstances around) {
        String impossible = Contradictions.in(rule).orElse(null);
        if (impossible != null) {
            return new Finding(rule, FindingKind.IMPOSSIBLE, 0, 0, impossible);
        }
        if (rule.when().stream().anyMatch(condition -> isOver(condition, around.today()))) {
            return new Finding(rule, FindingKind.OVER, 0);
        }
        Effect.FileInto file = rule.then().stream()
                .filter(Effect.FileInto.class::isInstance)
                .map(Effect.FileInto.class::cast)
                .findFirst()
                .orElse(null);
        if (folders(rule).anyMatch(folder -> !around.folders().contains(folder.id()))) {
            return new Finding(rule, FindingKind.FOLDER_GONE, 0);
        }
        if (file != null && file.folder().id() == around.trash()) {
            return new Finding(rule, FindingKind.DELETES_UNREAD, 0);
        }
        Past past = around.pasts().get(rule.id());
        if (past == null) {
            return null;
        }
        if (past.isTooMuch()) {
            int expected = past.expected() == null ? 0 : (int) Math.round(past.expected());
            return new Finding(rule, FindingKind.TOO_BROAD, past.lately(), expected, "");
        }
        LocalDate last = past.last() == null || past.last().isBefore(past.since()) ? past.since() : past.last();
        int months = (int) ChronoUnit.MONTHS.between(last, around.today());
        return months < IDLE_MONTHS
                ? null
                : new Finding(rule, past.last() == null ? FindingKind.NEVER : FindingKind.IDLE, months);
    }

    /** The folders that it files or copies into. */
    private static Stream<FolderRef> folders(Rule rule) {
        return rule.then().stream()
                .flatMap(effect -> effect instanceof Effect.FileInto file
                        ? Stream.of(file.folder())
                        : effect instanceof Effect.CopyInto copy ? Stream.of(copy.folder()) : Stream.empty());
    }

    private static boolean isOver(Condition condition, LocalDate today) {
        return condition instanceof ReceivedAt at
                && at.last() != null
                && at.last().isBefore(today);
    }

    /** At most one finding a rule, in the order of the rules. Those that are off neither suffer nor harm. */
    public static List<Finding> of(RuleBook book) {
        List<Finding> findings = new ArrayList<>();
        List<Rule> rules = book.rules();
        for (int i = 1; i < rules.size(); i++) {
            for (int j = 0; j < i; j++) {
                Optional<FindingKind> kind = kind(rules.get(j), rules.get(i));
                if (kind.isPresent()) {
                    findings.add(new Finding(rules.get(i), kind.get(), j + 1));
                    break;
                }
            }
        }
        return findings;
    }

    private static Optional<FindingKind> kind(Rule earlier, Rule later) {
        if (!earlier.on()
                || !later.on()
                || later.when().isEmpty()
                || earlier.when().isEmpty()) {
            return Optional.empty();
        }
        if (isSame(earlier, later)) {
            return Optional.of(FindingKind.TWICE);
        }
        if (!takesAllOf(earlier, later)) {
            return Optional.empty();
        }
        if (earlier.last()) {
            return Optional.of(FindingKind.SHADOWED);
        }
        return files(earlier) && files(later) ? Optional.of(FindingKind.OUTRANKED) : Optional.empty();
    }

    private static boolean files(Rule rule) {
        return rule.then().stream().anyMatch(Effect::moves);
    }

    private static boolean isSame(Rule one, Rule other) {
        return new HashSet<>(one.when()).equals(new HashSet<>(other.when()))
                && new HashSet<>(one.unless()).equals(new HashSet<>(other.unless()))
                && one.then().equals(other.then())
                && one.last() == other.last();
    }

    /** Whether the earlier rule certainly takes every message that the later one takes. */
    private static boolean takesAllOf(Rule earlier, Rule later) {
        return new HashSet<>(later.unless()).containsAll(earlier.unless())
                && earlier.when().stream()
                        .allMatch(
                                wide -> later.when().stream().anyMatch(narrow -> ConditionLogic.implies(narrow, wide)));
    }
}
