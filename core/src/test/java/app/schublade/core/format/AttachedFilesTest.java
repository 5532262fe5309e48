package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.format.OutgoingMessage.AttachedFile;
import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Files of messages that are written here, as our reader and another library find them again. */
class AttachedFilesTest {
    private static final Instant NOW = Instant.parse("2026-11-29T10:00:00Z");
    private static final int[] SIGNS =
            "abc XYZ.-_äßøЖ日本語'\"%*;=()…\u00ad\u202e\ud83d\ude00".codePoints().toArray();
    private static final List<String> TYPES = List.of(
            "application/pdf", "image/png", "text/plain", "text/html", "application/octet-stream", "audio/x-own");

    private static OutgoingMessage with(List<AttachedFile> files) {
        return new OutgoingMessage(
                        new Address("Tilda", "tilda@quay.example"),
                        List.of(new Address("", "anna@wharf.example")),
                        List.of(),
                        "Crates",
                        "Here they are.",
                        null,
                        List.of())
                .with(files);
    }

    private static byte[] content(Random random) {
        byte[] content = new byte[random.nextInt(4) == 0 ? 0 : random.nextInt(5_000)];
        random.nextBytes(content);
        return content;
    }

    private static String name(Random random) {
        StringBuilder name = new StringBuilder();
        for (int length = 1 + random.nextInt(random.nextInt(5) == 0 ? 120 : 12); length > 0; length--) {
            name.appendCodePoint(SIGNS[random.nextInt(SIGNS.length)]);
        }
        return name + ".pdf";
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void whatIsAttachedIsFoundAgainByTwoReaders(long seed) throws Exception {
        Random random = new Random(seed);
        for (int i = 0; i < 60; i++) {
            List<AttachedFile> files = new ArrayList<>();
            for (int number = 1 + random.nextInt(4); number > 0; number--) {
                files.add(AttachedFile.of(name(random), TYPES.get(random.nextInt(TYPES.size())), content(random)));
            }
            byte[] source = MailWriter.write(with(files), "id@quay.example", NOW);

            List<Part> read = MimeReader.read(source).attachments();
            MimeMultipart other = (MimeMultipart) parsed(source).getContent();
            assertThat(read).hasSameSizeAs(files);
            assertThat(other.getCount()).isEqualTo(files.size() + 1);
            for (int number = 0; number < files.size(); number++) {
                AttachedFile file = files.get(number);
                assertThat(read.get(number).name()).isEqualTo(file.name());
                assertThat(read.get(number).type()).isEqualTo(file.type());
                assertThat(read.get(number).content()).isEqualTo(file.content());
                var part = other.getBodyPart(number + 1);
                assertThat(part.getFileName()).isEqualTo(file.name());
                assertThat(part.getInputStream().readAllBytes()).isEqualTo(file.content());
            }
            assertThat(new String(source, StandardCharsets.ISO_8859_1).split("\r\n"))
                    .allMatch(line -> line.length() <= 998 && line.chars().allMatch(sign -> sign < 0x7f));
        }
    }

    private static MimeMessage parsed(byte[] source) throws Exception {
        return new MimeMessage(Session.getInstance(new Properties()), new ByteArrayInputStream(source));
    }

    @Test
    void aMessageGoesAlongAsItIs() throws Exception {
        byte[] inner = MailWriter.write(
                with(List.of(AttachedFile.of("a.txt", "text/plain", "x".getBytes(StandardCharsets.US_ASCII)))),
                "inner@quay.example",
                NOW);
        AttachedFile file = OutgoingMessage.asItCame(MimeReader.read(inner), inner);
        assertThat(file.name()).isEqualTo("Crates.eml");
        byte[] source = MailWriter.write(with(List.of(file)), "outer@quay.example", NOW);
        MimeMultipart parts = (MimeMultipart) parsed(source).getContent();
        assertThat(parts.getBodyPart(1).getContentType()).startsWith("message/rfc822");
        ByteArrayOutputStream found = new ByteArrayOutputStream();
        ((MimeMessage) parts.getBodyPart(1).getContent()).writeTo(found);
        assertThat(found.toByteArray()).isEqualTo(inner);

        byte[] eight = "Subject: Grün\r\n\r\nGrün\r\n".getBytes(StandardCharsets.UTF_8);
        byte[] asFile = MailWriter.write(
                with(List.of(OutgoingMessage.asItCame(MimeReader.read(eight), eight))), "outer@quay.example", NOW);
        assertThat(MimeReader.read(asFile).attachments().get(0).content()).isEqualTo(eight);
    }

    @Test
    void whoeverPassesAMessageOnBeginsWithItsTextAndFiles() {
        byte[] came = MailWriter.write(
                with(List.of(AttachedFile.of("list.pdf", "application/pdf", new byte[] {1, 2}))),
                "id@quay.example",
                NOW);
        OutgoingMessage begun = OutgoingMessage.passingOn(
                MimeReader.read(came), new OwnAddresses("ben@pier.example", Set.of()), "Ben", "yesterday");
        assertThat(begun.subject()).isEqualTo("Fwd: Crates");
        assertThat(begun.text())
                .startsWith("\n\nForwarded from Tilda <tilda@quay.example>\nWritten yesterday, to ")
                .contains("to anna@wharf.example")
                .endsWith("Here they are.\n");
        assertThat(begun.files()).singleElement().satisfies(file -> {
            assertThat(file.name()).isEqualTo("list.pdf");
            assertThat(file.content()).containsExactly(1, 2);
        });
        assertThat(begun.to()).isEmpty();
        assertThat(OutgoingMessage.passingOn(
                                MimeReader.read(MailWriter.write(begun, "x@pier.example", NOW)),
                                new OwnAddresses("ben@pier.example", Set.of()),
                                "Ben",
                                "today")
                        .subject())
                .isEqualTo("Fwd: Crates");
    }

    @Test
    void whatSomebodyCallsAFileNeverBreaksAnything() {
        assertThat(AttachedFile.of("../../etc/pass\r\nBcc: x@y.example\u0000wd", "text/plain; x=\"\r\n", new byte[0]))
                .satisfies(file -> {
                    assertThat(file.name()).doesNotContain("\r", "\n", "\u0000", "/");
                    assertThat(file.type()).isEqualTo("application/octet-stream");
                });
        assertThat(AttachedFile.of("", "image/png", new byte[0]).name()).isNotBlank();
        assertThat(AttachedFile.of("x.eml", "message/rfc822", new byte[0]).type())
                .isEqualTo("application/octet-stream");
    }
}
