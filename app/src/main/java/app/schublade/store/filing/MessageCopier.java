package app.schublade.store.filing;

import app.schublade.core.filing.Verdict;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.base.MailChanged;
import app.schublade.store.message.StateColumn;
import app.schublade.store.place.PlaceStore;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * Makes copies of messages: here at once, and by an order on the server. In the filing record a copy comes from the trash,
 * so that taking the act back puts it there.
 */
@Repository
public class MessageCopier {
    /** The columns in which a copy is like its original: it lies elsewhere, and does not come back from the tickler. */
    private static final String ALIKE = StateColumn.OF_MESSAGE.stream()
            .filter(column -> !Set.of(StateColumn.FOLDER, StateColumn.UNTIL_DAY, StateColumn.UNTIL_TIME)
                    .contains(column))
            .map(StateColumn::column)
            .collect(Collectors.joining(", "));

    private final JdbcClient jdbc;
    private final FilingStore filing;
    private final MessageWriter writer;
    private final FilingRecord filings;
    private final MessageLock locks;
    private final PlaceStore places;
    private final ApplicationEventPublisher events;

    public MessageCopier(
            JdbcClient jdbc,
            FilingStore filing,
            MessageWriter writer,
            FilingRecord filings,
            MessageLock locks,
            PlaceStore places,
            ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.filing = filing;
        this.writer = writer;
        this.filings = filings;
        this.locks = locks;
        this.places = places;
        this.events = events;
    }

    /** A message that is copied, and the id, account and folder of its copy; hit is null if no rule wants it. */
    private record Copy(Moving original, long id, long account, long folder, Verdict.@Nullable Hit hit) {}

    /**
     * Copies messages into a folder, each on its own server.
     *
     * @param batch that of the parts before; 0 if there is none yet
     */
    @Transactional
    public ActOutcome copyInto(long userId, String title, Collection<Long> messages, long folder, long batch) {
        List<Copy> made = numbered(locks.lock(userId, messages).values().stream()
                .map(original -> new Copy(original, 0, original.accountId(), folder, null))
                .toList());
        return keepAndOrder(userId, Cause.HAND, title, made, batch);
    }

    /**
     * A run of rules over messages that are there, with the copies that they make; each message with those parts of its
     * verdict that are to be done.
     *
     * @param batch that of the parts before; 0 if there is none yet
     */
    @Transactional
    public ActOutcome run(long userId, String title, Map<Long, List<Verdict.Hit>> hits, long batch) {
        return forRules(userId, Cause.RUN, title, hits, filing.run(userId, title, hits, batch));
    }

    /**
     * Copies messages into the folders that rules want copies in, unless there is one already.
     *
     * @param filed what else the rules did: the copies belong to the same act
     */
    public ActOutcome forRules(
            long userId, Cause cause, String title, Map<Long, List<Verdict.Hit>> hits, ActOutcome filed) {
        List<Long> messages = hits.entrySet().stream()
                .filter(entry ->
                        entry.getValue().stream().anyMatch(hit -> !hit.copies().isEmpty()))
                .map(Map.Entry::getKey)
                .toList();
        if (messages.isEmpty()) {
            return filed;
        }
        List<Copy> wanted = new ArrayList<>();
        locks.lock(userId, messages).forEach((id, original) -> {
            Map<Long, Verdict.Hit> folders = new LinkedHashMap<>();
            hits.getOrDefault(id, List.of())
                    .forEach(hit -> hit.copies().forEach(folder -> folders.putIfAbsent(folder.id(), hit)));
            folders.keySet().removeIf(folder -> isIn(folder, original));
            folders.forEach((folder, hit) -> wanted.add(new Copy(original, 0, original.accountId(), folder, hit)));
        });
        ActOutcome copied = keepAndOrder(userId, cause, title, numbered(wanted), filed.batch());
        return copied.changed().isEmpty()
                ? filed
                : new ActOutcome(
                        copied.batch(),
                        title,
                        Stream.concat(filed.changed().stream(), copied.changed().stream())
                                .toList(),
                        0);
    }

    /** Whether the message or one of its copies lies in a folder. */
    private boolean isIn(long folder, Moving message) {
        return jdbc.sql("""
                        select exists (select from message_head h join message_head o on o.account_id = h.account_id
                            and o.internet_id = h.internet_id join message m on m.id = o.message_id
                            where h.message_id = ? and m.folder_id = ?)
                        """).params(message.id(), folder).query(Boolean.class).single();
    }

    private ActOutcome keepAndOrder(long userId, Cause cause, String title, List<Copy> made, long batch) {
        ActOutcome outcome = keep(userId, cause, title, made, batch);
        jdbc.sql("""
                        insert into server_order (account_id, message_id, kind, folder_id, other_id, batch_id)
                        select m.account_id, m.id, 'COPY', v.folder, v.copy, nullif(:batch, 0)
                        from unnest(:originals::bigint[], :copies::bigint[], :folders::bigint[])
                            with ordinality as v (original, copy, folder, at)
                        join message m on m.id = v.original join account a on a.id = m.account_id
                        where a.protocol = 'IMAP' order by v.at
                        """)
                .param("batch", outcome.batch())
                .param("originals", column(made, copy -> copy.original().id()))
                .param("copies", column(made, Copy::id))
                .param("folders", column(made, Copy::folder))
                .update();
        return outcome;
    }

    /**
     * Brings messages over to another account's server, into the same folders. The originals stay until the copies are
     * certain, and go to the trash then.
     *
     * @param batch that of the parts before; 0 if there is none yet
     * @throws InputProblem if one of them cannot be had whole
     */
    @Transactional
    public ActOutcome carryOver(long userId, String title, Collection<Long> messages, long account, long batch) {
        List<Copy> made = numbered(locks.lock(userId, messages).values().stream()
                .filter(original -> original.accountId() != account)
                .map(original -> new Copy(original, 0, account, original.state().folder(), null))
                .toList());
        if (made.isEmpty()) {
            return ActOutcome.NOTHING;
        }
        refuseFragments(made);
        ActOutcome outcome = keep(userId, Cause.HAND, title, made, batch);
        // A message of which only the beginning is here is fetched as a whole first.
        jdbc.sql("""
                        insert into server_order (account_id, message_id, kind, folder_id, other_id, batch_id)
                        select case when s.whole then :account else m.account_id end,
                            case when s.whole then v.copy else v.original end,
                            case when s.whole then 'BRING' else 'FETCH' end, m.folder_id,
                            case when s.whole then v.original else v.copy end, :batch
                        from unnest(:originals::bigint[], :copies::bigint[]) with ordinality as v (original, copy, at)
                        join message m on m.id = v.original join message_source s on s.message_id = v.original order by v.at
                        """)
                .param("account", account)
                .param("batch", outcome.batch())
                .param("originals", column(made, copy -> copy.original().id()))
                .param("copies", column(made, Copy::id))
                .update();
        return outcome;
    }

    private void refuseFragments(List<Copy> copies) {
        List<String> subjects = jdbc.sql("""
                        select h.subject from message_head h join message_source s on s.message_id = h.message_id
                        join account a on a.id = h.account_id
                        where h.message_id = any(?) and not s.whole and a.protocol <> 'IMAP' limit 1
                        """)
                .param(column(copies, copy -> copy.original().id()))
                .query(String.class)
                .list();
        if (!subjects.isEmpty()) {
            throw new InputProblem(
                    "“%s” is too large: only its beginning was fetched, and its server gives no more. Leave it out of the selection."
                            .formatted(subjects.get(0)));
        }
    }

    private List<Copy> numbered(List<Copy> copies) {
        Iterator<Long> ids = MessageWriter.newIds(jdbc, copies.size());
        return copies.stream()
                .map(copy -> new Copy(copy.original(), ids.next(), copy.account(), copy.folder(), copy.hit()))
                .toList();
    }

    private static Long[] column(List<Copy> copies, Function<Copy, Long> value) {
        return copies.stream().map(value).toArray(Long[]::new);
    }

    /** Stores the copies, counts them and writes them down. */
    private ActOutcome keep(long userId, Cause cause, String title, List<Copy> copies, long batch) {
        if (copies.isEmpty()) {
            return ActOutcome.NOTHING;
        }
        insert(copies, """
                insert into message (id, user_id, account_id, folder_id, received_at, attachments, conversation_id, answered,
                    answered_at, forwarded, forwarded_at, %1$s)
                overriding system value
                select v.copy, m.user_id, v.account, v.folder, m.received_at, m.attachments, m.conversation_id, m.answered,
                    m.answered_at, m.forwarded, m.forwarded_at, %1$s
                from v join message m on m.id = v.original
                """.formatted(ALIKE), """
                insert into message_head (message_id, account_id, internet_id, size, sender_name, sender_address,
                    recipients, subject, snippet, sent_to, alias, list_id, refs, sent_at, unclaimed, reply_to, addressed_to,
                    traits, attached, tray_reason)
                select v.copy, v.account, h.internet_id, h.size, h.sender_name, h.sender_address,
                    h.recipients, h.subject, h.snippet, h.sent_to, h.alias, h.list_id, h.refs, h.sent_at, '{}', h.reply_to,
                    h.addressed_to, h.traits, h.attached, h.tray_reason
                from v join message_head h on h.message_id = v.original
                """, """
                insert into message_text (message_id, body)
                select v.copy, t.body from v join message_text t on t.message_id = v.original
                """, """
                insert into message_source (message_id, whole, gzip)
                select v.copy, s.whole, s.gzip from v join message_source s on s.message_id = v.original
                """, """
                insert into message_search (message_id, words)
                select v.copy, s.words from v join message_search s on s.message_id = v.original
                """, """
                insert into to_index (message_id, account_id)
                select v.copy, v.account from v where not exists (select from message_search s where s.message_id = v.original)
                """, """
                insert into message_label (message_id, label_id)
                select v.copy, l.label_id from v join message_label l on l.message_id = v.original
                """);
        long trash = places.special(userId, SpecialUse.TRASH);
        List<Step> steps = copies.stream()
                .map(copy -> new Step(
                        new Moving(
                                copy.id(),
                                copy.account(),
                                copy.original().state().in(trash)),
                        copy.original().state().in(copy.folder()),
                        copy.hit()))
                .toList();
        writer.countNew(steps);
        long act = batch == 0 ? filings.openBatch(userId, cause, title) : batch;
        filings.write(act, steps);
        Set<Long> accounts = copies.stream()
                .flatMap(copy -> List.of(copy.account(), copy.original().accountId()).stream())
                .collect(Collectors.toSet());
        events.publishEvent(new MailChanged(userId, accounts));
        return new ActOutcome(act, title, copies.stream().map(Copy::id).toList(), 0);
    }

    private void insert(List<Copy> copies, String... statements) {
        for (String statement : statements) {
            String into = statement.substring(0, statement.indexOf("select"));
            jdbc.sql(into + """
                            with v as (select * from unnest(:originals::bigint[], :copies::bigint[], :accounts::bigint[],
                                :folders::bigint[]) as v (original, copy, account, folder))
                            """ + statement.substring(into.length()))
                    .param("originals", column(copies, copy -> copy.original().id()))
                    .param("copies", column(copies, Copy::id))
                    .param("accounts", column(copies, Copy::account))
                    .param("folders", column(copies, Copy::folder))
                    .update();
        }
    }
}
