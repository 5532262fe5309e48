package app.schublade.store.message;

import app.schublade.core.place.Arrangement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The order of a list as parts of SQL: keys that it is grouped and sorted by, then time and id, so that no two messages
 * stand at the same place and a page can begin after any of them (keyset paging).
 */
final class ListOrder {
    /** Sorts behind everything that has a rank or a date. */
    static final String LAST = "999999999";

    /** What is not flagged stands behind what is, though that has no flag of the user's own. */
    static final String BEHIND_LAST = "1000000000";

    /** Minutes of a day, and one for the day as a whole, which comes after all its times. */
    private static final int IN_DAY = 1441;

    /** Letters as people order them, in every language: "Ä" stands beside "A". */
    private static final String ALPHABET = " collate \"und-x-icu\"";

    /** When it was written, in microseconds; as it came, if that is not told or cannot be. */
    private static final String WRITTEN =
            "cast(extract(epoch from least(coalesce(h.sent_at, m.received_at), m.received_at)) * 1000000 as bigint)";

    /** First key people, then what is flagged, then the rest. */
    private static final String MATTERS = """
            (case when exists (select from key_person k where k.user_id = m.user_id
                and k.value in (h.sender_address, split_part(h.sender_address, '@', 2))) then 0
                when m.flagged then 1 else 2 end)""";

    /** Until when something must be done; in the tickler, until when it lies there. */
    private final String day;

    private final String time;

    private final ListQuery.ListDays days;
    private final List<Part> keys;
    private final boolean ascending;

    ListOrder(ListQuery query) {
        Arrangement arrangement = query.arrangement();
        days = query.days();
        day = days == ListQuery.ListDays.RETURN ? "m.until_on" : "m.due_on";
        time = days == ListQuery.ListDays.RETURN ? "m.until_at" : "m.due_at";
        keys = keys(arrangement);
        ascending = arrangement.order() == Arrangement.SortOrder.OLDEST;
    }

    /**
     * What messages are ordered by.
     *
     * @param expression over m, a message, and h, its head; never null
     * @param text whether it is ordered as words, and not as a number
     */
    private record Part(String expression, boolean text, boolean ofHead, boolean ascending) {
        static Part number(String expression, boolean ascending) {
            return new Part(expression, false, false, ascending);
        }

        static Part ofHead(String expression, boolean text, boolean ascending) {
            return new Part(expression, text, true, ascending);
        }

        String sense() {
            return ascending ? "" : " desc";
        }

        /** Whether a cursor's value can be compared with it. */
        boolean takes(String value) {
            return text || value.matches("-?\\d{1,18}");
        }

        String bound(int number) {
            return text ? ":key" + number : "cast(:key" + number + " as bigint)";
        }
    }

    private List<Part> keys(Arrangement arrangement) {
        List<Part> keys = new ArrayList<>();
        Part group = group(arrangement);
        if (group != null) {
            keys.add(group);
        }
        Part sort = sort(arrangement.order());
        if (sort != null) {
            keys.add(sort);
        }
        return keys;
    }

    private @Nullable Part group(Arrangement arrangement) {
        return switch (arrangement.grouping()) {
            case NONE -> null;
            case DAY ->
                days == ListQuery.ListDays.DONE
                        ? Part.number("(coalesce(m.done_on, date '2000-01-01') - date '2000-01-01')", false)
                        : arrangement.order().key() == Arrangement.SortKey.DATE
                                        || arrangement.order().key() == Arrangement.SortKey.WRITTEN
                                ? null // It stands in the order of days already.
                                : Part.number(
                                        "(cast(m.received_at at time zone :zone as date) - date '2000-01-01')", false);
            case SENDER -> Part.ofHead("lower(h.sender_address)", true, true);
            case ACCOUNT -> Part.number(place("accounts", "account_id"), true);
            case CATEGORY -> rank(true);
            case LABEL ->
                Part.number(
                        "coalesce((select min(array_position(:labels, label_id)) from message_label where message_id = m.id), "
                                + LAST + ")",
                        true);
            case TRAY -> Part.number(place("trays", "tray_id"), true);
            case FLAG ->
                Part.number("(" + place("flags", "flag_id") + " + case when m.flagged then 0 else 1 end)", true);
            case DUE -> due(true);
            case MATTERS -> Part.ofHead(MATTERS, false, true);
        };
    }

    private @Nullable Part sort(Arrangement.SortOrder order) {
        boolean ascending = order.ascending();
        return switch (order.key()) {
            case DATE -> null;
            case WRITTEN -> Part.ofHead(WRITTEN, false, ascending);
            case SENDER -> Part.ofHead("lower(coalesce(nullif(h.sender_name, ''), h.sender_address))", true, ascending);
            case SUBJECT ->
                Part.ofHead(
                        "lower(regexp_replace(h.subject, '^(\\s*(re|fwd?|aw|wg|sv|vs|antw|tr|rif)\\s*(\\[\\d+\\])?\\s*:)+\\s*', '', 'i'))",
                        true,
                        ascending);
            case SIZE -> Part.ofHead("h.size", false, ascending);
            case RANK -> rank(ascending);
            case DUE -> due(ascending);
        };
    }

    private static Part rank(boolean ascending) {
        return Part.number(place("categories", "category_id"), ascending);
    }

    /** Where something stands among its kind, whose ids are given in their order. */
    private static String place(String order, String column) {
        return "coalesce(array_position(:" + order + ", m." + column + "), " + LAST + ")";
    }

    private Part due(boolean ascending) {
        return Part.number(
                "coalesce((%s - date '2000-01-01') * %d + coalesce(cast(extract(epoch from %s) as int) / 60, %d), %s)"
                        .formatted(day, IN_DAY, time, IN_DAY - 1, LAST),
                ascending);
    }

    boolean needsHead() {
        return keys.stream().anyMatch(Part::ofHead);
    }

    /** {@code ", … as key0, … as key1"}. */
    String columns() {
        return IntStream.range(0, keys.size())
                .mapToObj(i -> ", " + keys.get(i).expression() + " as key" + i)
                .collect(Collectors.joining());
    }

    /** Over rows that have the {@link #columns}. */
    String orderBy(String alias) {
        return IntStream.range(0, keys.size())
                        .mapToObj(i -> alias + ".key" + i
                                + (keys.get(i).text() ? ALPHABET : "")
                                + keys.get(i).sense() + ", ")
                        .collect(Collectors.joining())
                + orderOfTime(alias);
    }

    private String orderOfTime(String alias) {
        String sense = ascending ? "" : " desc";
        return alias + ".received_at" + sense + ", " + alias + ".id" + sense;
    }

    /** The same over the messages themselves. */
    String orderOfMessages() {
        String order = orderBy("m");
        for (int i = keys.size() - 1; i >= 0; i--) {
            order = order.replace("m.key" + i, keys.get(i).expression());
        }
        return order;
    }

    /** The same within a group, where all have the same key. */
    String orderInGroup() {
        return orderOfTime("m");
    }

    /** The condition that a message stands after the cursor. */
    String after() {
        String condition = afterInGroup();
        for (int i = keys.size() - 1; i >= 0; i--) {
            Part key = keys.get(i);
            String value = key.expression() + (key.text() ? ALPHABET : "");
            condition = "(%s %s %s or (%s = %s and %s))"
                    .formatted(
                            value,
                            key.ascending() ? ">" : "<",
                            key.bound(i),
                            key.expression(),
                            key.bound(i),
                            condition);
        }
        return condition;
    }

    /** The same within a group. */
    String afterInGroup() {
        return "(m.received_at, m.id) " + (ascending ? ">" : "<") + " (:time, :id)";
    }

    /** Whether a cursor belongs to a list of this order; another is of a list that was arranged anew since. */
    boolean fits(ListQuery.@Nullable Cursor cursor) {
        return cursor != null
                && cursor.keys().size() == keys.size()
                && IntStream.range(0, keys.size())
                        .allMatch(i -> keys.get(i).takes(cursor.keys().get(i)));
    }

    /** The names of the columns with the keys. */
    List<String> names() {
        return keys.isEmpty()
                ? Collections.emptyList()
                : IntStream.range(0, keys.size()).mapToObj(i -> "key" + i).toList();
    }
}
