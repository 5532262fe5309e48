package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.problem.InputProblem;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MailWriterTest {
    private static final Instant NOW = Instant.parse("2026-11-25T08:00:00Z");
    private static final OwnAddresses OWN =
            new OwnAddresses("tilda@quay.example", Set.of("loans@quay.example", "*@tilda.example"));

    private static ParsedMail mail(String source) {
        return MimeReader.read(source.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void whatIsWrittenIsReadAgain() {
        OutgoingMessage outline = new OutgoingMessage(
                new Address("Tilda Märwick", "loans@quay.example"),
                List.of(new Address("Grebe, Ottoline", "o@grebe.example"), new Address("", "b@wharf.example")),
                List.of(new Address("Λίνα", "lina@wharf.example")),
                "Ein Riß im Deck – und eine sehr lange Betreffzeile, die über viele Zeichen weitergeht und weiter",
                "Liebe Frau Grebe,\n\nein Riß.\n.\nFrom here\n" + "x".repeat(1200) + "\n",
                "first@grebe.example",
                List.of("zero@grebe.example", "first@grebe.example"));
        ParsedMail read = MimeReader.read(MailWriter.write(outline, "id@quay.example", NOW));
        assertThat(read.messageId()).isEqualTo("id@quay.example");
        assertThat(read.from()).isEqualTo(outline.from());
        assertThat(read.to()).isEqualTo(outline.to());
        assertThat(read.cc()).isEqualTo(outline.cc());
        assertThat(read.subject()).isEqualTo(outline.subject());
        assertThat(read.sent()).isEqualTo(NOW);
        assertThat(read.references()).isEqualTo(outline.references());
        assertThat(read.text().replace("\r\n", "\n").strip())
                .isEqualTo(outline.text().strip());
        assertThat(new String(MailWriter.write(outline, "id@quay.example", NOW), StandardCharsets.ISO_8859_1).lines())
                .allMatch(line -> line.length() <= 998 && line.chars().allMatch(sign -> sign < 0x80));
    }

    @Test
    void nothingTypedMakesAFieldOfItsOwn() {
        OutgoingMessage outline = new OutgoingMessage(
                new Address("Tilda\r\nBcc: x@y.example", "tilda@quay.example"),
                List.of(new Address("A", "a@b.example")),
                List.of(),
                "Loan\r\nBcc: x@y.example",
                "",
                null,
                List.of());
        ParsedMail read = MimeReader.read(MailWriter.write(outline, "id@quay.example", NOW));
        assertThat(read.headers().values("Bcc")).isEmpty();
        assertThat(read.subject()).isEqualTo("Loan Bcc: x@y.example");
    }

    private static final String CRATES = """
            From: Ottoline <o@grebe.example>
            To: tilda@quay.example
            Subject: Two crates
            Date: Mon, 23 Nov 2026 09:12:00 +0000
            Message-ID: <crates@grebe.example>
            Content-Type: multipart/mixed; boundary=b

            --b
            Content-Type: text/plain; charset=utf-8
            Content-Transfer-Encoding: 8bit

            %s
            --b
            Content-Type: text/csv
            Content-Disposition: attachment; filename="crates.csv"

            crate;kg
            --b--
            """;

    private static OutgoingMessage passedOn(String source, OwnAddresses own, boolean attached) {
        byte[] bytes = source.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8);
        List<Address> to = List.of(new Address("Anna", "anna@wharf.example"));
        return OutgoingMessage.forward(MimeReader.read(bytes), own, "Tilda", to, bytes, attached, "For you")
                .orElseThrow();
    }

    private static ParsedMail written(OutgoingMessage outline) {
        return MimeReader.read(MailWriter.write(outline, "x@quay.example", NOW));
    }

    @Test
    void aMessageIsPassedOnWithItsTextAndItsFiles() {
        ParsedMail read = written(passedOn(CRATES.formatted("Zwei Kisten, größer"), OWN, false));
        assertThat(read.from()).isEqualTo(new Address("Tilda", "tilda@quay.example"));
        assertThat(read.subject()).isEqualTo("Fwd: Two crates");
        assertThat(read.text())
                .startsWith("For you")
                .contains("from Ottoline <o@grebe.example>", "Mon, 23 Nov 2026 09:12:00 GMT", "Zwei Kisten, größer");
        assertThat(read.attachments()).singleElement().satisfies(part -> {
            assertThat(part.name()).isEqualTo("crates.csv");
            assertThat(new String(part.content(), StandardCharsets.UTF_8).strip())
                    .isEqualTo("crate;kg");
        });
        assertThat(read.headers().values("Auto-Submitted")).containsExactly("auto-generated");
    }

    @Test
    void aMessageIsAttachedAsItCame() {
        String ascii = CRATES.formatted("Two crates.");
        String written = new String(
                MailWriter.write(passedOn(ascii, OWN, true), "x@quay.example", NOW), StandardCharsets.US_ASCII);
        assertThat(written).contains("Content-Type: message/rfc822", ascii.replace("\n", "\r\n"));
        assertThat(written(passedOn(ascii, OWN, true)).text().strip()).startsWith("For you");
        ParsedMail other = written(passedOn(CRATES.formatted("größer"), OWN, true));
        assertThat(other.attachments()).singleElement().satisfies(part -> {
            assertThat(part.name()).isEqualTo("message.eml");
            assertThat(MimeReader.read(part.content()).text()).contains("größer");
        });
    }

    @Test
    void whatIsPassedOnDoesNotGoInACircle() {
        OwnAddresses other = new OwnAddresses("anna@wharf.example", Set.of());
        byte[] first = MailWriter.write(passedOn(CRATES.formatted("x"), OWN, true), "x@quay.example", NOW);
        String once = new String(first, StandardCharsets.UTF_8).replace("\r\n", "\n");
        byte[] second = MailWriter.write(passedOn(once, other, false), "y@wharf.example", NOW);
        assertThat(OutgoingMessage.forward(MimeReader.read(second), OWN, "Tilda", List.of(), second, true, ""))
                .isEmpty();
        assertThat(OutgoingMessage.automatic(MimeReader.read(first), other, "Anna", "Away"))
                .as("nor is it answered")
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            anna@wharf.example                                | anna@wharf.example
            Anna <anna@wharf.example>; b@wharf.example,       | Anna <anna@wharf.example>, b@wharf.example
            "Grebe, Anna" <anna@wharf.example>                | "Grebe, Anna" <anna@wharf.example>
            Änne Grün <anna@wharf.example>                    | Änne Grün <anna@wharf.example>
            """)
    void recipientsAreReadAsPeopleWriteThem(String typed, String again) {
        assertThat(MailWriter.typed(MailWriter.addresses(typed))).isEqualTo(again);
    }

    @ParameterizedTest
    @ValueSource(strings = {"anna", "anna@", "@wharf.example", "anna@wharf", "a b@wharf.example", "änne@wharf.example"})
    void whatIsNoAddressIsSaid(String typed) {
        assertThatThrownBy(() -> MailWriter.addresses("b@wharf.example, " + typed))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("is not an address");
    }

    @Test
    void anAnswerGoesFromTheAliasThatWasWrittenTo() {
        ParsedMail mail = mail("""
                From: Ottoline <o@grebe.example>
                To: loans@quay.example, Ben <ben@wharf.example>
                Cc: tilda@quay.example, cy@wharf.example
                Subject: Crack in the deck
                Message-ID: <two@grebe.example>
                References: <one@grebe.example>

                Dear Tilda,
                > earlier
                """);
        OutgoingMessage answer = OutgoingMessage.answer(mail, OWN, "Tilda", false, "On Monday", "");
        assertThat(answer)
                .isEqualTo(new OutgoingMessage(
                                new Address("Tilda", "loans@quay.example"),
                                List.of(new Address("Ottoline", "o@grebe.example")),
                                List.of(),
                                "Re: Crack in the deck",
                                "\n\nOn Monday, Ottoline wrote:\n> Dear Tilda,\n>> earlier\n",
                                "two@grebe.example",
                                List.of("one@grebe.example", "two@grebe.example"))
                        .formatted("<p>On Monday, Ottoline wrote:</p><blockquote><p>Dear Tilda,</p>"
                                + "<blockquote><p>earlier</p></blockquote></blockquote>"));
        assertThat(OutgoingMessage.answer(mail, OWN, "Tilda", true, "On Monday", "")
                        .cc())
                .extracting(Address::email)
                .containsExactly("ben@wharf.example", "cy@wharf.example");
    }

    @Test
    void whereAnAnswerGoesTheMessageDecides() {
        ParsedMail elsewhere =
                mail("From: a@b.example\nReply-To: desk@b.example\nTo: x@tilda.example\nSubject: RE: a\n\nx\n");
        OutgoingMessage answer = OutgoingMessage.answer(elsewhere, OWN, "", false, "Then", "");
        assertThat(answer.to()).extracting(Address::email).containsExactly("desk@b.example");
        assertThat(answer.from().email()).as("by the pattern").isEqualTo("x@tilda.example");
        assertThat(answer.subject()).isEqualTo("RE: a");
        ParsedMail mine = mail("From: tilda@quay.example\nTo: a@b.example\nSubject: s\n\nx\n");
        assertThat(OutgoingMessage.answer(mine, OWN, "", true, "Then", "").to())
                .as("to whom I wrote")
                .extracting(Address::email)
                .containsExactly("a@b.example");
    }

    @Test
    void anAutomaticAnswerSaysThatItIsOne() {
        ParsedMail mail = mail("""
                From: Ottoline <o@grebe.example>
                To: Ben <ben@wharf.example>
                Cc: loans@quay.example
                Subject: Crack in the deck
                Message-ID: <two@grebe.example>

                Dear Tilda
                """);
        OutgoingMessage answer =
                OutgoingMessage.automatic(mail, OWN, "Tilda", "Back on Monday").orElseThrow();
        assertThat(answer.from()).isEqualTo(new Address("Tilda", "loans@quay.example"));
        assertThat(answer.subject()).isEqualTo("Auto: Crack in the deck");
        String source =
                new String(MailWriter.write(answer, "x@quay.example", Instant.EPOCH), StandardCharsets.US_ASCII);
        assertThat(source)
                .contains(
                        "Auto-Submitted: auto-replied",
                        "In-Reply-To: <two@grebe.example>",
                        "To: Ottoline <o@grebe.example>");
        ParsedMail back = MimeReader.read(source.getBytes(StandardCharsets.US_ASCII));
        assertThat(OutgoingMessage.automatic(back, new OwnAddresses("o@grebe.example", Set.of()), "O", "Me too"))
                .as("two of them do not answer each other")
                .isEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "From: a@b.example\nTo: others@b.example",
                "From: no-reply@b.example\nTo: tilda@quay.example",
                "From: owner-crates@b.example\nTo: tilda@quay.example",
                "From: crates-request@b.example\nTo: tilda@quay.example",
                "From: mailer-daemon@b.example\nTo: tilda@quay.example",
                "From: a@b.example\nTo: tilda@quay.example\nPrecedence: bulk",
                "From: a@b.example\nTo: tilda@quay.example\nList-Id: <crates.b.example>",
                "From: a@b.example\nTo: tilda@quay.example\nAuto-Submitted: auto-generated",
                "From: a@b.example\nTo: tilda@quay.example\nReturn-Path: <>",
                "From: loans@quay.example\nTo: tilda@quay.example",
                "From: nobody\nTo: tilda@quay.example"
            })
    void whatIsNoPersonIsNotAnswered(String header) {
        assertThat(OutgoingMessage.automatic(mail(header + "\nSubject: s\n\nx\n"), OWN, "Tilda", "Back on Monday"))
                .isEmpty();
    }
}
