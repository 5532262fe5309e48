package app.schublade.core.filing;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The message belongs to a conversation: it is one of those that are named, or answers one of them (RFC 5322, section 3.6.4).
 *
 * @param about what the conversation is about, for people
 * @param ids Message-IDs of some of its messages, without angle brackets
 */
public record InConversation(String about, List<String> ids) implements Condition {
    public InConversation {
        ids = List.copyOf(ids);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        return matter.message().thread().stream().anyMatch(ids::contains) ? sentence() : null;
    }

    @Override
    public Trigger trigger() {
        return Trigger.of(Trigger.TriggerKind.CONVERSATION, ids);
    }

    @Override
    public String sentence() {
        return "in the conversation “%s”".formatted(about);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.inConversation(this);
    }
}
