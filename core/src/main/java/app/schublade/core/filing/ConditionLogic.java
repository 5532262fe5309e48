package app.schublade.core.filing;

import app.schublade.core.message.Trait;
import java.time.LocalDate;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** What one condition says of another. "No" may also mean that nobody can tell. */
final class ConditionLogic {

    /** A message is addressed in one of these ways. */
    private static final Set<Trait> ADDRESSED = EnumSet.of(Trait.TO_ME, Trait.ONLY_COPIED, Trait.NOT_ADDRESSED);

    private ConditionLogic() {}

    /** Whether one condition certainly holds wherever another does. */
    static boolean implies(Condition narrow, Condition wide) {
        return narrow.equals(wide)
                || (wide instanceof Group any
                        && !any.all()
                        && any.parts().stream().anyMatch(part -> implies(narrow, part)))
                || narrow.accept(new Implying(wide));
    }

    /** Whether certainly no message meets both. */
    static boolean exclude(Condition one, Condition other) {
        boolean turned = other instanceof Group || (other instanceof Not && !(one instanceof Group));
        return turned ? other.accept(new Excluding(one)) : one.accept(new Excluding(other));
    }

    private record Implying(Condition wide) implements Condition.ConditionVisitor<Boolean, RuntimeException> {
        @Override
        public Boolean attached(Attached narrow) {
            return false;
        }

        @Override
        public Boolean correspondent(Correspondent narrow) {
            return wide instanceof Correspondent other
                    && narrow.role() == other.role()
                    && narrow.values().stream()
                            .allMatch(value -> other.values().stream().anyMatch(more -> contains(more, value)));
        }

        @Override
        public Boolean fromList(FromList narrow) {
            return wide instanceof FromList other
                    ? other.values().containsAll(narrow.values())
                    : wide instanceof Traits traits && traits.values().contains(Trait.LIST);
        }

        @Override
        public Boolean group(Group narrow) {
            return narrow.all() && narrow.parts().stream().anyMatch(part -> implies(part, wide));
        }

        @Override
        public Boolean inAccount(InAccount narrow) {
            return wide instanceof InAccount other && other.accounts().containsAll(narrow.accounts());
        }

        @Override
        public Boolean inConversation(InConversation narrow) {
            return wide instanceof InConversation other && other.ids().containsAll(narrow.ids());
        }

        @Override
        public Boolean inGroup(InGroup narrow) {
            return wide instanceof InGroup other && other.groups().containsAll(narrow.groups());
        }

        @Override
        public Boolean marked(Marked narrow) {
            return wide instanceof Marked other
                    && other.labels().containsAll(narrow.labels())
                    && other.categories().containsAll(narrow.categories())
                    && (other.flag() || !narrow.flag());
        }

        @Override
        public Boolean not(Not narrow) {
            return false;
        }

        @Override
        public Boolean receivedAt(ReceivedAt narrow) {
            return false;
        }

        @Override
        public Boolean sentTo(SentTo narrow) {
            return wide instanceof SentTo other && other.values().containsAll(narrow.values());
        }

        @Override
        public Boolean sized(Sized narrow) {
            return wide instanceof Sized other
                    && narrow.attachment() == other.attachment()
                    && narrow.larger() == other.larger()
                    && (narrow.larger() ? narrow.bytes() >= other.bytes() : narrow.bytes() <= other.bytes());
        }

        @Override
        public Boolean text(Text narrow) {
            return wide instanceof Text other
                    && narrow.where() == other.where()
                    && narrow.match() == other.match()
                    && narrow.header().equalsIgnoreCase(other.header())
                    && other.values().containsAll(narrow.values());
        }

        @Override
        public Boolean traits(Traits narrow) {
            return wide instanceof Traits other && other.values().containsAll(narrow.values());
        }
    }

    private record Excluding(Condition other) implements Condition.ConditionVisitor<Boolean, RuntimeException> {
        @Override
        public Boolean attached(Attached one) {
            return false;
        }

        @Override
        public Boolean correspondent(Correspondent one) {
            return other instanceof Correspondent two
                    && one.role() == Correspondent.Role.SENDER
                    && two.role() == one.role()
                    && one.values().stream()
                            .allMatch(x -> two.values().stream().noneMatch(y -> contains(x, y) || contains(y, x)));
        }

        @Override
        public Boolean fromList(FromList one) {
            return other instanceof FromList two && Collections.disjoint(one.values(), two.values());
        }

        @Override
        public Boolean group(Group one) {
            Stream<Condition> parts = one.parts().stream();
            return one.all()
                    ? parts.anyMatch(part -> exclude(part, other))
                    : parts.allMatch(part -> exclude(part, other));
        }

        @Override
        public Boolean inAccount(InAccount one) {
            return other instanceof InAccount two && Collections.disjoint(ids(one), ids(two));
        }

        @Override
        public Boolean inConversation(InConversation one) {
            return false;
        }

        @Override
        public Boolean inGroup(InGroup one) {
            return false;
        }

        @Override
        public Boolean marked(Marked one) {
            return false;
        }

        @Override
        public Boolean not(Not one) {
            return implies(other, one.condition());
        }

        @Override
        public Boolean receivedAt(ReceivedAt one) {
            return other instanceof ReceivedAt two && exclude(one, two);
        }

        @Override
        public Boolean sentTo(SentTo one) {
            return false;
        }

        @Override
        public Boolean sized(Sized one) {
            return other instanceof Sized two
                    && one.attachment() == two.attachment()
                    && (exclude(one, two) || exclude(two, one));
        }

        @Override
        public Boolean text(Text one) {
            return other instanceof Text two && exclude(one, two);
        }

        @Override
        public Boolean traits(Traits one) {
            return other instanceof Traits two
                    && one.values().stream().allMatch(x -> two.values().stream().allMatch(y -> exclude(x, y)));
        }
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
                || IntStream.range(0, ReceivedAt.DAY)
                        .noneMatch(minute -> one.isWithin(minute) && other.isWithin(minute));
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

    /** Whether an address or a domain lies in another value of the same kind of condition. */
    static boolean contains(String wide, String narrow) {
        if (wide.equals(narrow)) {
            return true;
        }
        String domain = narrow.startsWith("*.") ? narrow.substring(1) : narrow.substring(narrow.lastIndexOf('@') + 1);
        if (wide.startsWith("*.")) {
            return domain.endsWith(wide.substring(1)) || domain.equals(wide.substring(2));
        }
        return !narrow.startsWith("*.")
                && wide.lastIndexOf('@') <= 0
                && domain.equals(wide.substring(wide.lastIndexOf('@') + 1));
    }
}
