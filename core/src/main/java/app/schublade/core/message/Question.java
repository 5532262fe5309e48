package app.schublade.core.message;

import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Finds what a message asks for, in its author's own words: quoted ones and signatures do not count. */
public final class Question {
    private static final int LONGEST = 240;
    private static final int SHORTEST = 6;
    private static final int MAX_TEXT = 20_000;

    /** What asks without a question mark. */
    private static final List<String> REQUESTS = List.of(
            "please let me know",
            "please tell me",
            "please tell us",
            "glad to hear whether",
            "glad to hear if",
            "let me know whether",
            "let me know if you can",
            "could you please",
            "please send me",
            "please confirm",
            "i look forward to your answer",
            "bitte um antwort",
            "bitte um rückmeldung",
            "bitte um bestätigung",
            "geben sie mir bitte bescheid",
            "gib mir bitte bescheid",
            "merci de me dire",
            "merci de confirmer",
            "por favor, dime",
            "por favor confirme");

    /** What is asked for politeness' sake, and nobody waits for. */
    private static final List<String> POLITE = List.of(
            "how are you",
            "how have you been",
            "wie geht es",
            "wie geht’s",
            "wie geht's",
            "comment ça va",
            "comment allez",
            "ça va",
            "cómo estás",
            "qué tal",
            "come stai",
            "come va",
            "who knows");

    /** What makes a question of a statement, and wants no answer. */
    private static final List<String> TAGS =
            List.of("isn’t it?", "isn't it?", "aren’t they?", "aren't they?", ", oder?", ", n’est-ce pas?");

    private Question() {}

    /** The last sentence that asks for something; the last one is what the others led up to. */
    public static Optional<String> in(String text) {
        String asks = null;
        for (String line : own(text)) {
            for (String sentence : sentences(line)) {
                if (asks(sentence)) {
                    asks = sentence;
                }
            }
        }
        return Optional.ofNullable(asks)
                .map(sentence -> sentence.codePointCount(0, sentence.length()) <= LONGEST
                        ? sentence
                        : sentence.substring(0, sentence.offsetByCodePoints(0, LONGEST - 1)) + "…");
    }

    /** Paragraphs of one's own, each on one line. */
    private static List<String> own(String text) {
        StringBuilder all = new StringBuilder();
        String[] lines = text.substring(0, Math.min(text.length(), MAX_TEXT)).split("\n", -1);
        for (int i = 0; i < lines.length; i++) {
            String line = lines[i].strip();
            boolean quoteBegins = i + 1 < lines.length
                    && line.endsWith(":")
                    && lines[i + 1].strip().startsWith(">");
            if (lines[i].stripTrailing().equals("--") || isForwarded(line)) {
                break;
            }
            if (line.startsWith(">") || quoteBegins) {
                continue;
            }
            all.append(line.isEmpty() ? "\n" : line + " ");
        }
        return all.toString().lines().toList();
    }

    private static boolean isForwarded(String line) {
        return line.startsWith("-----") && line.endsWith("-----");
    }

    private static List<String> sentences(String line) {
        return List.of(line.replaceAll("https?://\\S+", "").split("(?<=[.!?？…])\\s+", -1));
    }

    private static boolean asks(String sentence) {
        String clean = sentence.strip().toLowerCase(Locale.ROOT);
        if (clean.length() < SHORTEST) {
            return false;
        }
        boolean marked = clean.endsWith("?") || clean.endsWith("？");
        return marked
                ? POLITE.stream().noneMatch(polite -> clean.startsWith(polite) || clean.endsWith(polite + "?"))
                        && TAGS.stream().noneMatch(clean::endsWith)
                : REQUESTS.stream().anyMatch(clean::contains);
    }
}
