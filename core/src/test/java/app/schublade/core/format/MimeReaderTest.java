package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import app.schublade.core.message.Address;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MimeReaderTest {
    private static ParsedMail read(String source) {
        return MimeReader.read(source.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void readsTheHeadersThatFilingNeeds() {
        ParsedMail mail = read("""
                Delivered-To: loans@lanternquay.example
                From: =?UTF-8?Q?Ingr=C3=ADd?= Skarsgard <ingrid@halden-foundation.example>
                To: Loans <loans@lanternquay.example>, tilda@marwick-post.example
                Cc: desk@northlights-tour.example
                Subject: =?ISO-8859-1?Q?R=FCckgabe?= of
                 the brig
                Date: Mon, 2 Nov 2026 09:30:00 +0100
                Message-ID: <one@halden-foundation.example>
                References: <a@x.example> <b@x.example>
                In-Reply-To: <b@x.example>
                List-Id: Rowers <rowers.Brackwater.example>

                Dear Tilda,
                """);
        assertThat(mail)
                .usingRecursiveComparison()
                .ignoringFields("headers")
                .isEqualTo(new ParsedMail(
                        "one@halden-foundation.example",
                        new Address("Ingríd Skarsgard", "ingrid@halden-foundation.example"),
                        java.util.List.of(),
                        java.util.List.of(
                                new Address("Loans", "loans@lanternquay.example"),
                                new Address("", "tilda@marwick-post.example")),
                        java.util.List.of(new Address("", "desk@northlights-tour.example")),
                        java.util.List.of(new Address("", "loans@lanternquay.example")),
                        "Rückgabe of the brig",
                        java.util.List.of("a@x.example", "b@x.example"),
                        Instant.parse("2026-11-02T08:30:00Z"),
                        "rowers.brackwater.example",
                        MailBody.of("Dear Tilda,\r\n"),
                        Headers.NONE,
                        List.of()));
        assertThat(mail.headers().values("MESSAGE-id")).containsExactly("<one@halden-foundation.example>");
        assertThat(mail.headers().all()).containsKeys("from", "list-id");
    }

    @Test
    void readsHeadersInRawUtf8() {
        ParsedMail mail = read("""
                From: Zoë Grebe <zoe@grebe.example>
                Subject: Überführung

                x
                """);
        assertThat(mail.from()).isEqualTo(new Address("Zoë Grebe", "zoe@grebe.example"));
        assertThat(mail.subject()).isEqualTo("Überführung");
    }

    @ParameterizedTest
    @CsvSource({
        "iso-8859-1, iso-8859-1, Grüße",
        "windows-1252, iso-8859-1, “Grüße”",
        "utf-8, utf-8, Γειά σου",
        "utf-8, us-ascii, Grüße",
        "windows-1252, no-such-charset, Grüße",
        "koi8-r, koi8-r, Привет",
        "iso-2022-jp, iso-2022-jp, こんにちは"
    })
    void readsBodiesInTheirCharset(String sentAs, String declared, String text) {
        byte[] head = ("Content-Type: text/plain; charset=" + declared + "\r\nContent-Transfer-Encoding: 8bit\r\n\r\n")
                .getBytes(StandardCharsets.US_ASCII);
        byte[] body = text.getBytes(Charset.forName(sentAs));
        byte[] source = new byte[head.length + body.length];
        System.arraycopy(head, 0, source, 0, head.length);
        System.arraycopy(body, 0, source, head.length, body.length);
        assertThat(MimeReader.read(source).text()).isEqualTo(text);
    }

    @Test
    void tellsBodyAttachmentsAndEmbeddedPicturesApart() {
        ParsedMail mail = read("""
                Content-Type: multipart/mixed; boundary=m

                --m
                Content-Type: multipart/related; boundary=r

                --r
                Content-Type: text/html

                <p>The <b>crate</b></p><img src="cid:logo@x">
                --r
                Content-Type: image/png
                Content-ID: <logo@x>
                Content-Transfer-Encoding: base64

                iVBORw==
                --r--
                --m
                Content-Type: application/pdf
                Content-Disposition: attachment; filename="../../etc/report.pdf"
                Content-Transfer-Encoding: base64

                JVBERg==
                --m--
                """);
        assertThat(mail.text()).isEqualTo("The crate");
        assertThat(mail.html()).contains("cid:logo@x");
        assertThat(mail.parts()).extracting(Part::name).containsExactly("part-1.png", "report.pdf");
        assertThat(mail.attachments()).extracting(Part::number).containsExactly(2);
        assertThat(mail.attachments().get(0).content()).asString().isEqualTo("%PDF");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "\n\n",
                "From: <<<>>>, ,;:@\n\nx",
                "From: a@b.example\nDate: yesterday\nContent-Type: multipart/mixed\n\nno boundary",
                "Content-Type: multipart/mixed; boundary=a\n\n--a\nContent-Type: multipart/mixed; boundary=a\n\n--a",
                "Content-Type: text/plain; charset=\"\"\nContent-Transfer-Encoding: base64\n\n!!!!",
                "Subject: =?UTF-8?B?broken",
                ":\n: :\n\n"
            })
    void brokenSourcesStillArrive(String source) {
        assertThatCode(() -> read(source)).doesNotThrowAnyException();
    }

    @Test
    void neverThrowsOnRandomBytes() {
        Random random = new Random(7);
        String[] bits = {"Content-Type: ", "multipart/mixed; boundary=b", "\r\n", "--b", "From: ", "<", ">", "=?", "?="
        };
        for (int i = 0; i < 2000; i++) {
            StringBuilder source = new StringBuilder();
            for (int j = random.nextInt(30); j > 0; j--) {
                source.append(random.nextBoolean() ? bits[random.nextInt(bits.length)] : (char) random.nextInt(256));
            }
            assertThat(MimeReader.read(source.toString().getBytes(StandardCharsets.ISO_8859_1)))
                    .isNotNull();
        }
    }

    @Test
    void partsInsidePartsEndAtALimit() {
        StringBuilder source = new StringBuilder();
        for (int i = 0; i < 5000; i++) {
            source.append("Content-Type: multipart/mixed; boundary=b")
                    .append(i)
                    .append("\n\n--b")
                    .append(i)
                    .append('\n');
        }
        assertThatCode(() -> read(source.toString())).doesNotThrowAnyException();
    }

    @Test
    void snippetIsOneLine() {
        assertThat(read("\nDear Tilda,\n\n  the  crate\tis here. " + "x".repeat(300))
                        .snippet(30))
                .isEqualTo("Dear Tilda, the crate is here.");
    }
}
