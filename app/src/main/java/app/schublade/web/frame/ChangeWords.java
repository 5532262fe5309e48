package app.schublade.web.frame;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.State;
import app.schublade.store.place.Places;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

/** What a change did to a message, in words. */
public final class ChangeWords {
    private static final String GONE = "a folder that is gone";

    private ChangeWords() {}

    /**
     * {@code "Filed into Schools, category Next"}.
     *
     * @param besides what was done that did not change it
     */
    public static String sentence(Change change, List<String> besides, Places known) {
        List<String> parts = new ArrayList<>();
        if (change.before().folder() != change.after().folder()) {
            parts.add("filed into " + folder(change.after(), known));
        }
        parts.addAll(marks(change, known));
        parts.addAll(besides);
        String all = parts.isEmpty() ? "changed" : String.join(", ", parts);
        return all.substring(0, 1).toUpperCase(Locale.ROOT) + all.substring(1);
    }

    /** The folder that it lay in, or lies in. */
    public static String folder(State state, Places known) {
        return known.folder(state.folder()).map(folder -> folder.path().shown()).orElse(GONE);
    }

    /** All that changed but the folder. */
    public static List<String> marks(Change change, Places known) {
        State before = change.before();
        State after = change.after();
        List<String> parts = new ArrayList<>();
        labels(after.labels(), before.labels(), known).forEach(label -> parts.add("labelled " + label));
        labels(before.labels(), after.labels(), known).forEach(label -> parts.add("label " + label + " taken off"));
        List<String> put = categories(after, before, known);
        put.forEach(name -> parts.add("category " + name));
        if (after.categories().isEmpty() && !before.categories().isEmpty()) {
            parts.add("category cleared");
        } else if (put.isEmpty()) {
            categories(before, after, known).forEach(name -> parts.add("category " + name + " taken off"));
        }
        if (before.unread() != after.unread()) {
            parts.add(after.unread() ? "marked as unread" : "marked as read");
        }
        if (before.flagged() != after.flagged() || !Objects.equals(before.flag(), after.flag())) {
            parts.add(after.flagged() ? flagged(after, known) : "flag cleared");
        }
        if (!Objects.equals(before.due(), after.due()) && after.flagged()) {
            parts.add(after.due() == null ? "due date cleared" : "due " + after.due());
        }
        if (after.until() != null && !after.until().equals(before.until())) {
            parts.add("until " + after.until());
        }
        if (!Objects.equals(before.tray(), after.tray())) {
            parts.add(known.tray(after.tray())
                    .map(tray -> "put into the tray " + tray.name())
                    .orElse("taken out of its tray"));
        }
        return parts;
    }

    private static String flagged(State state, Places known) {
        return known.flag(state.flag()).map(flag -> "flagged as " + flag.name()).orElse("flagged");
    }

    /** Names of the categories that one state has and another has not. */
    private static List<String> categories(State one, State other, Places known) {
        return known.categories(one.categories()).stream()
                .filter(category -> !other.categories().contains(category.id()))
                .map(Places.Category::name)
                .toList();
    }

    private static Stream<String> labels(Set<Long> some, Set<Long> others, Places known) {
        return some.stream()
                .filter(id -> !others.contains(id))
                .flatMap(id -> known.label(id).stream())
                .map(label -> label.path().shown());
    }
}
