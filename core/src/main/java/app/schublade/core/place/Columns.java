package app.schublade.core.place;

import app.schublade.core.problem.InputProblem;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The columns of a list, from left to right. A list without columns has rows of two lines.
 *
 * @param all each column at most once
 */
public record Columns(List<SizedColumn> all) {
    public static final int NARROWEST = 40;
    public static final int WIDEST = 1200;

    public static final Columns NONE = new Columns(List.of());
    /** What a list begins with that is set to columns. */
    public static final Columns USUAL = of(Column.SENDER, Column.SUBJECT, Column.LABELS, Column.DATE, Column.SIZE);

    private static final Pattern WRITTEN = Pattern.compile("[A-Z_]{1,30}:\\d{1,5}(,[A-Z_]{1,30}:\\d{1,5}){0,30}");

    /** What a column can show. */
    public enum Column {
        SENDER("Sender", 130, Arrangement.SortKey.SENDER),
        SUBJECT("Subject", 160, Arrangement.SortKey.SUBJECT),
        BEGINNING("Beginning", 200, null),
        DATE("Date", 66, Arrangement.SortKey.DATE),
        SIZE("Size", 56, Arrangement.SortKey.SIZE),
        FOLDER("Folder", 110, null),
        LABELS("Labels", 96, null),
        CATEGORY("Category", 96, Arrangement.SortKey.RANK),
        DUE("Due", 90, Arrangement.SortKey.DUE),
        ALIAS("Came to", 110, null);

        private final String words;
        private final int width;
        private final Arrangement.@Nullable SortKey key;

        Column(String words, int width, Arrangement.@Nullable SortKey key) {
            this.words = words;
            this.width = width;
            this.key = key;
        }

        public String words() {
            return words;
        }

        /** What the list is sorted by when its head is pressed; null if it cannot be sorted by it. */
        public Arrangement.@Nullable SortKey key() {
            return key;
        }

        private SizedColumn usual() {
            return new SizedColumn(this, width);
        }
    }

    /** A column and its width in pixels, which is brought within the limits. */
    public record SizedColumn(Column column, int width) {
        public SizedColumn {
            width = Math.max(NARROWEST, Math.min(WIDEST, width));
        }

        @Override
        public String toString() {
            return column + ":" + width;
        }
    }

    /** @throws InputProblem if a column is there twice */
    public Columns {
        all = List.copyOf(all);
        Set<Column> seen = EnumSet.noneOf(Column.class);
        for (SizedColumn one : all) {
            if (!seen.add(one.column())) {
                throw new InputProblem(
                        "The column “%s” appears twice.".formatted(one.column().words()));
            }
        }
    }

    private static Columns of(Column... columns) {
        return new Columns(Arrays.stream(columns).map(Column::usual).toList());
    }

    /**
     * Reads what {@link #toString} wrote.
     *
     * @throws InputProblem if it is something else
     */
    public static Columns parse(String text) {
        if (text.isEmpty()) {
            return NONE;
        }
        boolean known = WRITTEN.matcher(text).matches()
                && Arrays.stream(text.split(",")).allMatch(one -> isColumn(one.substring(0, one.indexOf(':'))));
        if (!known) {
            throw new InputProblem("These are no columns: it must be SENDER:150,SUBJECT:200 and so on.");
        }
        return new Columns(Arrays.stream(text.split(","))
                .map(one -> one.split(":"))
                .map(one -> new SizedColumn(Column.valueOf(one[0]), Integer.parseInt(one[1])))
                .toList());
    }

    private static boolean isColumn(String name) {
        return Arrays.stream(Column.values()).anyMatch(column -> column.name().equals(name));
    }

    public boolean has(Column column) {
        return all.stream().anyMatch(one -> one.column() == column);
    }

    /** With these columns and no others: those that are there already stay as they are, the new ones stand at the end. */
    public Columns only(Set<Column> wanted) {
        return new Columns(Stream.concat(
                        all.stream().filter(one -> wanted.contains(one.column())),
                        wanted.stream().filter(one -> !has(one)).sorted().map(Column::usual))
                .toList());
    }

    public boolean isEmpty() {
        return all.isEmpty();
    }

    /** {@code SENDER:150,SUBJECT:200}; empty if there are none. */
    @Override
    public String toString() {
        return all.stream().map(SizedColumn::toString).collect(Collectors.joining(","));
    }
}
