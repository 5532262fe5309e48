package app.schublade.bench;

import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Tone;
import app.schublade.mail.MailHost;
import app.schublade.store.Account;
import app.schublade.store.AccountStore;
import app.schublade.store.ListQuery;
import app.schublade.store.ListStore;
import app.schublade.store.PlaceStore;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.jdbc.core.simple.JdbcClient;

/** A page of the list at any depth of one large folder: the whole request beside its bare query. */
final class ListBench {
    private static final int PAGE = 50;
    private static final int TIMES = 200;
    private static final Pattern TOKEN = Pattern.compile("name=\"_csrf\" value=\"([^\"]+)\"");

    private ListBench() {}

    static void run(int messages) throws Exception {
        try (Application application = new Application()) {
            Account account = application
                    .bean(AccountStore.class)
                    .add(
                            application.user,
                            new Account.Draft(
                                    "MU",
                                    "Museum",
                                    Tone.PETROL,
                                    "a@quay.example",
                                    List.of(),
                                    Account.Hosts.imap(new MailHost("127.0.0.1", 1, MailHost.Encryption.NONE, "a")),
                                    Account.Settings.USUAL,
                                    "x"));
            long inbox = application.bean(PlaceStore.class).inbox(application.user);
            fill(application.bean(JdbcClient.class), application.user, account.id(), inbox, messages);
            HttpClient client = logIn(application);
            for (int depth : new int[] {0, messages / 2, messages - PAGE - 1}) {
                measure(application, client, inbox, depth);
            }
        }
    }

    private static void fill(JdbcClient jdbc, long user, long account, long folder, int messages) {
        jdbc.sql("""
                        insert into message (user_id, account_id, folder_id, received_at, unread, flagged, attachments)
                        select ?, ?, ?, timestamptz '2026-11-01' - n * interval '7 minutes', n % 9 = 0, n % 50 = 0, 0
                        from generate_series(1, ?) n
                        """).params(user, account, folder, messages).update();
        jdbc.sql("""
                        insert into message_head (message_id, account_id, internet_id, size, sender_name, sender_address,
                            recipients, subject, snippet, sent_to, refs)
                        select id, account_id, id || '@quay.example', 4000, 'Sender ' || id % 300, id % 300 || '@quay.example',
                            'Tilda', 'Subject of message ' || id, repeat('Some words of it. ', 8), '{}', '{}' from message
                        """).update();
        jdbc.sql("""
                        insert into folder_count (folder_id, account_id, total, unread)
                        select folder_id, account_id, count(*), count(*) filter (where unread) from message group by 1, 2
                        on conflict (folder_id, account_id) do update set total = excluded.total, unread = excluded.unread
                        """).update();
        jdbc.sql("analyze").update();
    }

    private static HttpClient logIn(Application application) throws Exception {
        HttpClient client = HttpClient.newBuilder()
                .cookieHandler(new CookieManager())
                .followRedirects(HttpClient.Redirect.NORMAL)
                .build();
        Matcher token = TOKEN.matcher(get(client, application, "/login"));
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

    private static String get(HttpClient client, Application application, String path) throws Exception {
        return client.send(
                        HttpRequest.newBuilder(URI.create(application.address() + path))
                                .header("HX-Request", "true")
                                .header("HX-Target", "more")
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .body();
    }

    private static void measure(Application application, HttpClient client, long inbox, int depth) throws Exception {
        ListStore lists = application.bean(ListStore.class);
        ListQuery.Cursor after = cursor(application, inbox, depth);
        ListQuery query =
                new ListQuery(new ListQuery.InFolder(inbox), null, Set.of(), Arrangement.USUAL, after, PAGE + 1);
        String path = "/mail/inbox" + (after == null ? "" : "?after=" + after);
        Times bare = new Times();
        Times whole = new Times();
        for (int i = 0; i < TIMES * 2; i++) {
            long begin = System.nanoTime();
            List<ListStore.Line> rows = lists.page(application.user, List.of(), query);
            long queried = System.nanoTime();
            String page = get(client, application, path);
            long answered = System.nanoTime();
            if (rows.size() < PAGE || page.split("role=\"option\"", -1).length <= PAGE) {
                throw new IllegalStateException("The page at depth %,d is not full.".formatted(depth));
            }
            if (i >= TIMES) {
                bare.add(queried - begin);
                whole.add(answered - queried);
            }
        }
        System.out.printf("depth %,d%n  query    %s%n  request  %s%n", depth, bare, whole);
        System.out.printf("  ratio    %.1f (medians)%n", whole.millis(0.5) / bare.millis(0.5));
    }

    private static ListQuery.@org.jspecify.annotations.Nullable Cursor cursor(
            Application application, long inbox, int depth) {
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
}
