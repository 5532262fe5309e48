package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.standin.AuthorisationHost;
import app.schublade.standin.DemoAccount;
import app.schublade.standin.DovecotHost;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.sync.AccountAdder;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The pages of accounts and aliases. */
@ExtendWith(Office.Extension.class)
class AccountsPagesTest {
    private final Office office;
    private final AccountStore accounts;
    private final CurrentUser person;
    private final Browser browser;

    AccountsPagesTest(Office office) {
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

    /** What a form would send as it stands, with some fields changed: names and values in turn. */
    private static Object[] filled(Document page, String form, Object... changes) {
        List<Object> fields = new ArrayList<>();
        List<Object> names = new ArrayList<>();
        for (int i = 0; i < changes.length; i += 2) {
            names.add(changes[i]);
        }
        for (Element field : page.select(form + " [name]")) {
            boolean unchecked = field.attr("type").equals("checkbox") && !field.hasAttr("checked");
            if (!unchecked
                    && !names.contains(field.attr("name"))
                    && !field.attr("name").equals("_csrf")) {
                fields.add(field.attr("name"));
                Element chosen = field.selectFirst("option[selected]");
                fields.add(chosen != null ? chosen.val() : field.val());
            }
        }
        fields.addAll(Arrays.asList(changes));
        return fields.toArray();
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
                assertThat(browser.post("/accounts", filled(found.page(), ".new-account"))
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
                                    filled(page, "form[action$=servers]", "pin", "00:11"))
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

    private Account imported(Standin hosts, String code) throws Exception {
        return office.addAndImport(person, hosts, code);
    }

    @Test
    void anAccountIsNamedOrderedAndTakenOutAgain() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(60))) {
            Account museum = imported(hosts, "MU");
            Account club = imported(hosts, "RC");
            browser.post("/accounts/" + club.id() + "/order", "up", "true");
            assertThat(all()).extracting(Account::code).containsExactly("RC", "MU");
            String page = "/accounts/" + museum.id();
            Object[] renamed = filled(
                    browser.get(page).page(),
                    "form.fields:has(textarea)",
                    "name",
                    "The museum",
                    "tone",
                    "ROSE",
                    "signature",
                    "Tilda",
                    "importSince",
                    "2024-05-01");
            assertThat(browser.post(page, renamed).header("Location")).isEqualTo(page);
            Account now = accounts.byId(museum.id()).orElseThrow();
            assertThat(now.name()).isEqualTo("The museum");
            assertThat(now.settings())
                    .isEqualTo(new Account.Settings("Tilda", java.time.LocalDate.parse("2024-05-01"), true));
            Object[] taken = filled(browser.get(page).page(), "form.fields:has(textarea)", "code", "RC");
            assertThat(browser.post(page, taken).page().select("main .problem").text())
                    .contains("Another account has the code RC");

            Document asked = browser.get(page + "/remove").page();
            int messages = Cabinet.of(office).messages(museum);
            assertThat(asked.select("main").text())
                    .contains("The museum", messages + " messages", "All its mail on its server");
            assertThat(browser.post(page + "/remove").header("Location")).isEqualTo("/accounts");
            assertThat(all()).extracting(Account::code).containsExactly("RC");
            assertThat(Cabinet.of(office).wrongCounts()).isEmpty();
            assertThat(browser.get(page).status()).isEqualTo(404);
            office.bean(AccountAdder.class).add(person.id(), Office.draft(hosts, "MU")); // Nothing is in the way of it.
        }
    }

    @Test
    void nobodyReachesTheAccountsOfOthers() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account museum = imported(hosts, "MU");
            Browser stranger = new Browser(office, office.person());
            String page = "/accounts/" + museum.id();
            for (String address : List.of(page, page + "/remove", page + "/aliases")) {
                assertThat(stranger.get(address).status()).as(address).isEqualTo(404);
            }
            for (String address : List.of(
                    page + "/remove",
                    page + "/try",
                    page + "/put-back",
                    page + "/aliases/remove?address=x@y.example")) {
                assertThat(stranger.post(address).status()).as(address).isEqualTo(404);
            }
            assertThat(all()).hasSize(1);
        }
    }

    @Test
    void anotherFolderOfTheServerCanBeItsArchive() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account museum = imported(hosts, "MU");
            Cabinet cabinet = Cabinet.of(office);
            var old = cabinet.mailbox(museum, "Old post");
            long message = cabinet.arrives(museum, old, TestMail.from("a@b.example", "Kept"));
            assertThat(cabinet.lies(person.id(), message)).isEqualTo("Old post");
            browser.post("/accounts/" + museum.id() + "/folders", "ARCHIVE", old.id());
            assertThat(cabinet.lies(person.id(), message)).isEqualTo("Archive");
            var places = office.bean(PlaceStore.class);
            long archive =
                    places.folder(person.id(), FolderPath.parse("Archive")).id();
            assertThat(office.bean(MailboxStore.class)
                            .mailboxOf(museum.id(), archive)
                            .orElseThrow()
                            .id())
                    .isEqualTo(old.id());
            assertThat(cabinet.wrongCounts()).isEmpty();
            assertThat(browser.post("/accounts/" + museum.id() + "/folders", "ARCHIVE", old.id(), "SENT", old.id())
                            .notice())
                    .contains("cannot be for two things");
        }
    }

    @Test
    void refusedOrdersCanBePutBack() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account museum = imported(hosts, "MU");
            office.bean(Synchroniser.class).forget(museum.id());
            Cabinet cabinet = Cabinet.of(office);
            long message = cabinet.arrives(museum, TestMail.from("a@b.example", "Stuck"));
            long target = cabinet.folder(person.id(), "Locked").id();
            office.bean(FilingStore.class)
                    .act(person.id(), Cause.HAND, "x", List.of(message), state -> state.in(target));
            OrderStore orders = office.bean(OrderStore.class);
            orders.refused(
                    orders.next(museum.id(), 10).stream()
                            .map(OrderStore.ServerOrder::id)
                            .toList(),
                    "You have no right.");
            Document page = browser.get("/accounts/" + museum.id()).page();
            assertThat(page.select("main").text()).contains("Stuck", "You have no right.");
            browser.post("/accounts/" + museum.id() + "/put-back");
            assertThat(cabinet.lies(person.id(), message)).isEqualTo("Inbox");
            assertThat(orders.ahead(List.of(message))).isEmpty();
            assertThat(cabinet.wrongCounts()).isEmpty();
        }
    }

    @Test
    void aliasesAreLearnedNotedAndRetired() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account museum = imported(hosts, "MU");
            Cabinet cabinet = Cabinet.of(office);
            String ferry = "ferry@lanternquay.example";
            long first = cabinet.arrives(
                    museum, TestMail.from("mail@ferry.example", "Tickets").to(ferry));
            cabinet.arrives(
                    museum, TestMail.from("sale@elsewhere.example", "Bargain").to(ferry));
            cabinet.arrives(museum, TestMail.from("a@b.example", "Not mine").to("other@lanternquay.example"));
            String page = "/accounts/" + museum.id() + "/aliases";
            assertThat(browser.get(page).page().select(".proposals li").eachText())
                    .satisfiesExactly(
                            one -> assertThat(one).contains(ferry, "2 messages"),
                            other -> assertThat(other).contains("other@lanternquay.example", "1 message"));
            browser.post(page + "/decline", "address", "other@lanternquay.example");
            browser.post(page, "address", ferry, "note", "the ferry line");
            Document shown = browser.get(page + "?of=" + URLEncoder.encode(ferry, StandardCharsets.UTF_8))
                    .page();
            assertThat(shown.select(".proposals")).isEmpty();
            assertThat(shown.select(".alias-row").text()).contains(ferry, "the ferry line", "2", "2 domains");
            assertThat(shown.select(".decide").text()).contains("may have leaked");
            assertThat(shown.select(".writers li").eachText())
                    .satisfiesExactly(
                            one -> assertThat(one).contains("mail@ferry.example", "wrote first"),
                            other -> assertThat(other).contains("sale@elsewhere.example", "somebody else"));
            assertThat(cabinet.messages.row(person.id(), first).orElseThrow().alias())
                    .isEqualTo(ferry);

            browser.post(page + "/retire", "address", ferry, "folder", "Leaked");
            Await.until("the worker knows", () -> office.state(museum.id()) == Account.AccountState.CONNECTED);
            hosts.deliver(
                    "sale@elsewhere.example",
                    DemoAccount.byCode("MU").orElseThrow().address(),
                    "Plain",
                    "Hello");
            browser.post(page + "/remove", "address", ferry);
            assertThat(browser.get(page).page().select(".alias-row").text()).doesNotContain(ferry);
            assertThat(browser.post(page, "address", "no address").notice()).contains("is not an address");
            assertThat(browser.post(page, "address", "*@*").notice()).contains("is not an address");
        }
    }

    @Test
    void mailToARetiredAliasGoesWhereTheUserSays() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account museum = imported(hosts, "MU");
            String page = "/accounts/" + museum.id() + "/aliases";
            browser.post(page, "address", "schools@*.example".replace("*", "lanternquay"), "note", "teachers");
            browser.post(page + "/retire", "address", "schools@lanternquay.example", "folder", "Retired post");
            office.bean(Synchroniser.class).serve(accounts.byId(museum.id()).orElseThrow());
            hosts.deliver("anna@westwharf.example", "schools@lanternquay.example", "Too late", "Hello");
            Cabinet cabinet = Cabinet.of(office);
            Await.until(
                    "it is filed",
                    () -> cabinet.counts(person.id(), "Retired post").equals("1/1"));
            String row = browser.get("/mail/folder/"
                            + cabinet.folder(person.id(), "Retired post").id())
                    .text();
            assertThat(row).contains("Too late");
        }
    }

    @Test
    void theLogTellsWhatHappened() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account museum = imported(hosts, "MU");
            String page = "/accounts/" + museum.id();
            assertThat(browser.get(page).page().select(".log").text()).contains("Connected to 127.0.0.1");
            hosts.setOffline("MU", true);
            Await.until("away", () -> office.state(museum.id()) == Account.AccountState.AWAY);
            Document away = browser.get(page).page();
            assertThat(away.select(".state").text()).matches(".*Away since \\d\\d:\\d\\d, next try at \\d\\d:\\d\\d.*");
            hosts.setOffline("MU", false);
            browser.post(page + "/try");
            Await.until("connected", () -> office.state(museum.id()) == Account.AccountState.CONNECTED);
        }
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
            Document leave = browser.post("/accounts/sign-in", filled(found, ".new-account"))
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
