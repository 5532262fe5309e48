package app.schublade.store.message;

import app.schublade.core.filing.State;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Set;
import java.util.stream.Collectors;

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
                row.getObject(ending.isEmpty() ? "due_on" : "due" + ending, LocalDate.class),
                row.getObject(category, Long.class),
                Set.of(longs(row.getArray(ending.isEmpty() ? "also_categories" : "also" + ending))),
                Arrays.stream(longs(row.getArray("labels" + ending))).collect(Collectors.toSet()),
                row.getObject(ending.isEmpty() ? "tray_id" : "tray" + ending, Long.class),
                row.getObject(ending.isEmpty() ? "until_on" : "until" + ending, LocalDate.class));
    }

    private static Long[] longs(Array array) throws SQLException {
        return (Long[]) array.getArray();
    }
}
