package app.schublade.core.filing;

import app.schublade.core.message.Address;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Who wrote, or wants the answer.
 *
 * @param values an address; a domain: {@code quay.example}; or a domain with all below it: {@code *.quay.example}
 */
public record Correspondent(Role role, List<String> values) implements Condition {
    public Correspondent {
        values = Condition.lower(values);
    }

    public static Correspondent sender(String... values) {
        return new Correspondent(Role.SENDER, List.of(values));
    }

    /** Whose address is asked for. */
    public enum Role {
        SENDER("from"),
        REPLY_TO("reply to");

        private final String words;

        Role(String words) {
            this.words = words;
        }

        private List<Address> in(RuleInput matter) {
            return this == SENDER
                    ? List.of(matter.message().from())
                    : matter.message().replyTo();
        }
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        for (Address address : role.in(matter)) {
            String key = address.key();
            String domain = address.domain();
            for (String value : values) {
                if (fits(value, key, domain)) {
                    return role.words + " " + value;
                }
            }
        }
        return null;
    }

    private static boolean fits(String value, String address, String domain) {
        if (value.startsWith("*.")) {
            return domain.endsWith(value.substring(1)) || domain.equals(value.substring(2));
        }
        int at = value.lastIndexOf('@');
        return at > 0
                ? value.equals(address)
                : !domain.isEmpty() && value.substring(at + 1).equals(domain);
    }

    @Override
    public Trigger trigger() {
        boolean sender = role == Role.SENDER;
        List<Trigger.TriggerKey> keys = new ArrayList<>();
        for (String value : values) {
            int at = value.lastIndexOf('@');
            String domain = value.startsWith("*.") ? value.substring(2) : value.substring(at + 1);
            keys.add(
                    at > 0 && !value.startsWith("*.")
                            ? new Trigger.TriggerKey(
                                    sender ? Trigger.TriggerKind.SENDER : Trigger.TriggerKind.REPLY_ADDRESS, value)
                            : new Trigger.TriggerKey(
                                    sender ? Trigger.TriggerKind.DOMAIN : Trigger.TriggerKind.REPLY_DOMAIN, domain));
        }
        return new Trigger(keys);
    }

    @Override
    public String sentence() {
        return role.words + " " + Condition.either(values);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.correspondent(this);
    }
}
