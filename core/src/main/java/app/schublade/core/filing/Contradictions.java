package app.schublade.core.filing;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/**
 * Finds conditions that no message can meet together, so that it is said at once rather than after months in which the rule
 * did nothing. That none is found may also mean that nobody can tell.
 */
public final class Contradictions {
    private static final int WEEK = 7;

    private static final Never NEVER = new Never();

    private Contradictions() {}

    /** What a rule asks for that no message can have, in words; empty if nothing of the kind is known. */
    public static Optional<String> in(Rule rule) {
        Optional<String> own = among(rule.when());
        if (own.isPresent()) {
            return own;
        }
        return rule.when().stream()
                .flatMap(when -> rule.unless().stream()
                        .filter(unless -> ConditionLogic.implies(when, unless))
                        .map(unless -> when.sentence() + ", unless " + unless.sentence()))
                .findFirst();
    }

    private static Optional<String> among(List<Condition> all) {
        for (int i = 0; i < all.size(); i++) {
            if (isNever(all.get(i))) {
                return Optional.of(all.get(i).sentence());
            }
            for (int j = 0; j < i; j++) {
                if (ConditionLogic.exclude(all.get(j), all.get(i))) {
                    return Optional.of(
                            all.get(j).sentence() + " and " + all.get(i).sentence());
                }
            }
        }
        return Optional.empty();
    }

    private static boolean isNever(Condition condition) {
        return condition.accept(NEVER);
    }

    /** Whether none of its days is one of its days of the week. */
    private static boolean isNever(ReceivedAt at) {
        LocalDate first = at.first();
        LocalDate last = at.last();
        return first != null
                && last != null
                && !at.days().isEmpty()
                && first.plusDays(WEEK - 1).isAfter(last)
                && first.datesUntil(last.plusDays(1)).noneMatch(day -> at.days().contains(day.getDayOfWeek()));
    }

    /** Which conditions no message meets, whatever else is asked. */
    private static final class Never implements Condition.ConditionVisitor<Boolean, RuntimeException> {
        @Override
        public Boolean attached(Attached condition) {
            return false;
        }

        @Override
        public Boolean correspondent(Correspondent condition) {
            return false;
        }

        @Override
        public Boolean fromList(FromList condition) {
            return false;
        }

        @Override
        public Boolean group(Group condition) {
            return condition.parts().isEmpty()
                    || (condition.all()
                            ? among(condition.parts()).isPresent()
                            : condition.parts().stream().allMatch(Contradictions::isNever));
        }

        @Override
        public Boolean inAccount(InAccount condition) {
            return false;
        }

        @Override
        public Boolean inConversation(InConversation condition) {
            return false;
        }

        @Override
        public Boolean inGroup(InGroup condition) {
            return false;
        }

        @Override
        public Boolean marked(Marked condition) {
            return false;
        }

        @Override
        public Boolean not(Not condition) {
            return false;
        }

        @Override
        public Boolean receivedAt(ReceivedAt condition) {
            return isNever(condition);
        }

        @Override
        public Boolean sentTo(SentTo condition) {
            return false;
        }

        @Override
        public Boolean sized(Sized condition) {
            return !condition.larger() && condition.bytes() <= 0;
        }

        @Override
        public Boolean text(Text condition) {
            return false;
        }

        @Override
        public Boolean traits(Traits condition) {
            return false;
        }
    }
}
