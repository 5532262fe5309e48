package app.schublade.store.filing;

import app.schublade.core.filing.State;
import app.schublade.store.account.Mailbox;
import app.schublade.store.learn.LearnStore;
import app.schublade.store.learn.LearnStore.LessonKind;
import app.schublade.store.learn.LearnStore.NewLesson;
import app.schublade.store.message.StateColumn;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Writes how messages are now, and moves the counts by what changed. */
@Component
public class MessageWriter {
    /** Every column as text, since an array of arrays wants all of these to be of one length. */
    private static final String STORE = """
            update message m set %s, held = m.held and m.folder_id = v.folder_id::bigint
            from unnest(:ids::bigint[], %s) as v (id, %s) where m.id = v.id
            """.formatted(
                    columns(column -> "%1$s = v.%1$s::%2$s".formatted(column.column(), column.type())),
                    columns(column -> ":%s::text[]".formatted(column.column())),
                    columns(StateColumn::column));

    private final JdbcClient jdbc;
    private final CountStore counts;
    private final LearnStore learning;

    MessageWriter(JdbcClient jdbc, CountStore counts, LearnStore learning) {
        this.learning = learning;
        this.jdbc = jdbc;
        this.counts = counts;
    }

    /** Stores what the steps made of the messages, which must be locked. */
    void store(List<Step> steps) {
        if (steps.isEmpty()) {
            return;
        }
        var update =
                jdbc.sql(STORE).param("ids", column(steps, step -> step.moving().id()));
        for (StateColumn column : StateColumn.OF_MESSAGE) {
            update = update.param(
                    column.column(),
                    steps.stream().map(step -> column.text(step.after())).toArray(String[]::new));
        }
        update.update();
        storeLabels(steps);
        count(steps);
        teach(steps);
    }

    /** Where messages are put and what they are taken out of teaches where others are likely to belong. */
    private void teach(List<Step> steps) {
        List<NewLesson> lessons = new ArrayList<>();
        for (Step step : steps) {
            long message = step.moving().id();
            State before = step.moving().state();
            State after = step.after();
            if (before.folder() != after.folder()) {
                lessons.add(new NewLesson(message, LessonKind.FOLDER, before.folder(), false));
                lessons.add(new NewLesson(message, LessonKind.FOLDER, after.folder(), true));
            }
            before.labels().stream()
                    .filter(label -> !after.labels().contains(label))
                    .forEach(label -> lessons.add(new NewLesson(message, LessonKind.LABEL, label, false)));
            after.labels().stream()
                    .filter(label -> !before.labels().contains(label))
                    .forEach(label -> lessons.add(new NewLesson(message, LessonKind.LABEL, label, true)));
        }
        learning.teach(lessons);
    }

    private static String columns(Function<StateColumn, String> each) {
        return StateColumn.OF_MESSAGE.stream().map(each).collect(Collectors.joining(", "));
    }

    private static Long[] column(List<Step> steps, Function<Step, @Nullable Long> value) {
        return steps.stream().map(value).toArray(Long[]::new);
    }

    private void storeLabels(List<Step> steps) {
        List<Step> changed = steps.stream()
                .filter(step ->
                        !step.after().labels().equals(step.moving().state().labels()))
                .toList();
        if (changed.isEmpty()) {
            return;
        }
        jdbc.sql("delete from message_label where message_id = any(?)")
                .param(column(changed, step -> step.moving().id()))
                .update();
        List<long[]> pairs = changed.stream()
                .flatMap(step -> step.after().labels().stream()
                        .map(label -> new long[] {step.moving().id(), label}))
                .toList();
        jdbc.sql(
                        "insert into message_label (message_id, label_id) select * from unnest(:messages::bigint[], :labels::bigint[])")
                .param("messages", pairs.stream().map(pair -> pair[0]).toArray(Long[]::new))
                .param("labels", pairs.stream().map(pair -> pair[1]).toArray(Long[]::new))
                .update();
    }

    /** Counts are moved by what changed, so that nothing is ever counted again. */
    private void count(List<Step> steps) {
        Map<Place, int[]> folders = new HashMap<>();
        Map<Place, int[]> labels = new HashMap<>();
        for (Step step : steps) {
            long account = step.moving().accountId();
            add(folders, labels, account, step.moving().state(), -1);
            add(folders, labels, account, step.after(), 1);
        }
        count(folders, labels);
    }

    /** Takes messages out, which must be locked. */
    void remove(List<Moving> gone) {
        if (gone.isEmpty()) {
            return;
        }
        jdbc.sql("delete from message where id = any(?)")
                .param(gone.stream().map(Moving::id).toArray(Long[]::new))
                .update();
        Map<Place, int[]> folders = new HashMap<>();
        Map<Place, int[]> labels = new HashMap<>();
        gone.forEach(moving -> add(folders, labels, moving.accountId(), moving.state(), -1));
        count(folders, labels);
    }

    /** What lies in a mailbox is shown in another folder; nobody else changes the user's mail meanwhile. */
    public void showIn(Mailbox mailbox, long folderId) {
        record Sums(int total, int unread) {}
        Sums moved = jdbc.sql("""
                        with moved as (update message m set folder_id = :to, held = false from server_copy c
                            where c.message_id = m.id and c.mailbox_id = :mailbox and m.folder_id = :from
                            returning m.unread)
                        select count(*)::int as total, (count(*) filter (where unread))::int as unread from moved
                        """)
                .param("to", folderId)
                .param("from", mailbox.folderId())
                .param("mailbox", mailbox.id())
                .query(Sums.class)
                .single();
        counts.count(mailbox.folderId(), mailbox.accountId(), -moved.total(), -moved.unread());
        counts.count(folderId, mailbox.accountId(), moved.total(), moved.unread());
    }

    /** What waits in the user's Inbox for the next look is shown; nobody else changes the mail meanwhile. Returns how much that was. */
    public int showWaiting(long userId) {
        return jdbc.sql("update message set held = false where user_id = ? and held")
                .param(userId)
                .update();
    }

    /** Of a user's messages with several categories the one with the highest rank is the first. */
    public void rank(long userId) {
        jdbc.sql("""
                        update message m set category_id = r.ids[1], also_categories = r.ids[2:] from (
                            select m.id, array_agg(c.id order by c.rank, c.id) as ids from message m
                            join category c on c.id = m.category_id or c.id = any(m.also_categories)
                            where m.user_id = ? and m.also_categories <> '{}' group by m.id) r
                        where m.id = r.id
                        """).param(userId).update();
    }

    /** How many attachments a message has that has been read again. */
    public void attachments(long messageId, int attachments) {
        jdbc.sql("update message set attachments = ? where id = ?")
                .params(attachments, messageId)
                .update();
    }

    /** Counts messages that were not there before. */
    void countNew(List<Step> steps) {
        Map<Place, int[]> folders = new HashMap<>();
        Map<Place, int[]> labels = new HashMap<>();
        steps.forEach(step -> add(folders, labels, step.moving().accountId(), step.after(), 1));
        count(folders, labels);
    }

    private void count(Map<Place, int[]> folders, Map<Place, int[]> labels) {
        changed(folders).forEach((place, change) -> counts.count(place.id(), place.account(), change[0], change[1]));
        changed(labels).forEach((place, change) -> counts.countLabel(place.id(), place.account(), change[1]));
    }

    /** In the order of their ids, so that two acts at once cannot stop each other. */
    private static Map<Place, int[]> changed(Map<Place, int[]> changes) {
        Map<Place, int[]> sorted = new TreeMap<>(changes);
        sorted.values().removeIf(change -> change[0] == 0 && change[1] == 0);
        return sorted;
    }

    private static void add(Map<Place, int[]> folders, Map<Place, int[]> labels, long account, State state, int sign) {
        int[] change = folders.computeIfAbsent(new Place(state.folder(), account), place -> new int[2]);
        change[0] += sign;
        if (state.unread()) {
            change[1] += sign;
            state.labels()
                    .forEach(
                            label -> labels.computeIfAbsent(new Place(label, account), place -> new int[2])[1] += sign);
        }
    }

    /** A folder or a label, in an account. */
    private record Place(long id, long account) implements Comparable<Place> {
        @Override
        public int compareTo(Place other) {
            int byId = Long.compare(id, other.id);
            return byId == 0 ? Long.compare(account, other.account) : byId;
        }
    }

    /** The ids that so many new messages get. */
    public static Iterator<Long> newIds(JdbcClient jdbc, int messages) {
        return jdbc.sql(
                        "select nextval((select pg_get_serial_sequence('message', 'id'))::regclass) from generate_series(1, ?)")
                .param(messages)
                .query(Long.class)
                .list()
                .iterator();
    }
}
