package app.schublade.core.filing;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.OwnAddresses;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Finds rules that forward mail to an address of the user's own, from where rules forward it until it comes back. What a
 * rule asks of sender, recipients and account is tried on the mail as it would be forwarded; the rest may hold.
 */
final class ForwardingCircles {
    private static final OfTheWay OF_THE_WAY = new OfTheWay();
    private static final State UNKNOWN = new State(0, true, false, null, Set.of());

    private final Map<Long, OwnAddresses> accounts;
    private final List<Rule> forwarding;

    ForwardingCircles(List<Rule> rules, Map<Long, OwnAddresses> accounts) {
        this.accounts = accounts;
        forwarding = rules.stream()
                .filter(rule -> rule.on() && forwards(rule).findAny().isPresent())
                .toList();
    }

    private static Stream<Effect.Forward> forwards(Rule rule) {
        return rule.then().stream().filter(Effect.Forward.class::isInstance).map(Effect.Forward.class::cast);
    }

    /** Those rules that mail comes back to, each with the rule that forwards it next. */
    Map<Rule, Rule> find() {
        Map<Rule, List<Rule>> next = new LinkedHashMap<>();
        forwarding.forEach(rule -> next.put(rule, next(rule)));
        Map<Rule, Rule> circles = new LinkedHashMap<>();
        next.forEach((rule, followers) -> followers.stream()
                .filter(one -> reaches(one, rule, next))
                .findFirst()
                .ifPresent(one -> circles.put(rule, one)));
        return circles;
    }

    private static boolean reaches(Rule from, Rule wanted, Map<Rule, List<Rule>> next) {
        Set<Rule> seen = new HashSet<>(Set.of(from));
        Deque<Rule> open = new ArrayDeque<>(seen);
        while (!open.isEmpty()) {
            Rule rule = open.remove();
            if (rule.equals(wanted)) {
                return true;
            }
            next.getOrDefault(rule, List.of()).stream().filter(seen::add).forEach(open::add);
        }
        return false;
    }

    private List<Rule> next(Rule rule) {
        List<Message> forwarded = new ArrayList<>();
        forwards(rule)
                .flatMap(forward -> forward.addresses().stream())
                .forEach(to -> accounts.forEach((account, own) -> {
                    List<String> sentTo = own.among(List.of(new Address("", to)));
                    if (!sentTo.isEmpty()) {
                        senders(rule).forEach(from -> forwarded.add(forwarded(account, from, sentTo)));
                    }
                }));
        return forwarding.stream()
                .filter(one -> forwarded.stream().anyMatch(message -> couldTake(one, message)))
                .toList();
    }

    private static Message forwarded(long account, String from, List<String> sentTo) {
        return Message.from(account, new Address("", from), "Fwd: ")
                .sentTo(sentTo, sentTo)
                .build();
    }

    /** The addresses from which a rule forwards. */
    private List<String> senders(Rule rule) {
        return accounts.entrySet().stream()
                .filter(entry -> rule.when().stream()
                        .allMatch(condition -> !(condition instanceof InAccount in)
                                || in.accounts().stream().anyMatch(one -> one.id() == entry.getKey())))
                .map(entry -> entry.getValue().main())
                .toList();
    }

    private static boolean couldTake(Rule rule, Message message) {
        RuleInput matter = new RuleInput(message, UNKNOWN);
        return rule.when().stream().allMatch(one -> !isOfTheWay(one) || one.heldBy(matter) != null)
                && rule.unless().stream().noneMatch(one -> isOfTheWay(one) && one.heldBy(matter) != null);
    }

    private static boolean isOfTheWay(Condition condition) {
        return condition.accept(OF_THE_WAY);
    }

    /** Whether all that a condition asks is known of a message that is yet to be forwarded. */
    private static final class OfTheWay implements Condition.ConditionVisitor<Boolean, RuntimeException> {
        @Override
        public Boolean attached(Attached condition) {
            return false;
        }

        @Override
        public Boolean correspondent(Correspondent condition) {
            return true;
        }

        @Override
        public Boolean fromList(FromList condition) {
            return true;
        }

        @Override
        public Boolean group(Group condition) {
            return condition.parts().stream().allMatch(ForwardingCircles::isOfTheWay);
        }

        @Override
        public Boolean inAccount(InAccount condition) {
            return true;
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
            return isOfTheWay(condition.condition());
        }

        @Override
        public Boolean receivedAt(ReceivedAt condition) {
            return false;
        }

        @Override
        public Boolean sentTo(SentTo condition) {
            return true;
        }

        @Override
        public Boolean sized(Sized condition) {
            return false;
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
