package app.schublade.web.places;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.PathTree;
import app.schublade.store.place.Places;
import app.schublade.web.frame.Choice;
import java.util.ArrayList;
import java.util.List;
import java.util.function.ToLongFunction;
import org.jspecify.annotations.Nullable;

/** Where something in a tree is put in relation to something else. */
enum DropPosition {
    BEFORE,
    AFTER,
    /** Inside of it, behind all that is there. */
    IN;

    static DropPosition of(String word) {
        return Choice.of(DropPosition.class, word);
    }

    /** The path that a thing gets there. */
    FolderPath path(FolderPath moved, FolderPath other) {
        FolderPath parent = this == IN ? other : other.parent();
        return parent == null ? FolderPath.parse(moved.name()) : parent.child(moved.name());
    }

    /** The ids of all that lie in the same place then, in their order. */
    <T extends Places.Placed> List<Long> order(PathTree<T> tree, ToLongFunction<T> id, T moved, T other) {
        @Nullable FolderPath parent = this == IN ? other.path() : other.path().parent();
        List<Long> ids = new ArrayList<>();
        for (T sibling : tree.siblings(parent)) {
            long one = id.applyAsLong(sibling);
            if (one == id.applyAsLong(moved)) {
                continue;
            }
            if (this == BEFORE && one == id.applyAsLong(other)) {
                ids.add(id.applyAsLong(moved));
            }
            ids.add(one);
            if (this == AFTER && one == id.applyAsLong(other)) {
                ids.add(id.applyAsLong(moved));
            }
        }
        if (this == IN) {
            ids.add(id.applyAsLong(moved));
        }
        return ids;
    }
}
