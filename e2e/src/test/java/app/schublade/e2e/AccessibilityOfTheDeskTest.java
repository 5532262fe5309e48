package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** The cabinet, lists and messages, and whatever opens over them. */
class AccessibilityOfTheDeskTest extends AccessibilityStates {
    static Stream<State> states() {
        String message = "/mail/inbox?open={message}";
        return Stream.of(
                State.of(message),
                State.of("/mail/inbox?open={event-request-weekly}"),
                State.of("/mail/inbox?open={html-table}"),
                State.of(
                        "/mail/inbox?open={inner-message-with-file}", "see .att", "click button.att", "see .inside-of"),
                State.of("/mail/inbox?open={report-no-such-address}"),
                State.of(
                        "/mail/folder/{loans}",
                        "ArrowDown",
                        "see #sheet .note",
                        "click #sheet .note [data-unfolds]",
                        "see .why"),
                State.of("/mail/flagged?open={message}"),
                State.of("/mail/tickler"),
                State.of("/mail/done"),
                State.of("/mail/folder/{folder}"),
                State.of("/mail/label/{label}?open={message}"),
                State.of("/mail/find?words=letter or filed or visit", "see .bar-line"),
                State.of("/mail/find?words=lettter not from nowhere crates", "see #facets .meant"),
                State.of("/mail/find?words=letter from halden", "click .term summary", "see .term [open]"),
                State.of("/mail/find?words=letter", "click .keeps summary", "see .keeps [open]"),
                State.of("/mail/search/{search}?words=visit", "click .keeps summary", "see .keeps [open]"),
                State.of("/mail/inbox", "ArrowDown", "Shift+ArrowDown", "see .row[aria-selected=true]"),
                State.of(message, "ArrowRight", "see .row.inner"),
                State.of(message, "click .asked summary", "see .explanations"),
                State.of(message, "j", "see .other[open] .unfolded .text"),
                State.of(message, "Enter", "see .main.full"),
                State.of(message, "f", "see dialog[open]", "type New", "see #folder-choice-new"),
                State.of(message, "c", "see dialog[open]"),
                State.of(message, "l", "see dialog[open]", "type Sails", "see #label-choice-new"),
                State.of(message, "p", "see dialog[open]", "type lo", "see #place-choices li"),
                State.of(message, "p", "see dialog[open]", "type zzzz", "see #place-choices .none"),
                State.of(message, "d", "see dialog[open]"),
                State.of(message, "t", "see dialog[open]"),
                State.of(message, "k", "see dialog[open]"),
                State.of(message, "x", "see dialog[open]"),
                State.of(message, "?", "see dialog[open]"),
                State.of(message, "g", "see #notice .told", "h", "see #acts li"),
                State.of(message, "tell", "see #notice .problem"),
                State.of(message, "v", "see .arrange[open]"),
                State.of(message, "s", "see .only[open]"),
                State.of(message, "menu #rows", "see #place-menu"),
                State.of(message, "menu #cabinet [data-folder='{folder}']", "see #place-menu a"),
                State.of(message, "menu #cabinet [data-label='{label}']", "see #place-menu a"),
                State.of(message, "n", "see .new-folder [name=path]"),
                State.of(message, "click .to-cabinet", "see .drawer"),
                State.of(message, "/", "type lo", "see #finds li"),
                State.of("/mail/folder/{gone}"),
                State.of(message, "r", "see #answer .editor", "click .send-later summary", "see .send-later[open]"),
                State.of(message, "r", "see #answer .editor", "type Yes.", "Escape", "see #answer .note"),
                State.of("/mail/inbox?open={name-plain}", "click .asked summary", "see .pages .hint"),
                State.of(message, "r", "see #answer .editor", "click .puts-text", "see #place-menu [data-saved-text]"),
                State.of(message, "click .who .name", "see .person-card .go"),
                State.of(message, "r", "see #answer .editor", "elsewhere", "see .elsewhere"),
                State.of(
                        "/mail/inbox?open={circular}",
                        "see #sheet .outside [data-shows-pictures]",
                        "click details:has(.header) summary",
                        "see .header"),
                State.of(
                        message,
                        "w",
                        "see .page .editor",
                        "type nobody, anna@wharf.example,",
                        "see .recipient.wrong",
                        "click [data-shows-copies]",
                        "click [data-format=link]",
                        "see .link-to input"),
                State.of("/mail/inbox", "ArrowDown", "Shift+G", "see [aria-labelledby=flag-title][open]"),
                State.of("/mail/inbox?open={letter}", "b", "see .noise[open] button"),
                State.of(message, "q", "see .picker[open] li"),
                State.of(
                        "/mail/inbox",
                        "changed",
                        "ArrowDown",
                        "see #sheet h2",
                        "a",
                        "see #notice button",
                        "see #sheet h2"));
    }

    /** No script runs in what is to be printed; so it is looked at where one does. */
    @Test
    @Order(2)
    void norOnPaper() {
        String address = office.address() + filled("/message/{html-table}/print?conversation=true");
        page.navigate("about:blank");
        page.setContent(page.request().get(address).text());
        assertThat(page.locator("h1").first()).isVisible();
        checker.inEverySetting("print");
    }

    @Override
    boolean isShown(String template) {
        return OF_THE_DESK.stream().anyMatch(template::startsWith);
    }
}
