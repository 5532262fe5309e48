package app.schublade.store.outgoing;

import app.schublade.core.format.MailWriter;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.store.account.Account;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What the user writes, from its first sign until it was sent and its copy lies in Sent. */
@Repository
public class OutgoingStore {
    private final JdbcClient jdbc;
    private final ApplicationEventPublisher events;

    public OutgoingStore(JdbcClient jdbc, ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.events = events;
    }

    /** Told when a message that may be open in several windows has changed, is on its way, or is gone. */
    public record DraftChanged(long userId, long id) {}

    /** How far a message has come. */
    public enum OutgoingState {
        /** Being written. */
        DRAFT,
        /** To be handed in, from its due time on. */
        WAITING,
        /** Handed in; its copy is still to be put into Sent, or lies only here. */
        SENT,
        /** Refused by a server; the user can change it and send it again. */
        REFUSED
    }

    /**
     * What the user can change. Recipients are as they were typed.
     *
     * @param body as plain text
     * @param html the same with its formatting, or null
     */
    public record DraftText(
            long accountId,
            String sender,
            String to,
            String cc,
            String bcc,
            String subject,
            String body,
            @Nullable String html) {
        /** The same for other recipients of copies. */
        public DraftText copiedTo(String others) {
            return new DraftText(accountId, sender, to, others, bcc, subject, body, html);
        }
    }

    /**
     * Which state of a message is meant: its number, and the window that wrote it.
     *
     * @param window can be empty
     */
    public record Edition(int version, String window) {
        /** Whether somebody who knows that one knows this one, too: it is the same, or was written in the same window. */
        public boolean isKnownTo(Edition other) {
            return version == other.version || (!window.isEmpty() && window.equals(other.window));
        }
    }

    /**
     * A message that is written or on its way.
     *
     * @param answers the message here that it answers, or null
     * @param forwards what it passes on, or null
     * @param dueAt when it leaves, or null
     * @param toSelf whether this program sends it to its own user: no copy of it is kept
     * @param trouble why it was not taken, a sentence for the user
     */
    public record Outgoing(
            long id,
            long userId,
            @Nullable Long answers,
            DraftText text,
            @Nullable String inReplyTo,
            List<String> references,
            @Nullable Forwards forwards,
            OutgoingState state,
            @Nullable Instant dueAt,
            boolean toSelf,
            int tries,
            @Nullable String trouble,
            Instant changedAt,
            Edition edition) {
        /** Whether it can be written on. */
        public boolean isOpen() {
            return state == OutgoingState.DRAFT || state == OutgoingState.REFUSED;
        }
    }

    /** Another message here that one passes on; attached as it came, or only its files. */
    public record Forwards(long message, boolean attached) {}

    /** Begins a message. */
    public long begin(
            long userId, DraftText text, @Nullable Long answers, @Nullable String inReplyTo, List<String> references) {
        return with(text, jdbc.sql("""
                        insert into outgoing (user_id, account_id, sender, recipients, copies, blind, subject, body, html, answers,
                            in_reply_to, refs)
                        values (:user, :account, :sender, :to, :cc, :bcc, :subject, :body, :html, :answers, :inReplyTo, :refs)
                        returning id
                        """))
                .param("user", userId)
                .param("answers", answers)
                .param("inReplyTo", inReplyTo)
                .param("refs", references.toArray(String[]::new))
                .query(Long.class)
                .single();
    }

    /** Begins a message that nobody types. */
    public long begin(long userId, long accountId, OutgoingMessage outline, @Nullable Long answers) {
        DraftText text = new DraftText(
                accountId,
                outline.from().email(),
                MailWriter.typed(outline.to()),
                MailWriter.typed(outline.cc()),
                "",
                outline.subject(),
                outline.text(),
                outline.html());
        return begin(userId, text, answers, outline.inReplyTo(), outline.references());
    }

    /** Begins an answer, unless one is being written already, perhaps since a moment ago. */
    @Transactional
    public long beginAnswer(
            long userId, DraftText text, long message, @Nullable String inReplyTo, List<String> references) {
        jdbc.sql("select 1 from message where id = ? for update")
                .param(message)
                .query(Integer.class)
                .optional();
        return draftFor(userId, message)
                .map(Outgoing::id)
                .orElseGet(() -> begin(userId, text, message, inReplyTo, references));
    }

    /** The latest first. */
    public List<Outgoing> of(long userId) {
        return jdbc.sql("select * from outgoing where user_id = ? order by id desc")
                .param(userId)
                .query(OutgoingStore::outgoing)
                .list();
    }

    public int count(long userId) {
        return jdbc.sql("select count(*) from outgoing where user_id = ?")
                .param(userId)
                .query(Integer.class)
                .single();
    }

    public Optional<Outgoing> byId(long userId, long id) {
        return jdbc.sql("select * from outgoing where user_id = ? and id = ?")
                .params(userId, id)
                .query(OutgoingStore::outgoing)
                .optional();
    }

    /** The answer to a message that is being written already. */
    public Optional<Outgoing> draftFor(long userId, long message) {
        return jdbc.sql("""
                        select * from outgoing where user_id = ? and answers = ? and state in ('DRAFT', 'REFUSED')
                        order by id desc limit 1
                        """)
                .params(userId, message)
                .query(OutgoingStore::outgoing)
                .optional();
    }

    private static JdbcClient.StatementSpec with(DraftText text, JdbcClient.StatementSpec statement) {
        return statement
                .param("account", text.accountId())
                .param("sender", text.sender())
                .param("to", text.to())
                .param("cc", text.cc())
                .param("bcc", text.bcc())
                .param("subject", text.subject())
                .param("body", text.body())
                .param("html", text.html());
    }

    /**
     * Keeps what was typed in a window, unless the message is on its way, or another window has written something else since.
     *
     * @param known what that window knows
     * @return the version that is kept now
     */
    @Transactional
    public OptionalInt keep(long userId, long id, DraftText text, Edition known) {
        return keep(userId, id, text, known, false);
    }

    /** Keeps what was typed, whatever was written meanwhile, unless the message is on its way. */
    @Transactional
    public OptionalInt keepOver(long userId, long id, DraftText text, Edition known) {
        return keep(userId, id, text, known, true);
    }

    private OptionalInt keep(long userId, long id, DraftText text, Edition known, boolean over) {
        Optional<Integer> version = with(text, jdbc.sql("""
                        update outgoing set account_id = :account, sender = :sender, recipients = :to, copies = :cc, blind = :bcc,
                            subject = :subject, body = :body, html = :html, touched = true, changed_at = now(),
                            version = version + 1, written_by = :window
                        where user_id = :user and id = :id and state in ('DRAFT', 'REFUSED')
                            and (:over or version = :version or written_by = nullif(:window, '')
                                or (account_id, sender, recipients, copies, blind, subject, body, html) is not distinct from
                                    (:account, :sender, :to, :cc, :bcc, :subject, :body, cast(:html as text)))
                        returning version
                        """))
                .param("user", userId)
                .param("id", id)
                .param("over", over)
                .param("version", known.version())
                .param("window", known.window())
                .query(Integer.class)
                .optional();
        version.ifPresent(now -> events.publishEvent(new DraftChanged(userId, id)));
        return version.map(OptionalInt::of).orElseGet(OptionalInt::empty);
    }

    /** Begins a message with which a user passes on others that are here. */
    @Transactional
    public long passOn(long userId, DraftText text, List<Long> messages) {
        long id = begin(userId, text, null, null, List.of());
        jdbc.sql("update outgoing set passes_on = ? where id = ?")
                .params(messages.toArray(Long[]::new), id)
                .update();
        return id;
    }

    /** The message passes another one on. */
    public void enclose(long id, long message, boolean attached) {
        jdbc.sql("update outgoing set forwards = ?, forwards_attached = ? where id = ?")
                .params(message, attached, id)
                .update();
    }

    /** Writes a message to which no answer is awaited, and puts it on its way. */
    public boolean send(long userId, long id, OutgoingMessage outline, Instant date, Instant due) {
        return send(userId, id, outline, date, due, null);
    }

    /**
     * Writes the message and puts it on its way. Returns whether it was not on its way already.
     *
     * @param date that it bears
     * @param due when it leaves; until then it can be taken back
     * @param awaited until when an answer is awaited, or null
     */
    @Transactional
    public boolean send(
            long userId, long id, OutgoingMessage outline, Instant date, Instant due, @Nullable Instant awaited) {
        String messageId = UUID.randomUUID() + "@" + outline.from().domain();
        byte[] source = MailWriter.write(outline, messageId, date);
        boolean begun = jdbc.sql("""
                        update outgoing set state = 'WAITING', message_id = ?, source = ?, due_at = ?, to_self = ?, claimed = false,
                            tries = 0, trouble = null, changed_at = now()
                        where user_id = ? and id = ? and state in ('DRAFT', 'REFUSED')
                        """)
                        .params(
                                messageId,
                                source,
                                due.atOffset(ZoneOffset.UTC),
                                outline.origin() == OutgoingMessage.Origin.PROGRAM,
                                userId,
                                id)
                        .update()
                > 0;
        if (begun) {
            events.publishEvent(new DraftChanged(userId, id));
        }
        if (begun && awaited != null) {
            jdbc.sql("insert into awaited_ahead (user_id, internet_id, until) values (?, ?, ?)")
                    .params(userId, messageId, awaited.atOffset(ZoneOffset.UTC))
                    .update();
        }
        return begun;
    }

    /** Takes a message back that no process is handing in; returns whether that was still possible. */
    public boolean recall(long userId, long id) {
        return jdbc.sql("""
                        update outgoing set state = 'DRAFT', due_at = null where user_id = ? and id = ?
                            and state = 'WAITING' and not claimed
                        """).params(userId, id).update() > 0;
    }

    /**
     * Forgets a message in which nothing was typed, and to which nothing was attached by hand; others that were left so long ago, too.
     * What another program has left stays as it left it.
     */
    public void leave(long userId, long id) {
        jdbc.sql("""
                        with left_so as (
                            delete from outgoing o where user_id = ? and (id = ? or changed_at < now() - interval '1 day')
                                and state = 'DRAFT' and not touched
                            returning id)
                        delete from draft_copy where outgoing_id in (select id from left_so)
                        """).params(userId, id).update();
    }

    @Transactional
    public void discard(long userId, long id) {
        jdbc.sql("""
                        delete from outgoing where user_id = ? and id = ?
                            and (state in ('DRAFT', 'REFUSED') or state = 'SENT' and due_at is null)
                        """).params(userId, id).update();
        events.publishEvent(new DraftChanged(userId, id));
    }

    /**
     * What is written for an account that is to be taken out goes to another one, also what was to leave later: that is not sent, as it
     * would leave with another address. What is just being handed in stays.
     *
     * @return how many did
     */
    public int handOver(long userId, long from, Account to) {
        return jdbc.sql("""
                        update outgoing set account_id = :to, sender = :sender, changed_at = now(), version = version + 1,
                            written_by = '', due_at = null,
                            trouble = case when state = 'WAITING' then :stopped when lost then :lost else trouble end,
                            state = case when state = 'WAITING' or lost then 'REFUSED' else state end
                        from (select id as it, forwards_attached and forwards in (
                            select id from message where account_id = :from) as lost from outgoing) one
                        where it = id and user_id = :user and account_id = :from
                            and (state in ('DRAFT', 'REFUSED') or state = 'WAITING' and not claimed)
                        """)
                .param("user", userId)
                .param("from", from)
                .param("to", to.id())
                .param("sender", to.address())
                .param("stopped", "Its account was removed before it left. It would leave from another address now.")
                .param("lost", "The message that it forwards was removed with its account. It would leave without it.")
                .update();
    }

    static Outgoing outgoing(ResultSet row, int number) throws SQLException {
        return new Outgoing(
                row.getLong("id"),
                row.getLong("user_id"),
                row.getObject("answers", Long.class),
                new DraftText(
                        row.getLong("account_id"),
                        row.getString("sender"),
                        row.getString("recipients"),
                        row.getString("copies"),
                        row.getString("blind"),
                        row.getString("subject"),
                        row.getString("body"),
                        row.getString("html")),
                row.getString("in_reply_to"),
                Arrays.asList((String[]) row.getArray("refs").getArray()),
                row.getObject("forwards") == null
                        ? null
                        : new Forwards(row.getLong("forwards"), row.getBoolean("forwards_attached")),
                OutgoingState.valueOf(row.getString("state")),
                row.getTimestamp("due_at") == null
                        ? null
                        : row.getTimestamp("due_at").toInstant(),
                row.getBoolean("to_self"),
                row.getInt("tries"),
                row.getString("trouble"),
                row.getTimestamp("changed_at").toInstant(),
                new Edition(row.getInt("version"), row.getString("written_by")));
    }
}
