package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.world.World;
import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;

/** The files of a message, all at once, and its pictures in small. */
@ExtendWith(Office.Extension.class)
class AttachmentPagesTest {
    private static final byte[] PICTURE = World.picture("https://b.example/x.png");

    private final Office office;
    private final Cabinet cabinet;
    private final Browser browser;
    private final Account account;
    private final long message;

    AttachmentPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        CurrentUser person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
        message = cabinet.arrives(
                account,
                TestMail.from(
                                "Anna <anna@wharf.example>\nX-Way: long\nContent-Type: multipart/mixed; boundary=b",
                                "Files")
                        .saying(part("text/plain", "list.txt", "one")
                                + part("text/plain", "LIST.txt", "two")
                                + part("text/plain", "../../etc/passwd", "three")
                                + part("image/png", "deck.png", PICTURE)
                                + part("image/png", "no.png", "<svg onload='x()'/>")
                                + "--b--\n"));
    }

    private static String part(String type, String name, String content) {
        return part(type, name, content.getBytes(StandardCharsets.UTF_8));
    }

    private static String part(String type, String name, byte[] content) {
        return "--b\nContent-Type: %s\nContent-Disposition: attachment; filename=\"%s\"\nContent-Transfer-Encoding: base64\n\n%s\n"
                .formatted(type, name, Base64.getMimeEncoder().encodeToString(content));
    }

    private Document sheet() {
        return browser.part("/message/" + message, "sheet").page();
    }

    @Test
    void allFilesAtOnceEachUnderANameOfItsOwn(@TempDir Path directory) throws Exception {
        Browser.Answer answer =
                browser.get(sheet().select(".att[href$=files.zip]").attr("href"));
        Path saved = directory.resolve("files.zip");
        Files.write(saved, answer.response().getContentAsByteArray());
        Map<String, String> files = new TreeMap<>();
        try (ZipFile zip = new ZipFile(saved.toFile())) {
            for (ZipEntry entry : zip.stream().toList()) {
                byte[] content = zip.getInputStream(entry).readAllBytes();
                files.put(
                        entry.getName(),
                        content.length < 50 ? new String(content, StandardCharsets.UTF_8) : content.length + " bytes");
            }
        }
        assertThat(files)
                .containsEntry("list.txt", "one")
                .containsEntry("LIST (2).txt", "two")
                .containsEntry("deck.png", PICTURE.length + " bytes")
                .hasSize(5);
        assertThat(files.keySet())
                .as("a way out of where they are saved")
                .noneMatch(name -> name.contains("/") || name.contains(".."));
    }

    @Test
    void picturesAreShownInSmallIfTheyAreSome() {
        Document sheet = sheet();
        assertThat(sheet.select(".att img")).hasSize(2);
        Browser.Answer picture = browser.get(sheet.select(".att img").get(0).attr("src"));
        assertThat(picture.header("Content-Type")).isEqualTo("image/png");
        assertThat(picture.header("Content-Security-Policy")).contains("sandbox");
        assertThat(picture.response().getContentAsByteArray()).isEqualTo(PICTURE);
        assertThat(browser.get(sheet.select(".att img").get(1).attr("src")).status())
                .as("it only says so")
                .isEqualTo(404);
        assertThat(browser.get("/message/" + message + "/picture/1").status())
                .as("a text")
                .isEqualTo(404);
    }

    @Test
    void theHeaderAsItCame() {
        Browser.Answer header = browser.get("/message/" + message + "/header");
        assertThat(header.text()).contains("X-Way: long", "Subject: Files").doesNotContain("--b");
        assertThat(header.header("Content-Type")).startsWith("text/plain");
    }

    @Test
    void aTextIsLookedInto() {
        assertThat(sheet().select("details.asked:contains(Look into)").eachText())
                .hasSize(3);
        String address = sheet().select("details[data-fetched*=/look/]").get(1).attr("data-fetched");
        Browser.Answer text = browser.get(address);
        assertThat(text.text()).isEqualTo("two");
        assertThat(text.header("Content-Type")).startsWith("text/plain");
        assertThat(text.header("Content-Security-Policy")).contains("sandbox");
        assertThat(browser.get("/message/" + message + "/look/4").status())
                .as("a picture")
                .isEqualTo(404);
        assertThat(new Browser(office, office.person()).get(address).status()).isEqualTo(404);

        long large = cabinet.arrives(
                account,
                TestMail.from("Anna <anna@wharf.example>\nContent-Type: multipart/mixed; boundary=b", "Large")
                        .saying(part("text/csv", "a.csv", "ü;".repeat(150_000).getBytes(StandardCharsets.ISO_8859_1))
                                + "--b--\n"));
        assertThat(browser.get("/message/" + large + "/look/1").text())
                .startsWith("ü;ü;")
                .endsWith("only the beginning is shown; save the file to see all of it.");
    }

    @Test
    void itsTextWithoutItsFormatting() {
        long formatted = cabinet.arrives(
                account,
                TestMail.from("Anna <anna@wharf.example>\nContent-Type: text/html", "Formatted")
                        .saying("<p>Two <b>crates</b></p><script>x()</script>"));
        Browser.Answer text = browser.get("/message/" + formatted + "/text");
        assertThat(text.text().strip()).isEqualTo("Two crates");
        assertThat(text.header("Content-Type")).startsWith("text/plain");
        assertThat(text.header("Content-Security-Policy")).contains("sandbox");
    }

    @Test
    void nothingOfItForOthers() {
        Browser other = new Browser(office, office.person());
        for (String what : new String[] {"files.zip", "picture/4", "header", "text"}) {
            assertThat(other.get("/message/" + message + "/" + what).status())
                    .as(what)
                    .isEqualTo(404);
        }
    }
}
