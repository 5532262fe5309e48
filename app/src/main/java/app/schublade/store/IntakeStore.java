package app.schublade.store;

import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Address;
import app.schublade.core.message.Trait;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * How messages come in, and go when their server no longer has them. A batch is one transaction: messages, what the
 * rules did to them, the filing record and the orders for the server.
 */
@Repository
public class IntakeStore {
    private static final int SNIPPET = 160;
    private static final int MAX_BODY = 400_000;
    private static final int MAX_INDEXED = 100_000;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;
    private final FilingStore filing;
    private final OrderStore orders;
    private final Copier copier;
    private final NotificationStore notifications;
    private final RuleMail ruleMail;
    private final Ledger ledger;
    private final ApplicationEventPublisher events;

    public IntakeStore(
            JdbcClient jdbc,
            JdbcTemplate template,
            FilingStore filing,
            OrderStore orders,
            Copier copier,
            NotificationStore notifications,
            RuleMail ruleMail,
            Ledger ledger,
            ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.template = template;
        this.filing = filing;
        this.orders = orders;
        this.copier = copier;
        this.notifications = notifications;
        this.ruleMail = ruleMail;
        this.ledger = ledger;
        this.events = events;
    }

    /** A message with the id it gets. */
    private record Row(long id, Incoming incoming) {}

    /** Stores messages of one folder of a server. Those whose UID is known already are passed over. */
    @Transactional
    public int store(Account account, Mailbox mailbox, Collection<Incoming> incoming) {
        Set<Long> known = known(mailbox, incoming);
        List<Row> rows = number(
                incoming.stream().filter(one -> !known.contains(one.uid())).toList());
        if (rows.isEmpty()) {
            return 0;
        }
        List.of(
                        messages(account, rows),
                        heads(account, rows),
                        texts(rows),
                        sources(rows),
                        labels(rows),
                        copies(account, mailbox, rows))
                .forEach(bulk -> bulk.send(template));
        count(account, rows);
        for (Row row : rows) {
            List<Verdict.Hit> hits = row.incoming().hits(false);
            FilingStore.Outcome filed = filing.recordArrival(
                    account, row.id(), row.incoming(), ruleMail.write(account, row.id(), row.incoming()));
            notifications.note(account.userId(), row.id(), hits);
            hits.stream()
                    .filter(hit -> !hit.copies().isEmpty())
                    .findFirst()
                    .ifPresent(copying -> copier.forRules(
                            account.userId(),
                            FilingStore.Cause.ARRIVAL,
                            "Copied by " + copying.rule().name(),
                            Map.of(row.id(), hits),
                            filed));
        }
        events.publishEvent(new MailChanged(account.userId(), Set.of(account.id())));
        return rows.size();
    }

    private Set<Long> known(Mailbox mailbox, Collection<Incoming> incoming) {
        return jdbc
                .sql("select uid from server_copy where mailbox_id = ? and uid = any(?)")
                .params(mailbox.id(), incoming.stream().map(Incoming::uid).toArray(Long[]::new))
                .query(Long.class)
                .list()
                .stream()
                .collect(Collectors.toSet());
    }

    /** The ids that so many new messages get. */
    static Iterator<Long> newIds(JdbcClient jdbc, int messages) {
        return jdbc.sql("select nextval(pg_get_serial_sequence('message', 'id')) from generate_series(1, ?)")
                .param(messages)
                .query(Long.class)
                .list()
                .iterator();
    }

    private List<Row> number(List<Incoming> incoming) {
        Iterator<Long> ids = newIds(jdbc, incoming.size());
        return incoming.stream().map(one -> new Row(ids.next(), one)).toList();
    }

    private static BulkRows messages(Account account, List<Row> rows) {
        BulkRows bulk = new BulkRows(
                "message",
                "id",
                "user_id",
                "account_id",
                "folder_id",
                "received_at",
                "unread",
                "flagged",
                "attachments",
                "category_id",
                "also_categories",
                "due_on",
                "tray_id",
                "until_on");
        for (Row row : rows) {
            State state = row.incoming().filed();
            bulk.row()
                    .number(row.id())
                    .number(account.userId())
                    .number(account.id())
                    .number(state.folder())
                    .time(row.incoming().received())
                    .truth(state.unread())
                    .truth(state.flagged())
                    .small(Math.min(row.incoming().mail().attachments().size(), Short.MAX_VALUE))
                    .number(state.category())
                    .numbers(state.also())
                    .date(state.due())
                    .number(state.tray())
                    .date(state.until());
        }
        return bulk;
    }

    private static BulkRows heads(Account account, List<Row> rows) {
        BulkRows bulk = new BulkRows(
                "message_head",
                "message_id",
                "account_id",
                "internet_id",
                "size",
                "sender_name",
                "sender_address",
                "recipients",
                "subject",
                "snippet",
                "sent_to",
                "alias",
                "list_id",
                "refs",
                "sent_at",
                "unclaimed",
                "reply_to",
                "addressed_to",
                "traits",
                "attached",
                "tray_reason");
        for (Row row : rows) {
            Incoming incoming = row.incoming();
            ParsedMail mail = incoming.mail();
            bulk.row()
                    .number(row.id())
                    .number(account.id())
                    .text(incoming.identity())
                    .integer(incoming.size())
                    .text(mail.from().name())
                    .text(mail.from().key())
                    .text(recipients(mail))
                    .text(mail.subject())
                    .text(mail.snippet(SNIPPET))
                    .texts(incoming.sentTo())
                    .text(incoming.alias())
                    .text(mail.listId())
                    .texts(mail.references())
                    .time(mail.sent())
                    .texts(incoming.unclaimed())
                    .texts(mail.replyTo().stream().map(Address::key).toList())
                    .texts(Reading.recipients(mail))
                    .texts(incoming.traits().stream().map(Trait::name).toList())
                    .json(Json.write(Reading.attachments(mail)))
                    .text(incoming.trayReason());
        }
        return bulk;
    }

    private static String recipients(ParsedMail mail) {
        List<Address> all = new ArrayList<>(mail.to());
        all.addAll(mail.cc());
        return all.stream().limit(20).map(Address::shown).collect(Collectors.joining(", "));
    }

    private static BulkRows texts(List<Row> rows) {
        BulkRows bulk = new BulkRows("message_text", "message_id", "body");
        for (Row row : rows) {
            String text = row.incoming().mail().text();
            bulk.row().number(row.id()).text(text.substring(0, Math.min(text.length(), MAX_BODY)));
        }
        return bulk;
    }

    private static BulkRows sources(List<Row> rows) {
        BulkRows bulk = new BulkRows("message_source", "message_id", "whole", "gzip");
        try (Gzip gzip = new Gzip()) {
            for (Row row : rows) {
                bulk.row()
                        .number(row.id())
                        .truth(row.incoming().isWhole())
                        .bytes(gzip.compress(row.incoming().source()));
            }
        }
        return bulk;
    }

    private static BulkRows labels(List<Row> rows) {
        BulkRows bulk = new BulkRows("message_label", "message_id", "label_id");
        for (Row row : rows) {
            row.incoming()
                    .filed()
                    .labels()
                    .forEach(label -> bulk.row().number(row.id()).number(label));
        }
        return bulk;
    }

    private static BulkRows copies(Account account, Mailbox mailbox, List<Row> rows) {
        BulkRows bulk = new BulkRows("server_copy", "message_id", "account_id", "mailbox_id", "uid");
        for (Row row : rows) {
            bulk.row()
                    .number(row.id())
                    .number(account.id())
                    .number(mailbox.id())
                    .number(row.incoming().uid());
        }
        return bulk;
    }

    private void count(Account account, List<Row> rows) {
        Map<Long, int[]> counts = new TreeMap<>();
        Map<Long, Integer> unreadWithLabel = new TreeMap<>();
        for (Row row : rows) {
            State state = row.incoming().filed();
            int[] count = counts.computeIfAbsent(state.folder(), folder -> new int[2]);
            count[0]++;
            if (state.unread()) {
                count[1]++;
                state.labels().forEach(label -> unreadWithLabel.merge(label, 1, Integer::sum));
            }
        }
        counts.forEach((folder, count) -> ledger.count(folder, account.id(), count[0], count[1]));
        unreadWithLabel.forEach((label, unread) -> ledger.countLabel(label, account.id(), unread));
    }

    /** Messages of the account with this identity and size of which it is not known where they lie. */
    public List<Long> straysLike(long accountId, String identity, int size) {
        return jdbc.sql("""
                        select h.message_id from message_head h join server_copy c on c.message_id = h.message_id
                        where h.account_id = ? and h.internet_id = ? and h.size = ? and c.mailbox_id is null
                        order by h.message_id
                        """).params(accountId, identity, size).query(Long.class).list();
    }

    /** Whether a message with this identity and size is known to lie in another folder of the account. */
    public boolean liesElsewhere(Mailbox mailbox, String identity, int size) {
        return jdbc.sql("""
                        select exists (select from message_head h join server_copy c on c.message_id = h.message_id
                        where h.account_id = ? and h.internet_id = ? and h.size = ? and c.mailbox_id <> ?)
                        """)
                .params(mailbox.accountId(), identity, size, mailbox.id())
                .query(Boolean.class)
                .single();
    }

    /** Takes out messages that their server no longer has anywhere. Returns the folders that they lay in. */
    @Transactional
    public Set<Long> remove(Account account, Collection<Long> messages) {
        if (messages.isEmpty()) {
            return Set.of();
        }
        orders.uncopied(messages).forEach((other, copies) -> remove(account.userId(), other, copies));
        return remove(account.userId(), account.id(), messages);
    }

    /** Takes messages of one account out. Returns the folders that they lay in. */
    @Transactional
    public Set<Long> remove(long userId, long accountId, Collection<Long> messages) {
        jdbc.sql("""
                        update label_count c set unread = c.unread - s.unread from (
                            select l.label_id, count(*) as unread from message_label l join message m on m.id = l.message_id
                            where m.account_id = :account and m.id = any(:ids) and m.unread group by l.label_id) s
                        where c.label_id = s.label_id and c.account_id = :account
                        """)
                .param("account", accountId)
                .param("ids", messages.toArray(Long[]::new))
                .update();
        Set<Long> folders = Set.copyOf(jdbc.sql("""
                        with gone as (delete from message where account_id = :account and id = any(:ids)
                            returning folder_id, unread),
                        sums as (select folder_id, count(*) as total, count(*) filter (where unread) as unread
                            from gone group by folder_id)
                        update folder_count c set total = c.total - s.total, unread = c.unread - s.unread
                        from sums s where c.folder_id = s.folder_id and c.account_id = :account returning c.folder_id
                        """)
                .param("account", accountId)
                .param("ids", messages.toArray(Long[]::new))
                .query(Long.class)
                .list());
        events.publishEvent(new MailChanged(userId, Set.of()));
        return folders;
    }

    /**
     * Makes some of the account's messages findable by their words, and the people in them by a few letters; the newest
     * first. Returns how many.
     */
    public int index(long accountId, int most) {
        return jdbc.sql("""
                        with found as (insert into message_search (message_id, words)
                        select h.message_id,
                            setweight(to_tsvector('simple', h.subject), 'A') ||
                            setweight(to_tsvector('simple', h.sender_name || ' ' || h.sender_address), 'B') ||
                            to_tsvector('simple', left(t.body, :length))
                        from message_head h join message_text t on t.message_id = h.message_id
                        where h.account_id = :account
                            and not exists (select from message_search s where s.message_id = h.message_id)
                        order by h.message_id desc limit :most on conflict do nothing returning message_id),
                        mail as (select m.user_id, f.use, h.sender_address, h.sender_name, h.addressed_to
                            from found join message m on m.id = found.message_id
                            join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id),
                        people as (
                            select user_id, sender_address as address, sender_name as name from mail
                            where coalesce(use, '') not in ('JUNK', 'TRASH', 'SENT', 'DRAFTS')
                            union all
                            select user_id, a.address, '' from mail cross join lateral unnest(addressed_to) as a (address)
                            where use = 'SENT'),
                        kept as (insert into correspondent (user_id, address, name, messages)
                            select user_id, address, max(name), count(*) from people where address like '%_@_%'
                            group by user_id, address order by user_id, address
                            on conflict (user_id, address) do update set messages = correspondent.messages + excluded.messages,
                                name = coalesce(nullif(excluded.name, ''), correspondent.name))
                        select count(*) from found
                        """)
                .param("length", MAX_INDEXED)
                .param("account", accountId)
                .param("most", most)
                .query(Integer.class)
                .single();
    }
}
