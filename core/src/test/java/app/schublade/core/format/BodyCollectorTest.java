package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** What of a message is its body, and what are its files. */
class BodyCollectorTest {
    private int boundaries;

    private static String part(String type, String more, String content) {
        return "Content-Type: " + type + "\n" + more + (more.isEmpty() ? "" : "\n") + "\n" + content;
    }

    private static String plain(String text) {
        return part("text/plain; charset=utf-8", "", text);
    }

    private static String html(String text) {
        return part("text/html; charset=utf-8", "", text);
    }

    private String multipart(String kind, String... parts) {
        String boundary = "b" + ++boundaries;
        return "Content-Type: multipart/%s; boundary=%s\n\n".formatted(kind, boundary)
                + Arrays.stream(parts)
                        .map(part -> "--" + boundary + "\n" + part + "\n")
                        .collect(Collectors.joining())
                + "--" + boundary + "--\n";
    }

    private static ParsedMail read(String entity) {
        return MimeReader.read(("Subject: x\nMIME-Version: 1.0\n" + entity).getBytes(StandardCharsets.UTF_8));
    }

    private static List<String> files(ParsedMail mail) {
        return mail.attachments().stream().map(Part::name).toList();
    }

    @Test
    void ofAlternativesOneIsRead() {
        ParsedMail mail = read(multipart("alternative", plain("Hello"), html("<p>Hello</p>")));
        assertThat(mail.text()).isEqualTo("Hello");
        assertThat(mail.html()).isEqualTo("<p>Hello</p>");
        assertThat(mail.parts()).isEmpty();
    }

    @Test
    void theAddressesOfLinksInHtmlAreNoWords() {
        ParsedMail mail = read(html("<p>See <a href='https://quay.example/invoice'>the plan</a>.</p>"));
        assertThat(mail.text()).isEqualTo("See the plan <https://quay.example/invoice>.");
        assertThat(mail.words()).isEqualTo("See the plan.");
        assertThat(mail.snippet(100)).isEqualTo("See the plan.");
        assertThat(read(plain("See <https://quay.example/invoice>")).words())
                .isEqualTo("See <https://quay.example/invoice>");
    }

    @Test
    void anAlternativeThatIsEmptyHidesNothing() {
        ParsedMail mail = read(multipart("alternative", plain("Hello"), html("<html><body><br>&nbsp;</body></html>")));
        assertThat(mail.text()).isEqualTo("Hello");
        assertThat(mail.html()).isNull();
        mail = read(multipart("alternative", plain("  \n"), html("<p>Hello</p>")));
        assertThat(mail.text()).isEqualTo("Hello");
        mail = read(multipart("alternative", plain("Hello"), html("<img src='cid:a'>")));
        assertThat(mail.html()).as("a picture says something").isNotNull();
    }

    @Test
    void aPlainPartThatOnlySaysThatThereIsHtmlIsNotTheBody() {
        String letter = "<p>" + "The crates leave on Monday. ".repeat(40) + "</p>";
        ParsedMail mail = read(multipart("alternative", plain("View this message in your browser."), html(letter)));
        assertThat(mail.text()).startsWith("The crates leave on Monday.").doesNotContain("browser");
        mail = read(multipart("alternative", plain("Hello, see you there."), html("<p>Hello, see you there.</p>")));
        assertThat(mail.text()).isEqualTo("Hello, see you there.");
    }

    @Test
    void allTextIsReadInItsPlaceAmongPictures() {
        String picture = part("image/png; name=a.png", "Content-Disposition: inline", "x");
        ParsedMail mail =
                read(multipart("mixed", plain("Before."), picture, plain("Between."), picture, plain("Behind.")));
        assertThat(mail.text()).isEqualTo("Before.\n\nBetween.\n\nBehind.");
        assertThat(mail.html()).isNull();
        assertThat(files(mail)).containsExactly("a.png", "a.png");
    }

    @Test
    void textAndHtmlInARowAreBothRead() {
        ParsedMail mail = read(multipart("mixed", html("<p>First</p>"), plain("A list's <footer>\n& more")));
        assertThat(mail.text()).isEqualTo("First\n\nA list's <footer>\n& more");
        assertThat(mail.html()).contains("<p>First</p>", "<p>A list's &lt;footer&gt;<br>&amp; more</p>");
    }

    @Test
    void htmlWithMoreAroundItIsOneAlternative() {
        ParsedMail mail = read(multipart(
                "alternative",
                plain("All of it in words."),
                multipart("mixed", html("<p>One</p>"), part("image/png; name=b.png", "", "x"), html("<p>Two</p>"))));
        assertThat(mail.html()).isEqualTo("<p>One</p>\n<p>Two</p>");
        assertThat(files(mail)).containsExactly("b.png");
    }

    @Test
    void aTextWithAFileNameIsShownAndOffered() {
        ParsedMail mail = read(multipart(
                "mixed",
                plain("See below."),
                part("text/plain; name=notes.txt", "Content-Disposition: inline", "Notes.")));
        assertThat(mail.text()).isEqualTo("See below.\n\nNotes.");
        assertThat(files(mail)).containsExactly("notes.txt");
    }

    @Test
    void whatIsAttachedIsOfferedAlone() {
        ParsedMail mail = read(multipart(
                "mixed",
                plain("See the file."),
                part("text/plain; name=notes.txt", "Content-Disposition: attachment; filename=notes.txt", "Notes."),
                part("text/html; name=page.html", "", "<p>A page</p>")));
        assertThat(mail.text()).isEqualTo("See the file.");
        assertThat(mail.html()).isNull();
        assertThat(files(mail)).containsExactly("notes.txt", "page.html");
        mail = read(part("text/plain; name=notes.txt", "Content-Disposition: attachment", "Notes."));
        assertThat(mail.text()).as("it is all that there is").isEqualTo("Notes.");
    }

    @Test
    void onlyPicturesThatTheHtmlShowsAreNoFiles() {
        String shown = part("image/png; name=a.png", "Content-ID: <a@quay.example>", "x");
        String attached = part("image/jpg; name=b.jpg", "Content-ID: <b b>\nContent-Disposition: attachment", "x");
        String alone = part("image/png; name=c.png", "Content-ID: <c@quay.example>", "x");
        String unknown = part("image/tiff; name=d.tif", "Content-ID: <d@quay.example>", "x");
        ParsedMail mail = read(multipart(
                "related",
                html("<img src=\"cid:a@quay.example\"><img src='CID:b%20b'><img src=cid:d@quay.example>"),
                shown,
                attached,
                alone,
                unknown));
        assertThat(files(mail)).containsExactly("c.png", "d.tif");
        assertThat(mail.parts().get(1).type()).isEqualTo("image/jpeg");
        assertThat(files(read(multipart("mixed", plain("No HTML"), shown)))).containsExactly("a.png");
    }

    /** Each of them could run to the end of the text. */
    @Test
    void manyNamesOfPicturesWithoutAnEndTakeNoMoreRoomThanTheText() {
        ParsedMail mail = read(multipart("related", html("cid:".repeat(500_000)), plain("x")));
        assertThat(mail.html()).isNotNull();
        assertThat(mail.parts()).isEmpty();
    }
}
