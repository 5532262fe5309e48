package app.schublade.core.filing;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Keys of which a message must have at least one for a condition to hold. That it has one does not mean that the
 * condition holds.
 */
record Trigger(List<TriggerKey> keys) {
    /** Where a key is looked up; those that few messages have first. */
    enum TriggerKind {
        CONVERSATION,
        LIST,
        SENDER,
        REPLY_ADDRESS,
        RECIPIENT,
        /** A plus-tag of a recipient. */
        TAG,
        DOMAIN,
        REPLY_DOMAIN,
        GROUP,
        SENDER_NAME,
        /** The name of a header field, a colon, and what stands in it. */
        HEADER,
        SUBJECT,
        BODY,
        /** A kind of attachment, or that there is any. */
        ATTACHED,
        TRAIT,
        RECIPIENT_DOMAIN,
        ACCOUNT
    }

    /** @param value as it is looked up: folded, or in lower case */
    record TriggerKey(TriggerKind kind, String value) {}

    static Trigger of(TriggerKind kind, Collection<String> values) {
        return new Trigger(
                values.stream().map(value -> new TriggerKey(kind, value)).toList());
    }

    private TriggerKind commonest() {
        return keys.stream().map(TriggerKey::kind).max(TriggerKind::compareTo).orElse(TriggerKind.LIST);
    }

    /** For conditions that must all hold: that of the most selective one; null if none can be looked up. */
    static @Nullable Trigger ofAll(Collection<Condition> conditions) {
        Trigger best = null;
        for (Condition condition : conditions) {
            Trigger trigger = condition.trigger();
            if (trigger != null && (best == null || trigger.commonest().compareTo(best.commonest()) < 0)) {
                best = trigger;
            }
        }
        return best;
    }

    /** For conditions of which one must hold: all of theirs; null if one cannot be looked up. */
    static @Nullable Trigger ofAny(Collection<Condition> conditions) {
        List<TriggerKey> keys = new ArrayList<>();
        for (Condition condition : conditions) {
            Trigger trigger = condition.trigger();
            if (trigger == null) {
                return null;
            }
            keys.addAll(trigger.keys());
        }
        return new Trigger(keys);
    }
}
