package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.Standin;
import app.schublade.store.AccountStore;
import app.schublade.store.UserStore;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Office;
import app.schublade.web.frame.Person;
import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Who comes in, over real HTTP, and what the pages let browsers do. */
@ExtendWith(Office.Extension.class)
class DoorsTest {
    private final Office office;
    private final HttpClient client = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .followRedirects(HttpClient.Redirect.NORMAL)
            .build();

    DoorsTest(Office office) {
        this.office = office;
    }

    private HttpResponse<String> get(String path, String... headers) throws Exception {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(office.address() + path));
        if (headers.length > 0) {
            request.headers(headers);
        }
        return send(request.build());
    }

    private HttpResponse<String> send(HttpRequest request) throws IOException, InterruptedException {
        return client.send(request, HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> post(String path, String form, String... headers) throws Exception {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(office.address() + path))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(form));
        if (headers.length > 0) {
            request.headers(headers);
        }
        return send(request.build());
    }

    private HttpResponse<String> logIn(String login, String password) throws Exception {
        Document page = Jsoup.parse(get("/login").body());
        String token = page.select("input[name=_csrf]").val();
        return post(
                "/login",
                "username=%s&password=%s&_csrf=%s"
                        .formatted(login, URLEncoder.encode(password, StandardCharsets.UTF_8), token));
    }

    @Test
    void thePasswordOpensTheDeskAndNothingElseDoes() throws Exception {
        Person person = office.person();
        assertThat(get("/mail/inbox").uri().getPath()).isEqualTo("/login");
        HttpResponse<String> wrong = logIn(person.login(), "wrong");
        assertThat(Jsoup.parse(wrong.body()).select(".problem").text())
                .isEqualTo("Login and password do not go together. Please try again.");
        assertThat(Jsoup.parse(get("/login").body()).select(".problem"))
                .as("said once")
                .isEmpty();
        assertThat(logIn(person.login().toUpperCase(java.util.Locale.ROOT), Office.PASSWORD)
                        .uri()
                        .getPath())
                .isEqualTo("/mail/inbox");
        assertThat(get("/rules").statusCode()).isEqualTo(200);
    }

    @Test
    void afterThreeWrongPasswordsTheNextTryMustWait() throws Exception {
        Person person = office.person();
        for (int i = 0; i < 3; i++) {
            logIn(person.login(), "wrong");
        }
        HttpResponse<String> right = logIn(person.login(), Office.PASSWORD);
        assertThat(right.body()).contains("Too many wrong passwords. The next try is possible in");
        office.bean(UserStore.class).forgetFailures(person.login());
        assertThat(logIn(person.login(), Office.PASSWORD).uri().getPath()).isEqualTo("/mail/inbox");
    }

    @Test
    void theSessionLiesInTheDatabaseAndNothingIsDoneWithoutItsToken() throws Exception {
        Person person = office.person();
        logIn(person.login(), Office.PASSWORD);
        assertThat(office.bean(org.springframework.jdbc.core.simple.JdbcClient.class)
                        .sql("select count(*) from spring_session where principal_name = ?")
                        .param(person.login())
                        .query(Integer.class)
                        .single())
                .isEqualTo(1);
        HttpResponse<String> forged = post("/undo", "", "HX-Request", "true");
        assertThat(forged.statusCode()).isEqualTo(403);
        assertThat(forged.headers().firstValue("HX-Refresh")).contains("true");
    }

    @Test
    void manyFirstRequestsAtOnceAreAllAnswered() throws Exception {
        get("/login"); // One session, whose attributes all of the others want to store.
        var answers = new java.util.ArrayList<java.util.concurrent.CompletableFuture<HttpResponse<String>>>();
        for (int i = 0; i < 24; i++) {
            HttpRequest request = HttpRequest.newBuilder(URI.create(office.address() + "/mail/inbox?rows=" + i))
                    .header("Accept", "text/html")
                    .build();
            answers.add(client.sendAsync(request, HttpResponse.BodyHandlers.ofString()));
        }
        for (var answer : answers) {
            assertThat(answer.get().statusCode()).isEqualTo(200);
        }
    }

    @Test
    void anOpenPageWhoseSessionEndedGoesToTheLoginAsAWhole() throws Exception {
        HttpResponse<String> part = get("/cabinet", "HX-Request", "true");
        assertThat(part.statusCode()).isEqualTo(401);
        assertThat(part.headers().firstValue("HX-Redirect")).contains("/login");
    }

    @ParameterizedTest
    @ValueSource(strings = {"/login", "/mail/inbox", "/rules", "/accounts"})
    void pagesAllowNothingInlineAndNothingFromOutside(String path) throws Exception {
        logIn(office.person().login(), Office.PASSWORD);
        HttpResponse<String> page = get(path);
        assertThat(page.headers().firstValue("Content-Security-Policy"))
                .contains(
                        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self';"
                                + " connect-src 'self'; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'");
        Document document = Jsoup.parse(page.body());
        assertThat(document.select("[style], style, script:not([src]), [onclick], [hx-on]"))
                .isEmpty();
        assertThat(document.select("[src^=http], link[href^=http]")).isEmpty();
        for (String file : document.select("script[src], link[href]").stream()
                .map(one -> one.hasAttr("src") ? one.attr("src") : one.attr("href"))
                .toList()) {
            assertThat(get(file).statusCode()).as(file).isEqualTo(200);
        }
    }

    @Test
    void theFirstVisitorOfAnOldInstallationBecomesNobody() throws Exception {
        assertThat(get("/welcome").uri().getPath()).isEqualTo("/login");
    }

    @Test
    void anAccountIsAddedWithItsServersConsentOnly() throws Exception {
        Person person = office.person();
        Browser browser = new Browser(office, person);
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Object[] good = {
                "address",
                "Desk@northlights-tour.example",
                "password",
                "lantern",
                "name",
                "Tour",
                "code",
                "ts",
                "host",
                "127.0.0.1",
                "port",
                hosts.imapPort("TS"),
                "encryption",
                "NONE",
                "login",
                "desk@northlights-tour.example",
                "aliases",
                "a@b.example, c@d.example"
            };
            for (List<String> change : List.of(
                    List.of("password", "wrong", "refused the password"),
                    List.of("port", "1", "cannot be reached"),
                    List.of("port", "many", "The port is a number"),
                    List.of("code", "TOO", "two letters"),
                    List.of("address", "nobody", "needs one @"),
                    List.of("host", " ", "Please enter the mail server"))) {
                Object[] bad = good.clone();
                bad[List.of(bad).indexOf(change.get(0)) + 1] = change.get(1);
                Document page = browser.post("/accounts", bad).page();
                assertThat(page.select(".add .problem").text()).contains(change.get(2));
                assertThat(page.select(".add [name=name]").val())
                        .as("nothing typed is lost")
                        .isEqualTo("Tour");
            }
            assertThat(office.bean(AccountStore.class).of(person.id())).isEmpty();
            assertThat(browser.post("/accounts", good).header("Location")).isEqualTo("/mail/inbox");
            assertThat(browser.post("/accounts", good).text()).contains("this address or this code already");
            var account = office.bean(AccountStore.class).of(person.id()).get(0);
            assertThat(account.aliases()).containsExactlyInAnyOrder("a@b.example", "c@d.example");
            assertThat(browser.get("/accounts").text()).contains("Tour").doesNotContain("lantern\"");
            office.bean(Synchroniser.class).forget(account.id());
        }
    }
}
