package app.schublade.bench;

import app.schublade.core.format.Identity;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.mail.Sighting;
import app.schublade.store.filing.CountStore;
import app.schublade.store.noise.QuietStore;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Counts, after the chaos run, whether both sides agree and nothing is lost, doubled, or done twice. */
final class ChaosCheck {
    private static final int SHOWN = 5;

    private final ChaosWorld world;
    private final ChaosActors actors;

    ChaosCheck(ChaosWorld world, ChaosActors actors) {
        this.world = world;
        this.actors = actors;
    }

    /** Waits until nothing is to be done any more and both sides are the same, or the time is over. */
    void awaitRest(long seconds) throws Exception {
        long began = System.nanoTime();
        while (System.nanoTime() - began < TimeUnit.SECONDS.toNanos(seconds)) {
            TimeUnit.SECONDS.sleep(2);
            world.reviveApplications();
            try {
                if (waiting() == 0 && here().equals(there())) {
                    System.out.printf(
                            "at rest after %d s%n", TimeUnit.NANOSECONDS.toSeconds(System.nanoTime() - began));
                    return;
                }
            } catch (MailException | DataAccessException e) {
                // Not up again yet.
            }
        }
        System.out.printf("not at rest after %d s%n", seconds);
    }

    private int waiting() {
        return count(
                "select (select count(*) from server_order) + (select count(*) from outgoing where state <> 'DRAFT')");
    }

    private int count(String sql) {
        return world.bean(JdbcClient.class).sql(sql).query(Integer.class).single();
    }

    /** Every message on the server: its identity, its folder's path and its marks. */
    private List<String> there() throws MailException {
        List<String> all = new ArrayList<>();
        synchronized (world.mailServer) {
            for (int i = 0; i < world.accounts.size(); i++) {
                try (ImapConnection imap = world.connect(i)) {
                    for (RemoteFolder folder : imap.folders()) {
                        if (folder.selectable()) {
                            imap.open(folder.serverName());
                            all.addAll(there(imap, folder, world.accounts.get(i).code()));
                        }
                    }
                }
            }
        }
        return all.stream().sorted().toList();
    }

    private static List<String> there(ImapConnection imap, RemoteFolder folder, String code) throws MailException {
        Map<Long, Sighting> sightings = imap.sightings(1).stream()
                .filter(one -> !one.deleted())
                .collect(Collectors.toMap(Sighting::uid, one -> one));
        String path = folder.use().map(SpecialUse::shown).orElse(folder.path().toString());
        return imap.fetchIds(sightings.keySet()).stream()
                .map(glance -> line(
                        Identity.of(glance.source()),
                        code + " " + path,
                        !glance.sighting().seen(),
                        glance.sighting().flagged()))
                .toList();
    }

    private static String line(String identity, String path, boolean unread, boolean flagged) {
        return identity + " in " + path + (unread ? ", unread" : "") + (flagged ? ", flagged" : "");
    }

    private List<String> here() {
        return world
                .bean(JdbcClient.class)
                .sql("""
                        select h.internet_id, a.code || ' ' || f.path, m.unread, m.flagged from message m
                        join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
                        join account a on a.id = m.account_id
                        """)
                .query((row, number) -> line(row.getString(1), row.getString(2), row.getBoolean(3), row.getBoolean(4)))
                .list()
                .stream()
                .sorted()
                .toList();
    }

    /** Prints each check with what it found; whether all is well. */
    boolean report() throws MailException {
        List<String> here = here();
        List<String> there = there();
        Map<String, Integer> copies = new HashMap<>();
        there.forEach(line -> copies.merge(line.substring(0, line.indexOf(' ')), 1, Integer::sum));
        Set<String> wanted = new TreeSet<>(actors.delivered);
        wanted.removeAll(actors.deleted);
        Set<String> lost = new TreeSet<>(wanted);
        lost.removeAll(copies.keySet());
        List<String> doubled = copies.entrySet().stream()
                .filter(entry -> entry.getValue() > 1 + actors.copied.getOrDefault(entry.getKey(), 0))
                .map(Map.Entry::getKey)
                .toList();
        doubled = doubled.stream()
                .flatMap(id -> rows(id).stream().map(row -> id + ": " + row))
                .toList();
        boolean clean = tell("every message that was delivered and not deleted is on the server", wanted.size(), lost);
        clean &= tell("none is there oftener than the user copied it", copies.size(), doubled);
        clean &=
                tell("all on the server is here, in the same folder, marked the same", there.size(), less(there, here));
        clean &= tell("all here is on the server", here.size(), less(here, there));
        clean &= tell("no rule acted twice, none was left out", ruled(), notRuledOnce());
        clean &= tell("no order is waiting or refused", 0, orders());
        clean &= tell("what the user wrote was handed in", actors.written.size(), notHandedIn());
        clean &= tell("and lies in Sent once", actors.written.size(), notInSentOnce());
        clean &= tell("every message has its place on the server", here.size(), strays());
        clean &= tell("the counts of folders and labels are what counting gives", folders(), wrongCounts());
        clean &= tell("no message lies where nobody sees it", here.size(), unseen());
        clean &= tell("what was due at a time was told of, and came back from the tickler", due(), late());
        clean &= tell("what waited for a look is shown, or waits in the Inbox for the next one", held(), unshown());
        clean &= tell("no draft was sent", 1, draftsSent());
        clean &= tell("no message was put aside or kept unread", here.size(), aside());
        System.out.println(clean ? "clean" : "NOT clean; the applications' logs are in " + world.logs());
        return clean;
    }

    private static boolean tell(String what, int of, java.util.Collection<String> wrong) {
        System.out.printf("%s %s (%,d)%n", wrong.isEmpty() ? "yes" : "NO ", what, of);
        wrong.stream().limit(SHOWN).forEach(one -> System.out.println("      " + one));
        return wrong.isEmpty();
    }

    private static List<String> less(List<String> some, List<String> others) {
        List<String> left = new ArrayList<>(some);
        others.forEach(left::remove);
        return left;
    }

    private int ruled() {
        return count("select count(*) from filing_record where rule_id is not null");
    }

    /** What the other program took out of the Inbox may have been gone before a rule saw it: once at the most, then. */
    private List<String> notRuledOnce() {
        return world
                .bean(JdbcClient.class)
                .sql("""
                        select h.internet_id, count(r.id) from message_head h
                        left join filing_record r on r.message_id = h.message_id and r.rule_id is not null
                        where h.sender_address like '%@ruled.example' group by h.internet_id
                        """)
                .query((row, number) -> Map.entry(row.getString(1), row.getInt(2)))
                .list()
                .stream()
                .filter(entry -> entry.getValue() > 1
                        || (entry.getValue() == 0
                                && !actors.takenFromInbox.contains(entry.getKey())
                                && !actors.deleted.contains(entry.getKey())))
                .map(entry -> entry.getKey() + " " + entry.getValue() + " times; it is " + rows(entry.getKey()))
                .toList();
    }

    /** Where a message is, by its identity, and what was done with it here: to find out what went wrong. */
    private List<String> rows(String identity) {
        return world.bean(JdbcClient.class)
                .sql("""
                        select format('message %s of %s in %s, acts: %s', m.id, a.code, f.path,
                            (select string_agg(b.title || case when r.undone_at is null then '' else ' (undone)' end, ', ' order by r.id)
                                from filing_record r join batch b on b.id = r.batch_id where r.message_id = m.id))
                        from message m join message_head h on h.message_id = m.id join account a on a.id = m.account_id
                        join folder f on f.id = m.folder_id where h.internet_id = ?
                        """)
                .param(identity)
                .query(String.class)
                .list();
    }

    /** It may be handed in twice if the answer to the first time was lost; never not at all. */
    private List<String> notHandedIn() {
        Map<String, Integer> taken = world.smtp.taken();
        return actors.written.stream()
                .filter(subject -> !taken.containsKey(subject))
                .toList();
    }

    private List<String> notInSentOnce() {
        Map<String, Integer> sent = new HashMap<>();
        list("""
                select h.subject from message m join message_head h on h.message_id = m.id
                join folder f on f.id = m.folder_id and f.use = 'SENT'
                """).forEach(subject -> sent.merge(subject, 1, Integer::sum));
        return actors.written.stream()
                .filter(subject -> sent.getOrDefault(subject, 0) != 1)
                .map(subject -> subject + " " + sent.getOrDefault(subject, 0) + " times")
                .toList();
    }

    private List<String> orders() {
        return list("""
                select o.kind || ' of message ' || o.message_id || case when o.begun then ', begun' else '' end
                    || coalesce(', lies in ' || b.server_name || ' as ' || c.uid, ', nowhere') || coalesce(': ' || o.trouble, '')
                from server_order o left join server_copy c on c.message_id = o.message_id
                left join mailbox b on b.id = c.mailbox_id
                """);
    }

    private List<String> strays() {
        return list("""
                select 'message ' || m.id from message m left join server_copy c on c.message_id = m.id
                where c.mailbox_id is null
                """);
    }

    private int folders() {
        return count("select count(*) from folder_count");
    }

    private List<String> wrongCounts() {
        CountStore counts = world.bean(CountStore.class);
        return world.bean(JdbcClient.class).sql("select id from app_user").query(Long.class).list().stream()
                .flatMap(user -> counts.wrong(user).stream())
                .map(CountStore.Wrong::toString)
                .toList();
    }

    private List<String> unseen() {
        return list("""
                select 'message ' || m.id || ' in ' || f.path from message m join folder f on f.id = m.folder_id
                where f.deleted_at is not null
                """);
    }

    private int due() {
        return count(
                "select (select count(*) from reminder) + (select count(*) from message where until_at is not null)");
    }

    /** The clocks look every minute; of what was thrown away nobody is told. */
    private List<String> late() {
        return list("""
                select 'message ' || m.id || ' was due at ' || m.due_on || ' ' || m.due_at from message m
                join folder f on f.id = m.folder_id and coalesce(f.use, '') not in ('TRASH', 'JUNK')
                where m.flagged and m.due_on + m.due_at < localtimestamp - interval '2 minutes' and not exists (
                    select from reminder r where r.message_id = m.id and r.due_on = m.due_on and r.due_at = m.due_at)
                union all select 'message ' || m.id || ' was to come back at ' || m.until_on || ' ' || m.until_at
                from message m join folder f on f.id = m.folder_id and f.use = 'TICKLER'
                where m.until_on + m.until_at < localtimestamp - interval '2 minutes'
                """);
    }

    private int held() {
        return count("select count(*) from message where held");
    }

    private List<String> unshown() {
        List<String> wrong = new ArrayList<>(list("""
                select 'message ' || m.id || ' waits in ' || f.path || ', with looks at ' || coalesce(q.minutes::text, 'no time')
                from message m join folder f on f.id = m.folder_id left join quiet q on q.user_id = m.user_id
                where m.held and (f.use is distinct from 'INBOX' or coalesce(q.minutes, '{}') = '{}')
                """));
        world.bean(QuietStore.class).due().forEach(user -> wrong.add("user %d has not looked yet".formatted(user)));
        return wrong;
    }

    private List<String> draftsSent() {
        return world.smtp.taken().containsKey(TriageActor.DRAFT) ? List.of(TriageActor.DRAFT) : List.of();
    }

    private List<String> aside() {
        return list("""
                select 'message ' || name || ': ' || reason from put_aside where next_at is not null
                union all select 'message ' || message_id || ': ' || reason from kept_as_it_came
                """);
    }

    private List<String> list(String sql) {
        return world.bean(JdbcClient.class).sql(sql).query(String.class).list();
    }
}
