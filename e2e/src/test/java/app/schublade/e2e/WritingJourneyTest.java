package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.store.account.Account;
import app.schublade.store.account.AliasStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.function.BiConsumer;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Letters from their first word until they are on their way, with all that goes along. */
@ExtendWith(Office.Extension.class)
class WritingJourneyTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Account account;

    WritingJourneyTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        account = cabinet.account(person.id(), "MU", "loans@quay.example");
        // Nothing leaves: its server is not asked in the time that this takes.
        cabinet.canSend(account.id());
    }

    private void desk(BiConsumer<Desk, Window> work) {
        try (Window window = new Window(office)) {
            work.accept(window.logIn(person, Office.PASSWORD), window);
        }
    }

    private Outgoing latest() {
        return cabinet.outgoing.of(person.id()).get(0);
    }

    private ParsedMail sent() {
        return MimeReader.read(cabinet.sending.source(latest().id()).orElseThrow());
    }

    @Test
    void anAnswerWithAFile() {
        cabinet.arrives(
                account, TestMail.from("Anna <anna@wharf.example>", "Crates").to("loans@quay.example"));
        desk((desk, window) -> {
            desk.open("Crates").press("r");
            Composer answer = new Composer(window.page).isOpen();
            desk.type("The list is attached.");
            window.page
                    .locator("[data-files-to] input[type=file]")
                    .setInputFiles(new FilePayload("list.csv", "text/csv", "a;b".getBytes(StandardCharsets.UTF_8)));
            assertThat(window.page.locator("#files small")).hasCount(1);
            answer.text.press("Control+Enter");
            desk.says("Sent in 10 seconds");
            answer.isClosed();
            assertThat(sent().subject()).isEqualTo("Re: Crates");
            assertThat(sent().attachments()).singleElement().satisfies(file -> {
                assertThat(file.name()).isEqualTo("list.csv");
                assertThat(new String(file.content(), StandardCharsets.UTF_8)).isEqualTo("a;b");
            });
        });
    }

    @Test
    void anAddressForOneCorrespondentIsMadeAndAnswersGoFromIt() {
        office.bean(AliasStore.class).add(account, "*@quay.example", "", "");
        desk((desk, window) -> {
            desk.press("w");
            window.page.waitForURL(Pattern.compile(".*/write/\\d+"));
            Composer letter = new Composer(window.page).goesTo("Anna <anna@wharf.example>");
            Locator from = window.page.locator("#compose-from option:checked");
            assertThat(from).containsText(account.address());
            window.page.locator("[data-makes-address]").click();
            assertThat(from).containsText(Pattern.compile("^wharf-....@quay\\.example"));
            desk.says("for this correspondent alone");
            String made = from.textContent().split(" ", 2)[0];
            letter.subject.fill("Offer");
            letter.text.fill("Please send it here.");
            letter.text.press("Control+Enter");
            desk.says("Sent in 10 seconds");
            assertThat(sent().from().email()).isEqualTo(made);

            cabinet.arrives(
                    cabinet.accounts.byId(account.id()).orElseThrow(),
                    TestMail.from("Anna <anna@wharf.example>", "Re: Offer")
                            .to(made)
                            .at(Instant.now()));
            desk.goTo("Archive").goTo("Inbox").open("Re: Offer");
            assertThat(window.page.locator("#sheet .who")).containsText("given to anna@wharf.example");
            desk.press("r");
            new Composer(window.page).isOpen();
            assertThat(from).containsText(made);
        });
    }

    @Test
    void whatAnotherProgramHasLeftIsContinuedByItsKey() {
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Drafts"),
                TestMail.from("loans@quay.example", "Half a letter")
                        .to("anna@wharf.example")
                        .saying("Half a sen"));
        desk((desk, window) -> {
            desk.goTo("Drafts").open("Half a letter").press("r");
            window.page.waitForURL(Pattern.compile(".*/write/\\d+"));
            assertThat(window.page.locator("#compose .recipient")).hasText(Pattern.compile("anna@wharf\\.example"));
            assertThat(window.page.locator("textarea[name=body]")).hasValue(Pattern.compile("Half a sen"));
            desk.press("Escape");
            assertThat(window.page.locator("#rows")).isFocused();
            assertThat(cabinet.outgoing.of(person.id()))
                    .as("it was only looked at")
                    .isEmpty();
        });
    }

    @Test
    void twoMessagesAreForwardedTogether() {
        cabinet.arrives(
                account, TestMail.from("Anna <anna@wharf.example>", "Crate one").to("loans@quay.example"));
        cabinet.arrives(
                account, TestMail.from("Ben <ben@wharf.example>", "Crate two").to("loans@quay.example"));
        desk((desk, window) -> {
            desk.open("Crate two").press("Shift+ArrowDown", "o");
            window.page.waitForURL(Pattern.compile(".*/write/\\d+"));
            Composer letter = new Composer(window.page).goesTo("Cy <cy@pier.example>");
            letter.text.press("Control+Enter");
            desk.says("Sent in 10 seconds");
            assertThat(latest().text().to()).isEqualTo("Cy <cy@pier.example>");
            assertThat(sent().attachments())
                    .hasSize(2)
                    .allMatch(file -> file.type().equals("message/rfc822"))
                    .extracting(file -> MimeReader.read(file.content()).subject())
                    .containsExactlyInAnyOrder("Crate one", "Crate two");
        });
    }

    @Test
    void anAnswerToAllIsMendedWhereAnAddressIsWrong() {
        cabinet.arrives(
                account,
                TestMail.from("Anna <anna@wharf.example>", "All of you")
                        .to("loans@quay.example, Ben <ben@wharf.example>, nobody@"));
        desk((desk, window) -> {
            desk.open("All of you").press("y");
            Composer answer = new Composer(window.page).isOpen();
            desk.type("See you.");
            answer.text.press("Control+Enter");
            desk.says("“nobody@” is not an address");
            answer.recipients
                    .filter(new Locator.FilterOptions().setHasText("nobody@"))
                    .locator(".out")
                    .click();
            answer.text.press("Control+Enter");
            desk.says("Sent in 10 seconds");
            assertThat(latest().text().to() + latest().text().cc())
                    .contains("anna@wharf.example", "ben@wharf.example")
                    .doesNotContain("loans@quay.example", "nobody");
            assertThat(sent().references()).isNotEmpty();
        });
    }
}
