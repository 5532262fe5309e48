package app.schublade.core.words;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Guesses the language of a text by the small words that every text has: good enough for the spelling of an answer, which its
 * writer sees.
 */
public final class LanguageGuess {
    /** So many characters tell enough. */
    private static final int MOST = 4_000;
    /** Fewer of them are chance. */
    private static final int LEAST = 4;

    private static final Map<String, Set<String>> WORDS = Map.of(
            "en",
                    Set.of(
                            "the", "and", "is", "are", "you", "of", "to", "with", "for", "have", "that", "this", "your",
                            "we"),
            "de",
                    Set.of(
                            "der", "die", "das", "und", "ist", "nicht", "mit", "ich", "sie", "wir", "für", "ein",
                            "eine", "den"),
            "fr",
                    Set.of(
                            "le", "la", "les", "et", "est", "nous", "vous", "pour", "dans", "une", "des", "que", "pas",
                            "sur"),
            "nl",
                    Set.of(
                            "het", "een", "en", "van", "ik", "niet", "voor", "zijn", "wij", "met", "dat", "ook", "naar",
                            "je"),
            "it",
                    Set.of(
                            "il", "che", "di", "per", "non", "una", "sono", "con", "della", "è", "gli", "nel", "ma",
                            "alla"),
            "es",
                    Set.of(
                            "el", "los", "que", "por", "para", "una", "con", "las", "del", "está", "como", "más",
                            "pero", "su"),
            "da", Set.of("og", "det", "er", "ikke", "på", "til", "jeg", "vi", "af", "den", "har", "med", "som", "kan"));

    private LanguageGuess() {}

    /** Its code (ISO 639-1); empty if no language stands out. */
    public static Optional<String> of(String text) {
        String beginning = text.substring(0, Math.min(text.length(), MOST)).toLowerCase(Locale.ROOT);
        Map<String, Integer> hits = new HashMap<>();
        for (String word : beginning.split("[^\\p{L}]+", -1)) {
            WORDS.forEach((language, words) -> {
                if (words.contains(word)) {
                    hits.merge(language, 1, Integer::sum);
                }
            });
        }
        List<Map.Entry<String, Integer>> best = hits.entrySet().stream()
                .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
                .toList();
        boolean clear = !best.isEmpty()
                && best.get(0).getValue() >= LEAST
                && (best.size() == 1 || best.get(0).getValue() > best.get(1).getValue());
        return clear ? Optional.of(best.get(0).getKey()) : Optional.empty();
    }
}
