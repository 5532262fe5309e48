package app.schublade.bench;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Text;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.query.Query;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleStore;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * Trial runs over all mail, as the page asks for them until they have ended, beside reading the same messages without a
 * rule: of one rule, of one that asks for words of the text, of a book of 300 rules.
 */
final class TrialBench {
    private static final int RULES = 300;
    private static final int TIMES = 3;
    private static final Pattern SCAN = Pattern.compile("name=\"scan\" value=\"([^\"]+)\"");
    private static final Pattern CHECK = Pattern.compile("/rules/check\\?scan=([^&\"]+)");

    private final Application application;
    private final HttpClient client;
    private final int messages;

    private TrialBench(Application application, HttpClient client, int messages) {
        this.application = application;
        this.client = client;
        this.messages = messages;
    }

    static void run(int messages) throws Exception {
        try (Application application = new Application()) {
            ListBench.furnish(application, messages);
            application.bean(JdbcClient.class).sql("""
                            insert into message_text (message_id, body)
                            select id, repeat('The crates of the museum come by ferry on Monday. ', 40) || 'Number ' || id
                            from message
                            """).update();
            application.bean(JdbcClient.class).sql("vacuum analyze").update();
            TrialBench bench = new TrialBench(application, ListBench.logIn(application), messages);
            bench.compare("one rule on senders", Set.of(), () -> bench.trial("SENDER", "7@quay.example"));
            bench.compare(
                    "one rule on words of the text",
                    Set.of(Condition.Need.BODY),
                    () -> bench.trial("BODY", "number 77"));
            bench.keepRules();
            bench.compare("a book of %d rules".formatted(RULES), Set.of(Condition.Need.BODY), bench::check);
        }
    }

    private void keepRules() {
        RuleStore rules = application.bean(RuleStore.class);
        FolderPath path = FolderPath.parse("Area 1/Matter 21");
        Effect file = new Effect.FileInto(new FolderRef(
                application
                        .bean(PlaceStore.class)
                        .folder(application.user, path)
                        .id(),
                path));
        for (int i = 0; i < RULES; i++) {
            Condition condition = i % 3 == 0
                    ? Correspondent.sender(i + "@quay.example")
                    : i % 3 == 1
                            ? Text.subject(String.valueOf(1000 + i))
                            : new Text(Text.Where.BODY, "", Text.Match.WORDS, List.of(String.valueOf(5000 + i)));
            rules.save(
                    application.user,
                    new Rule(0, "Rule " + i, true, List.of(condition), List.of(), List.of(file), false));
        }
    }

    private Object read(Set<Condition.Need> needs) {
        int[] seen = {0};
        application
                .bean(RuleInputStore.class)
                .forEach(application.user, Query.everything(), needs, subject -> seen[0]++);
        return seen[0];
    }

    private String trial(String kind, String text) throws Exception {
        String form =
                "whenKind=%s&whenMatch=WORDS&whenNot=&whenDepth=0&whenText=%s&thenKind=FLAG&thenText=&over=everything"
                        .formatted(kind, URLEncoder.encode(text, StandardCharsets.UTF_8));
        String page = ListBench.post(client, application, "/rules/trial", form);
        while (page.contains("data-scanning=\"true\"")) {
            Matcher scan = SCAN.matcher(page);
            if (!scan.find()) {
                throw new IllegalStateException("The trial run has no id.");
            }
            page = ListBench.post(client, application, "/rules/trial", form + "&follow=on&scan=" + scan.group(1));
        }
        return page;
    }

    private String check() throws Exception {
        String page = ListBench.get(client, application, "/rules/check?over=everything", "check");
        for (Matcher scan = CHECK.matcher(page); page.contains("hx-get") && scan.find(); scan = CHECK.matcher(page)) {
            page = ListBench.get(client, application, "/rules/check?over=everything&scan=" + scan.group(1), "check");
        }
        return page;
    }

    private void compare(String what, Set<Condition.Need> needs, Callable<?> run) throws Exception {
        Times bare = new Times();
        Times whole = new Times();
        for (int i = 0; i < TIMES; i++) {
            long begin = System.nanoTime();
            read(needs);
            bare.add(System.nanoTime() - begin);
            begin = System.nanoTime();
            run.call();
            whole.add(System.nanoTime() - begin);
        }
        System.out.printf(
                "%s over %,d messages: %.2f s, %.2f times as long as reading them (%.2f s)%n",
                what,
                messages,
                whole.millis(0.5) / 1000,
                whole.millis(0.5) / bare.millis(0.5),
                bare.millis(0.5) / 1000);
    }
}
