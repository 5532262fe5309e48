package app.schublade.core.place;

import app.schublade.core.words.Fold;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * Finds folders by a few letters of their names. A name that begins with the letters comes first, then one with a word
 * that does, then a path with a word that does, then any that contains them; shorter paths before longer ones. Case and
 * accents do not matter.
 */
public final class FolderFinder {
    private static final int BEGINS = 0;
    private static final int WORD_OF_NAME = 1;
    private static final int WORD_OF_PATH = 2;
    private static final int ANYWHERE = 3;

    private FolderFinder() {}

    /** How well a thing fits. */
    private record Fit<T>(T thing, FolderPath path, int rank) {}

    /**
     * The best fits, the best first.
     *
     * @param letters what was typed; spaces and slashes stand between words that must all begin a word of the path
     */
    public static <T> List<T> find(Collection<T> things, Function<T, FolderPath> path, String letters, int most) {
        String wanted = Fold.text(letters.strip());
        return things.stream()
                .map(thing -> fit(thing, path.apply(thing), wanted))
                .flatMap(Optional::stream)
                .sorted(Comparator.comparingInt((Fit<T> fit) -> fit.rank())
                        .thenComparing(fit -> fit.path().names().size())
                        .thenComparing(Fit::path))
                .limit(most)
                .map(Fit::thing)
                .toList();
    }

    private static <T> Optional<Fit<T>> fit(T thing, FolderPath path, String wanted) {
        String name = Fold.text(path.name());
        if (name.startsWith(wanted)) {
            return Optional.of(new Fit<>(thing, path, BEGINS));
        }
        if (beginsWords(path.name(), wanted)) {
            return Optional.of(new Fit<>(thing, path, WORD_OF_NAME));
        }
        if (beginsWords(path.toString(), wanted)) {
            return Optional.of(new Fit<>(thing, path, WORD_OF_PATH));
        }
        return Fold.text(path.toString()).contains(wanted)
                ? Optional.of(new Fit<>(thing, path, ANYWHERE))
                : Optional.empty();
    }

    private static boolean beginsWords(String text, String wanted) {
        Collection<String> words = Fold.words(text);
        Collection<String> beginnings = Fold.words(wanted);
        return !beginnings.isEmpty()
                && beginnings.stream()
                        .allMatch(beginning -> words.stream().anyMatch(word -> word.startsWith(beginning)));
    }
}
