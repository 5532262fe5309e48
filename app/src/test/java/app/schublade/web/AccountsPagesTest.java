package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.standin.DemoAccount;
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
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Accounts as they are lived with: named, ordered, taken out, their aliases and their log. */
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
            Object[] renamed = Browser.filled(
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
            Object[] taken = Browser.filled(browser.get(page).page(), "form.fields:has(textarea)", "code", "RC");
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
}
