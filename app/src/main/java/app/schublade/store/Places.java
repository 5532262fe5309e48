package app.schublade.store;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A user's folders, labels and categories, all at once. */
public record Places(List<Folder> folders, List<Label> labels, List<Category> categories) {

    /** A folder and what lies in it, over all accounts or in one. */
    public record Folder(long id, FolderPath path, @Nullable SpecialUse use, int total, int unread) {}

    /** A label and how many unread messages have it. */
    public record Label(long id, FolderPath path, Tone tone, String keyword, int unread) {}

    /** A category; ranks start at 1. */
    public record Category(long id, int rank, String name, Tone tone, String keyword) {}

    public Optional<Folder> folder(long id) {
        return folders.stream().filter(folder -> folder.id() == id).findFirst();
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

    public Optional<Category> category(@Nullable Long id) {
        return categories.stream()
                .filter(category -> id != null && category.id() == id)
                .findFirst();
    }
}
