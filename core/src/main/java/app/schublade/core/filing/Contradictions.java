package app.schublade.core.filing;

import app.schublade.core.message.Trait;
import java.time.LocalDate;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * Finds conditions that no message can meet together, so that it is said at once rather than after months in which the rule
 * did nothing. That none is found may also mean that nobody can tell.
 */
public final class Contradictions {
    private static final int HOURS = 24;
    private static final int WEEK = 7;

    /** A message is addressed in one of these ways. */
    private static final Set<Trait> ADDRESSED = EnumSet.of(Trait.TO_ME, Trait.ONLY_COPIED, Trait.NOT_ADDRESSED);

    private Contradictions() {}

    /** What a rule asks for that no message can have, in words; empty if nothing of the kind is known. */
    public static Optional<String> in(Rule rule) {
        Optional<String> own = among(rule.when());
        if (own.isPresent()) {
            return own;
        }
        return rule.when().stream()
                .flatMap(when -> rule.unless().stream()
                        .filter(unless -> RuleHealth.implies(when, unless))
                        .map(unless -> when.sentence() + ", unless " + unless.sentence()))
                .findFirst();
    }

    private static Optional<String> among(List<Condition> all) {
        for (int i = 0; i < all.size(); i++) {
            if (isNever(all.get(i))) {
                return Optional.of(all.get(i).sentence());
            }
            for (int j = 0; j < i; j++) {
                if (exclude(all.get(j), all.get(i))) {
                    return Optional.of(
                            all.get(j).sentence() + " and " + all.get(i).sentence());
                }
            }
        }
        return Optional.empty();
    }

    private static boolean isNever(Condition condition) {
        if (condition instanceof Group group) {
            return group.parts().isEmpty()
                    || (group.all()
                            ? among(group.parts()).isPresent()
                            : group.parts().stream().allMatch(Contradictions::isNever));
        }
        if (condition instanceof Sized size) {
            return !size.larger() && size.bytes() <= 0;
        }
        return condition instanceof ReceivedAt at && isNever(at);
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

    /** Whether no message meets both. */
    private static boolean exclude(Condition one, Condition other) {
        if (other instanceof Group group) {
            Stream<Condition> parts = group.parts().stream();
            return group.all()
                    ? parts.anyMatch(part -> exclude(one, part))
                    : parts.allMatch(part -> exclude(one, part));
        }
        if (one instanceof Group) {
            return exclude(other, one);
        }
        if (other instanceof Not not) {
            return RuleHealth.implies(one, not.condition());
        }
        if (one instanceof Not) {
            return exclude(other, one);
        }
        return excludeByValues(one, other);
    }

    private static boolean excludeByValues(Condition one, Condition other) {
        if (one instanceof Correspondent a && other instanceof Correspondent b) {
            return a.role() == Correspondent.Role.SENDER
                    && b.role() == a.role()
                    && a.values().stream()
                            .allMatch(x -> b.values().stream()
                                    .noneMatch(y -> RuleHealth.contains(x, y) || RuleHealth.contains(y, x)));
        }
        if (one instanceof FromList a && other instanceof FromList b) {
            return Collections.disjoint(a.values(), b.values());
        }
        if (one instanceof InAccount a && other instanceof InAccount b) {
            return Collections.disjoint(ids(a), ids(b));
        }
        if (one instanceof Sized a && other instanceof Sized b) {
            return a.attachment() == b.attachment() && (exclude(a, b) || exclude(b, a));
        }
        if (one instanceof ReceivedAt a && other instanceof ReceivedAt b) {
            return exclude(a, b);
        }
        if (one instanceof Traits a && other instanceof Traits b) {
            return a.values().stream().allMatch(x -> b.values().stream().allMatch(y -> exclude(x, y)));
        }
        return one instanceof Text a && other instanceof Text b && exclude(a, b);
    }

    private static Set<Long> ids(InAccount condition) {
        Set<Long> ids = new HashSet<>();
        condition.accounts().forEach(account -> ids.add(account.id()));
        return ids;
    }

    private static boolean exclude(Sized larger, Sized smaller) {
        return larger.larger() && !smaller.larger() && smaller.bytes() - 1 <= larger.bytes();
    }

    private static boolean exclude(ReceivedAt one, ReceivedAt other) {
        boolean days =
                !one.days().isEmpty() && !other.days().isEmpty() && Collections.disjoint(one.days(), other.days());
        return days
                || isBefore(one, other)
                || isBefore(other, one)
                || IntStream.range(0, HOURS).noneMatch(hour -> one.isWithin(hour) && other.isWithin(hour));
    }

    private static boolean isBefore(ReceivedAt one, ReceivedAt other) {
        LocalDate last = one.last();
        LocalDate first = other.first();
        return last != null && first != null && last.isBefore(first);
    }

    private static boolean exclude(Trait one, Trait other) {
        Set<Trait> both = EnumSet.of(one, other);
        return both.size() == 2
                && (ADDRESSED.containsAll(both)
                        || both.equals(EnumSet.of(Trait.KNOWN_SENDER, Trait.NEW_SENDER))
                        || (both.contains(Trait.TO_ME_ALONE)
                                && (both.contains(Trait.ONLY_COPIED) || both.contains(Trait.NOT_ADDRESSED))));
    }

    /** Of one subject: it is one thing, or begins in one way. */
    private static boolean exclude(Text one, Text other) {
        return one.where() == Text.Where.SUBJECT
                && other.where() == Text.Where.SUBJECT
                && one.match() == Text.Match.IS
                && other.match() == Text.Match.IS
                && one.values().stream()
                        .allMatch(x -> other.values().stream()
                                .allMatch(y -> Collections.disjoint(Text.phrases(x), Text.phrases(y))));
    }
}
