package app.schublade.store;

import app.schublade.core.filing.Change;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/**
 * The one way in which messages change: every act of a user, a rule or an undo comes through here, and in one
 * transaction changes the messages, their counts, the filing record and the orders for the mail servers.
 */
@Repository
public class FilingStore {
    /** Messages that are changed in one transaction; more go in parts. */
    public static final int MOST_AT_ONCE = Transactions.MOST;

    /** The title of an act; of one that is not finished with how far it came. */
    static final String SHOWN_TITLE = """
            batch.title || coalesce(
                (select format(' (%s of them done)', done) from unfinished_act where batch_id = batch.id), '')\s""";

    private final JdbcClient jdbc;
    private final MessageWriter writer;
    private final Ledger ledger;
    private final OrderStore orders;
    private final PlaceStore places;
    private final UserLock users;
    private final Transactions transactions;
    private final ApplicationEventPublisher events;

    public FilingStore(
            JdbcClient jdbc,
            MessageWriter writer,
            Ledger ledger,
            OrderStore orders,
            PlaceStore places,
            UserLock users,
            Transactions transactions,
            ApplicationEventPublisher events) {
        this.users = users;
        this.transactions = transactions;
        this.places = places;
        this.jdbc = jdbc;
        this.writer = writer;
        this.ledger = ledger;
        this.orders = orders;
        this.events = events;
    }

    /** Who or what acted. */
    public enum Cause {
        /** The user, by key, pointer or drag. */
        HAND,
        /** The user, by looking at it: no act that one would want to take back. */
        GLANCE,
        /** A rule, as mail arrived. */
        ARRIVAL,
        /** A rule that the user ran over mail that was there. */
        RUN,
        /** The tickler, on the day. */
        TICKLER
    }

    /**
     * What an act did.
     *
     * @param batch to undo it by; 0 if nothing changed
     * @param kept messages that an undo left as they were changed since
     * @param leftOut sentences about places that are gone
     */
    public record Outcome(long batch, String title, List<Long> changed, int kept, List<String> leftOut) {
        static final Outcome NOTHING = new Outcome(0, "", List.of(), 0);

        Outcome(long batch, String title, List<Long> changed, int kept) {
            this(batch, title, changed, kept, List.of());
        }

        Outcome and(Outcome further) {
            return new Outcome(
                    Math.max(batch, further.batch),
                    title,
                    Stream.concat(changed.stream(), further.changed.stream()).toList(),
                    kept + further.kept,
                    Stream.concat(leftOut.stream(), further.leftOut.stream())
                            .distinct()
                            .toList());
        }
    }

    /** An act was taken back while it was still going on: no part more of it is done. */
    public static final class TakenBack extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TakenBack() {
            super("The act was taken back while it was going on.", null, false, false);
        }
    }

    /** Begins an act that is done in parts; what is given back goes to each of them. */
    @Transactional
    public long begin(long userId, Cause cause, String title) {
        return ledger.openBatch(userId, cause, title);
    }

    /** A user's wish: the same change for all the messages; very many are changed some at a time, as one act. */
    public Outcome act(long userId, Cause cause, String title, Collection<Long> messages, UnaryOperator<State> change) {
        List<Long> all = List.copyOf(messages);
        Outcome outcome = Outcome.NOTHING;
        for (int from = 0; from < all.size(); from += Transactions.MOST) {
            List<Long> part = all.subList(from, Math.min(all.size(), from + Transactions.MOST));
            long batch = outcome.batch();
            Outcome further = transactions.in(() -> actFurther(userId, cause, title, part, change, batch));
            outcome = batch == 0 ? further : outcome.and(further);
        }
        return outcome;
    }

    /**
     * A part of an act on more messages than one transaction should hold.
     *
     * @param batch that of the parts before; 0 if there is none yet
     * @throws TakenBack if the user has taken those back meanwhile
     */
    @Transactional
    public Outcome actFurther(
            long userId,
            Cause cause,
            String title,
            Collection<Long> messages,
            UnaryOperator<State> change,
            long batch) {
        List<Step> steps = steps(userId, messages, change);
        return carryOut(userId, cause, title, steps, steps, batch);
    }

    private List<Step> steps(long userId, Collection<Long> messages, UnaryOperator<State> change) {
        return steps(userId, lock(userId, messages), moving -> change.apply(moving.state()));
    }

    /** What is wanted is known before it is looked up what there is: a change may make the place that it wants. */
    private List<Step> steps(long userId, Map<Long, Moving> locked, Function<Moving, State> wanted) {
        Map<Moving, State> all = new LinkedHashMap<>();
        locked.values().forEach(moving -> all.put(moving, wanted.apply(moving)));
        ExistingPlaces existing = new ExistingPlaces(jdbc, userId);
        return all.entrySet().stream()
                .map(one ->
                        new Step(one.getKey(), existing.possible(one.getKey().state(), one.getValue()), null))
                .filter(Step::changesSomething)
                .toList();
    }

    /** What a run of rules changes; see {@link Copier#run}, which makes their copies too. */
    @Transactional
    Outcome run(long userId, String title, Map<Long, List<Verdict.Hit>> hits, long batch) {
        Map<Long, Moving> before = lock(userId, hits.keySet());
        ExistingPlaces existing = new ExistingPlaces(jdbc, userId);
        List<Step> wholes = new ArrayList<>();
        List<Step> parts = new ArrayList<>();
        hits.forEach((id, all) -> {
            Moving moving = before.get(id);
            if (moving != null) {
                List<Step> one = steps(moving, all, Map.of()).stream()
                        .filter(step -> existing.has(step.after()))
                        .toList();
                parts.addAll(one);
                wholes.add(new Step(
                        moving, one.isEmpty() ? moving.state() : last(one).after(), null));
            }
        });
        return carryOut(
                userId,
                Cause.RUN,
                title,
                wholes.stream().filter(Step::changesSomething).toList(),
                parts,
                batch);
    }

    /** What each rule in turn does to a message, without those that do nothing. */
    private static List<Step> steps(Moving moving, List<Verdict.Hit> hits, Map<Integer, List<String>> besides) {
        List<Step> steps = new ArrayList<>();
        State state = moving.state();
        for (Verdict.Hit hit : hits) {
            List<String> done = besides.getOrDefault(hit.number(), List.of());
            Step step = new Step(new Moving(moving.id(), moving.accountId(), state), hit.on(state), hit, done);
            if (step.changesSomething() || !done.isEmpty()) {
                steps.add(step);
                state = step.after();
            }
        }
        return steps;
    }

    private static Step last(List<Step> steps) {
        return steps.get(steps.size() - 1);
    }

    /**
     * What the rules did to a message that is just being stored: it is there already as they want it. What its server has
     * done by itself is written down as done to a message that was delivered to the Inbox, so that it can be taken back.
     *
     * @param besides what they did besides changing it, in words, by their numbers
     */
    Outcome recordArrival(Account account, long messageId, Incoming incoming, Map<Integer, List<String>> besides) {
        Moving arrived = new Moving(messageId, account.id(), incoming.arrived());
        List<Verdict.Hit> served = incoming.hits(true);
        List<Step> recorded = new ArrayList<>();
        if (!served.isEmpty()) {
            State delivered = new State(places.inbox(account.userId()), true, false, null, Set.of())
                    .sorted(incoming.arrived().tray());
            recorded.addAll(steps(new Moving(messageId, account.id(), delivered), served, Map.of()));
        }
        List<Step> own = steps(arrived, incoming.hits(false), besides);
        recorded.addAll(own);
        if (recorded.isEmpty()) {
            return Outcome.NOTHING;
        }
        boolean filed = recorded.stream().anyMatch(Step::changesSomething);
        String title = (filed ? "Filed by " : "Seen by ") + recorded.get(0).ruleName();
        long batch = ledger.openBatch(account.userId(), Cause.ARRIVAL, title);
        ledger.write(batch, recorded);
        if (!own.isEmpty()) {
            ledger.order(List.of(new Step(arrived, last(own).after(), null)));
        }
        return new Outcome(batch, title, List.of(messageId), 0);
    }

    /** Takes back the user's latest act that is not undone yet. */
    public Outcome undoLatest(long userId) {
        Optional<Long> batch = jdbc.sql("""
                        select id from batch where user_id = ? and undone_at is null and cause in ('HAND', 'RUN')
                        order by id desc limit 1
                        """).param(userId).query(Long.class).optional();
        return batch.map(id -> undo(userId, id)).orElse(Outcome.NOTHING);
    }

    /**
     * Takes back one act: all that it changed, unless it was changed again since. Of an act on very many messages some are
     * taken back at a time; should that be cut off, taking it back again goes on with it.
     */
    public Outcome undo(long userId, long batchId) {
        Optional<Outcome> begun = transactions.in(() -> beginUndo(userId, batchId));
        if (begun.isEmpty()) {
            return Outcome.NOTHING;
        }
        Outcome undone = begun.get();
        for (Optional<Outcome> part = undoPart(userId, batchId); part.isPresent(); part = undoPart(userId, batchId)) {
            undone = undone.and(part.get());
        }
        return undone;
    }

    private Optional<Outcome> beginUndo(long userId, long batchId) {
        users.alone(userId);
        return jdbc.sql("""
                        update batch set undoing_at = coalesce(undoing_at, now())
                        where id = ? and user_id = ? and undone_at is null
                        returning\s""" + SHOWN_TITLE)
                .params(batchId, userId)
                .query(String.class)
                .optional()
                .map(title -> new Outcome(0, title, List.of(), 0, foldersComeBack(userId, batchId)));
    }

    private List<String> foldersComeBack(long userId, long batchId) {
        jdbc.sql("""
                        update folder p set deleted_at = null from folder f
                        where f.user_id = :user and (f.deleted_in = :batch or f.merged_in = :batch) and p.user_id = :user
                            and p.deleted_at is not null and starts_with(f.path, p.path || '/')
                        """).param("user", userId).param("batch", batchId).update();
        return jdbc.sql("""
                        update folder set deleted_at = null, deleted_in = null, merged_in = null
                        where user_id = :user and (deleted_in = :batch or merged_in = :batch) returning path
                        """).param("user", userId).param("batch", batchId).query(String.class).list().stream()
                .filter(path -> path.contains(FolderStore.EARLIER))
                .map(path -> "Another folder has its name by now, so that it is called %s."
                        .formatted(path.replace("/", " / ")))
                .toList();
    }

    /** Empty if nothing is left: then the act is undone. */
    private Optional<Outcome> undoPart(long userId, long batchId) {
        return transactions.in(() -> {
            users.shared(userId);
            List<Ledger.Entry> entries = ledger.open(userId, batchId, Transactions.MOST);
            if (entries.isEmpty()) {
                jdbc.sql("update batch set undone_at = now() where id = ?")
                        .param(batchId)
                        .update();
                jdbc.sql("delete from unfinished_act where batch_id = ?")
                        .param(batchId)
                        .update();
                return Optional.empty();
            }
            return Optional.of(takeBack(userId, "", entries));
        });
    }

    /** Takes back what one act did to one message. */
    @Transactional
    public Outcome undoFor(long userId, long messageId, long batchId) {
        return takeBack(userId, "Filing", ledger.openOf(userId, batchId, messageId));
    }

    private Outcome takeBack(long userId, String title, List<Ledger.Entry> entries) {
        Map<Long, Moving> now =
                lock(userId, entries.stream().map(Ledger.Entry::messageId).toList());
        ExistingPlaces existing = new ExistingPlaces(jdbc, userId);
        Map<Long, State> target = new LinkedHashMap<>();
        int kept = 0;
        for (Ledger.Entry entry : entries) {
            Moving moving = now.get(entry.messageId());
            if (moving == null) {
                continue;
            }
            State from = target.getOrDefault(entry.messageId(), moving.state());
            kept += entry.change().isOvertaken(from) ? 1 : 0;
            target.put(entry.messageId(), entry.change().undo(from));
        }
        List<Step> steps = target.entrySet().stream()
                .map(entry -> {
                    Moving moving = find(now, entry.getKey());
                    return new Step(moving, existing.possible(moving.state(), entry.getValue()), null);
                })
                .filter(Step::changesSomething)
                .toList();
        writer.store(steps);
        ledger.order(steps);
        ledger.close(entries);
        tell(userId, steps);
        return new Outcome(0, title, ids(steps), kept, existing.leftOut());
    }

    private static Moving find(Map<Long, Moving> all, long id) {
        Moving moving = all.get(id);
        if (moving == null) {
            throw new IllegalStateException("Message " + id + " was not locked.");
        }
        return moving;
    }

    /** @param recorded the same, as it goes into the filing record: with a line for each rule that had a part in it */
    private Outcome carryOut(
            long userId, Cause cause, String title, List<Step> steps, List<Step> recorded, long batchSoFar) {
        if (steps.isEmpty()) {
            return Outcome.NOTHING;
        }
        writer.store(steps);
        ledger.order(steps);
        long batch = batchSoFar == 0 ? ledger.openBatch(userId, cause, title) : stillGoingOn(batchSoFar);
        ledger.write(batch, recorded);
        tell(userId, steps);
        return new Outcome(batch, title, ids(steps), 0);
    }

    /** It cannot be taken back until this transaction ends. */
    private long stillGoingOn(long batch) {
        boolean goesOn = jdbc.sql("select undone_at is null and undoing_at is null from batch where id = ? for share")
                .param(batch)
                .query(Boolean.class)
                .optional()
                .orElse(false);
        if (!goesOn) {
            throw new TakenBack();
        }
        return batch;
    }

    private void tell(long userId, List<Step> steps) {
        events.publishEvent(new MailChanged(
                userId, steps.stream().map(step -> step.moving().accountId()).collect(Collectors.toSet())));
    }

    /** What is so on the server: stored, but neither recorded nor ordered. */
    @Transactional
    public void accept(long userId, Map<Long, UnaryOperator<State>> changes) {
        adopt(userId, steps(userId, changes));
    }

    /**
     * What another mail program changed on the server, as {@link #accept}; but messages with orders that are not carried
     * out stay as they are, for the server has not been told yet what the user wants.
     *
     * @return whether all the messages are as the changes want them
     */
    @Transactional
    public boolean follow(long userId, Map<Long, UnaryOperator<State>> changes) {
        List<Step> steps = steps(userId, changes);
        // Asked while they are locked, so that no act can come between.
        Set<Long> ahead = orders.ahead(ids(steps));
        adopt(
                userId,
                steps.stream()
                        .filter(step -> !ahead.contains(step.moving().id()))
                        .toList());
        return ahead.isEmpty();
    }

    private List<Step> steps(long userId, Map<Long, UnaryOperator<State>> changes) {
        if (changes.isEmpty()) {
            return List.of();
        }
        return steps(userId, lock(userId, changes.keySet()), moving -> changed(changes, moving));
    }

    private void adopt(long userId, List<Step> steps) {
        if (!steps.isEmpty()) {
            writer.store(steps);
            tell(userId, steps);
        }
    }

    private static State changed(Map<Long, UnaryOperator<State>> changes, Moving moving) {
        UnaryOperator<State> change = changes.get(moving.id());
        return change == null ? moving.state() : change.apply(moving.state());
    }

    private static List<Long> ids(List<Step> steps) {
        return steps.stream().map(step -> step.moving().id()).toList();
    }

    /** A message as it was when it was locked. */
    record Moving(long id, long accountId, State state) {}

    /**
     * One message's change.
     *
     * @param hit null if it was no rule
     * @param besides what the rule did besides, in words
     */
    record Step(Moving moving, State after, Verdict.@Nullable Hit hit, List<String> besides) {
        Step(Moving moving, State after, Verdict.@Nullable Hit hit) {
            this(moving, after, hit, List.of());
        }

        Change change() {
            return new Change(moving.state(), after);
        }

        boolean changesSomething() {
            return !change().isNothing();
        }

        String ruleName() {
            return hit == null ? "" : hit.rule().name();
        }
    }

    /**
     * Locks in the order of ids, so that two acts at once cannot stop each other. How the messages are is read after that, by
     * a statement of its own: one that had to wait for a lock sees the labels as they were before it waited.
     */
    Map<Long, Moving> lock(long userId, Collection<Long> messages) {
        users.shared(userId);
        Long[] ids = messages.toArray(Long[]::new);
        jdbc.sql("""
                        select count(*) from (select from message where user_id = ? and id = any(?)
                            order by id for no key update) locked
                        """).params(userId, ids).query(Integer.class).single();
        Map<Long, Moving> locked = new LinkedHashMap<>();
        jdbc.sql("""
                        select m.id, m.account_id, m.folder_id, m.unread, m.flagged, m.due_on, m.category_id, m.also_categories,
                            m.tray_id, m.until_on, array(select label_id from message_label where message_id = m.id) as labels
                        from message m where m.user_id = :user and m.id = any(:ids) order by m.id
                        """)
                .param("user", userId)
                .param("ids", ids)
                .query(FilingStore::moving)
                .list()
                .forEach(moving -> locked.put(moving.id(), moving));
        return locked;
    }

    private static Moving moving(ResultSet row, int number) throws SQLException {
        return new Moving(row.getLong("id"), row.getLong("account_id"), state(row, ""));
    }

    /** Reads a state from columns with a common ending. */
    static State state(ResultSet row, String ending) throws SQLException {
        String folder = ending.isEmpty() ? "folder_id" : "folder" + ending;
        String category = ending.isEmpty() ? "category_id" : "category" + ending;
        return new State(
                row.getLong(folder),
                row.getBoolean("unread" + ending),
                row.getBoolean("flagged" + ending),
                row.getObject(ending.isEmpty() ? "due_on" : "due" + ending, LocalDate.class),
                row.getObject(category, Long.class),
                Set.of(longs(row.getArray(ending.isEmpty() ? "also_categories" : "also" + ending))),
                Arrays.stream(longs(row.getArray("labels" + ending))).collect(Collectors.toSet()),
                row.getObject(ending.isEmpty() ? "tray_id" : "tray" + ending, Long.class),
                row.getObject(ending.isEmpty() ? "until_on" : "until" + ending, LocalDate.class));
    }

    private static Long[] longs(Array array) throws SQLException {
        return (Long[]) array.getArray();
    }
}
