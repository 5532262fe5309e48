package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.store.user.LoginStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Who comes in, over real HTTP, and what the pages let browsers do. */
@ExtendWith(Office.Extension.class)
class DoorsTest {
    private final Office office;
    private HttpClient client = HttpClient.newBuilder()
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
        CurrentUser person = office.person();
        assertThat(get("/mail/inbox").uri().getPath()).isEqualTo("/login");
        HttpResponse<String> wrong = logIn(person.login(), "wrong");
        assertThat(Jsoup.parse(wrong.body()).select("#username").val()).isEqualTo(person.login());
        assertThat(Jsoup.parse(wrong.body()).select(".problem").text())
                .isEqualTo("Wrong login or password. Please try again.");
        assertThat(Jsoup.parse(get("/login").body()).select(".problem"))
                .as("said once")
                .isEmpty();
        assertThat(logIn(person.login().toUpperCase(java.util.Locale.ROOT), Office.PASSWORD)
                        .uri()
                        .getPath())
                .isEqualTo("/mail/inbox");
        assertThat(get("/rules").statusCode()).isEqualTo(200);
    }

    /** Figures as the database has them, and nothing of anybody's. */
    @Test
    void aMonitorIsToldHowItIsWithoutALogin() throws Exception {
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(office.person().id(), "MU");
        long message = cabinet.arrives(account, TestMail.from("anna@wharf.example", "Secret subject"));
        cabinet.jdbc
                .sql("insert into server_order (account_id, message_id, kind, flag, flag_on, at)"
                        + " values (?, ?, 'MARK', '\\Seen', true, now() - interval '1 hour')")
                .params(account.id(), message)
                .update();
        HttpResponse<String> health = get("/health");
        assertThat(health.statusCode()).isEqualTo(200);
        JsonNode told = JsonMapper.shared().readTree(health.body());
        assertThat(told.get("database").asString()).isEqualTo("up");
        assertThat(told.get("accounts").asInt())
                .isEqualTo(cabinet.jdbc
                        .sql("select count(*) from account")
                        .query(Integer.class)
                        .single());
        assertThat(told.get("ordersWaiting").asInt()).isPositive();
        assertThat(told.get("oldestOrderSeconds").asInt()).isGreaterThanOrEqualTo(3600);
        assertThat(health.body()).doesNotContain("Secret", "wharf");
        cabinet.jdbc
                .sql("delete from server_order where message_id = ?")
                .param(message)
                .update();
    }

    @Test
    void afterThreeWrongPasswordsTheNextTryMustWait() throws Exception {
        CurrentUser person = office.person();
        for (int i = 0; i < 3; i++) {
            logIn(person.login(), "wrong");
        }
        HttpResponse<String> right = logIn(person.login(), Office.PASSWORD);
        assertThat(right.body()).contains("Too many wrong passwords. The next try is possible in");
        office.bean(LoginStore.class).succeeded(new LoginStore.Try(person.login(), "127.0.0.1", null));
        assertThat(logIn(person.login(), Office.PASSWORD).uri().getPath()).isEqualTo("/mail/inbox");
    }

    @Test
    void oneWrongPasswordCountsOnce() throws Exception {
        CurrentUser person = office.person();
        logIn(person.login(), "wrong");
        assertThat(office.bean(LoginStore.class).failures(person.login())).contains(1);
    }

    @Test
    void anotherPasswordEndsAllOtherSessionsAndEachCanBeEnded() throws Exception {
        CurrentUser person = office.person();
        logIn(person.login(), Office.PASSWORD);
        HttpClient elsewhere = HttpClient.newBuilder()
                .cookieHandler(new java.net.CookieManager())
                .followRedirects(HttpClient.Redirect.NORMAL)
                .build();
        HttpClient here = client;
        client = elsewhere;
        logIn(person.login(), Office.PASSWORD);
        client = here;
        Document page = Jsoup.parse(get("/own-login").body());
        assertThat(page.select(".logins li")).hasSize(2);
        assertThat(page.select(".logins li").text()).containsOnlyOnce("Here.");
        String token = page.select("meta[name=csrf]").attr("content");
        assertThat(post("/own-login/password", "old=wrong&password=another%20password&_csrf=" + token)
                        .body())
                .contains("That is not your current password");
        post(
                "/own-login/password",
                "old=" + URLEncoder.encode(Office.PASSWORD, StandardCharsets.UTF_8)
                        + "&password=another%20password&_csrf=" + token);
        assertThat(Jsoup.parse(get("/own-login").body()).select(".logins li")).hasSize(1);
        client = elsewhere;
        assertThat(get("/mail/inbox").uri().getPath()).isEqualTo("/login");
        assertThat(logIn(person.login(), "another password").uri().getPath()).isEqualTo("/mail/inbox");
        client = here;
        page = Jsoup.parse(get("/own-login").body());
        post(
                "/own-login/end",
                "session=" + page.select("input[name=session]").val() + "&_csrf="
                        + page.select("meta[name=csrf]").attr("content"));
        client = elsewhere;
        assertThat(get("/mail/inbox").uri().getPath()).isEqualTo("/login");
    }

    @Test
    void aSessionEndsAfterThirtyDaysHoweverOftenItIsUsed() throws Exception {
        CurrentUser person = office.person();
        logIn(person.login(), Office.PASSWORD);
        office.bean(org.springframework.jdbc.core.simple.JdbcClient.class)
                .sql("update spring_session set creation_time = creation_time - ? where principal_name = ?")
                .params(java.time.Duration.ofDays(31).toMillis(), person.login())
                .update();
        assertThat(get("/mail/inbox").uri().getPath()).isEqualTo("/login");
    }

    @Test
    void theSessionLiesInTheDatabaseAndNothingIsDoneWithoutItsToken() throws Exception {
        CurrentUser person = office.person();
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
}
