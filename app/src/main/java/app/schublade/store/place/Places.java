package app.schublade.store.place;

import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.Colour;
import app.schublade.core.place.FlagRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.PathTree;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.core.place.TrayKind;
import app.schublade.core.place.TrayRef;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A user's folders, labels, categories, trays and own flags, all at once. */
public record Places(
        List<Folder> folders, List<Label> labels, List<Category> categories, List<Tray> trays, List<OwnFlag> flags) {

    /**
     * A folder and what lies in it, over all accounts or in one.
     *
     * @param position among its siblings, if the user has put them in an order
     * @param hidden out of the cabinet, unless something unread is in it
     * @param pinned above all others
     * @param folded whether the cabinet keeps what lies in it out of sight
     */
    public record Folder(
            long id,
            FolderPath path,
            @Nullable SpecialUse use,
            int total,
            int unread,
            @Nullable Integer position,
            boolean hidden,
            boolean pinned,
            boolean folded)
            implements Placed {
        public FolderRef ref() {
            return new FolderRef(id, path);
        }

        /** Whether one files into it: the user made it, or it is the archive. */
        public boolean isForFiling() {
            return use == null || use == SpecialUse.ARCHIVE;
        }
    }

    /**
     * A label and how many unread messages have it.
     *
     * @param own the colour, if it is none of the palette's
     */
    public record Label(
            long id,
            FolderPath path,
            Tone tone,
            @Nullable Colour own,
            String keyword,
            int unread,
            @Nullable Integer position,
            boolean hidden)
            implements Placed {
        @Override
        public boolean pinned() {
            return false;
        }

        public LabelRef ref() {
            return new LabelRef(id, path);
        }

        /** The class of its colour in the style sheet. */
        public String css() {
            return own == null ? tone.css() : own.css();
        }
    }

    /** What stands in a tree beside others. */
    public interface Placed {
        FolderPath path();

        @Nullable
        Integer position();

        boolean pinned();

        boolean hidden();

        int unread();

        /** Pinned ones first, then those with a position, then the others by name. */
        Comparator<Placed> AS_ARRANGED = Comparator.comparing((Placed placed) -> !placed.pinned())
                .thenComparing(Placed::position, Comparator.nullsLast(Comparator.naturalOrder()));
    }

    /**
     * A category; ranks start at 1.
     *
     * @param mark what stands in its stamp instead of the rank, or null
     * @param dueDays a message that gets it is flagged, due so many days later; or null
     */
    public record Category(
            long id,
            int rank,
            String name,
            Tone tone,
            String keyword,
            @Nullable String mark,
            @Nullable Integer dueDays) {
        public CategoryRef ref() {
            return new CategoryRef(id, name, dueDays);
        }

        /** What stands in its stamp. */
        public String stamp() {
            return mark == null ? String.valueOf(rank) : mark;
        }
    }

    /** A division of the Inbox and how many unread messages lie there. */
    public record Tray(long id, String name, @Nullable TrayKind kind, int unread) {
        public TrayRef ref() {
            return new TrayRef(id, name);
        }
    }

    /** A flag of the user's own and how many messages are flagged as it. */
    public record OwnFlag(long id, String name, Tone tone, int messages) {
        public FlagRef ref() {
            return new FlagRef(id, name);
        }
    }

    public Optional<OwnFlag> flag(@Nullable Long id) {
        return flags.stream().filter(flag -> id != null && flag.id() == id).findFirst();
    }

    public Optional<Tray> tray(@Nullable Long id) {
        return trays.stream().filter(tray -> id != null && tray.id() == id).findFirst();
    }

    /** The ids of the labels as they stand in their tree, from top to bottom. */
    public List<Long> labelOrder() {
        return labelTree().inOrder().map(Label::id).toList();
    }

    public PathTree<Label> labelTree() {
        return PathTree.of(labels, Label::path, Placed.AS_ARRANGED);
    }

    /** A label and those that lie in it. */
    public List<LabelRef> withBelow(Label label) {
        return labels.stream()
                .filter(one -> one.id() == label.id() || one.path().isBelow(label.path()))
                .map(Label::ref)
                .toList();
    }

    /** The folders of the user's own making. */
    public PathTree<Folder> folderTree() {
        return PathTree.of(
                folders.stream().filter(folder -> folder.use() == null).toList(), Folder::path, Placed.AS_ARRANGED);
    }

    public Optional<Folder> folder(long id) {
        return folders.stream().filter(folder -> folder.id() == id).findFirst();
    }

    /** The folder of a message; one that is gone meanwhile is shown as such, so that the message can be filed elsewhere. */
    public Folder folderOf(long id) {
        return folder(id)
                .orElseGet(() -> new Folder(
                        id, FolderPath.parse("(a folder that is gone)"), null, 0, 0, null, false, false, false));
    }

    /** The folder of this path, however it is written. */
    public Optional<Folder> folder(FolderPath path) {
        return folders.stream()
                .filter(folder -> folder.path().compareTo(path) == 0)
                .findFirst();
    }

    public Folder special(SpecialUse use) {
        return folders.stream()
                .filter(folder -> folder.use() == use)
                .findFirst()
                .orElseThrow();
    }

    public Optional<Label> label(long id) {
        return labels.stream().filter(label -> label.id() == id).findFirst();
    }

    /** The label of this path, however it is written. */
    public Optional<Label> label(FolderPath path) {
        return labels.stream()
                .filter(label -> label.path().compareTo(path) == 0)
                .findFirst();
    }

    public Optional<Category> category(String name) {
        return categories.stream()
                .filter(category -> category.name().equalsIgnoreCase(name))
                .findFirst();
    }

    /** Those of these ids, by rank. */
    public List<Category> categories(Collection<Long> ids) {
        return categories.stream()
                .filter(category -> ids.contains(category.id()))
                .toList();
    }

    public Optional<Category> category(@Nullable Long id) {
        return categories.stream()
                .filter(category -> id != null && category.id() == id)
                .findFirst();
    }
}
