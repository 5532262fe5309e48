package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import jakarta.mail.Multipart;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.james.mime4j.dom.Entity;
import org.apache.james.mime4j.dom.Message;
import org.apache.james.mime4j.dom.TextBody;
import org.apache.james.mime4j.message.DefaultMessageBuilder;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What is written with formatting: what is let through, how it reads as plain text, and how it leaves. */
class WrittenHtmlTest {
    private static final Instant NOW = Instant.parse("2026-11-25T08:00:00Z");

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<p>Dear <b>Anna</b>,<br>two <i>crates</i></p> | <p>Dear <b>Anna</b>,<br>two <i>crates</i></p>",
                "<ul><li>one</li><li>two</li></ul> | <ul><li>one</li><li>two</li></ul>",
                "<a href='https://wharf.example/x?a=1&amp;b=2'>list</a> | <a href=\"https://wharf.example/x?a=1&amp;b=2\">list</a>",
                "<a href='mailto:anna@wharf.example'>Anna</a> | <a href=\"mailto:anna@wharf.example\">Anna</a>",
                "<a href='javascript:alert(1)'>x</a> | <a>x</a>",
                "<a href=' &#106;avascript:alert(1)'>x</a> | <a>x</a>",
                "<a href='/logout'>x</a> | <a>x</a>",
                "<script>alert(1)</script>x | x",
                "<style>p{color:red}</style>x | x",
                "<p onclick='alert(1)' style='color:red' class='big' id='sheet'>x</p> | <p>x</p>",
                "<img src=x onerror=alert(1)>x | x",
                "<img src='https://tracker.example/1.gif'>x | x",
                "<img src='cid:1@inline' alt='Plan' width=400 height=9 onerror=x srcset=https://a.example/1 style='color:red'> | <img src=\"cid:1@inline\" alt=\"Plan\" width=\"400\">",
                "<img src='/write/1/picture/2'>x | x",
                "<img src='data:image/png;base64,AAAA'>x | x",
                "<img src='cid'>x | x",
                "<iframe src='https://a.example'></iframe>x | x",
                "<form action='/log-out'><button>Go</button></form> | Go",
                "<svg><a href='javascript:x'>y</a></svg>x | x",
                "<math><mtext></mtext><style><img src=x onerror=alert(1)></style></math>x | x",
                "<div style='display:none'>unseen</div>x | x",
                "<p hidden>unseen</p>x | x",
                "<span style='font-weight:bold'>plain</span> | plain",
                "<table><tr><td colspan=2 width=90>1</td></tr></table> | <table><tbody><tr><td colspan=\"2\">1</td></tr></tbody></table>",
                "a &lt;b&gt; &amp; c | a &lt;b&gt; &amp; c",
                "<b>never closed | <b>never closed</b>",
                "<title>t</title><textarea>u</textarea>x | x",
                "<input name=csrf value=1><meta http-equiv=refresh content=0>x | x",
            })
    void letsThroughWhatIsText(String typed, String clean) {
        assertThat(WrittenHtml.clean(typed)).isEqualTo(clean);
        assertThat(WrittenHtml.clean(clean)).as("once more").isEqualTo(clean);
    }

    /** Whatever comes in, nothing comes out but what is allowed, and that stays as it is. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void generated(long seed) {
        List<String> pieces = List.of(
                "<p>",
                "</p>",
                "<b>",
                "</b>",
                "<script>",
                "</script>",
                "<a href=\"",
                "javascript:",
                "\">",
                "'",
                "<!--",
                "-->",
                "<img src=x onerror=y>",
                "<blockquote>",
                "</blockquote>",
                "<ul>",
                "<li>",
                "</ul>",
                "<table>",
                "<td>",
                "text ",
                "&lt;",
                "&#x3c;script&#x3e;",
                "\0",
                "<svg>",
                "<math>",
                "<style>",
                "</style>",
                "<![CDATA[",
                "]]>",
                "<noscript>",
                "</noscript>",
                "<template>",
                "</template>",
                "<p style=\"",
                "<textarea>",
                "</textarea>",
                "<plaintext>",
                "<xmp>");
        Random random = new Random(seed);
        for (int i = 0; i < 300; i++) {
            String typed = random.ints(1 + random.nextInt(40), 0, pieces.size())
                    .mapToObj(pieces::get)
                    .collect(Collectors.joining());
            String clean = WrittenHtml.clean(typed);
            assertThat(clean.toLowerCase(Locale.ROOT))
                    .as(typed)
                    .doesNotContainPattern("<(script|style|img|svg|math|template|noscript|textarea|plaintext|xmp|!)")
                    .doesNotContainPattern("<[^>]*(onerror|javascript:|style)[^>]*>");
            assertThat(words(WrittenHtml.text(WrittenHtml.clean(clean))))
                    .as(typed)
                    .isEqualTo(words(WrittenHtml.text(clean)));
        }
    }

    @Test
    void whatIsMadeToKeepSomebodyBusyDoesNot() {
        for (String bad : List.of(
                "<b>".repeat(200_000),
                "<blockquote>".repeat(100_000) + "x",
                "<a href=x".repeat(50_000),
                "<p " + "a=1 ".repeat(100_000) + ">x")) {
            assertThat(Duration.ofNanos(timed(bad))).isLessThan(Duration.ofSeconds(20));
        }
    }

    private static long timed(String typed) {
        long start = System.nanoTime();
        WrittenHtml.text(WrittenHtml.clean(typed));
        return System.nanoTime() - start;
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<p>Dear Anna,</p><p>two crates.</p> | Dear Anna,~~two crates.",
                "<p>Yes.</p><p>On Monday, Anna wrote:</p><blockquote><p>One</p><p>Two</p></blockquote> | Yes.~~On Monday, Anna wrote:~~> One~>~> Two",
                "<blockquote>a<blockquote>b</blockquote>c</blockquote>d | > a~>~>> b~>~> c~~d",
                "<blockquote><ul><li>x</li><li>y</li></ul></blockquote> | > • x~> • y",
                "<ol><li>x</li><li>y</li></ol> | 1. x~2. y",
                "<p>See <a href='https://wharf.example'>the list</a></p> | See the list <https://wharf.example>",
                "<blockquote><pre>a~b</pre></blockquote> | > a~> b",
                "<p><br></p><p>x</p> | x",
                "<p>Yes.</p><p>-- <br>Tilda</p> | Yes.~~-- ~Tilda",
                "<p>See <img src='cid:1@inline' alt='Plan.png'> and <img src='cid:2@inline'></p> | See [picture: Plan.png] and [picture]",
                "<p>a -- b</p><blockquote><p>--<br>Anna</p></blockquote> | a -- b~~> --~> Anna",
            })
    void readsAsPlainText(String html, String text) {
        assertThat(WrittenHtml.text(html.replace('~', '\n'))).isEqualTo(text.replace('~', '\n'));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Dear Anna,~two~~crates | <p>Dear Anna,<br>two</p><p>crates</p>",
                "> a~>> b~> c~d | <blockquote><p>a</p><blockquote><p>b</p></blockquote><p>c</p></blockquote><p>d</p>",
                "1 < 2 & <b> | <p>1 &lt; 2 &amp; &lt;b&gt;</p>",
            })
    void aPlainTextHasItsParagraphsAndQuotations(String text, String html) {
        assertThat(WrittenHtml.of(text.replace('~', '\n'))).isEqualTo(html);
    }

    /** A text is the same after it was HTML, but for blank lines. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void aTextComesBackFromHtml(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 200; i++) {
            String text = lines(random);
            assertThat(words(WrittenHtml.text(WrittenHtml.of(text)))).isEqualTo(words(text));
            assertThat(WrittenHtml.clean(WrittenHtml.of(text))).isEqualTo(WrittenHtml.of(text));
        }
    }

    private static List<String> words(String text) {
        return text.lines()
                .map(line -> line.replaceAll("\\s+", " ").strip())
                .filter(line -> !line.replace(">", "").isBlank())
                .toList();
    }

    private static String lines(Random random) {
        List<String> words =
                List.of("crate", "a", "Größe", "<b>", "&", "https://wharf.example/a/very/long/way", "展覧会", "-");
        return random.ints(1 + random.nextInt(12), 0, 4)
                .mapToObj(depth -> (">".repeat(depth) + (depth > 0 ? " " : ""))
                        + random.ints(random.nextInt(40), 0, words.size())
                                .mapToObj(words::get)
                                .collect(Collectors.joining(" ")))
                .collect(Collectors.joining("\n"));
    }

    /** Lines that flow are put together again as they were (RFC 3676). */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void flowingLinesAreWhatTheyWere(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 300; i++) {
            String text = lines(random).replaceAll("(?m) +$", "").strip()
                    + (i % 3 == 0 ? "\nFrom here\n  two blanks\n-- \nTilda" : "");
            String flowed = FlowedText.write(text);
            assertThat(FlowedText.read(flowed, false).lines())
                    .containsExactlyElementsOf(text.lines().toList());
            assertThat(flowed.lines())
                    .allMatch(line -> line.length() <= 80 || line.strip().lastIndexOf(' ') < 80);
        }
    }

    private static OutgoingMessage letter(String html) {
        return new OutgoingMessage(
                        new Address("Tilda", "tilda@quay.example"),
                        List.of(new Address("Anna", "anna@wharf.example")),
                        List.of(),
                        "Crates",
                        WrittenHtml.text(html),
                        null,
                        List.of())
                .formatted(html);
    }

    /** Read by two other libraries: the plain text first, what is formatted last (RFC 2046, section 5.1.4). */
    @Test
    void leavesAsAlternatives() throws Exception {
        String html = "<p>Größe: <b>2 m</b></p><ul><li>" + "lang ".repeat(400)
                + "</li></ul><blockquote><p>展覧会</p></blockquote>";
        for (boolean withFile : List.of(false, true)) {
            OutgoingMessage letter = letter(html);
            if (withFile) {
                letter =
                        letter.with(List.of(new OutgoingMessage.AttachedFile("a.pdf", "application/pdf", new byte[9])));
            }
            byte[] source = MailWriter.write(letter, "id@quay.example", NOW);
            MimeMessage angus =
                    new MimeMessage(Session.getInstance(new Properties()), new ByteArrayInputStream(source));
            Multipart parts = (Multipart) angus.getContent();
            if (withFile) {
                assertThat(parts.getContentType()).startsWith("multipart/mixed");
                assertThat(parts.getCount()).isEqualTo(2);
                parts = (Multipart) parts.getBodyPart(0).getContent();
            }
            assertThat(parts.getContentType()).startsWith("multipart/alternative");
            assertThat(parts.getCount()).isEqualTo(2);
            assertThat(parts.getBodyPart(0).getContentType().toLowerCase(Locale.ROOT))
                    .startsWith("text/plain")
                    .contains("format=flowed");
            assertThat((String) parts.getBodyPart(1).getContent()).contains(html);
            String plain = ((String) parts.getBodyPart(0).getContent()).replace("\r\n", "\n");
            assertThat(FlowedText.read(plain, false).strip())
                    .isEqualTo(WrittenHtml.text(html).strip());

            Message mime4j = new DefaultMessageBuilder().parseMessage(new ByteArrayInputStream(source));
            Entity alternatives = withFile
                    ? ((org.apache.james.mime4j.dom.Multipart) mime4j.getBody())
                            .getBodyParts()
                            .get(0)
                    : mime4j;
            Entity formatted = ((org.apache.james.mime4j.dom.Multipart) alternatives.getBody())
                    .getBodyParts()
                    .get(1);
            assertThat(formatted.getMimeType()).isEqualTo("text/html");
            try (var in = ((TextBody) formatted.getBody()).getInputStream()) {
                assertThat(new String(in.readAllBytes(), StandardCharsets.UTF_8))
                        .contains(html);
            }

            ParsedMail here = MimeReader.read(source);
            assertThat(here.html()).contains(html);
            assertThat(here.text().strip()).isEqualTo(WrittenHtml.text(html).strip());
            assertThat(here.attachments()).hasSize(withFile ? 1 : 0);
        }
    }

    @Test
    void anAnswerQuotesWhatWasWrittenAndNothingThatActs() {
        ParsedMail mail = MimeReader.read("""
                From: Anna <anna@wharf.example>
                To: tilda@quay.example
                Subject: Crates
                Content-Type: text/html; charset=utf-8

                <style>b{color:red}</style><div style="display:none">preheader</div><script>x()</script>
                <p onclick="x()">Two <b style="color:red">crates</b></p><img src="https://tracker.example/1.gif">
                """.getBytes(StandardCharsets.UTF_8));
        OutgoingMessage answer = OutgoingMessage.answer(
                mail, new OwnAddresses("tilda@quay.example", Set.of()), "Tilda", false, "On Monday", "");
        assertThat(answer.html())
                .isEqualTo("<p>On Monday, Anna wrote:</p><blockquote><p>Two <b>crates</b></p></blockquote>");
        OutgoingMessage forward =
                OutgoingMessage.passingOn(mail, new OwnAddresses("tilda@quay.example", Set.of()), "Tilda", "on Monday");
        assertThat(forward.html())
                .startsWith("<p>Forwarded from Anna &lt;anna@wharf.example&gt;<br>")
                .endsWith("<p>Two <b>crates</b></p>");
    }

    private static OutgoingMessage.AttachedFile picture(String id) {
        return new OutgoingMessage.AttachedFile(
                "Größe.png", "image/png", "\u0089PNG".getBytes(StandardCharsets.ISO_8859_1), id);
    }

    /** A picture stands in its text, read by two other libraries (RFC 2387); one that was taken out again does not go along. */
    @Test
    void picturesGoAlongWithTheTextThatShowsThem() throws Exception {
        String html = "<p>See <img src=\"cid:1@inline\" alt=\"Plan\">.</p>";
        OutgoingMessage letter = letter(html).with(List.of(picture("1@inline"), picture("2@inline")));
        byte[] source = MailWriter.write(letter, "id@quay.example", NOW);

        Multipart angus = (Multipart)
                new MimeMessage(Session.getInstance(new Properties()), new ByteArrayInputStream(source)).getContent();
        assertThat(angus.getContentType()).startsWith("multipart/alternative");
        Multipart related = (Multipart) angus.getBodyPart(1).getContent();
        assertThat(related.getContentType()).startsWith("multipart/related").contains("text/html");
        assertThat(related.getCount()).isEqualTo(2);
        jakarta.mail.internet.MimeBodyPart part = (jakarta.mail.internet.MimeBodyPart) related.getBodyPart(1);
        assertThat(part.getContentID()).isEqualTo("<1@inline>");
        assertThat(part.getDisposition()).isEqualTo("inline");
        assertThat(part.getContentType()).startsWith("image/png");

        Message mime4j = new DefaultMessageBuilder().parseMessage(new ByteArrayInputStream(source));
        Entity second = ((org.apache.james.mime4j.dom.Multipart) mime4j.getBody())
                .getBodyParts()
                .get(1);
        Entity shown = ((org.apache.james.mime4j.dom.Multipart) second.getBody())
                .getBodyParts()
                .get(1);
        assertThat(shown.getFilename()).isEqualTo("Größe.png");

        ParsedMail here = MimeReader.read(source);
        assertThat(here.attachments()).isEmpty();
        assertThat(here.parts()).singleElement().satisfies(one -> {
            assertThat(one.role()).isEqualTo(PartRole.PICTURE);
            assertThat(one.contentId()).isEqualTo("1@inline");
            assertThat(one.content()).isEqualTo(picture("").content());
        });
        assertThat(here.text().strip()).isEqualTo("See [picture: Plan].");

        byte[] plain = MailWriter.write(letter.formatted(null), "id@quay.example", NOW);
        assertThat(MimeReader.read(plain).parts())
                .as("nothing goes along that nobody sees")
                .isEmpty();
    }

    @Test
    void aMessageThatIsPassedOnTakesItsPicturesAlong() {
        OutgoingMessage letter = letter("<p><img src=\"cid:1@inline\"></p>").with(List.of(picture("1@inline")));
        ParsedMail mail = MimeReader.read(MailWriter.write(letter, "id@quay.example", NOW));
        OwnAddresses own = new OwnAddresses("tilda@quay.example", Set.of());
        OutgoingMessage forward = OutgoingMessage.passingOn(mail, own, "Tilda", "on Monday");
        ParsedMail there = MimeReader.read(MailWriter.write(forward, "id2@quay.example", NOW));
        assertThat(there.parts()).singleElement().satisfies(one -> {
            assertThat(one.role()).isEqualTo(PartRole.PICTURE);
            assertThat(one.contentId()).isNotEqualTo("1@inline");
            assertThat(there.html()).contains("<img src=\"cid:" + one.contentId() + "\">");
        });
        assertThat(OutgoingMessage.answer(mail, own, "Tilda", false, "On Monday", "")
                        .html())
                .as("an answer does not send them back")
                .doesNotContain("<img");
    }
}
