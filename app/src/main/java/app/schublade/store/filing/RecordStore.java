package app.schublade.store.filing;

import app.schublade.core.filing.BuiltIn;
import app.schublade.core.filing.Change;
import app.schublade.core.message.Address;
import app.schublade.store.base.Zones;
import app.schublade.store.message.StateColumn;
import app.schublade.store.work.UnfinishedActStore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The filing record, to be looked through. */
@Repository
public class RecordStore {
    /** Whoever files thousands shows what he or she always does in the latest of them. */
    private static final int LOOKED_AT = 5000;

    private final JdbcClient jdbc;
    private final Zones zones;

    public RecordStore(JdbcClient jdbc, Zones zones) {
        this.zones = zones;
        this.jdbc = jdbc;
    }

    /** Whose doing is asked for. */
    public enum RecordedBy {
        ALL,
        RULES,
        HAND
    }

    /** What is asked for; null where it does not matter. */
    public record RecordFilter(
            RecordedBy by,
            @Nullable Long rule,
            @Nullable Long folder,
            @Nullable Long account,
            @Nullable LocalDate day) {}

    /**
     * What one act did to one message.
     *
     * @param id the later, the larger
     * @param rule null if the user did it, or if the rule was deleted since
     * @param ruleName empty if the user did it
     * @param besides what the rule did that did not change the message, in words
     * @param inBatch how many messages the same act changed
     * @param open of how many of them it is not taken back
     */
    public record RecordLine(
            long id,
            long batch,
            String title,
            int inBatch,
            int open,
            Instant at,
            long message,
            long account,
            Address sender,
            String subject,
            @Nullable Long rule,
            String ruleName,
            List<String> reasons,
            Change change,
            List<String> besides,
            boolean undone) {
        /** Whether no rule of the user's did it. */
        public boolean isBuiltIn() {
            return rule == null && BuiltIn.isName(ruleName);
        }
    }

    /**
     * Something that the user did, as one key takes it back.
     *
     * @param subject of the message that it was done to, or of one of them
     * @param forGood whether nothing takes it back
     * @param standsStill whether it is done in part only, and can be gone on with
     */
    public record RecordedAct(
            long batch,
            String title,
            String subject,
            Instant at,
            boolean undone,
            boolean forGood,
            boolean standsStill) {}

    /** What the user did last, the latest first. */
    public List<RecordedAct> acts(long userId, int most) {
        return jdbc.sql("""
                        select batch.id, batch.at, batch.undone_at is not null as undone, cause = 'FOR_GOOD' as for_good,
                            coalesce((select h.subject from filing_record r join message_head h on h.message_id = r.message_id
                                where r.batch_id = batch.id limit 1), '') as subject,\s""" + UnfinishedActStore.STANDS_STILL + "as stands_still, " + UndoStore.SHOWN_TITLE + """
                        as title from batch where user_id = ? and cause in ('HAND', 'RUN', 'FOR_GOOD') order by id desc limit ?
                        """)
                .params(userId, most)
                .query((row, number) -> new RecordedAct(
                        row.getLong("id"),
                        row.getString("title"),
                        row.getString("subject"),
                        row.getTimestamp("at").toInstant(),
                        row.getBoolean("undone"),
                        row.getBoolean("for_good"),
                        row.getBoolean("stands_still")))
                .list();
    }

    /** What the user did to a message of this subject, all in all. */
    public record DoneByHand(String subject, Change change) {}

    /** What the user did to the message that he or she did something to last, within an hour, and not taken back. */
    public Optional<DoneByHand> doneLast(long userId) {
        List<DoneByHand> done = jdbc.sql("""
                        with last as (
                            select r.message_id, b.at from filing_record r join batch b on b.id = r.batch_id
                            where b.user_id = :user and b.cause = 'HAND' and r.undone_at is null order by r.id desc limit 1)
                        select r.*, h.subject from last l join filing_record r on r.message_id = l.message_id
                            join batch b on b.id = r.batch_id join message_head h on h.message_id = r.message_id
                        where b.user_id = :user and b.cause = 'HAND' and r.undone_at is null and b.at > l.at - interval '1 hour'
                        order by r.id
                        """)
                .param("user", userId)
                .query((row, number) -> new DoneByHand(
                        row.getString("subject"), new Change(StateColumn.readBefore(row), StateColumn.readAfter(row))))
                .list();
        return done.isEmpty()
                ? Optional.empty()
                : Optional.of(new DoneByHand(
                        done.get(0).subject(),
                        new Change(
                                done.get(0).change().before(),
                                done.get(done.size() - 1).change().after())));
    }

    /** A line of {@code filing_record r} and its {@code batch b}, with its message {@code m}. */
    private static final String LINES = """
            select r.*, b.title, b.at, m.account_id, h.sender_name, h.sender_address, h.subject,
                all_of.in_batch, all_of.open
            from filing_record r
                join batch b on b.id = r.batch_id
                join message m on m.id = r.message_id
                join message_head h on h.message_id = r.message_id
                cross join lateral (
                    select count(*) as in_batch, count(*) filter (where o.undone_at is null) as open
                    from filing_record o where o.batch_id = r.batch_id) all_of
            """;

    /**
     * What one rule did with mail as it came.
     *
     * @param rule null if it was deleted since
     * @param folder where it filed the messages; null if it left them where they were
     * @param since only what it did after that
     */
    public record DoneByRule(
            @Nullable Long rule, String name, @Nullable Long folder, Instant since) {
        /** What came after is not known of yet, nor can the database tell it. */
        private static final Instant LAST = Instant.parse("9999-12-31T23:59:59Z");

        public DoneByRule {
            since = since.isBefore(Instant.EPOCH) ? Instant.EPOCH : since.isAfter(LAST) ? LAST : since;
        }
    }

    /** Its latest lines first; what was taken back is among them. */
    public List<RecordLine> lines(long userId, DoneByRule done, int most) {
        return jdbc.sql(LINES + """
                        where b.user_id = :user and b.at > :since and b.cause = 'ARRIVAL' and r.rule_name = :name
                            and r.rule_id is not distinct from :rule::bigint
                            and case when r.folder_after <> r.folder_before then r.folder_after end
                                is not distinct from :folder::bigint
                        order by r.id desc limit :most
                        """)
                .param("user", userId)
                .param("since", done.since().atOffset(ZoneOffset.UTC))
                .param("name", done.name())
                .param("rule", done.rule())
                .param("folder", done.folder())
                .param("most", most)
                .query(RecordStore::line)
                .list();
    }

    /**
     * What the user files by hand, always into the same folder, and no rule does.
     *
     * @param message the latest of them
     */
    public record FiledByHand(Address sender, long folder, int messages, long message) {}

    /** Those of whom most was filed so first. Of senders whose mail a rule files by now, there are none. */
    public List<FiledByHand> filedByHand(long userId, Instant since, int least, int most) {
        return jdbc.sql("""
                        with lately as (
                            select r.id, r.message_id, r.folder_after as folder, r.rule_name, b.cause
                            from batch b join filing_record r on r.batch_id = b.id
                            where b.user_id = :user and b.at > :since and b.cause <> 'GLANCE' and r.undone_at is null
                                and r.folder_before <> r.folder_after
                            order by r.id desc limit :lookedAt),
                        filed as (
                            select distinct on (l.message_id) l.*, h.sender_address as address, h.sender_name as name
                            from lately l join message_head h on h.message_id = l.message_id and h.sender_address <> ''
                            order by l.message_id, l.id desc)
                        select address, max(name) as name, min(folder) as folder, count(*)::int as messages, max(message_id) as message
                        from filed group by address
                        having count(*) >= :least and min(folder) = max(folder) and bool_and(rule_name is null and cause = 'HAND')
                            and exists (select from folder f where f.id = min(filed.folder) and f.use is null and f.deleted_at is null)
                        order by count(*) desc, address limit :most
                        """)
                .param("user", userId)
                .param("since", since.atOffset(ZoneOffset.UTC))
                .param("lookedAt", LOOKED_AT)
                .param("least", least)
                .param("most", most)
                .query((row, number) -> new FiledByHand(
                        new Address(row.getString("name"), row.getString("address")),
                        row.getLong("folder"),
                        row.getInt("messages"),
                        row.getLong("message")))
                .list();
    }

    /**
     * The latest lines first.
     *
     * @param before only lines that are older than this one; 0 for all
     */
    public List<RecordLine> lines(long userId, RecordFilter filter, long before, int most) {
        LocalDate day = filter.day();
        return jdbc.sql(LINES + """
                        where b.user_id = :user and b.cause <> 'GLANCE'
                            and (:before = 0 or r.id < :before)
                            and (:by = 'ALL' or (r.rule_name is not null) = (:by = 'RULES'))
                            and (:rule::bigint is null or r.rule_id = :rule)
                            and (:folder::bigint is null or r.folder_before = :folder or r.folder_after = :folder)
                            and (:account::bigint is null or m.account_id = :account)
                            and (:since::timestamptz is null or b.at >= :since and b.at < :until)
                        order by r.id desc limit :most
                        """)
                .param("user", userId)
                .param("before", before)
                .param("by", filter.by().name())
                .param("rule", filter.rule())
                .param("folder", filter.folder())
                .param("account", filter.account())
                .param("since", start(day, zones.of(userId)))
                .param("until", start(day == null ? null : day.plusDays(1), zones.of(userId)))
                .param("most", most)
                .query(RecordStore::line)
                .list();
    }

    private static java.time.@Nullable OffsetDateTime start(@Nullable LocalDate day, ZoneId zone) {
        return day == null ? null : day.atStartOfDay(zone).toOffsetDateTime();
    }

    private static RecordLine line(ResultSet row, int number) throws SQLException {
        String ruleName = row.getString("rule_name");
        return new RecordLine(
                row.getLong("id"),
                row.getLong("batch_id"),
                row.getString("title"),
                row.getInt("in_batch"),
                row.getInt("open"),
                row.getTimestamp("at").toInstant(),
                row.getLong("message_id"),
                row.getLong("account_id"),
                new Address(row.getString("sender_name"), row.getString("sender_address")),
                row.getString("subject"),
                row.getObject("rule_id", Long.class),
                ruleName == null ? "" : ruleName,
                Arrays.asList((String[]) row.getArray("reasons").getArray()),
                new Change(StateColumn.readBefore(row), StateColumn.readAfter(row)),
                Arrays.asList((String[]) row.getArray("besides").getArray()),
                row.getTimestamp("undone_at") != null);
    }

    /** Messages that lie where a rule put them. */
    public Set<Long> filedByRules(long userId) {
        return Set.copyOf(jdbc.sql("""
                        select message_id from (
                            select distinct on (r.message_id) r.message_id, r.rule_name
                            from filing_record r join batch b on b.id = r.batch_id
                            where b.user_id = ? and r.undone_at is null and r.folder_before <> r.folder_after
                            order by r.message_id, r.id desc) latest
                        where rule_name is not null
                        """).param(userId).query(Long.class).list());
    }

    /** The domain of most of what came to a rule anew. */
    public record Flood(String domain, int messages) {}

    /** From where most of what arrived in the last 30 days and a rule took came, of what it did not take before. */
    public Optional<Flood> flood(long userId, long rule) {
        return jdbc.sql("""
                        with taken as (
                            select distinct r.message_id, split_part(h.sender_address, '@', 2) as domain,
                                m.received_at > now() - interval '30 days' as lately
                            from filing_record r join batch b on b.id = r.batch_id
                                join message m on m.id = r.message_id join message_head h on h.message_id = r.message_id
                            where b.user_id = ? and r.rule_id = ? and r.undone_at is null)
                        select domain, count(*) as messages from taken t
                        where lately and domain <> ''
                            and not exists (select from taken o where not o.lately and o.domain = t.domain)
                        group by domain order by count(*) desc, domain limit 1
                        """)
                .params(userId, rule)
                .query((row, number) -> new Flood(row.getString(1), row.getInt(2)))
                .optional();
    }

    /** Messages that a rule took and that nobody took back from it, the latest first. */
    public List<Long> taken(long userId, long rule, int most) {
        return jdbc.sql("""
                        select r.message_id from filing_record r join batch b on b.id = r.batch_id
                        where b.user_id = ? and r.rule_id = ? and r.undone_at is null
                        group by r.message_id order by max(r.id) desc limit ?
                        """).params(userId, rule, most).query(Long.class).list();
    }
}
