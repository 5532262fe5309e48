package app.schublade.core.query;

import app.schublade.core.words.Fold;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * What a search can name: the user's places, and the day it is for him or her.
 *
 * @param places in the order in which one is preferred to another of the same name
 * @param sent what the user has sent
 */
public record SearchWorld(LocalDate today, List<Named> places, Query sent) {
    private static final String DELETED = " (deleted)";
    /** More words than a name has; longer ones are looked for by their words alone. */
    private static final int MAX_WORDS = 12;

    public SearchWorld {
        places = List.copyOf(places);
    }

    /** Kinds of what has a name. */
    public enum NameKind {
        FOLDER,
        LABEL,
        CATEGORY,
        TRAY,
        FLAG,
        ACCOUNT,
        ALIAS,
        GROUP
    }

    /**
     * Something of a name.
     *
     * @param id by which it is known when its name is another; of a group and an alias the name itself
     * @param names what it is called: its whole path, its last name
     * @param shown its name as it is shown
     * @param query what is in it, or from it
     * @param below what is in it or anything below it; null if nothing can be below it
     * @param outOfSight whether its messages are found only when they are asked for
     */
    public record Named(
            NameKind kind,
            String id,
            List<String> names,
            String shown,
            Query query,
            @Nullable Query below,
            boolean outOfSight) {
        public Named {
            names = names.stream().map(Fold::phrase).toList();
        }

        /** Something that has nothing below it and is in sight. */
        public static Named of(NameKind kind, String id, String name, Query query) {
            return new Named(kind, id, List.of(name), name, query, null, false);
        }

        /** Whether it has another name now than the one by which it was found. */
        boolean isRenamed() {
            return !isGone() && !names.contains(Fold.phrase(shown));
        }

        private boolean isGone() {
            return shown.endsWith(DELETED);
        }

        /** The same under the name that it had before. */
        Named before(String name) {
            return new Named(kind, id, List.of(name), shown, query, below, outOfSight);
        }

        /** What is gone: nothing is in it. */
        static Named gone(NameKind kind, String id, String name) {
            Query nothing = new Query.Any(List.of());
            return new Named(kind, id, List.of(name), name + DELETED, nothing, nothing, false);
        }
    }

    /** A place, and how many words its name took. */
    record Naming(Named place, int words) {}

    /** The place whose name is made of the most words from a place in a text on; the first of several. An empty one ends it. */
    Optional<Naming> find(List<String> words, int at, Predicate<Named> wanted) {
        String all = "";
        List<Naming> found = new ArrayList<>();
        for (int end = at;
                end < Math.min(words.size(), at + MAX_WORDS) && !words.get(end).isEmpty();
                end++) {
            all = all + " " + words.get(end);
            String phrase = Fold.phrase(all);
            int number = end - at + 1;
            places.stream()
                    .filter(one ->
                            wanted.test(one) && !phrase.isBlank() && one.names().contains(phrase))
                    .findFirst()
                    .ifPresent(one -> found.add(new Naming(one, number)));
        }
        return found.isEmpty() ? Optional.empty() : Optional.of(found.get(found.size() - 1));
    }

    /**
     * Where names are meant as they were when a search was saved: what was called so then is found by that name, whatever it is
     * called now, and whatever has that name now.
     */
    public SearchWorld asOf(List<Reference> references) {
        List<Named> all = new ArrayList<>();
        for (Reference one : references) {
            all.add(places.stream()
                    .filter(place -> place.kind() == one.kind() && place.id().equals(one.id()))
                    .findFirst()
                    .map(place -> place.before(one.name()))
                    .orElseGet(() -> Named.gone(one.kind(), one.id(), one.name())));
        }
        all.addAll(places);
        return new SearchWorld(today, all, sent);
    }

    /** What a saved search names, and how it was called then. */
    public record Reference(NameKind kind, String id, String name) {}

    /** What is found only when it is asked for: junk, trash. */
    Query outOfSight() {
        return new Query.Any(
                places.stream().filter(Named::outOfSight).map(Named::query).toList());
    }
}
