package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.PartRole;
import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The sheet shows of each awkward message what a person should see of it. */
@ExtendWith(Office.Extension.class)
class AwkwardMailPagesTest {
    private static final Path COLLECTION = Path.of("../core/src/test/resources/awkward");

    private final Cabinet cabinet;
    private final Account account;
    private final Browser browser;

    AwkwardMailPagesTest(Office office) {
        cabinet = Cabinet.of(office);
        CurrentUser person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", "loans@lanternquay.example");
    }

    private static List<Path> messages() throws IOException {
        try (Stream<Path> files = Files.list(COLLECTION)) {
            return files.filter(file -> file.toString().endsWith(".eml"))
                    .sorted()
                    .toList();
        }
    }

    private Element sheet(long id) {
        return browser.part("/message/" + id, "sheet").page().expectFirst("#sheet");
    }

    private long arrives(String name) throws IOException {
        return cabinet.arrives(account, Files.readAllBytes(COLLECTION.resolve(name + ".eml")));
    }

    @Test
    void showsWhatAPersonShouldSee() throws IOException {
        List<Path> messages = messages();
        assertThat(messages).hasSizeGreaterThan(250);
        for (Path message : messages) {
            String beside = message.toString().replace(".eml", ".txt");
            Expected expected = Expected.read(Files.readString(Path.of(beside)));
            long id = cabinet.arrives(account, Files.readAllBytes(message));
            Element sheet = sheet(id);
            String name = message.getFileName().toString();
            assertThat(sheet.expectFirst("h2").wholeText())
                    .as(name)
                    .isEqualTo(expected.one("Subject").isEmpty() ? "No subject" : expected.one("Subject"));
            assertThat(sheet.select(".files .att span").eachText()).as(name).isEqualTo(expected.first("File"));
            assertThat(sheet.select(".others li a").eachText()).as(name).isEqualTo(expected.first("Also"));
            assertThat(sheet.select("p.note:not(.outside)").eachText())
                    .as(name)
                    .containsExactlyInAnyOrderElementsOf(expected.notes());
            long inPlace = expected.all("Also").stream()
                    .filter(also -> also.endsWith(PartRole.PICTURE.words()))
                    .count();
            if (inPlace > 0) {
                assertThat(browser.get("/message/" + id + "/html").page().select("img[src^=data:image/]"))
                        .as(name)
                        .hasSize((int) inPlace);
            }
            assertThat(words(text(id, sheet))).as(name).isEqualTo(words(expected.text()));
        }
    }

    @Test
    void aMessageInAMessageIsReadInItsPlaceAndSavedAsItIs() throws IOException {
        long id = arrives("inner-message-in-message");
        String path = sheet(id).expectFirst(".files button").attr("hx-get");
        Element outer = browser.part(path, "sheet").page().expectFirst("#sheet");
        assertThat(outer.expectFirst("h2").text()).isEqualTo("Outer");
        assertThat(outer.attr("data-message"))
                .as("keys act on the message itself")
                .isEqualTo(Long.toString(id));
        Element inner = browser.part(outer.expectFirst(".files button").attr("hx-get"), "sheet")
                .page()
                .expectFirst("#sheet");
        assertThat(inner.expectFirst("h2").text()).isEqualTo("The inner one");
        assertThat(inner.select(".who").text()).contains("Anselm Voss", "anselm@quay.example", "2 March 2026");
        assertThat(inner.expectFirst(".text").wholeText().strip()).isEqualTo("Inner words");
        assertThat(inner.expectFirst(".inside-of button").attr("hx-get")).isEqualTo("/message/" + id);
        String whole = Files.readString(COLLECTION.resolve("inner-message-in-message.eml"));
        String saved = browser.get(inner.expectFirst(".below a").attr("href")).text();
        assertThat(saved).startsWith("From: Anselm Voss").endsWith("Inner words");
        assertThat(whole).contains("\r\n\r\n" + saved + "\r\n--");
    }

    @Test
    void whatLiesInNoMessageIsToldSo() throws IOException {
        long id = arrives("inner-message-with-file");
        for (String path : List.of("9", "1.9", "1.1.1", "0", "x", "1.", "1".repeat(40), "1.".repeat(40) + "1")) {
            assertThat(browser.part("/message/%d/inside/%s".formatted(id, path), "sheet")
                            .status())
                    .as(path)
                    .isEqualTo(404);
            assertThat(browser.get("/message/%d/part/%s".formatted(id, path)).status())
                    .as(path)
                    .isEqualTo(404);
        }
        assertThat(browser.get("/message/%d/part/1.1".formatted(id)).text()).startsWith("%PDF");
    }

    @Test
    void anInvitationSaysWhatWhenWhereAndWho() throws IOException {
        assertThat(event("event-request-utc"))
                .isEqualTo("Invitation: Council When Tuesday 3 March 2026, 10:00 to 11:30 Where Boathouse"
                        + " By Ottoline Grebe Invited Tilda");
        assertThat(event("event-request-whole-days"))
                .startsWith("Invitation: Fair When Tuesday 3 March 2026 to Thursday 5 March 2026");
        assertThat(event("event-request-whole-day")).startsWith("Invitation: Open day When Tuesday 3 March 2026 By");
        assertThat(event("event-request-weekly")).contains("every 2 weeks, 10 times");
        assertThat(event("event-answer-declined")).startsWith("Anselm declines: Council");
        assertThat(event("event-cancelled")).startsWith("Called off: Council");
    }

    private String event(String name) throws IOException {
        return sheet(arrives(name)).expectFirst(".event").text();
    }

    private String text(long id, Element sheet) {
        if (sheet.select("iframe").isEmpty()) {
            String text = sheet.expectFirst(".text").wholeText();
            return text.equals("This message has no text.") ? "" : text;
        }
        Document page = browser.get("/message/" + id + "/html").page();
        page.select("[style*=display:none], [hidden], i:contains(too involved)").remove();
        return page.body().wholeText();
    }

    /** Without what a browser shows by its layout, or not at all. Of alternatives the page shows the HTML, whatever is kept. */
    private static String words(String text) {
        return text.replaceAll("(?m)^ *(•|[0-9]\\.) ", "")
                .replaceAll("<(https?://)?[^ >]*>|-{10}|[\\s\\u00a0]+", "")
                .replace("TheHTMLwords.", "Theplainwords.");
    }

    /** What stands beside a message. */
    private record Expected(List<String> lines, String text) {
        static Expected read(String beside) {
            int blank = beside.indexOf("\n\n");
            return new Expected(beside.substring(0, blank).lines().toList(), beside.substring(blank + 2));
        }

        List<String> all(String name) {
            return lines.stream()
                    .filter(line -> line.startsWith(name + ": "))
                    .map(line -> line.substring(name.length() + 2))
                    .toList();
        }

        String one(String name) {
            return all(name).get(0);
        }

        /** What stands before the first comma that a media type or a role follows. */
        List<String> first(String name) {
            return all(name).stream()
                    .map(line -> line.replaceAll(", (\\w+/\\S+, \\d+|[a-z ]+)$", ""))
                    .toList();
        }

        List<String> notes() {
            return Stream.concat(all("Note").stream(), all("Left out").stream()).toList();
        }
    }
}
