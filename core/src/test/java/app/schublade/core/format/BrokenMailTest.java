package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Address;
import app.schublade.standin.BrokenMail;
import jakarta.mail.Multipart;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Whatever comes in is read, within bounds, and tells of itself what can be told. */
class BrokenMailTest {
    private static final int LARGE = 200_000;
    private static final int SMALL_STACK = 192 * 1024;

    static Stream<String> shapes() {
        return BrokenMail.shapes().keySet().stream();
    }

    private static byte[] shape(String name, int size) {
        IntFunction<byte[]> maker = BrokenMail.shapes().get(name);
        return maker == null ? new byte[0] : maker.apply(size);
    }

    /** With so little stack that nothing can call itself for each level; what is quadratic does not end. */
    @ParameterizedTest
    @MethodSource("shapes")
    void senderAndSubjectAreRightWhateverTheRestIs(String name) throws Exception {
        AtomicReference<@Nullable ParsedMail> read = new AtomicReference<>();
        byte[] source = shape(name, LARGE);
        Thread reader = new Thread(null, () -> read.set(MimeReader.read(source)), "reader", SMALL_STACK);
        reader.start();
        reader.join(60_000);
        ParsedMail mail = Objects.requireNonNull(read.get(), "It was not read in the end.");
        if (!name.contains("sender")) {
            assertThat(mail.from()).isEqualTo(new Address("Anna", "anna@wharf.example"));
        }
        if (!name.contains("subject")) {
            assertThat(mail.subject()).isEqualTo("Still read");
        }
        assertThat(mail.messageId()).isEqualTo("m@wharf.example");
    }

    /** Twice as much takes about twice as many steps: the shortest of several runs is compared, not a time. */
    @ParameterizedTest
    @MethodSource("shapes")
    void twiceAsMuchIsNotFourTimesTheWork(String name) {
        long one = allocated(shape(name, LARGE));
        long two = allocated(shape(name, 2 * LARGE));
        assertThat((double) two / one).isLessThan(2.5);
    }

    /** Bytes that reading takes from memory: it counts copies, whatever else the machine does meanwhile. */
    private static long allocated(byte[] source) {
        com.sun.management.ThreadMXBean threads =
                (com.sun.management.ThreadMXBean) java.lang.management.ManagementFactory.getThreadMXBean();
        long id = Thread.currentThread().getId();
        MimeReader.read(source);
        long before = threads.getThreadAllocatedBytes(id);
        MimeReader.read(source).parts().forEach(Part::size);
        return threads.getThreadAllocatedBytes(id) - before;
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void whateverIsBrokenNothingIsThrownAndNoNulIsLeft(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 2000; i++) {
            byte[] source = BrokenMail.any(random);
            ParsedMail mail = MimeReader.read(source);
            String all = mail.messageId()
                    + mail.from()
                    + mail.to()
                    + mail.cc()
                    + mail.replyTo()
                    + mail.envelopeTo()
                    + mail.subject()
                    + mail.references()
                    + mail.listId()
                    + mail.text()
                    + mail.html()
                    + mail.headers().all()
                    + mail.notes()
                    + mail.invitation()
                    + mail.parts().stream()
                            .map(part -> part.name() + part.type() + part.contentId() + part.size())
                            .toList();
            assertThat(all).as("seed %d, message %d", seed, i).doesNotContain("\0");
        }
    }

    @Test
    void whatIsLeftOutIsSaid() {
        MimeLimits few = new MimeLimits(2, 3, 5, 1024, 50);
        assertThat(cuts(few, "nested parts")).anyMatch(cut -> cut.contains("2 deep"));
        assertThat(cuts(few, "many parts")).anyMatch(cut -> cut.contains("parts; "));
        assertThat(cuts(few, "many fields")).anyMatch(cut -> cut.contains("5 fields"));
        assertThat(cuts(few, "one long field")).anyMatch(cut -> cut.contains("x-field"));
        assertThat(cuts(few, "empty lines")).anyMatch(cut -> cut.contains("50 characters"));
        assertThat(MimeReader.read(shape("recipients", 1000)).cuts()).isEmpty();
    }

    private static List<String> cuts(MimeLimits limits, String shape) {
        return MimeReader.read(ByteBuffer.wrap(shape(shape, 20_000)), limits).cuts();
    }

    @Test
    void whatComesAfterAThousandFieldsIsKnownIfItIsNeeded() {
        String many = IntStream.range(0, 3000)
                .mapToObj(i -> "X-Trace-" + i + ": on the way\r\n")
                .collect(Collectors.joining());
        ParsedMail mail = MimeReader.read((many + "From: Anna <anna@wharf.example>\r\nSubject: Late\r\n\r\nText.")
                .getBytes(StandardCharsets.US_ASCII));
        assertThat(mail.from().email()).isEqualTo("anna@wharf.example");
        assertThat(mail.subject()).isEqualTo("Late");
        assertThat(mail.text()).isEqualTo("Text.");
        assertThat(mail.cuts()).hasSize(1);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "Content-Type: text/plain; name=\"letter.txt\"\n\nThe text.",
                "Content-Type: text/plain\nContent-Disposition: inline; filename=\"letter.txt\"\n\nThe text.",
                "Content-Type: text/plain\nContent-Disposition: attachment; filename=\"letter.txt\"\n\nThe text.",
                "Content-Type: multipart/mixed; boundary=b\n\n--b\nContent-Disposition: inline; filename=a.txt\n\nThe text.\n--b\nContent-Type: image/png\n\nx\n--b--",
                "Content-Type: multipart/mixed\n\nThe text.",
                "Content-Type: multipart/mixed; boundary=\"\"\n\nThe text.",
                "Content-Type: multipart/mixed; boundary=b\n\n--b\n\nThe text.",
                "Content-Type: multipart/mixed; boundary=b\n\n--b  \n\nThe text.\n--b--  \nepilogue",
                "Content-Type: multipart/mixed; boundary = \"b\"\n\npreamble\n--b\nContent-Type: text/plain\n\nThe text.\n--b--",
                "From anna@wharf.example Mon Nov 23 08:00:00 2026\nFrom: a@b.example\n\nThe text.",
                "From: a@b.example\nno field at all\nSubject: x\n\nThe text.",
                "The text.",
                "\nThe text."
            })
    void theTextIsFound(String source) {
        assertThat(MimeReader.read(source.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8))
                        .text()
                        .strip())
                .isEqualTo("The text.");
        assertThat(MimeReader.read(source.getBytes(StandardCharsets.UTF_8))
                        .text()
                        .strip())
                .isEqualTo("The text.");
    }

    @Test
    void aMessageInAMessageIsKeptAsItIs() {
        String inner = "From: b@c.example\r\nX-Odd:  spaced\r\n\tfolded\r\n\r\n--b-not\r\n.\r\n";
        ParsedMail mail = MimeReader.read(
                ("Content-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: message/rfc822\r\n\r\n" + inner
                                + "\r\n--b--\r\n")
                        .getBytes(StandardCharsets.US_ASCII));
        assertThat(mail.parts()).singleElement().satisfies(part -> {
            assertThat(part.type()).isEqualTo("message/rfc822");
            assertThat(new String(part.content(), StandardCharsets.US_ASCII)).isEqualTo(inner);
        });
    }

    /** Parts of generated, well-formed messages: their number, types and contents as another library finds them. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void partsAreThoseThatAnotherReaderFinds(long seed) throws Exception {
        Random random = new Random(seed);
        for (int i = 0; i < 150; i++) {
            byte[] source =
                    ("From: a@b.example\r\nMIME-Version: 1.0\r\n" + entity(random, 0)).getBytes(StandardCharsets.UTF_8);
            StringBuilder ours = new StringBuilder();
            flatten(MimeParser.parse(ByteBuffer.wrap(source), MimeLimits.USUAL, new java.util.HashSet<>()), ours);
            StringBuilder theirs = new StringBuilder();
            flatten(new MimeMessage(null, new ByteArrayInputStream(source)), theirs);
            assertThat(ours.toString())
                    .as(new String(source, StandardCharsets.UTF_8))
                    .isEqualTo(theirs.toString());
        }
    }

    private static String entity(Random random, int depth) {
        if (depth < 4 && random.nextInt(3) > 0) {
            String boundary = "b" + depth + "-" + random.nextInt(1000);
            StringBuilder parts = new StringBuilder();
            for (int i = 1 + random.nextInt(4); i > 0; i--) {
                parts.append("--")
                        .append(boundary)
                        .append("\r\n")
                        .append(entity(random, depth + 1))
                        .append("\r\n");
            }
            return "Content-Type: multipart/" + (random.nextBoolean() ? "mixed" : "related") + ";\r\n boundary=\""
                    + boundary + "\"\r\n\r\n" + (random.nextBoolean() ? "preamble\r\n" : "") + parts + "--" + boundary
                    + "--\r\n";
        }
        byte[] content = new byte[random.nextInt(200)];
        random.nextBytes(content);
        return switch (random.nextInt(3)) {
            case 0 ->
                "Content-Type: application/octet-stream\r\nContent-Transfer-Encoding: base64\r\n\r\n"
                        + Base64.getMimeEncoder().encodeToString(content);
            case 1 ->
                "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\nGr=C3=BC=C3=9Fe =\r\nund mehr";
            default -> "Content-Type: text/html\r\n\r\n<p>--b0 no boundary</p>\r\n--\r\n";
        };
    }

    private static void flatten(MimeEntity entity, StringBuilder all) throws Exception {
        if (entity.hasParts()) {
            all.append('[');
            for (MimeEntity part : entity.parts()) {
                flatten(part, all);
            }
            all.append(']');
        } else {
            all.append(entity.type())
                    .append('=')
                    .append(Base64.getEncoder().encodeToString(entity.open().readAllBytes()))
                    .append(' ');
        }
    }

    private static void flatten(jakarta.mail.Part part, StringBuilder all) throws Exception {
        if (part.isMimeType("multipart/*")) {
            all.append('[');
            Multipart parts = (Multipart) part.getContent();
            for (int i = 0; i < parts.getCount(); i++) {
                flatten(parts.getBodyPart(i), all);
            }
            all.append(']');
        } else {
            all.append(new jakarta.mail.internet.ContentType(part.getContentType()).getBaseType())
                    .append('=')
                    .append(Base64.getEncoder()
                            .encodeToString(part.getInputStream().readAllBytes()))
                    .append(' ');
        }
    }
}
