package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import jakarta.mail.BodyPart;
import jakarta.mail.Multipart;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeUtility;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Properties;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is written is read back whole by another library than the one that wrote it. */
class WrittenMailTest {
    private static final Instant NOW = Instant.parse("2026-11-25T08:00:00Z");
    private static final OwnAddresses OWN = new OwnAddresses("tilda@quay.example", Set.of("loans@quay.example"));

    /** What the other library finds in a source. */
    private record Found(
            List<String> fields,
            String from,
            List<String> to,
            List<String> cc,
            String subject,
            String inReplyTo,
            List<String> references,
            String text) {
        static Found in(byte[] source) throws Exception {
            MimeMessage message = parsed(source);
            Object content = message.getContent();
            return new Found(
                    Collections.list(message.getAllHeaders()).stream()
                            .map(field -> field.getName())
                            .sorted()
                            .toList(),
                    shown((InternetAddress) message.getFrom()[0]),
                    addresses(message, jakarta.mail.Message.RecipientType.TO),
                    addresses(message, jakarta.mail.Message.RecipientType.CC),
                    String.valueOf(message.getSubject()),
                    String.valueOf(message.getHeader("In-Reply-To", ",")),
                    references(message),
                    String.valueOf(content instanceof Multipart parts ? firstText(parts) : content));
        }

        private static Object firstText(Multipart parts) throws Exception {
            return parts.getBodyPart(0).getContent();
        }

        private static List<String> references(MimeMessage message) throws Exception {
            String field = message.getHeader("References", ",");
            return field == null
                    ? List.of()
                    : Arrays.asList(MimeUtility.unfold(field).strip().split("\\s+"));
        }

        private static List<String> addresses(MimeMessage message, jakarta.mail.Message.RecipientType type)
                throws Exception {
            jakarta.mail.Address[] all = message.getRecipients(type);
            return all == null
                    ? List.of()
                    : Arrays.stream(all)
                            .map(one -> shown((InternetAddress) one))
                            .toList();
        }

        private static String shown(InternetAddress address) {
            String name = address.getPersonal();
            return (name == null ? "" : name) + "|" + address.getAddress();
        }
    }

    private static MimeMessage parsed(byte[] source) throws Exception {
        return new MimeMessage(Session.getInstance(new Properties()), new ByteArrayInputStream(source));
    }

    /** What must be found, if nothing is lost but what no header and no text can hold. */
    private static Found expected(OutgoingMessage outline, List<String> fields) {
        return new Found(
                fields,
                shown(outline.from()),
                outline.to().stream().map(WrittenMailTest::shown).toList(),
                outline.cc().stream().map(WrittenMailTest::shown).toList(),
                line(outline.subject()),
                outline.inReplyTo() == null ? "null" : "<" + outline.inReplyTo() + ">",
                outline.references().stream().map(id -> "<" + id + ">").toList(),
                text(outline.text()));
    }

    private static String shown(Address address) {
        return line(address.name()) + "|" + address.email();
    }

    private static String line(String text) {
        return whole(text).replaceAll("[\\p{Cntrl}]+", " ").strip();
    }

    private static String text(String text) {
        String lines = text.replace("\r\n", "\n")
                .replace('\r', '\n')
                .replaceAll("[\\p{Cntrl}&&[^\\n\\t]]", "")
                .replace("\n", "\r\n");
        lines = whole(lines);
        return lines.endsWith(" ") || lines.endsWith("\t") ? lines + "\r\n" : lines;
    }

    /** Half a character is no character (RFC 3629, section 3). */
    private static String whole(String text) {
        return new String(text.getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8);
    }

    private static void isWhole(OutgoingMessage outline) throws Exception {
        byte[] source = MailWriter.write(outline, "id@quay.example", NOW);
        List<String> fields = new ArrayList<>(List.of(
                "Content-Transfer-Encoding", "Content-Type", "Date", "From", "MIME-Version", "Message-ID", "Subject"));
        if (!outline.to().isEmpty()) {
            fields.add("To");
        }
        if (!outline.cc().isEmpty()) {
            fields.add("Cc");
        }
        if (outline.inReplyTo() != null) {
            fields.add("In-Reply-To");
        }
        if (!outline.references().isEmpty()) {
            fields.add("References");
        }
        Collections.sort(fields);
        assertThat(Found.in(source)).usingRecursiveComparison().isEqualTo(expected(outline, fields));
        assertThat(new String(source, StandardCharsets.ISO_8859_1).split("\r\n"))
                .allMatch(line -> line.length() <= 998
                        && line.chars().allMatch(sign -> (sign >= ' ' && sign < 0x7f) || sign == '\t'));
        assertThat(MimeReader.read(source).references()).hasSizeLessThanOrEqualTo(100);
    }

    private static OutgoingMessage outline(
            List<Address> to, String name, String subject, String text, List<String> references) {
        return new OutgoingMessage(
                new Address(name, "tilda@quay.example"),
                to,
                List.of(),
                subject,
                text,
                references.isEmpty() ? null : references.get(references.size() - 1),
                references);
    }

    private static List<String> ids(int count) {
        return IntStream.range(0, count)
                .mapToObj(i -> "CAF%d.%s@mail.wharf.example".formatted(i, "x".repeat(i % 60)))
                .toList();
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3, 5, 10, 50, 300})
    void howeverLongTheConversation(int references) throws Exception {
        isWhole(outline(List.of(new Address("Anna", "anna@wharf.example")), "Tilda", "Re: x", "Yes.", ids(references)));
    }

    @Test
    void twoHundredRecipients() throws Exception {
        isWhole(outline(
                IntStream.range(0, 200)
                        .mapToObj(i -> new Address(
                                i % 3 == 0 ? "" : i % 3 == 1 ? "Grebe, Ottoline " + i : "Λίνα Ωμέγα " + i,
                                "p" + i + "@wharf.example"))
                        .toList(),
                "Tilda",
                "To all",
                "Yes.",
                List.of()));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "plain",
                "Grebe, Ottoline",
                "“quoted” and \"quoted\" and \\back\\slashed\\",
                "Bcc: x@y.example",
                "line\r\nBcc: x@y.example",
                "NUL \0 in it",
                "a\rb\nc\td",
                "=?utf-8?Q?not_decoded?=",
                "Größe 🛥 und Λίνα und 展覧会 и ещё",
                "half \ud83d of it",
                "a (comment) <x@y.example>",
                "semi;colon: at@sign",
                "trailing   "
            })
    void whateverIsTypedAsNameOrSubject(String typed) throws Exception {
        for (String text : List.of(typed, (typed + " ").repeat(200), typed.repeat(40))) {
            isWhole(outline(
                    List.of(new Address(text.substring(0, Math.min(text.length(), 400)), "a@b.example")),
                    text.substring(0, Math.min(text.length(), 400)),
                    text,
                    "Yes.",
                    List.of()));
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                ".",
                "..\n.\n.x\nFrom here\n",
                "trailing blanks   \nand a tab\t\n  and leading\n\n\n",
                "a\rb\r\nc\nd\0e\u0007f",
                "Größe 🛥 展覧会 ",
                "=3D is no encoding = here =\n=",
                "half \ud83d of it",
                "-- \nTilda"
            })
    void whateverIsTypedAsText(String typed) throws Exception {
        for (String text : List.of(typed, typed.repeat(300), "x".repeat(10_000) + typed, typed + " ".repeat(10_000))) {
            isWhole(outline(List.of(new Address("", "a@b.example")), "Tilda", "x", text, List.of()));
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void whateverIsTypedAnywhere(long seed) throws Exception {
        Random random = new Random(seed);
        for (int i = 0; i < 60; i++) {
            isWhole(new OutgoingMessage(
                    new Address(anything(random, 40), "tilda@quay.example"),
                    List.of(new Address(anything(random, 80), "a@b.example"), new Address("", "c@d.example")),
                    List.of(new Address(anything(random, 20), "e@f.example")),
                    anything(random, 300),
                    anything(random, 3000),
                    null,
                    ids(random.nextInt(60))));
        }
    }

    private static String anything(Random random, int length) {
        String signs = "abcdefgh ijkl,;:<>@()[]\"\\.=?_-\r\n\t\0äßΛ展🛥\ud83d\u0085\u2028";
        return random.ints(random.nextInt(length + 1), 0, signs.length())
                .mapToObj(i -> String.valueOf(signs.charAt(i)))
                .collect(Collectors.joining());
    }

    @Test
    void anAnswerInALongConversationHasItsIdsInItsHeader() throws Exception {
        String references = ids(300).stream().map(id -> "<" + id + ">").collect(Collectors.joining("\r\n "));
        ParsedMail mail = MimeReader.read("""
                From: Ottoline <o@grebe.example>\r
                To: loans@quay.example\r
                Subject: Two crates\r
                Message-ID: <last@grebe.example>\r
                References: %s\r
                \r
                Two crates.\r
                """.formatted(references).getBytes(StandardCharsets.US_ASCII));
        isWhole(OutgoingMessage.answer(mail, OWN, "Tilda", true, "On Monday", "")
                .formatted(null));
        OutgoingMessage automatic =
                OutgoingMessage.automatic(mail, OWN, "Tilda", "I am away.").orElseThrow();
        Found found = Found.in(MailWriter.write(automatic, "id@quay.example", NOW));
        assertThat(found.fields()).contains("Auto-Submitted", "References", "In-Reply-To", "Content-Type");
        assertThat(found.references()).last().isEqualTo("<last@grebe.example>");
        assertThat(found.text()).isEqualTo("I am away.");
    }

    /** Ids come from other people's messages. */
    @Test
    void anIdThatNoHeaderCanHoldIsLeftOut() throws Exception {
        OutgoingMessage outline = new OutgoingMessage(
                new Address("Tilda", "tilda@quay.example"),
                List.of(new Address("", "a@b.example")),
                List.of(),
                "x",
                "Yes.",
                "a\r\nBcc: x@y.example",
                List.of(
                        "one@wharf.example",
                        "two words@wharf.example",
                        "größe@wharf.example",
                        "y".repeat(2000),
                        "a>b"));
        Found found = Found.in(MailWriter.write(outline, "id@quay.example", NOW));
        assertThat(found.fields()).doesNotContain("Bcc", "In-Reply-To");
        assertThat(found.references()).containsExactly("<one@wharf.example>");
        assertThat(found.text()).isEqualTo("Yes.");
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void whatIsPassedOnIsWhole(boolean attached) throws Exception {
        byte[] file = new byte[5000];
        new Random(1).nextBytes(file);
        String source = """
                From: Ottoline <o@grebe.example>
                To: loans@quay.example
                Subject: Two crates
                Content-Type: multipart/mixed; boundary=b

                --b
                Content-Type: text/plain

                Two crates.
                --b
                Content-Type: application/octet-stream
                Content-Transfer-Encoding: base64
                Content-Disposition: attachment; filename="größe, ein Riß mit einem sehr langen Namen, der nicht in eine Zeile paßt.bin"

                %s
                --b--
                """.formatted(java.util.Base64.getMimeEncoder().encodeToString(file))
                .replace("\r\n", "\n")
                .replace("\n", "\r\n");
        byte[] bytes = source.getBytes(StandardCharsets.UTF_8);
        OutgoingMessage outline = OutgoingMessage.forward(
                        MimeReader.read(bytes),
                        OWN,
                        "Tilda",
                        List.of(new Address("Anna", "anna@wharf.example")),
                        bytes,
                        attached,
                        "For you")
                .orElseThrow();
        MimeMessage message = parsed(MailWriter.write(outline, "id@quay.example", NOW));
        Multipart parts = (Multipart) message.getContent();
        assertThat(parts.getCount()).isEqualTo(2);
        BodyPart second = parts.getBodyPart(1);
        if (attached) {
            assertThat(second.getInputStream().readAllBytes()).isEqualTo(bytes);
        } else {
            assertThat(second.getInputStream().readAllBytes()).isEqualTo(file);
            assertThat(MimeUtility.decodeText(second.getFileName()))
                    .isEqualTo("größe, ein Riß mit einem sehr langen Namen, der nicht in eine Zeile paßt.bin");
        }
    }

    @Test
    void recipientsAreReadAsTheyAreTyped() {
        assertThat(
                        MailWriter.addresses(
                                "anna@wharf.example, Ottoline Grebe <o@grebe.example>; \"Grebe, Jürgen\" <j@grebe.example>\nJürgen Müller <jm@b.example>,,;"))
                .containsExactly(
                        new Address("", "anna@wharf.example"),
                        new Address("Ottoline Grebe", "o@grebe.example"),
                        new Address("Grebe, Jürgen", "j@grebe.example"),
                        new Address("Jürgen Müller", "jm@b.example"));
    }

    /** What is typed is written out again, and typed again by whoever sends the draft later. */
    @Test
    void recipientsThatAreWrittenOutAreReadTheSame() {
        Random random = new Random(7);
        for (int i = 0; i < 500; i++) {
            List<Address> all =
                    List.of(new Address(line(anything(random, 30)), "a@b.example"), new Address("", "c@d.example"));
            assertThat(MailWriter.addresses(MailWriter.typed(all))).isEqualTo(all);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "anna",
                "anna@",
                "@wharf.example",
                "Anna <anna>",
                "a b@c.example",
                "<>",
                "anna@wharf.example x",
                "größe@wharf.example",
                "a@b..c",
                "a@b.example\0"
            })
    void whatIsNoAddressIsSaid(String typed) {
        assertThatThrownBy(() -> MailWriter.addresses("ok@b.example, " + typed))
                .isInstanceOf(RuntimeException.class)
                .hasMessageContaining("not an address");
    }

    /** The time is not measured: what is not linear does not come to an end here. */
    @ParameterizedTest
    @ValueSource(strings = {",", ";", "\"", "(", "<", "a.", "=?utf-8?Q?", "a@b.", "\\", ":", "<a,"})
    void recipientsOfAnyLengthAreReadInNoTime(String sign) {
        for (String typed : List.of(sign.repeat(200_000), "a@b.example" + sign.repeat(200_000))) {
            try {
                assertThat(MailWriter.addresses(typed)).hasSizeLessThanOrEqualTo(200);
            } catch (RuntimeException e) {
                assertThat(e.getMessage()).isNotBlank().hasSizeLessThan(500);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 57, 100_000, 3_000_000})
    void howLargeItWillBeIsKnownBefore(int bytes) {
        OutgoingMessage outline = new OutgoingMessage(
                        new Address("", "tilda@quay.example"), List.of(), List.of(), "x", "y", null, List.of())
                .with(List.of(new OutgoingMessage.AttachedFile("a.bin", "application/octet-stream", new byte[bytes])));
        int written = MailWriter.write(outline, "id@quay.example", NOW).length;
        assertThat(outline.estimatedSize()).isBetween(written - 1000L, (long) written);
    }
}
