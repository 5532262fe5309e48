package app.schublade.web.desk;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.ListQuery;
import app.schublade.store.Places;
import app.schublade.web.frame.Frame;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A place that the desk shows.
 *
 * @param folder its id, or null if it is not one folder
 * @param editable whether it is a folder of the user's own making
 * @param total how many messages are there; -1 if that is not known beforehand
 * @param unread how many of them are unread; -1 if that is not known beforehand
 * @param empty what an empty list says
 */
public record Spot(
        String title,
        ListQuery.Place place,
        @Nullable Long folder,
        boolean editable,
        int total,
        int unread,
        String empty) {
    private static final int UNKNOWN = -1;

    static Spot of(Places.Folder folder) {
        return new Spot(
                folder.path().shown(),
                new ListQuery.InFolder(folder.id()),
                folder.id(),
                folder.use() == null,
                folder.total(),
                folder.unread(),
                empty(folder.use()));
    }

    static Spot of(Places.Label label) {
        return new Spot(
                label.path().shown(),
                new ListQuery.WithLabel(label.id()),
                null,
                false,
                UNKNOWN,
                label.unread(),
                "No message has this label. A rule can add it to mail as it arrives.");
    }

    static Spot flagged() {
        return new Spot(
                "Flagged",
                new ListQuery.Flagged(),
                null,
                false,
                UNKNOWN,
                UNKNOWN,
                "Nothing is flagged. G puts a ribbon on a message that must not be forgotten.");
    }

    static Spot found(String words) {
        return new Spot(
                "“" + words + "”",
                new ListQuery.Found(words),
                null,
                false,
                UNKNOWN,
                UNKNOWN,
                "No message has these words. All of them must stand in the subject, the text or the sender's name.");
    }

    private static String empty(@Nullable SpecialUse use) {
        if (use == null) {
            return "Nothing is filed here yet. Drag messages onto the drawer, or press F.";
        }
        return switch (use) {
            case INBOX -> "The Inbox is empty. New mail of all accounts comes in here.";
            case TRASH -> "The trash is empty. Deleted messages lie here until their server removes them.";
            case DRAFTS -> "There are no drafts.";
            case SENT -> "Nothing has been sent from these accounts yet.";
            case JUNK -> "No junk. What the mail servers take for junk lies here.";
            case ARCHIVE -> "The archive is empty. A puts messages here that need no folder.";
        };
    }

    /** {@code "4 accounts · 35 unread of 61"}, as far as it is known. */
    public String figures(Frame.View view) {
        List<String> parts = new ArrayList<>();
        int accounts = view.chips().size();
        if (view.account() != null) {
            parts.add(view.account().name());
        } else if (accounts > 1) {
            parts.add(accounts + " accounts");
        }
        if (total == 0) {
            parts.add("empty");
        } else if (total > 0) {
            parts.add(unread > 0 ? "%,d unread of %,d".formatted(unread, total) : "%,d, all read".formatted(total));
        } else if (unread > 0) {
            parts.add("%,d unread".formatted(unread));
        }
        return String.join(" · ", parts);
    }
}
