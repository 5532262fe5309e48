package app.schublade.store.message;

import app.schublade.core.query.Query;
import app.schublade.store.base.Sql;
import app.schublade.store.base.Zones;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Tells of what was found how much of it is where, from whom and from when. */
@Repository
public class FacetStore {
    /** More are not looked at one by one. */
    public static final int MOST = 20_000;

    private static final int SHOWN = 3;
    /** Longer than this, and years are shown in place of months. */
    private static final int MOST_MONTHS = 12;

    private final JdbcClient jdbc;
    private final Zones zones;

    FacetStore(JdbcClient jdbc, Zones zones) {
        this.jdbc = jdbc;
        this.zones = zones;
    }

    /** By what it is told apart. */
    public enum FacetKind {
        FOLDER,
        TIME,
        PERSON,
        ACCOUNT,
        FILE
    }

    /**
     * A part of what was found.
     *
     * @param key the id of a folder or an account; a year or a month, {@code 2026-03}; an address; the ending of a file's name
     * @param name of a person
     */
    public record Facet(String key, String name, int messages) {}

    /**
     * How much was found.
     *
     * @param total {@link #MOST} and one if it is more
     * @param parts the largest of each kind; times the latest first
     */
    public record Facets(int total, Map<FacetKind, List<Facet>> parts) {
        public boolean isAll() {
            return total <= MOST;
        }
    }

    /** Of as many messages: what was there first, by their numbers; people and ends of names by the alphabet. */
    private static final Comparator<Facet> MOST_FIRST = Comparator.comparingInt((Facet one) -> -one.messages)
            .thenComparing(one -> one.key.matches("\\d+") ? one.key.length() : 0)
            .thenComparing(one -> one.key);

    private record Row(String kind, String key, String name, int messages) {}

    @Transactional(readOnly = true)
    public Facets of(long userId, Query query) {
        ZoneId zone = zones.of(userId);
        Sql condition = QuerySql.where(jdbc, userId, query, zone, "m", "h").condition();
        QuerySql.Selection.forThisPlan(jdbc);
        List<Row> rows = Sql.of("""
                        with hit as materialized (
                            select m.folder_id, m.account_id, m.received_at, h.sender_address, h.sender_name, h.attached
                            from message m join message_head h on h.message_id = m.id where m.user_id = :user and\s""")
                .plus(condition)
                .plus("""
                             limit :most),
                        person as (select sender_address, max(sender_name) as name, count(*)::int as n from hit
                            group by 1 order by 3 desc, 1 limit :shown)
                        select 'TOTAL' as kind, '' as key, '' as name, count(*)::int as messages from hit
                        union all select 'FOLDER', folder_id::text, '', count(*)::int from hit group by folder_id
                        union all select 'ACCOUNT', account_id::text, '', count(*)::int from hit group by account_id
                        union all select 'PERSON', sender_address, name, n from person
                        union all select 'TIME', to_char(received_at at time zone :zone, 'YYYY-MM'), '', count(*)::int from hit group by 2
                        union all select 'FILE', substring(lower(a ->> 'name') from '[.]([[:alnum:]]{1,10})$'), '', count(*)::int
                            from hit cross join lateral jsonb_array_elements(hit.attached) a group by 2
                        """)
                .on(jdbc)
                .param("user", userId)
                .param("most", MOST + 1)
                .param("shown", SHOWN)
                .param("zone", zone.getId())
                .query(Row.class)
                .list();
        return facets(rows);
    }

    private static Facets facets(List<Row> rows) {
        int total = 0;
        Map<FacetKind, List<Facet>> parts = new EnumMap<>(FacetKind.class);
        for (Row row : rows) {
            if (row.kind.equals("TOTAL")) {
                total = row.messages;
            } else if (row.key != null) {
                parts.computeIfAbsent(FacetKind.valueOf(row.kind), kind -> new ArrayList<>())
                        .add(new Facet(row.key, row.name, row.messages));
            }
        }
        parts.computeIfPresent(FacetKind.TIME, (kind, months) -> times(months));
        parts.replaceAll((kind, all) -> (kind == FacetKind.TIME
                        ? all.stream()
                        : all.stream().sorted(MOST_FIRST))
                .limit(SHOWN)
                .toList());
        return new Facets(total, parts);
    }

    /** Months, or years if they are many; the latest first. */
    private static List<Facet> times(List<Facet> months) {
        boolean years = months.size() > MOST_MONTHS;
        Map<String, Integer> times = new TreeMap<>();
        months.forEach(one -> times.merge(years ? one.key.substring(0, 4) : one.key, one.messages, Integer::sum));
        List<Facet> latest = new ArrayList<>();
        times.forEach((key, messages) -> latest.add(0, new Facet(key, "", messages)));
        return latest;
    }

    /** How many are meant, up to a limit. */
    @Transactional(readOnly = true)
    public int count(long userId, Query query, int most) {
        QuerySql.Selection where = QuerySql.where(jdbc, userId, query, zones.of(userId), "m", "h");
        QuerySql.Selection.forThisPlan(jdbc);
        return Sql.of("select count(*)::int from (select from message m"
                        + (where.asksHead() ? " join message_head h on h.message_id = m.id" : "")
                        + " where m.user_id = :user and ")
                .plus(where.condition())
                .plus(" limit :most) as these")
                .on(jdbc)
                .param("user", userId)
                .param("most", most)
                .query(Integer.class)
                .single();
    }
}
