package app.schublade.core.filing;

import app.schublade.core.message.OwnAddresses;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An address that the message was sent to, by envelope, To or Cc.
 *
 * @param values an address or an alias; a plus-tag (RFC 5233): {@code +shop}; or a pattern: {@code *@quay.example}
 */
public record SentTo(List<String> values) implements Condition {
    public SentTo {
        values = Condition.lower(values);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        for (String value : values) {
            if (matter.sentTo(value)
                    || (!isPlain(value)
                            && matter.message().recipients().stream().anyMatch(one -> fits(value, one)))) {
                return "sent to " + value;
            }
        }
        return null;
    }

    private static boolean isPlain(String value) {
        return !value.startsWith("+") && !OwnAddresses.isPattern(value);
    }

    private static boolean fits(String value, String address) {
        if (!value.startsWith("+")) {
            return OwnAddresses.fits(value, address);
        }
        int at = address.lastIndexOf('@');
        int plus = address.indexOf('+');
        return plus >= 0 && plus < at && address.substring(plus, at).equals(value);
    }

    @Override
    public @Nullable Trigger trigger() {
        List<Trigger.TriggerKey> keys = new ArrayList<>();
        for (String value : values) {
            String domain = value.startsWith("*@") ? value.substring(2) : "";
            if (isPlain(value)) {
                keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.RECIPIENT, value));
            } else if (value.startsWith("+")) {
                keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.TAG, value));
            } else if (!domain.isEmpty() && !OwnAddresses.isPattern(domain)) {
                keys.add(new Trigger.TriggerKey(Trigger.TriggerKind.RECIPIENT_DOMAIN, domain));
            } else {
                return null;
            }
        }
        return new Trigger(keys);
    }

    @Override
    public String sentence() {
        return "sent to " + Condition.either(values);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.sentTo(this);
    }
}
