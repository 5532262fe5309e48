package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.PartRole;
import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.OutgoingStore.OutgoingState;
import app.schublade.store.outgoing.SavedTextStore;
import app.schublade.sync.Synchroniser;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import java.io.ByteArrayOutputStream;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Messages are answered where they are read, put aside half-written, taken up again and sent. */
@ExtendWith(Office.Extension.class)
class AnswerJourneyTest {
    private final Office office;
    private final Cabinet cabinet;
    private CurrentUser person;

    AnswerJourneyTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
    }

    @BeforeEach
    void begin() {
        person = office.person();
    }

    private static Pattern beginsWith(String text) {
        return Pattern.compile("^" + text.replaceAll("([.*?|/•])", "\\\\$1"));
    }

    @Test
    void anAnswerIsWrittenPutAsideAndSent() throws Exception {
        try (Standin hosts = new Standin(Standin.Options.forTests(30));
                Window window = new Window(office)) {
            hosts.deliver("ottoline@grebe.example", "loans@lanternquay.example", "Crack in the deck", "Dear Tilda,");
            Account account = office.addAndImport(person, hosts, "MU");
            Page page = window.page;
            Desk desk = window.logIn(person, Office.PASSWORD).open("Crack in the deck");
            Composer answer = new Composer(page);
            desk.press("r");
            answer.isOpen().isBelowTheMessage();
            assertThat(page.getByLabel("From").locator("option:checked")).containsText("loans@lanternquay.example");
            desk.type("It will be seen to.").press("Escape");
            assertThat(page.locator("#rows")).isFocused();
            assertThat(page.locator("#answer")).containsText("You began an answer");
            assertThat(page.locator("#place-outgoing")).containsText("1");
            page.evaluate("const reply = document.querySelector('[data-key=r]'); reply.click(); reply.click();");
            // The draft goes on, and there is one of it.
            assertThat(answer.text).containsText(beginsWith("It will be seen to."));
            assertThat(cabinet.outgoing.of(person.id())).hasSize(1);
            page.context().setOffline(true);
            answer.text.press("Home");
            desk.type("Soon. ");
            desk.says("No connection");
            page.context().setOffline(false);
            window.wasOffline();
            desk.says("The connection is back");
            assertThat(cabinet.outgoing.of(person.id()).get(0).text().body()).startsWith("Soon. It will");
            Await.until(
                    "it lies on the server, too", () -> drafts(account).equals(List.of("Soon. It will be seen to.")));
            desk.press("Enter", "Control+b").type("Two").press("Control+b", "Control+Enter");
            assertThat(page.locator("#rows")).isFocused();
            desk.says("Sent in 10 seconds");
            answer.isClosed();
            desk.press("z");
            assertThat(answer.text).containsText(beginsWith("Soon."));
            answer.text.press("Control+Enter");
            desk.says("Sent in 10 seconds");
            Await.until("it is sent", () -> !hosts.sentElsewhere().isEmpty());
            ByteArrayOutputStream source = new ByteArrayOutputStream();
            hosts.sentElsewhere().get(0).writeTo(source);
            ParsedMail mail = MimeReader.read(source.toByteArray());
            assertThat(mail.subject()).isEqualTo("Re: Crack in the deck");
            assertThat(mail.html()).contains("<b>Two</b>").contains("<blockquote><p>Dear Tilda,</p></blockquote>");
            assertThat(mail.text()).contains("> Dear Tilda,");
            desk.goTo("Sent").lists("Re: Crack in the deck");
            Await.until("its draft is gone from there", () -> drafts(account).isEmpty());
            office.bean(Synchroniser.class).forget(account.id());
        }
    }

    /** The first lines of the drafts on the account's server, as they are known here. */
    private List<String> drafts(Account account) {
        return cabinet.jdbc.sql("""
                        select split_part(trim(e'\\n' from t.body), e'\\n', 1) from message m join message_text t on t.message_id = m.id
                            join folder f on f.id = m.folder_id where m.account_id = ? and f.use = 'DRAFTS'
                        """).param(account.id()).query(String.class).list();
    }

    /** Nothing leaves: its server is not asked in the time that this takes. */
    private Account account() {
        Account account = cabinet.account(person.id(), "MU", "loans@quay.example");
        cabinet.canSend(account.id());
        return account;
    }

    private void letters(Account account) {
        Instant first = Instant.now().minus(Duration.ofHours(1));
        for (int i = 1; i <= 3; i++) {
            cabinet.arrives(
                    account,
                    TestMail.from("Anna <anna@wharf.example>", "Letter " + i)
                            .to("loans@quay.example")
                            .at(first.minusSeconds(60L * i))
                            .saying("Number " + i + " of three."));
        }
    }

    /** What is done while the answer to the first of three letters is open. */
    private void answering(Account account, BiConsumer<Desk, Composer> work) {
        letters(account);
        try (Window window = new Window(office)) {
            Desk desk = window.logIn(person, Office.PASSWORD).open("Letter 1");
            desk.press("r");
            work.accept(desk, new Composer(window.page).isOpen());
        }
    }

    private Outgoing latest() {
        return cabinet.outgoing.of(person.id()).get(0);
    }

    @Test
    void theNextMessageIsOpenWhenOneIsAnswered() {
        letters(account());
        try (Window window = new Window(office)) {
            Desk desk = window.logIn(person, Office.PASSWORD).open("Letter 1");
            Composer answer = new Composer(window.page);
            desk.press("r");
            answer.isOpen();
            desk.press("Escape");
            answer.isClosed();
            assertThat(window.page.locator("#answer")).isEmpty();
            assertThat(cabinet.outgoing.of(person.id()))
                    .as("nothing was written")
                    .isEmpty();

            desk.press("r");
            answer.isOpen();
            desk.type("Yes.").press("Control+Enter");
            desk.showsMessage("Letter 2");
            assertThat(window.page).hasURL(Pattern.compile(".*/mail/inbox.*"));
            desk.press("r");
            answer.isOpen();
            desk.type("No.").press("Control+Shift+Enter");
            desk.showsMessage("Letter 3").listsNot("Letter 2").lists("Letter 1");
            assertThat(cabinet.outgoing.of(person.id()))
                    .extracting(one -> one.text().subject())
                    .containsExactly("Re: Letter 2", "Re: Letter 1");
        }
    }

    private void sendsLater(Page page, String when) {
        page.locator(".send-later summary").click();
        page.locator(".send-later button:has-text('" + when + "')").first().click();
    }

    @Test
    void whatIsSentLaterLeavesLaterAndIsChangedUntilThen() {
        answering(account(), (desk, answer) -> {
            desk.type("Soon.");
            sendsLater(answer.page, "Monday");
            desk.says("Leaves on").showsMessage("Letter 2");
            assertThat(latest().state()).isEqualTo(OutgoingState.WAITING);
            assertThat(latest().dueAt()).isAfter(Instant.now().plus(Duration.ofHours(1)));

            answer.page.navigate(office.address() + "/outgoing");
            answer.page.locator("form[action$='/recall'] button").click();
            assertThat(answer.text).containsText(beginsWith("Soon."));
            answer.text.press("Home");
            desk.type("Very ");
            sendsLater(answer.page, "Tomorrow");
            desk.says("Leaves on");
            assertThat(latest().text().body()).startsWith("Very Soon.");
            assertThat(latest().state()).isEqualTo(OutgoingState.WAITING);
            assertThat(cabinet.outgoing.of(person.id())).hasSize(1);
        });
    }

    /** In the middle of a word, and before it could be kept. */
    @Test
    void whoGoesOnToAnotherMessageLosesNothing() {
        answering(account(), (desk, answer) -> {
            desk.type("Half a ").press("Control+b").type("word");
            desk.open("Letter 2");
            answer.isClosed();
            Await.until(
                    "it is kept", () -> String.valueOf(latest().text().html()).contains("<b>word</b>"));
            desk.open("Letter 1").press("r");
            assertThat(answer.text.locator("b")).hasText("word");
            assertThat(cabinet.outgoing.of(person.id())).hasSize(1);
        });
    }

    @Test
    void recipientsAreTakenAsTheyComeAndWrongOnesSaidAtOnce() {
        letters(account());
        try (Window window = new Window(office)) {
            Desk desk = window.logIn(person, Office.PASSWORD).open("Letter 1");
            Page page = window.page;
            Composer letter = new Composer(page);
            desk.press("w");
            assertThat(letter.to).isFocused();
            desk.type("ben@wharf.example, ")
                    .type("\"Grebe, Ottoline\" <o@grebe.example>;")
                    .type("Lenders: cy@a.example, dee@b.example;")
                    .type("nobody")
                    .press("Enter");
            desk.says("“nobody” is not an address");
            assertThat(letter.recipients).hasText(new String[] {
                "ben@wharf.example×", "Grebe, Ottoline×", "cy@a.example×", "dee@b.example×", "nobody×"
            });
            desk.press("Backspace"); // It is typed anew.
            assertThat(letter.to).hasValue("nobody");
            desk.type("@wharf.example").press("Enter");
            letter.recipients.nth(2).locator(".out").click();
            assertThat(letter.to).isFocused();
            page.getByText("Cc, Bcc").click();
            desk.type("eve@wharf.example");
            letter.subject.fill("To many");
            desk.press("Control+Enter").says("Sent in 10 seconds");
            assertThat(latest().text().to())
                    .isEqualTo(
                            "ben@wharf.example, \"Grebe, Ottoline\" <o@grebe.example>, dee@b.example, nobody@wharf.example");
            assertThat(latest().text().cc()).isEqualTo("eve@wharf.example");
        }
    }

    @Test
    void theMessageThatIsAnsweredStaysWhateverHappensToIt() {
        Account account = account();
        letters(account);
        try (Window window = new Window(office)) {
            Desk desk = window.logIn(person, Office.PASSWORD).open("Letter 1");
            Composer answer = new Composer(window.page);
            desk.press("r");
            answer.isOpen();
            desk.type("I am writing");
            Desk other = new Desk(window.another("/mail/inbox"));
            other.open("Letter 1").press("a");
            desk.listsNot("Letter 1").showsMessage("Letter 1");
            cabinet.arrives(
                    account, TestMail.from("Ben <ben@wharf.example>", "News").at(Instant.now()));
            desk.type(" on.");
            assertThat(answer.text).containsText("I am writing on.");
            desk.press("Control+Enter").says("Sent in 10 seconds");
            assertThat(latest().text().body()).startsWith("I am writing on.");
        }
    }

    @Test
    void theSignatureFollowsTheAddress() {
        Account account = account();
        cabinet.jdbc
                .sql("update account set signature = E'Tilda\\nMuseum' where id = ?")
                .param(account.id())
                .update();
        cabinet.jdbc
                .sql("update alias set signature = 'Loans office' where account_id = ?")
                .param(account.id())
                .update();
        answering(account, (desk, answer) -> {
            Page page = answer.page;
            desk.type("Yes.");
            Locator from = page.locator("#compose [name=from]");
            assertThat(answer.text).containsText("-- Loans office");
            from.selectOption(new SelectOption().setIndex(0));
            assertThat(answer.text.locator("> p").nth(1)).hasText(Pattern.compile("--\\s*Tilda\\s*Museum"));
            assertThat(answer.text).not().containsText("Loans office");
            answer.formatted("plain");
            Locator plain = page.locator("#compose textarea");
            assertThat(plain).isFocused();
            assertThat(plain).hasValue(Pattern.compile("^Yes.\\n\\n-- \\nTilda\\nMuseum\\n"));
            from.selectOption(new SelectOption().setIndex(1));
            assertThat(plain).hasValue(Pattern.compile("^Yes.\\n\\n-- \\nLoans office\\n\\nOn "));
        });
    }

    @Test
    void whatIsPastedIsHarmless() {
        answering(account(), (desk, answer) -> {
            Page page = answer.page;
            page.evaluate("""
                    () => {
                      const data = new DataTransfer();
                      data.setData('text/html', `<meta><style>p{color:red}</style><p style="color:red" onclick="x()">A <span style="font-weight:700">bold</span> word
                        <img src=x onerror="document.title='caught'"><script>document.title='caught'</` + `script><a href="javascript:document.title='caught'">here</a></p>
                        <svg onload="document.title='caught'"></svg>` + '<b>'.repeat(3000) + 'deep');
                      data.setData('text/plain', 'A bold word');
                      document.querySelector('.editor').dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
                    }
                    """);
            assertThat(answer.text).containsText("A bold word");
            assertThat(answer.text.locator("script, img, svg, [style], [onclick], a[href^=javascript]"))
                    .hasCount(0);
            assertThat(answer.text.locator("b").first()).hasText("bold");
            assertThat(page).not().hasTitle("caught");
            assertThat(page.locator(".kept")).containsText("kept");
            assertThat(latest().text().html()).contains("<b>bold</b>").doesNotContain("caught", "style");
        });
    }

    @Test
    void formattingIsByKeysAndButtonsAndCanBeLeft() {
        answering(account(), (desk, answer) -> {
            Page page = answer.page;
            desk.type("Measures").press("Enter");
            answer.formatted("list");
            desk.type("one").press("Enter").type("two").press("Enter", "Enter").type("See ");
            answer.formatted("link");
            desk.type("wharf.example/list").press("Enter");
            Locator text = answer.text;
            assertThat(text.locator("ul > li")).hasText(new String[] {"one", "two"});
            assertThat(text.locator("a")).hasAttribute("href", "https://wharf.example/list");
            assertThat(text).isFocused();
            answer.formatted("plain");
            Locator plain = page.locator("#compose textarea");
            assertThat(plain).isFocused();
            assertThat(plain.inputValue()).startsWith("Measures\n\n• one\n• two\n\nSee wharf.example/list");
            assertThat(text).hasCount(0);
            assertThat(page.locator("[data-format=bold]")).isHidden();
            assertThat(page.locator("[data-format=plain]")).hasAttribute("aria-pressed", "true");
            desk.press("Control+Enter").says("Sent in 10 seconds");
            assertThat(latest().text().html()).isNull();
        });
    }

    @Test
    void twoWindowsOnOneMessageAreToldOfEachOther() {
        answering(account(), (desk, here) -> {
            desk.type("From here.");
            Await.until("it is kept", () -> latest().text().body().startsWith("From here."));
            Page second = here.page.context().newPage();
            second.navigate(office.address() + "/write/" + latest().id());
            Composer there = new Composer(second).isOpen();
            assertThat(there.text).containsText(beginsWith("From here."));
            second.keyboard().type("From there. ");
            assertThat(here.page.locator(".elsewhere")).containsText("changed in another window");

            here.page.bringToFront();
            here.text.press("Home");
            desk.type("Both. ");
            desk.press("Control+Enter");
            assertThat(here.text).containsText(beginsWith("Both. From here."));
            assertThat(latest().text().body()).startsWith("From there. From here.");
            here.page.reload();
            desk.press("r");
            assertThat(here.text).containsText(beginsWith("Both. From here."));
            assertThat(here.page.locator(".elsewhere")).containsText("changed in another window");
            here.page.locator("[data-shows-elsewhere]").click();
            assertThat(here.text).containsText(beginsWith("From there. From here."));
            assertThat(here.page.locator(".elsewhere")).hasCount(0);

            here.text.press("Home");
            desk.type("Here again. ");
            assertThat(there.page.locator(".elsewhere")).containsText("changed in another window");
            there.page.locator("[data-keeps-here]").click();
            assertThat(there.page.locator(".elsewhere")).hasCount(0);
            Await.until("written over", () -> latest().text().body().startsWith("From there. From here."));
            here.page.locator("[data-shows-elsewhere]").click();
            assertThat(here.text).containsText(beginsWith("From there. From here."));
            here.text.press("Control+Enter");
            desk.says("Sent in 10 seconds");
            assertThat(there.page.locator(".elsewhere")).containsText("sent in another window");
            there.page.locator("[data-keeps-here]").click();
            there.page.waitForURL(
                    address -> address.endsWith("/write/" + latest().id()) && cabinet.outgoing.count(person.id()) == 2);
            assertThat(there.text).containsText(beginsWith("From there. From here."));
        });
    }

    private static final String PASTES_A_PICTURE = """
            async () => {
              const canvas = new OffscreenCanvas(900, 60);
              canvas.getContext('2d').fillRect(0, 0, 900, 60);
              const data = new DataTransfer();
              data.items.add(new File([await canvas.convertToBlob()], 'image.png', { type: 'image/png' }));
              document.querySelector('.editor').dispatchEvent(
                new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
            }
            """;

    @Test
    void aPictureIsPastedIntoTheText() {
        answering(account(), (desk, answer) -> {
            Locator picture = answer.text.locator("img");
            desk.type("This one: ");
            answer.page.evaluate(PASTES_A_PICTURE);
            assertThat(picture).hasAttribute("width", "640");
            assertThat(answer.page.locator("#files li")).hasCount(0);
            Await.until(
                    "it is kept", () -> String.valueOf(latest().text().html()).contains("<img src=\"cid:"));
            desk.type("Yes?");
            answer.page.reload();
            desk.press("r");
            assertThat(picture).hasJSProperty("naturalWidth", 900);
            assertThat(answer.text).containsText(Pattern.compile("^This one:\\sYes"));
            answer.text.press("Control+Enter");
            desk.says("Sent in 10 seconds");
            ParsedMail mail =
                    MimeReader.read(cabinet.sending.source(latest().id()).orElseThrow());
            assertThat(mail.parts()).singleElement().satisfies(one -> {
                assertThat(one.role()).isEqualTo(PartRole.PICTURE);
                assertThat(String.valueOf(mail.html())).contains("cid:" + one.contentId());
            });
        });
    }

    @Test
    void aTextIsPutInByAFewLettersAndItsGapsAreGoneThrough() {
        SavedTextStore texts = office.bean(SavedTextStore.class);
        texts.add(person.id(), "Opening hours", "Dear {name},\n\nwe are open on {day} from {hour}.");
        texts.add(person.id(), "Thanks", "Thank you.");
        answering(account(), (desk, answer) -> {
            desk.type("Hello ;zz").press("Tab").says("No text is called “zz…”.");
            desk.press("Backspace", "Backspace", "Backspace");
            desk.type(";op").press("Tab");
            assertThat(answer.text).containsText("Dear Anna,");
            desk.type("Monday").press("Tab");
            desk.type("nine");
            assertThat(answer.text).containsText("we are open on Monday from nine.");
            answer.page.locator(".puts-text").click();
            answer.page.locator("[data-saved-text]").last().click();
            assertThat(answer.text).containsText("nineThank you.");

            answer.formatted("plain");
            Locator area = answer.page.locator("textarea[name=body]");
            assertThat(area).isFocused();
            area.press("Control+Home");
            desk.type(";opening").press("Tab");
            assertThat(area).hasValue(Pattern.compile("^Dear Anna,\n\nwe are open on \\{day}"));
            desk.type("Friday");
            assertThat(area).hasValue(Pattern.compile("open on Friday from"));
        });
    }
}
