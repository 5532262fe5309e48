package app.schublade.bench;

import app.schublade.core.query.Search;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.BulkRows;
import app.schublade.store.find.IndexStore;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.message.FacetStore;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListStore;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.Callable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * How long one waits for what one searches for: the first page, how much was found and where, what is offered while one types;
 * each beside the bare query for a page of what has its words. Before, how many messages a second become findable.
 */
final class FindBench {
    private static final int TIMES = 15;
    private static final int PAGE = 50;
    private static final int BATCH = 2000;
    private static final int INDEXED = 500;
    private static final int WORDS = 60;

    private static final List<String> PARTS = List.of(
            "ver", "sich", "er", "ung", "haf", "ten", "kis", "ste", "gal", "ion", "mas", "tor", "lin", "den", "bru",
            "gge", "fah", "rt", "see", "kar");

    /** A text in the find box, and what of it PostgreSQL alone would look for. */
    private record Asked(String what, String typed, String bare) {}

    private final Application application;
    private final HttpClient client;
    private final JdbcClient jdbc;
    private final long user;

    private FindBench(Application application, HttpClient client) {
        this.application = application;
        this.client = client;
        jdbc = application.bean(JdbcClient.class);
        user = application.user;
    }

    static void run(int messages) throws Exception {
        try (Application application = new Application()) {
            ListBench.furnish(application, messages);
            FindBench bench = new FindBench(application, ListBench.logIn(application));
            bench.write(messages);
            bench.index(messages);
            bench.search();
        }
    }

    /** Some words are in nearly every message, most in very few. */
    private static String word(Random random) {
        double skewed = Math.pow(random.nextDouble(), 6);
        return word((int) (skewed * 160_000));
    }

    private static String word(int number) {
        StringBuilder word = new StringBuilder();
        for (int rest = number + 20; rest > 0; rest /= 20) {
            word.append(PARTS.get(rest % 20));
        }
        return word.toString();
    }

    private void write(int messages) {
        Random random = new Random(1);
        List<Long> ids =
                jdbc.sql("select id from message order by id").query(Long.class).list();
        for (int begin = 0; begin < ids.size(); begin += BATCH) {
            BulkRows texts = new BulkRows("message_text", "message_id", "body");
            for (long id : ids.subList(begin, Math.min(ids.size(), begin + BATCH))) {
                StringBuilder body = new StringBuilder();
                for (int i = 0; i < WORDS; i++) {
                    body.append(word(random)).append(i % 9 == 8 ? ". " : " ");
                }
                texts.row().number(id).text(body + "KD-" + id);
            }
            texts.send(application.bean(JdbcTemplate.class));
        }
        jdbc.sql("insert into to_index (message_id, account_id) select id, account_id from message")
                .update();
        jdbc.sql("vacuum analyze").update();
        System.out.printf("%,d messages of %d words%n", messages, WORDS);
    }

    private void index(int messages) {
        IndexStore index = application.bean(IndexStore.class);
        long begin = System.nanoTime();
        for (Account account : application.bean(AccountStore.class).of(user)) {
            while (index.index(account.id(), INDEXED) > 0) {}
        }
        double seconds = (System.nanoTime() - begin) / 1e9;
        jdbc.sql("vacuum analyze").update();
        System.out.printf(
                "made findable: %,.0f messages a second; %,d different words, index %s%n",
                messages / seconds,
                jdbc.sql("select count(*) from vocabulary").query(Integer.class).single(),
                jdbc.sql("select pg_size_pretty(pg_relation_size('message_search_words'))")
                        .query(String.class)
                        .single());
    }

    private void search() throws Exception {
        String common = word(0);
        String second = word(1);
        String usual = word(700);
        String rare = word(150_001);
        for (Asked asked : List.of(
                new Asked("a rare word", rare, "'" + rare + "'"),
                new Asked("a usual word", usual, "'" + usual + "'"),
                new Asked("a common word", common, "'" + common + "'"),
                new Asked("two common words", common + " " + second, "'%s' & '%s'".formatted(common, second)),
                new Asked(
                        "a beginning",
                        rare.substring(0, rare.length() - 2),
                        "'" + rare.substring(0, rare.length() - 2) + "':*"),
                new Asked("a part", rare.substring(2), "'" + rare + "'"),
                new Asked("a phrase", '"' + common + " " + second + '"', "'%s' <-> '%s'".formatted(common, second)),
                new Asked("a number", "KD-1234", "'kd' <-> '1234'"),
                new Asked("a person", "from 42@quay.example", "'42'"),
                new Asked(
                        "a person, a word and a year",
                        "from 42@quay.example " + common + " in 2026",
                        "'42' & '" + common + "'"),
                new Asked("one or the other", rare + " or " + usual, "'%s' | '%s'".formatted(rare, usual)),
                new Asked("one without the other", common + " -" + second, "'%s' & !'%s'".formatted(common, second)),
                new Asked("a word nobody has", "qqqqqq", "'qqqqqq'"))) {
            measure(asked);
        }
    }

    private void measure(Asked asked) throws Exception {
        Search search = application.bean(SearchWorlds.class).read(user, asked.typed);
        ListQuery page = ListQuery.newest(search.query(), PAGE);
        String typed = URLEncoder.encode(asked.typed, StandardCharsets.UTF_8).replace("+", "%20");
        Times bare =
                time(() -> jdbc.sql("select message_id from message_search where words @@ ?::tsquery limit " + PAGE)
                        .param(asked.bare)
                        .query(Long.class)
                        .list());
        List<ListStore.ListLine> found = new ArrayList<>();
        Times first = time(() -> {
            found.clear();
            found.addAll(application.bean(ListStore.class).page(user, ListStore.Ranks.NONE, page));
            return found;
        });
        FacetStore facets = application.bean(FacetStore.class);
        Times parts = time(() -> facets.of(user, search.query()));
        Times offered = time(() -> ListBench.get(client, application, "/find/suggest?letters=" + typed, "x"));
        int total = facets.of(user, search.query()).total();
        System.out.printf(
                "%s: %s%,d found%n",
                asked.what, total > FacetStore.MOST ? "more than " : "", Math.min(total, FacetStore.MOST));
        System.out.printf("  bare query    %s%n  first page    %s%n", bare, first);
        System.out.printf("  how much is where  %s%n  what is offered    %s%n", parts, offered);
    }

    private static Times time(Callable<?> work) throws Exception {
        Times times = new Times();
        for (int i = 0; i < TIMES; i++) {
            long begin = System.nanoTime();
            work.call();
            times.add(System.nanoTime() - begin);
        }
        return times;
    }
}
