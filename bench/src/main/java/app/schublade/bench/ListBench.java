package app.schublade.bench;

import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Arrangement.Grouping;
import app.schublade.core.place.Arrangement.SortOrder;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.Tone;
import app.schublade.core.query.Query;
import app.schublade.mail.MailHost;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.user.ArrangementStore;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * What one does all day, on a cabinet of 200 folders over four accounts: a page of the list at any depth and in any
 * arrangement, the cabinet's counts, filing ten thousand messages, a conversation of 200. Requests stand beside their bare
 * query in the same run.
 */
final class ListBench {
    private static final int PAGE = 50;
    private static final int TIMES = 100;
    private static final int AT_LEAST = 6;
    /** What is slow is measured fewer times. */
    private static final long LONGEST_NANOS = 10_000_000_000L;

    private static final int FOLDERS = 200;
    private static final int FILED = 10_000;
    private static final int CONVERSATION = 200;
    private static final Pattern META = Pattern.compile("name=\"csrf\" content=\"([^\"]+)\"");
    private static final Pattern TOKEN = Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"");

    private final Application application;
    private final ListStore lists;
    private final ServerClock clock;
    private final HttpClient client;
    private final long inbox;

    private ListBench(Application application, HttpClient client, long inbox) {
        this.application = application;
        this.lists = application.bean(ListStore.class);
        this.clock = application.bean(ServerClock.class);
        this.client = client;
        this.inbox = inbox;
    }

    static void run(int messages) throws Exception {
        try (Application application = new Application()) {
            long inbox = application.bean(PlaceStore.class).inbox(application.user);
            furnish(application, messages);
            ListBench bench = new ListBench(application, logIn(application), inbox);
            int inInbox = application
                    .bean(JdbcClient.class)
                    .sql("select count(*)::int from message where folder_id = ?")
                    .param(inbox)
                    .query(Integer.class)
                    .single();
            System.out.printf("%,d messages, %,d of them in the Inbox%n", messages, inInbox);
            bench.nothing();
            for (int depth : new int[] {0, inInbox / 2, inInbox - PAGE - 1}) {
                bench.page("the Inbox at depth %,d".formatted(depth), Arrangement.USUAL, inbox, bench.cursor(depth));
            }
            long folder = bench.usualFolder();
            for (Arrangement arrangement : List.of(
                    new Arrangement(Grouping.DAY, SortOrder.NEWEST, true),
                    new Arrangement(Grouping.CATEGORY, SortOrder.NEWEST, false),
                    new Arrangement(Grouping.LABEL, SortOrder.NEWEST, false),
                    new Arrangement(Grouping.NONE, SortOrder.SENDER, false))) {
                String told = "by %s, %s%s"
                        .formatted(
                                arrangement.grouping().words(),
                                arrangement.order().words(),
                                arrangement.conversations() ? ", conversations" : "");
                bench.page("a folder, " + told, arrangement, folder, null);
                bench.page("the Inbox, " + told, arrangement, inbox, null);
            }
            bench.cabinet();
            bench.figures(inbox);
            bench.conversation();
            bench.filing(folder);
        }
    }

    /** Accounts, folders, labels and messages as rows: what is measured is not how they came in. */
    static void furnish(Application application, int messages) {
        JdbcClient jdbc = application.bean(JdbcClient.class);
        PlaceStore places = application.bean(PlaceStore.class);
        for (String code : List.of("MU", "TS", "RC", "PR")) {
            application
                    .bean(AccountStore.class)
                    .add(
                            application.user,
                            new Account.Draft(
                                    code,
                                    "Account " + code,
                                    Tone.PETROL,
                                    code + "@quay.example",
                                    List.of(),
                                    Account.Hosts.imap(new MailHost("127.0.0.1", 1, MailHost.Encryption.NONE, "a")),
                                    Account.Settings.USUAL,
                                    "x"));
        }
        for (int i = 6; i < FOLDERS; i++) {
            places.folder(application.user, FolderPath.parse("Area " + i % 20 + "/Matter " + i));
        }
        for (int i = 0; i < 20; i++) {
            places.label(application.user, FolderPath.parse("Topic " + i % 5 + "/Label " + i));
        }
        jdbc.sql("""
                        with f as (select array_agg(id order by id) as ids from folder where user_id = :user),
                        a as (select array_agg(id order by id) as ids from account where user_id = :user),
                        c as (select array_agg(id order by id) as ids from category where user_id = :user),
                        t as (select array_agg(id order by id) as ids from tray where user_id = :user)
                        insert into message (user_id, account_id, folder_id, received_at, unread, flagged, attachments,
                            category_id, tray_id, conversation_id)
                        select :user, a.ids[1 + n % 4],
                            case when n % 10 = 0 then :inbox else f.ids[1 + n % array_length(f.ids, 1)] end,
                            timestamptz '2026-11-01' - n * interval '3 minutes', n % 9 = 0, n % 50 = 0, (n % 7 = 0)::int,
                            case when n % 40 = 0 then c.ids[1 + n % 3] end, t.ids[1 + n % 4],
                            case when n <= :conversation then 1 else 1000 + n / 3 end
                        from generate_series(1, :messages) n, f, a, c, t
                        """)
                .param("user", application.user)
                .param("inbox", places.inbox(application.user))
                .param("conversation", CONVERSATION)
                .param("messages", messages)
                .update();
        jdbc.sql("""
                        insert into message_head (message_id, account_id, internet_id, size, sender_name, sender_address,
                            recipients, subject, snippet, sent_to, refs, traits)
                        select id, account_id, id || '@quay.example', 4000 + id % 5000, 'Sender ' || id % 300,
                            id % 300 || '@quay.example', 'Tilda', 'Subject of message ' || id,
                            repeat('Some words of it. ', 8), '{}', '{}', array['TO_ME'] from message
                        """).update();
        jdbc.sql("""
                        insert into message_label (message_id, label_id)
                        select m.id, l.ids[1 + m.id % array_length(l.ids, 1)] from message m,
                            (select array_agg(id) as ids from label) l where m.id % 10 = 0
                        """).update();
        jdbc.sql("""
                        insert into folder_count (folder_id, account_id, total, unread)
                        select folder_id, account_id, count(*), count(*) filter (where unread) from message group by 1, 2
                        on conflict (folder_id, account_id) do update set total = excluded.total, unread = excluded.unread
                        """).update();
        jdbc.sql("""
                        insert into label_count (label_id, account_id, unread)
                        select l.label_id, m.account_id, count(*) from message_label l join message m on m.id = l.message_id
                        where m.unread group by 1, 2
                        """).update();
        jdbc.sql("vacuum analyze").update();
    }

    static HttpClient logIn(Application application) throws Exception {
        HttpClient client = HttpClient.newBuilder()
                .cookieHandler(new CookieManager())
                .followRedirects(HttpClient.Redirect.NORMAL)
                .build();
        HttpRequest page = HttpRequest.newBuilder(URI.create(application.address() + "/login"))
                .build();
        Matcher token = TOKEN.matcher(
                client.send(page, HttpResponse.BodyHandlers.ofString()).body());
        if (!token.find()) {
            throw new IllegalStateException("The login page has no token.");
        }
        String form = "username=%s&password=%s&_csrf=%s"
                .formatted(
                        Application.LOGIN,
                        URLEncoder.encode(Application.PASSWORD, StandardCharsets.UTF_8),
                        token.group(1));
        client.send(
                HttpRequest.newBuilder(URI.create(application.address() + "/login"))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(form))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        return client;
    }

    private String get(String path, String target) throws Exception {
        return get(client, application, path, target);
    }

    static String get(HttpClient client, Application application, String path, String target) throws Exception {
        return answer(
                client, request(application, path).header("HX-Target", target).build());
    }

    /** Asks with a form, and the token that the login's cookie goes with. */
    static String post(HttpClient client, Application application, String path, String form) throws Exception {
        Matcher token = META.matcher(get(client, application, "/habits", ""));
        if (!token.find()) {
            throw new IllegalStateException("The page has no token.");
        }
        return answer(
                client,
                request(application, path)
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(form + "&_csrf=" + token.group(1)))
                        .build());
    }

    private static HttpRequest.Builder request(Application application, String path) {
        return HttpRequest.newBuilder(URI.create(application.address() + path)).header("HX-Request", "true");
    }

    private static String answer(HttpClient client, HttpRequest request) throws Exception {
        HttpResponse<String> answer = client.send(request, HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() != 200) {
            throw new IllegalStateException(request.uri() + " answers " + answer.statusCode());
        }
        return answer.body();
    }

    /** A bare query and the whole request that it is part of, as the server and as the client see it, by turns. */
    private void compare(String what, Callable<?> bare, Callable<?> whole) throws Exception {
        Times bareTimes = new Times();
        Times served = new Times();
        Times wholeTimes = new Times();
        long first = System.nanoTime();
        for (int i = 0; i < TIMES * 2 && (i < AT_LEAST || System.nanoTime() - first < LONGEST_NANOS); i++) {
            long begin = System.nanoTime();
            bare.call();
            long queried = System.nanoTime();
            clock.forget();
            whole.call();
            long answered = System.nanoTime();
            long server = clock.nanos();
            if (i >= TIMES || begin - first > LONGEST_NANOS / 2) {
                bareTimes.add(queried - begin);
                served.add(server);
                wholeTimes.add(answered - queried);
            }
        }
        System.out.printf("%s%n  query      %s%n  at server  %s%n", what, bareTimes, served);
        System.out.printf("  at client  %s%n", wholeTimes);
        System.out.printf("  ratio      %.1f (server to query, medians)%n", served.millis(0.5) / bareTimes.millis(0.5));
    }

    /** The smallest query and the smallest request that there are: what the way there and back takes. */
    private void nothing() throws Exception {
        JdbcClient jdbc = application.bean(JdbcClient.class);
        compare(
                "nothing at all",
                () -> jdbc.sql("select 1").query(Integer.class).single(),
                () -> get("/favicon.svg", "more"));
    }

    private void page(String what, Arrangement arrangement, long folder, ListQuery.@Nullable Cursor after)
            throws Exception {
        String place = folder == inbox ? "inbox" : "folder/" + folder;
        application.bean(ArrangementStore.class).keep(application.user, place, arrangement);
        ListStore.Ranks ranks = ListStore.Ranks.of(
                application.bean(PlaceStore.class).of(application.user, null),
                application.bean(AccountStore.class).of(application.user));
        ListQuery query = new ListQuery(
                new Query.InFolder(new FolderRef(folder, FolderPath.parse("A folder"))),
                Query.everything(),
                arrangement,
                ListQuery.ListDays.DUE,
                after,
                PAGE + 1);
        String path = "/mail/" + place + (after == null ? "" : "?after=" + after);
        compare(what, () -> lists.page(application.user, ranks, query), () -> {
            String page = get(path, "more");
            if (page.split("role=\"option\"", -1).length <= PAGE) {
                throw new IllegalStateException("The page is not full: " + what);
            }
            return page;
        });
    }

    private ListQuery.@Nullable Cursor cursor(int depth) {
        return depth == 0
                ? null
                : application
                        .bean(JdbcClient.class)
                        .sql(
                                "select received_at, id from message where folder_id = ? order by 1 desc, 2 desc offset ? limit 1")
                        .params(inbox, depth)
                        .query((row, number) -> new ListQuery.Cursor(
                                List.of(), row.getTimestamp(1).toInstant(), row.getLong(2)))
                        .single();
    }

    /** One whose size is in the middle. */
    private long usualFolder() {
        return application.bean(JdbcClient.class).sql("""
                        select f.id from folder f join folder_count c on c.folder_id = f.id where f.use is null
                        group by f.id order by sum(c.total) offset 90 limit 1
                        """).query(Long.class).single();
    }

    private void cabinet() throws Exception {
        PlaceStore places = application.bean(PlaceStore.class);
        compare(
                "the cabinet with its counts",
                () -> places.of(application.user, null),
                () -> get("/cabinet?here=/mail/inbox", "cabinet"));
    }

    private void figures(long folder) throws Exception {
        ListQuery query = new ListQuery(
                new Query.InFolder(new FolderRef(folder, FolderPath.parse("A folder"))),
                Query.everything(),
                Arrangement.USUAL,
                ListQuery.ListDays.DUE,
                null,
                PAGE);
        compare(
                "what each filter would leave of the Inbox",
                () -> lists.figures(application.user, query),
                () -> get("/mail/inbox", "pills"));
    }

    private void conversation() throws Exception {
        long row = application
                .bean(JdbcClient.class)
                .sql("select max(id) from message where conversation_id = 1")
                .query(Long.class)
                .single();
        compare(
                "a conversation of " + CONVERSATION,
                () -> lists.conversationOf(application.user, row, CONVERSATION),
                () -> get("/mail/conversation/" + row + "?here=/mail/inbox", "unfolded"));
    }

    /** With counters, record and orders; and taken back. */
    private void filing(long target) {
        FilingStore filing = application.bean(FilingStore.class);
        UndoStore undo = application.bean(UndoStore.class);
        List<Long> all =
                lists.all(application.user, new Query.InFolder(new FolderRef(inbox, FolderPath.parse("A folder"))));
        Times filed = new Times();
        Times undone = new Times();
        for (int i = 0; i < 6 && (i + 1) * FILED <= all.size(); i++) {
            List<Long> some = all.subList(i * FILED, (i + 1) * FILED);
            long begin = System.nanoTime();
            ActOutcome outcome = filing.act(application.user, Cause.HAND, "x", some, state -> state.in(target));
            long done = System.nanoTime();
            undo.act(application.user, outcome.batch());
            filed.add(done - begin);
            undone.add(System.nanoTime() - done);
        }
        System.out.printf("filing %,d messages%n  filed     %s%n  taken back %s%n", FILED, filed, undone);
    }
}
