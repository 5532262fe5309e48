package app.schublade.web.desk;

import app.schublade.core.filing.Marked;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Filter;
import app.schublade.core.query.Query;
import app.schublade.core.query.Search;
import app.schublade.store.message.ListQuery;
import app.schublade.store.place.Places;
import app.schublade.web.frame.Frame;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A place that the desk shows.
 *
 * @param folder its id, or null if it is not one folder
 * @param kind what it is, for what can be done with it
 * @param total how many messages are there; -1 if that is not known beforehand
 * @param unread how many of them are unread; -1 if that is not known beforehand
 * @param empty what an empty list says
 */
public record PlaceView(
        String title, PlaceKind kind, Query place, @Nullable Long folder, int total, int unread, String empty) {
    static final int UNKNOWN = -1;

    /** Kinds of places. */
    public enum PlaceKind {
        /** A folder of the user's own making. */
        FOLDER,
        /** A folder that every account has. */
        SPECIAL,
        TRASH,
        TICKLER,
        /** A label with others below it. */
        LABELS,
        LABEL,
        TRAY,
        /** A flag of the user's own. */
        FLAG,
        /** What was searched for. */
        FOUND,
        FLAGGED,
        DONE
    }

    /**
     * The place of an address; none if it is gone.
     *
     * @param found what is searched for, or null
     */
    static Optional<PlaceView> at(DeskUrl address, Places places, MessageList.@Nullable Found found) {
        String[] parts = address.place().split("/", 2);
        return switch (parts[0]) {
            case "inbox" -> Optional.of(of(places.special(SpecialUse.INBOX)));
            case "tickler" -> Optional.of(tickler(places.special(SpecialUse.TICKLER)));
            case "flagged" -> Optional.of(flagged());
            case "done" -> Optional.of(done());
            case "find", "search" -> Optional.ofNullable(found).map(PlaceView::of);
            case "folder" ->
                id(parts)
                        .flatMap(places::folder)
                        .map(folder -> folder.use() == SpecialUse.TICKLER ? tickler(folder) : of(folder));
            case "label" -> id(parts).flatMap(places::label).map(label -> of(label, address.alone(), places));
            case "flag" -> id(parts).flatMap(places::flag).map(PlaceView::of);
            case "tray" -> id(parts).flatMap(places::tray).map(tray -> of(tray, places));
            default -> Optional.empty();
        };
    }

    private static Optional<Long> id(String[] parts) {
        return parts.length == 2 && parts[1].matches("\\d{1,18}")
                ? Optional.of(Long.valueOf(parts[1]))
                : Optional.empty();
    }

    private static PlaceView of(Places.Folder folder) {
        return new PlaceView(
                folder.path().shown(),
                folder.use() == null
                        ? PlaceKind.FOLDER
                        : folder.use() == SpecialUse.TRASH ? PlaceKind.TRASH : PlaceKind.SPECIAL,
                new Query.InFolder(folder.ref()),
                folder.id(),
                folder.total(),
                folder.unread(),
                empty(folder.use()));
    }

    private static PlaceView of(Places.Tray tray, Places places) {
        return new PlaceView(
                tray.name(),
                PlaceKind.TRAY,
                new Query.InFolder(places.special(SpecialUse.INBOX).ref()).and(new Query.InTray(tray.ref())),
                places.special(SpecialUse.INBOX).id(),
                UNKNOWN,
                tray.unread(),
                "This tray is empty. "
                        + (tray.kind() == null
                                ? "Drag a message onto it; then all from its sender can come here."
                                : "New mail arrives here: " + tray.kind().words() + "."));
    }

    private static PlaceView of(Places.Label label, boolean alone, Places places) {
        List<LabelRef> all = places.withBelow(label);
        boolean single = all.size() == 1;
        return new PlaceView(
                label.path().shown(),
                single ? PlaceKind.LABEL : PlaceKind.LABELS,
                new Query.Meets(new Marked(alone ? List.of(label.ref()) : all, List.of(), false)),
                null,
                UNKNOWN,
                single || alone ? label.unread() : UNKNOWN,
                "No message has this label. Press L to put it on messages; a rule can do it as they arrive.");
    }

    /** The page where the place is changed, or null if it cannot be. */
    public @Nullable String editedAt() {
        if (kind == PlaceKind.FOLDER) {
            return "/folders/" + folder;
        }
        if (kind == PlaceKind.TRASH) {
            return "/folders/deleted";
        }
        return kind == PlaceKind.LABEL || kind == PlaceKind.LABELS
                ? "/labels"
                : kind == PlaceKind.TRAY ? "/trays" : kind == PlaceKind.FLAG ? "/flags" : null;
    }

    private static PlaceView tickler(Places.Folder folder) {
        return new PlaceView(
                folder.path().shown(),
                PlaceKind.TICKLER,
                new Query.Any(List.of(new Query.InFolder(folder.ref()), new Query.Tickled())),
                null,
                UNKNOWN,
                UNKNOWN,
                empty(folder.use()));
    }

    public boolean isTickler() {
        return kind == PlaceKind.TICKLER;
    }

    /** What the days are that its list can be ordered by. */
    ListQuery.ListDays days() {
        return switch (kind) {
            case TICKLER -> ListQuery.ListDays.RETURN;
            case DONE -> ListQuery.ListDays.DONE;
            default -> ListQuery.ListDays.DUE;
        };
    }

    public boolean isTrash() {
        return kind == PlaceKind.TRASH;
    }

    private static PlaceView of(Places.OwnFlag flag) {
        return new PlaceView(
                flag.name(),
                PlaceKind.FLAG,
                new Query.FlaggedAs(flag.ref()),
                null,
                UNKNOWN,
                UNKNOWN,
                "No message is flagged as %s. Press Shift+G and the digit of the flag.".formatted(flag.name()));
    }

    private static PlaceView flagged() {
        return new PlaceView(
                "Flagged",
                PlaceKind.FLAGGED,
                Filter.FLAGGED.query(),
                null,
                UNKNOWN,
                UNKNOWN,
                "Nothing flagged. Press G to flag a message that must not be forgotten.");
    }

    private static PlaceView done() {
        return new PlaceView(
                "Done",
                PlaceKind.DONE,
                new Query.OnDay(Query.MessageDay.DONE),
                null,
                UNKNOWN,
                UNKNOWN,
                "Nothing done yet. A flag that you clear, here or in another mail program, leaves its message here, with the day.");
    }

    private static PlaceView of(MessageList.Found found) {
        Search search = found.search();
        return new PlaceView(
                found.kept() == null ? "Found" : found.kept().name(),
                PlaceKind.FOUND,
                search.query(),
                null,
                UNKNOWN,
                UNKNOWN,
                search.isEmpty()
                        ? "There is nothing in this to search for."
                        : "No match for: " + search.sentence() + ".");
    }

    private static String empty(@Nullable SpecialUse use) {
        if (use == null) {
            return "Nothing filed here yet. Drag messages onto the drawer, or press F.";
        }
        return switch (use) {
            case INBOX -> "The Inbox is empty. New mail of all accounts arrives here.";
            case TICKLER ->
                "The tickler is empty. Press T to put a message here until a day you choose; then it is back in the Inbox.";
            case TRASH -> "The trash is empty. Deleted mail stays here until you or its server empty it.";
            case DRAFTS -> "There are no drafts.";
            case SENT -> "Nothing has been sent from these accounts yet.";
            case JUNK -> "No junk. Mail that the servers take for junk is kept here.";
            case ARCHIVE -> "The archive is empty. Press A to put messages here that need no folder.";
        };
    }

    /** {@code "4 accounts · 35 unread of 61"}, as far as it is known. */
    String figures(Frame.FrameData known, int total, int unread) {
        List<String> parts = new ArrayList<>();
        int accounts = known.accounts().size();
        if (known.account() != null) {
            parts.add(known.account().name());
        } else if (accounts > 1) {
            parts.add(accounts + " accounts");
        }
        if (total == 0) {
            parts.add("empty");
        } else if (total > 0) {
            parts.add(
                    unread == 0
                            ? "%,d, all read".formatted(total)
                            : unread == total
                                    ? "%,d unread".formatted(unread)
                                    : "%,d unread of %,d".formatted(unread, total));
        } else if (unread > 0) {
            parts.add("%,d unread".formatted(unread));
        }
        return String.join(" · ", parts);
    }
}
