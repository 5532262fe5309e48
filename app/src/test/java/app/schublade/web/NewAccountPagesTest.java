package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.AuthorisationHost;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.DovecotHost;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.Arrays;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** An account is added: its servers found, looked at and trusted. */
@ExtendWith(Office.Extension.class)
class NewAccountPagesTest {
    private final Office office;
    private final AccountStore accounts;
    private final CurrentUser person;
    private final Browser browser;

    NewAccountPagesTest(Office office) {
        this.office = office;
        accounts = office.bean(AccountStore.class);
        person = office.person();
        browser = new Browser(office, person);
    }

    @AfterEach
    void forget() {
        accounts.of(person.id())
                .forEach(account -> office.bean(Synchroniser.class).forget(account.id()));
    }

    private List<Account> all() {
        return accounts.of(person.id());
    }

    @Test
    void aNewcomerAddsTheDemoAccountsByAddressAndPasswordAlone() {
        try (Standin hosts = new Standin(Standin.Options.forTests(40))) {
            office.publishes(hosts);
            for (DemoAccount demo : DemoAccount.ALL) {
                Browser.Answer found =
                        browser.post("/accounts/find", "address", demo.address(), "password", DemoAccount.PASSWORD);
                assertThat(found.page().select(".found .works")).hasSize(2);
                assertThat(found.text()).doesNotContain('"' + DemoAccount.PASSWORD + '"');
                assertThat(browser.post("/accounts", Browser.filled(found.page(), ".new-account"))
                                .header("Location"))
                        .isEqualTo("/mail/inbox");
            }
            assertThat(all())
                    .extracting(Account::address)
                    .containsExactlyElementsOf(
                            DemoAccount.ALL.stream().map(DemoAccount::address).toList());
            assertThat(all()).allSatisfy(account -> {
                assertThat(account.hosts().sending()).isNotNull();
                Await.until("imported", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            });
        }
    }

    @Test
    void nothingIsKeptBeforeTheServersLetSchubladeInAndNothingTypedIsLost() {
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
                "tone",
                "PLUM",
                "protocol",
                "IMAP",
                "host",
                "127.0.0.1",
                "port",
                hosts.imapPort("TS"),
                "encryption",
                "NONE",
                "login",
                "desk@northlights-tour.example",
                "outHost",
                "",
                "outPort",
                "465",
                "outEncryption",
                "TLS"
            };
            for (List<String> change : List.of(
                    List.of("password", "wrong", "refused the password"),
                    List.of("port", "1", "cannot be reached"),
                    List.of("port", "many", "The port is a number"),
                    List.of("code", "TOO", "two letters"),
                    List.of("address", "nobody", "needs one @"),
                    List.of("outHost", "mail.quay.example", "no server of that name"),
                    List.of("host", " ", "Please enter the mail server"))) {
                Object[] bad = good.clone();
                bad[List.of(bad).indexOf(change.get(0)) + 1] = change.get(1);
                Document page = browser.post("/accounts", bad).page();
                assertThat(page.select(".add .problem").text()).contains(change.get(2));
                assertThat(page.select(".add [name=name]").val()).isEqualTo("Tour");
            }
            assertThat(all()).isEmpty();
            assertThat(browser.post("/accounts", good).header("Location")).isEqualTo("/mail/inbox");
            assertThat(browser.post("/accounts", good).text()).contains("this address or this code already");
            assertThat(browser.get("/accounts").text()).contains("Tour").doesNotContain("lantern\"");
        }
    }

    @Test
    void aWrongPasswordIsToldApartFromServersThatAreNotThere() {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            office.publishes(hosts);
            Document refused = browser.post(
                            "/accounts/find", "address", "desk@northlights-tour.example", "password", "wrong")
                    .page();
            assertThat(refused.select(".found").text()).contains("refuses the password");
            assertThat(refused.select(".wrong").text()).contains("refused");
            Document nothing = browser.post("/accounts/find", "address", "a@nowhere.example", "password", "x")
                    .page();
            assertThat(nothing.select(".add .problem").text()).contains("No server was found");
            assertThat(nothing.select("details.servers").hasAttr("open")).isTrue();
        }
    }

    @Test
    void aCertificateThatNobodyVouchesForIsShownAndPinned() {
        try (DovecotHost server = DovecotHost.start(DovecotHost.Shape.DOT)) {
            Object[] fields = {
                "address",
                "tilda@quay.example",
                "password",
                DovecotHost.PASSWORD,
                "name",
                "Quay",
                "code",
                "QU",
                "tone",
                "MOSS",
                "protocol",
                "IMAP",
                "host",
                "localhost",
                "port",
                server.imapTlsPort(),
                "encryption",
                "TLS",
                "login",
                server.user()
            };
            Document shown = browser.post("/accounts", fields).page();
            assertThat(shown.select(".decide").text()).contains("mail.quay.example");
            String fingerprint = shown.select(".decide input[name=pin]").val();
            assertThat(fingerprint)
                    .isEqualTo(shown.select(".fingerprint").text())
                    .hasSize(95);
            assertThat(all()).isEmpty();
            Object[] pinned = Arrays.copyOf(fields, fields.length + 2);
            pinned[fields.length] = "pin";
            pinned[fields.length + 1] = fingerprint;
            assertThat(browser.post("/accounts", pinned).header("Location")).isEqualTo("/mail/inbox");
            Account account = all().get(0);
            assertThat(account.host().pin()).isEqualTo(fingerprint);
            Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            Document page = browser.get("/accounts/" + account.id()).page();
            assertThat(browser.post(
                                    "/accounts/" + account.id() + "/servers",
                                    Browser.filled(page, "form[action$=servers]", "pin", "00:11"))
                            .page()
                            .select(".decide")
                            .text())
                    .contains("No trusted authority");
            assertThat(accounts.byId(account.id()).orElseThrow().host().pin()).isEqualTo(fingerprint);
        }
    }

    @Test
    void aConnectionWithoutEncryptionNeedsTheUsersWord() {
        Object[] fields = {
            "address",
            "tilda@quay.example",
            "password",
            "x",
            "name",
            "Quay",
            "code",
            "QU",
            "tone",
            "MOSS",
            "protocol",
            "IMAP",
            "host",
            "mail.quay.example",
            "port",
            "143",
            "encryption",
            "NONE"
        };
        Document asked = browser.post("/accounts", fields).page();
        assertThat(asked.select(".decide").text()).contains("Without encryption, anyone on the way");
        Object[] agreed = Arrays.copyOf(fields, fields.length + 2);
        agreed[fields.length] = "plainAgreed";
        agreed[fields.length + 1] = "true";
        assertThat(browser.post("/accounts", agreed)
                        .page()
                        .select(".add .problem")
                        .text())
                .as("it is tried now")
                .contains("no server of that name");
    }

    private static String follow(String address) throws Exception {
        HttpResponse<Void> answer = HttpClient.newHttpClient()
                .send(HttpRequest.newBuilder(URI.create(address)).build(), HttpResponse.BodyHandlers.discarding());
        URI back = URI.create(answer.headers().firstValue("Location").orElseThrow());
        return back.getPath() + "?" + back.getRawQuery();
    }

    @Test
    void anAccountWhoseServerWantsATokenIsSignedInToAndRenewed() throws Exception {
        try (AuthorisationHost authorisation = new AuthorisationHost();
                DovecotHost server = DovecotHost.startFor(authorisation)) {
            String address = server.user() + "@tokens.example";
            office.publishes("https://tokens.example/.well-known/autoconfig/mail/config-v1.1.xml", """
                    <clientConfig version="1.1">
                      <oAuth2><authURL>%s/authorise</authURL><tokenURL>%s/token</tokenURL><scope>mail</scope></oAuth2>
                      <emailProvider id="tokens.example"><incomingServer type="imap"><hostname>localhost</hostname>
                        <port>%d</port><socketType>plain</socketType><username>%%EMAILLOCALPART%%</username>
                        <authentication>OAuth2</authentication></incomingServer></emailProvider>
                    </clientConfig>
                    """.formatted(
                            authorisation.address(), authorisation.address(), server.imapPort()));
            Document found = browser.post("/accounts/find", "address", address, "password", "of no use")
                    .page();
            assertThat(found.select(".found").text()).contains("wants you to sign in");
            Document leave = browser.post("/accounts/sign-in", Browser.filled(found, ".new-account"))
                    .page();
            String away = leave.select("a.go").attr("href");
            assertThat(away).startsWith(authorisation.address()).contains("code_challenge_method=S256", "state=");
            assertThat(browser.get("/accounts/signed-in?code=x&state=forged").status())
                    .isEqualTo(422);
            assertThat(browser.get(follow(away)).header("Location")).isEqualTo("/accounts");
            Account account = all().get(0);
            Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            assertThat(authorisation.refreshed()).isEqualTo(1);

            authorisation.expireAccess(); // The token is refused before its time; another one does.
            office.bean(Synchroniser.class).serve(account);
            Await.until("renewed", () -> authorisation.refreshed() == 2);
            Await.until("connected again", () -> office.state(account.id()) == Account.AccountState.CONNECTED);

            authorisation.revoke();
            office.bean(Synchroniser.class).serve(account);
            Await.until("the user is asked", () -> office.state(account.id()) == Account.AccountState.LOGIN_REFUSED);
            String page = "/accounts/" + account.id();
            assertThat(browser.get(page).page().select("main").text()).contains("Sign in again");
            String again = browser.post(page + "/sign-in").page().select("a.go").attr("href");
            browser.get(follow(again));
            Await.until("signed in again", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
            assertThat(all()).hasSize(1);
        }
    }
}
