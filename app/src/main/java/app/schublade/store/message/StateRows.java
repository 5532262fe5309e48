package app.schublade.store.message;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.State;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Reads what rules and acts change of a message from rows of messages and of the filing record. */
public final class StateRows {
    private StateRows() {}

    /** Reads a state from columns with a common ending. */
    public static State read(ResultSet row, String ending) throws SQLException {
        String folder = ending.isEmpty() ? "folder_id" : "folder" + ending;
        String category = ending.isEmpty() ? "category_id" : "category" + ending;
        return new State(
                row.getLong(folder),
                row.getBoolean("unread" + ending),
                row.getBoolean("flagged" + ending),
                time(row, "due", ending),
                row.getObject(category, Long.class),
                Set.of(longs(row.getArray(ending.isEmpty() ? "also_categories" : "also" + ending))),
                Arrays.stream(longs(row.getArray("labels" + ending))).collect(Collectors.toSet()),
                row.getObject(ending.isEmpty() ? "tray_id" : "tray" + ending, Long.class),
                time(row, "until", ending));
    }

    private static @Nullable DayTime time(ResultSet row, String aspect, String ending) throws SQLException {
        return DayTime.of(
                row.getObject(aspect + (ending.isEmpty() ? "_on" : ending), LocalDate.class),
                row.getObject(aspect + "_at" + ending, LocalTime.class));
    }

    /** When a message is due, or comes back, by its row. */
    static @Nullable DayTime time(ResultSet row, String aspect) throws SQLException {
        return time(row, aspect, "");
    }

    private static Long[] longs(Array array) throws SQLException {
        return (Long[]) array.getArray();
    }
}
