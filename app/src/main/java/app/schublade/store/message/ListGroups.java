package app.schublade.store.message;

import app.schublade.core.place.Arrangement;
import app.schublade.store.base.Sql;
import java.util.ArrayList;
import java.util.List;

/**
 * The groups of a list in their order, where there are few and each can be told by what its messages have. Such a list is read
 * group by group, each in the order of an index; sorting all of it for one page takes long when it is long.
 */
final class ListGroups {
    /** With more than that, each would be asked for in vain too often. */
    private static final int MOST = 30;

    private ListGroups() {}

    /**
     * A group.
     *
     * @param key what {@link ListOrder} orders its messages by
     * @param condition over a message m
     */
    record ListGroup(String key, Sql condition) {
        /** Where it stands to the group of a key: before it, it, or behind it. */
        int compareTo(String other) {
            return Long.compare(Long.parseLong(key), Long.parseLong(other));
        }
    }

    /** None if the list is to be read as a whole. */
    static List<ListGroup> of(ListQuery query, ListStore.Ranks ranks) {
        Arrangement arrangement = query.arrangement();
        if (query.skip() > 0 || arrangement.order().key() != Arrangement.SortKey.DATE) {
            return List.of();
        }
        List<ListGroup> groups = switch (arrangement.grouping()) {
            case ACCOUNT -> having("m.account_id", ranks.accounts());
            case CATEGORY -> having("m.category_id", ranks.categories());
            case TRAY -> having("m.tray_id", ranks.trays());
            case FLAG -> flagged(ranks.flags());
            case LABEL -> labelled(ranks.labels());
            case NONE, DAY, SENDER, DUE, MATTERS -> List.of();
        };
        return groups.size() > MOST ? List.of() : groups;
    }

    /** Whether a group is looked for among messages of other places too, which only a long list is worth. */
    static boolean areFarApart(ListQuery query) {
        return query.arrangement().grouping() == Arrangement.Grouping.LABEL;
    }

    private static List<ListGroup> having(String column, List<Long> ids) {
        List<ListGroup> groups = new ArrayList<>();
        for (int i = 0; i < ids.size(); i++) {
            groups.add(new ListGroup(
                    String.valueOf(i + 1), Sql.of(column + " = :group").with("group", ids.get(i))));
        }
        groups.add(new ListGroup(ListOrder.LAST, noneOf(column, ids)));
        return groups;
    }

    private static Sql noneOf(String column, List<Long> ids) {
        return Sql.of("(" + column + " is null or " + column + " <> all(:others))")
                .with("others", ids.toArray(Long[]::new));
    }

    private static List<ListGroup> flagged(List<Long> flags) {
        List<ListGroup> groups = new ArrayList<>();
        for (int i = 0; i < flags.size(); i++) {
            groups.add(new ListGroup(
                    String.valueOf(i + 1),
                    Sql.of("(m.flagged and m.flag_id = :group)").with("group", flags.get(i))));
        }
        groups.add(new ListGroup(
                ListOrder.LAST,
                Sql.of("(m.flagged and ").plus(noneOf("m.flag_id", flags)).plus(")")));
        groups.add(new ListGroup(ListOrder.BEHIND_LAST, Sql.of("not m.flagged")));
        return groups;
    }

    private static List<ListGroup> labelled(List<Long> labels) {
        List<ListGroup> groups = new ArrayList<>();
        for (int i = 0; i < labels.size(); i++) {
            Sql label = Sql.of("m.id in (select message_id from message_label where label_id = :group)")
                    .with("group", labels.get(i));
            groups.add(new ListGroup(
                    String.valueOf(i + 1), i == 0 ? label : label.plus(" and ").plus(without(labels.subList(0, i)))));
        }
        groups.add(new ListGroup(ListOrder.LAST, without(labels)));
        return groups;
    }

    private static Sql without(List<Long> labels) {
        return Sql.of("not exists (select from message_label where message_id = m.id and label_id = any(:others))")
                .with("others", labels.toArray(Long[]::new));
    }
}
