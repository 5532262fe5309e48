package app.schublade.core.filing;

import app.schublade.core.message.Fold;
import app.schublade.core.message.Message;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A message made ready for comparing: folded once, however many rules look at it. */
final class Matter {
    private final Message message;
    private final String sender;
    private final String senderDomain;
    private @Nullable Set<String> subjectWords;

    Matter(Message message) {
        this.message = message;
        this.sender = message.from().key();
        this.senderDomain = message.from().domain();
    }

    Message message() {
        return message;
    }

    /** Compares with an address, or with a domain where the value has nothing before an {@code @}. */
    boolean senderIs(String value) {
        int at = value.lastIndexOf('@');
        return at > 0
                ? value.equals(sender)
                : !senderDomain.isEmpty() && value.substring(at + 1).equals(senderDomain);
    }

    Set<String> subjectWords() {
        if (subjectWords == null) {
            subjectWords = Fold.words(message.subject());
        }
        return subjectWords;
    }
}
