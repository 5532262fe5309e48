package app.schublade.store.triage;

import app.schublade.core.message.Address;
import app.schublade.core.message.Question;
import app.schublade.core.message.SubjectStem;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * What the user asked and nobody answered. Sent mail is looked through once, for questions; whether one was answered shows in the
 * mail itself: by an answer to it, by whoever was asked or a colleague in the same conversation, or by one of those who were
 * asked about the same subject. What others say there to something else, and automatic answers, are none.
 */
@Repository
public class AwaitingStore {
    /** What was sent before is not looked through. */
    private static final Duration BACK = Duration.ofDays(60);
    /** How long an answered one is still shown. */
    private static final Duration SHOWN = Duration.ofDays(7);

    private static final Duration FORGOTTEN = Duration.ofDays(400);
    private static final Duration USUAL = Duration.ofDays(3);
    private static final Duration SHORTEST = Duration.ofDays(1);
    private static final Duration LONGEST = Duration.ofDays(14);
    private static final int MOST_ASKED = 5;
    private static final int SHORTEST_STEM = 6;

    /** The first answer to a message {@code m} with the head {@code h} and what is awaited, {@code w}. */
    private static final String ANSWER = """
            left join lateral (
                select a.id, a.received_at, ah.sender_name, ah.sender_address from message a
                    join message_head ah on ah.message_id = a.id join folder af on af.id = a.folder_id
                where a.user_id = m.user_id and a.received_at > m.received_at and a.id <> m.id
                    and coalesce(af.use, '') not in ('SENT', 'DRAFTS', 'JUNK')
                    and not coalesce('AUTOMATED' = any(ah.traits), false)
                    and not (ah.sender_address = h.sender_address)
                    and ((a.conversation_id = m.conversation_id and (h.internet_id = any(ah.refs)
                            or split_part(ah.sender_address, '@', 2) = any(
                                array(select split_part(asked, '@', 2) from unnest(h.addressed_to) asked))))
                        or (w.stem <> '' and ah.sender_address = any(h.addressed_to) and position(w.stem in lower(ah.subject)) > 0))
                order by a.received_at limit 1) answer on true
            """;

    private final JdbcClient jdbc;
    private final Clock clock;

    AwaitingStore(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * Something that was asked.
     *
     * @param message the one that asks
     * @param to whom, as it is shown
     * @param asked the sentence; empty if it was said by hand
     * @param why it is listed, or from when on it will be: a sentence
     * @param answer the message that answers it, or null
     */
    public record Awaited(
            long message,
            long folder,
            String to,
            String subject,
            String asked,
            Instant sent,
            Instant listedFrom,
            String why,
            @Nullable ReceivedAnswer answer) {
        public boolean isAnswered() {
            return answer != null;
        }

        /** Whether nobody answered, and it is time to tell. */
        public boolean isOverdue(Instant now) {
            return answer == null && !listedFrom.isAfter(now);
        }
    }

    /** Who answered, and when. */
    public record ReceivedAnswer(long message, Address from, Instant at) {}

    /** How many questions are open and told of. */
    public int count(long userId) {
        return jdbc.sql("select count(*) from awaited w join message m on m.id = w.message_id"
                        + " join message_head h on h.message_id = m.id\n" + ANSWER
                        + "where w.user_id = ? and w.closed_at is null and w.listed_from <= ? and answer.id is null")
                .params(userId, now())
                .query(Integer.class)
                .single();
    }

    /** All open questions, the oldest first; what was answered in the last days too. */
    public List<Awaited> of(long userId) {
        return jdbc.sql("""
                        select m.id, m.folder_id, h.recipients, h.subject, w.asked, m.received_at, w.listed_from, w.why,
                            answer.id as answer_id, answer.received_at as answered_at, answer.sender_name, answer.sender_address
                        from awaited w join message m on m.id = w.message_id join message_head h on h.message_id = m.id
                        """ + ANSWER + """
                        where w.user_id = ? and w.closed_at is null and (answer.id is null or answer.received_at > ?)
                        order by m.received_at, m.id
                        """)
                .params(userId, clock.instant().minus(SHOWN).atOffset(ZoneOffset.UTC))
                .query(AwaitingStore::awaited)
                .list();
    }

    private static Awaited awaited(ResultSet row, int number) throws SQLException {
        long answer = row.getLong("answer_id");
        ReceivedAnswer received = row.wasNull()
                ? null
                : new ReceivedAnswer(
                        answer,
                        new Address(row.getString("sender_name"), row.getString("sender_address")),
                        row.getTimestamp("answered_at").toInstant());
        return new Awaited(
                row.getLong("id"),
                row.getLong("folder_id"),
                row.getString("recipients"),
                row.getString("subject"),
                row.getString("asked"),
                row.getTimestamp("received_at").toInstant(),
                row.getTimestamp("listed_from").toInstant(),
                row.getString("why"),
                received);
    }

    /** Nothing is awaited any more. */
    public void close(long userId, long message) {
        jdbc.sql("update awaited set closed_at = ? where user_id = ? and message_id = ?")
                .params(now(), userId, message)
                .update();
    }

    /** Users, of whom some may have sent what was not looked through yet. */
    public List<Long> users() {
        return jdbc.sql("select id from app_user order by id").query(Long.class).list();
    }

    /** What was answered some time ago is awaited no more; what was ticked and never sent is forgotten. */
    @Transactional
    public void tidy(long userId) {
        jdbc.sql("""
                        update awaited set closed_at = :now where message_id in (
                            select w.message_id from awaited w join message m on m.id = w.message_id
                                join message_head h on h.message_id = m.id
                        """ + ANSWER + """
                            where w.user_id = :user and w.closed_at is null and answer.received_at < :then)
                        """)
                .param("user", userId)
                .param("now", now())
                .param("then", clock.instant().minus(SHOWN).atOffset(ZoneOffset.UTC))
                .update();
        jdbc.sql("delete from awaited_ahead where user_id = ? and until < ?")
                .params(userId, clock.instant().minus(FORGOTTEN).atOffset(ZoneOffset.UTC))
                .update();
    }

    /** A message that was sent. */
    private record Sent(
            long id, String internetId, String subject, String body, List<String> to, boolean toList, Instant at) {}

    /** Looks through some of what was sent since the last time; returns how many messages. */
    @Transactional
    public int look(long userId, int most) {
        List<Sent> sent = jdbc.sql("""
                        select m.id, h.internet_id, h.subject, left(t.body, 20000) as body, h.addressed_to, h.list_id, m.received_at
                        from app_user u join message m on m.user_id = u.id and m.id > u.asked_up_to
                            join folder f on f.id = m.folder_id and f.use = 'SENT'
                            join message_head h on h.message_id = m.id join message_text t on t.message_id = m.id
                        where u.id = ? and m.received_at > ? order by m.id limit ?
                        """)
                .params(userId, clock.instant().minus(BACK).atOffset(ZoneOffset.UTC), most)
                .query((row, number) -> new Sent(
                        row.getLong("id"),
                        row.getString("internet_id"),
                        row.getString("subject"),
                        row.getString("body"),
                        row.getArray("addressed_to") == null
                                ? List.of()
                                : Arrays.asList(
                                        (String[]) row.getArray("addressed_to").getArray()),
                        row.getString("list_id") != null,
                        row.getTimestamp("received_at").toInstant()))
                .list();
        for (Sent one : sent) {
            look(userId, one);
        }
        if (!sent.isEmpty()) {
            jdbc.sql("update app_user set asked_up_to = ? where id = ?")
                    .params(sent.get(sent.size() - 1).id(), userId)
                    .update();
        }
        return sent.size();
    }

    private void look(long userId, Sent sent) {
        Optional<Instant> ticked = ticked(userId, sent.internetId());
        String asked = Question.in(sent.body()).orElse("");
        if (ticked.isPresent()) {
            insert(userId, sent, asked, ticked.get(), "You asked to be told if nobody has answered by then.");
            return;
        }
        List<String> others = others(userId, sent.to());
        if (asked.isEmpty() || others.isEmpty() || others.size() > MOST_ASKED || sent.toList()) {
            return;
        }
        Optional<Duration> usual = usual(userId, others);
        Duration wait = usual.map(one -> one.plus(one.dividedBy(2))).orElse(USUAL);
        wait = wait.compareTo(SHORTEST) < 0 ? SHORTEST : wait.compareTo(LONGEST) > 0 ? LONGEST : wait;
        insert(userId, sent, asked, sent.at().plus(wait), why(usual.orElse(null)));
    }

    private static String why(@Nullable Duration usual) {
        if (usual == null) {
            return "It asks something, and three days are over.";
        }
        long days = Math.max(1, (usual.toHours() + 12) / 24);
        return "It asks something, and answers from there usually come within %s."
                .formatted(usual.toHours() < 20 ? "a day" : days == 1 ? "a day" : days + " days");
    }

    private Optional<Instant> ticked(long userId, String internetId) {
        return jdbc.sql("delete from awaited_ahead where user_id = ? and internet_id = ? returning until")
                .params(userId, internetId)
                .query((row, number) -> row.getTimestamp(1).toInstant())
                .optional();
    }

    private List<String> others(long userId, List<String> addresses) {
        return jdbc.sql("""
                        select t.address from unnest(:addresses::text[]) t (address) where not exists (
                            select from account a left join alias l on l.account_id = a.id
                            where a.user_id = :user and (lower(a.address) = t.address or l.address = t.address))
                        """)
                .param("addresses", addresses.toArray(String[]::new))
                .param("user", userId)
                .query(String.class)
                .list();
    }

    /** Within what time four of five answers from these people came; empty if they have hardly answered yet. */
    private Optional<Duration> usual(long userId, List<String> people) {
        return jdbc.sql("""
                        with asked as (
                            select m.id, m.conversation_id, m.received_at from message m join folder f on f.id = m.folder_id
                                join message_head h on h.message_id = m.id
                            where m.user_id = :user and f.use = 'SENT' and h.addressed_to && :people::text[]
                                and m.conversation_id is not null
                            order by m.received_at desc limit 100),
                        answered as (
                            select min(a.received_at) - asked.received_at as gap from asked
                                join message a on a.conversation_id = asked.conversation_id and a.received_at > asked.received_at
                                join message_head ah on ah.message_id = a.id and ah.sender_address = any(:people::text[])
                            group by asked.id, asked.received_at)
                        select extract(epoch from percentile_cont(0.8) within group (order by gap))::bigint from answered
                        having count(*) >= 3
                        """)
                .param("user", userId)
                .param("people", people.toArray(String[]::new))
                .query(Long.class)
                .optional()
                .map(Duration::ofSeconds);
    }

    private void insert(long userId, Sent sent, String asked, Instant from, String why) {
        String stem = SubjectStem.of(sent.subject()).toLowerCase(Locale.ROOT);
        jdbc.sql("""
                        insert into awaited (message_id, user_id, asked, listed_from, why, stem) values (?, ?, ?, ?, ?, ?)
                        on conflict (message_id) do nothing
                        """)
                .params(
                        sent.id(),
                        userId,
                        asked,
                        from.atOffset(ZoneOffset.UTC),
                        why,
                        stem.length() < SHORTEST_STEM ? "" : stem)
                .update();
    }

    private java.time.OffsetDateTime now() {
        return clock.instant().atOffset(ZoneOffset.UTC);
    }
}
