package app.schublade.core.query;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.filing.RuleInput;
import app.schublade.core.message.Fold;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Those that have words: in the subject, the text, or the sender's name and address.
 *
 * @param typed as people type them into a find box: all of them must be there; {@code "in quotes"} one behind the other;
 *     {@code or} between two, and a minus before what must not be there
 */
public record Words(String typed) implements Query {
    public Words {
        typed = typed.strip();
    }

    /** Some words one behind the other, folded. */
    private record Phrase(String words, boolean wanted) {
        boolean fits(String subject, String body, String sender) {
            return (subject.contains(words) || body.contains(words) || sender.contains(words)) == wanted;
        }
    }

    @Override
    public boolean holds(RuleInput message) {
        String subject = Fold.phrase(message.message().subject());
        String body = Fold.phrase(message.message().body());
        String sender = Fold.phrase(
                message.message().from().name() + " " + message.message().from().email());
        return alternatives().stream()
                .anyMatch(phrases ->
                        !phrases.isEmpty() && phrases.stream().allMatch(phrase -> phrase.fits(subject, body, sender)));
    }

    private List<List<Phrase>> alternatives() {
        List<List<Phrase>> alternatives = new ArrayList<>();
        List<Phrase> phrases = new ArrayList<>();
        String[] parts = typed.split("\"", -1);
        for (int i = 0; i < parts.length; i++) {
            if (i % 2 == 1) {
                add(phrases, parts[i], !parts[i - 1].endsWith("-"));
                continue;
            }
            for (String word : parts[i].strip().split("\\s+", -1)) {
                if (word.equalsIgnoreCase("or")) {
                    alternatives.add(phrases);
                    phrases = new ArrayList<>();
                } else {
                    add(phrases, word, !word.startsWith("-"));
                }
            }
        }
        alternatives.add(phrases);
        return alternatives;
    }

    private static void add(List<Phrase> phrases, String text, boolean wanted) {
        String folded = Fold.phrase(text);
        if (!folded.isBlank()) {
            phrases.add(new Phrase(folded, wanted));
        }
    }

    @Override
    public Set<Need> needs() {
        return Set.of(Need.BODY);
    }

    @Override
    public String sentence() {
        return "with the words “%s”".formatted(typed);
    }

    @Override
    public <T> T accept(Query.QueryVisitor<T> visitor) {
        return visitor.words(this);
    }
}
