package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Instant;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The rest of a conversation below the message that is open. */
@ExtendWith(Office.Extension.class)
class ConversationPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    ConversationPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
    }

    private long arrives(TestMail mail, int second) {
        return cabinet.arrives(
                account, mail.at(Instant.parse("2026-11-20T09:00:00Z").plusSeconds(second)));
    }

    private Document sheet(long message) {
        return browser.part("/message/" + message, "sheet").page();
    }

    @Test
    void theOthersAreALineEachTheLatestFirst() {
        long first = arrives(
                TestMail.from("Anna <anna@wharf.example>", "Crates").named("c1").saying("Where are they?"), 1);
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from(account.address(), "Re: Crates")
                        .named("c2", "c1")
                        .saying("In the <b>hall</b>.")
                        .at(Instant.parse("2026-11-20T09:00:02Z")));
        long last = arrives(
                TestMail.from("Anna <anna@wharf.example>", "Re: Crates")
                        .named("c3", "c2")
                        .saying("Thank you."),
                3);
        arrives(TestMail.from("Anna <anna@wharf.example>", "Something else").named("x1"), 4);
        assertThat(sheet(last).select(".thread h3 span").text()).isEqualTo("2 more in this conversation");
        assertThat(sheet(last).select(".other summary b").eachText()).containsExactly("You", "Anna");
        assertThat(sheet(last).select(".other .begin").eachText())
                .containsExactly("In the <b>hall</b>.", "Where are they?");
        assertThat(sheet(first).select(".other summary b").eachText()).containsExactly("Anna", "You");
        String address = sheet(first).select(".other").eachAttr("data-unfolded").get(1);
        assertThat(browser.get(address).page().select(".unfolded .text").text()).isEqualTo("In the <b>hall</b>.");
    }

    @Test
    void whoIsAloneHasNoLinesAndNobodySeesThoseOfOthers() {
        long alone = arrives(TestMail.from("Anna <anna@wharf.example>", "Alone").named("a1"), 1);
        assertThat(sheet(alone).select(".thread")).isEmpty();
        Account elsewhere = cabinet.account(office.person().id(), "XX");
        long foreign = cabinet.arrives(
                elsewhere,
                TestMail.from("Anna <anna@wharf.example>", "Re: Alone").named("a2", "a1"));
        assertThat(sheet(alone).select(".thread")).isEmpty();
        assertThat(browser.get("/message/" + foreign + "/contents").status()).isEqualTo(404);
    }

    @Test
    void ofAnEndlessConversationTheLatestAreNamed() {
        for (int i = 1; i <= 40; i++) {
            arrives(TestMail.from("Anna <anna@wharf.example>", "Re: Long").named("e" + i, "e1"), i);
        }
        long last =
                arrives(TestMail.from("Anna <anna@wharf.example>", "Re: Long").named("e99", "e1"), 99);
        assertThat(sheet(last).select(".other")).hasSize(30);
        assertThat(sheet(last).select(".thread h3 span").text()).isEqualTo("The latest 30 in this conversation");
    }
}
