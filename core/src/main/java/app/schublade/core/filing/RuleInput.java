package app.schublade.core.filing;

import app.schublade.core.message.Handled;
import app.schublade.core.message.Message;
import app.schublade.core.message.SubjectStem;
import app.schublade.core.words.Fold;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A message made ready for comparing: folded once, however many rules look at it. */
public final class RuleInput {
    private final Message message;
    private final State state;
    private final Handled handled;
    private final Set<String> addresses;
    private final Folded subject;
    private final Folded body;
    private final Folded senderName;
    private final Map<String, List<Folded>> headers = new HashMap<>();

    /** Of a message that was neither answered nor passed on. */
    public RuleInput(Message message, State state) {
        this(message, state, Handled.elsewhere(false, false));
    }

    public RuleInput(Message message, State state, Handled handled) {
        this.message = message;
        this.state = state;
        this.handled = handled;
        addresses = new HashSet<>(message.recipients());
        addresses.addAll(message.sentTo());
        subject = new Folded(message.subject());
        body = new Folded(message.body());
        senderName = new Folded(message.from().name());
    }

    public Message message() {
        return message;
    }

    public State state() {
        return state;
    }

    public Handled handled() {
        return handled;
    }

    /** All that it was sent to, as written and as the account's own. */
    Set<String> addresses() {
        return addresses;
    }

    boolean sentTo(String address) {
        return addresses.contains(address);
    }

    Folded subject() {
        return subject;
    }

    Folded body() {
        return body;
    }

    Folded senderName() {
        return senderName;
    }

    List<Folded> header(String name) {
        return headers.computeIfAbsent(
                name, key -> message.header(key).stream().map(Folded::new).toList());
    }

    /** A text in the forms in which it is compared, each made when first asked for. */
    static final class Folded {
        private final String text;
        private @Nullable List<String> lines;
        private @Nullable String words;
        private @Nullable String withoutMarks;
        private @Nullable Set<String> found;

        Folded(String text) {
            this.text = text;
        }

        /** As one line, and as it is written without umlauts. */
        List<String> lines() {
            if (lines == null) {
                lines = Text.lines(text);
            }
            return lines;
        }

        /** The same without Re: and the like before it. */
        List<String> bareLines() {
            return Text.lines(SubjectStem.withoutPrefixes(text));
        }

        private String words() {
            if (words == null) {
                words = Fold.phraseInAllForms(text);
            }
            return words;
        }

        /** A phrase in the form of {@link Fold#phrase} was found here, so that nobody need look for it again. */
        void found(String words) {
            if (found == null) {
                found = new HashSet<>();
            }
            found.add(words);
        }

        /** Whether words in the form of {@link Fold#phrase} stand here. */
        boolean has(String phrase) {
            return wasFound(phrase) || words().contains(phrase);
        }

        /** Whether these letters were found, be it within words; that they were not says nothing. */
        boolean wasFound(String letters) {
            return found != null && found.contains(letters);
        }

        String withoutMarks() {
            if (withoutMarks == null) {
                withoutMarks = Fold.withoutMarks(text);
            }
            return withoutMarks;
        }

        byte[] bytes() {
            return Fold.bytes(text);
        }
    }
}
