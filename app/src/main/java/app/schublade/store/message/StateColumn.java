package app.schublade.store.message;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.State;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * The columns that hold how messages are: what rules and acts change of them. Each stands in a message's row, and as it
 * was before and after in the filing record. A new aspect is a component of {@link State}, a line here and its columns.
 * The labels of a message are rows of a table of their own, in the record a column like the others.
 */
public enum StateColumn {
    FOLDER("folder_id", "folder", "bigint", State::folder),
    UNREAD("unread", "unread", "boolean", State::unread),
    FLAGGED("flagged", "flagged", "boolean", State::flagged),
    FLAG("flag_id", "flag", "bigint", State::flag),
    DUE_DAY("due_on", "due", "date", state -> day(state.due())),
    DUE_TIME("due_at", "due_at", "time", state -> time(state.due())),
    CATEGORY("category_id", "category", "bigint", State::category),
    OTHER_CATEGORIES("also_categories", "also", "bigint[]", State::also),
    TRAY("tray_id", "tray", "bigint", State::tray),
    UNTIL_DAY("until_on", "until", "date", state -> day(state.until())),
    UNTIL_TIME("until_at", "until_at", "time", state -> time(state.until())),
    DONE("done_on", "done", "date", State::done),
    LABELS("labels", "labels", "bigint[]", State::labels);

    /** Those that are columns of a message's row. */
    public static final List<StateColumn> OF_MESSAGE =
            Arrays.stream(values()).filter(column -> column != LABELS).toList();

    /** What to select of a message {@code m} for {@link #read}. */
    public static final String SELECTED = OF_MESSAGE.stream()
            .map(column -> "m." + column.name)
            .collect(Collectors.joining(
                    ", ", "", ", array(select label_id from message_label where message_id = m.id) as labels"));

    private final String name;
    private final String recorded;
    private final String type;

    @SuppressWarnings("ImmutableEnumChecker") // a function that holds nothing
    private final Function<State, @Nullable Object> value;

    /** @param recorded its name in the filing record, where "_before" and "_after" follow */
    StateColumn(String name, String recorded, String type, Function<State, @Nullable Object> value) {
        this.name = name;
        this.recorded = recorded;
        this.type = type;
        this.value = value;
    }

    /** Its name in a message's row. */
    public String column() {
        return name;
    }

    /** Its type, as SQL has it. */
    public String type() {
        return type;
    }

    /** Its name in the filing record before an act. */
    public String before() {
        return recorded + "_before";
    }

    /** Its name in the filing record after an act. */
    public String after() {
        return recorded + "_after";
    }

    /** What it holds of a state: a number, a truth, a day, a time, or a set of numbers. */
    public @Nullable Object of(State state) {
        return value.apply(state);
    }

    /** What it holds of a state, as PostgreSQL writes it. */
    public @Nullable String text(State state) {
        Object held = value.apply(state);
        return held instanceof Collection<?> many
                ? many.stream().map(String::valueOf).sorted().collect(Collectors.joining(",", "{", "}"))
                : held == null ? null : held.toString();
    }

    /** Reads the state of a message. */
    public static State read(ResultSet row) throws SQLException {
        return read(row, StateColumn::column);
    }

    /** Reads the state before an act from a row of the filing record. */
    public static State readBefore(ResultSet row) throws SQLException {
        return read(row, StateColumn::before);
    }

    /** Reads the state after an act from a row of the filing record. */
    public static State readAfter(ResultSet row) throws SQLException {
        return read(row, StateColumn::after);
    }

    private static State read(ResultSet row, Function<StateColumn, String> name) throws SQLException {
        return new State(
                row.getLong(name.apply(FOLDER)),
                row.getBoolean(name.apply(UNREAD)),
                row.getBoolean(name.apply(FLAGGED)),
                row.getObject(name.apply(FLAG), Long.class),
                time(row, name.apply(DUE_DAY), name.apply(DUE_TIME)),
                row.getObject(name.apply(CATEGORY), Long.class),
                longs(row, name.apply(OTHER_CATEGORIES)),
                longs(row, name.apply(LABELS)),
                row.getObject(name.apply(TRAY), Long.class),
                time(row, name.apply(UNTIL_DAY), name.apply(UNTIL_TIME)),
                row.getObject(name.apply(DONE), LocalDate.class));
    }

    private static @Nullable DayTime time(ResultSet row, String day, String time) throws SQLException {
        return DayTime.of(row.getObject(day, LocalDate.class), row.getObject(time, LocalTime.class));
    }

    private static Set<Long> longs(ResultSet row, String name) throws SQLException {
        return Set.copyOf(Arrays.asList((Long[]) row.getArray(name).getArray()));
    }

    private static @Nullable LocalDate day(@Nullable DayTime one) {
        return one == null ? null : one.day();
    }

    private static @Nullable LocalTime time(@Nullable DayTime one) {
        return one == null ? null : one.time();
    }
}
