package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import jakarta.activation.DataHandler;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Date;
import java.util.List;
import java.util.Properties;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What another library writes is read here as it was meant: generated messages in many charsets, encodings and structures. */
class OtherWritersTest {
    private static final int MESSAGES = 150;
    private static final Session SESSION = Session.getInstance(new Properties());

    /** Words that a charset has signs for. */
    private enum Tongue {
        ENGLISH("us-ascii", "crate", "ferry", "C++", "it's", "--", "=?no?=", "a@b"),
        GERMAN("iso-8859-1", "Größe", "Überführung", "naïve", "§", "Kiste"),
        EURO("windows-1252", "4.200", "€", "“so”", "…", "cœur"),
        RUSSIAN("koi8-r", "Смета", "крыша", "ёж"),
        JAPANESE("iso-2022-jp", "見積書", "お送り", "です"),
        CHINESE("gb2312", "报价单", "会议"),
        KOREAN("euc-kr", "견적서", "회의"),
        HEBREW("iso-8859-8", "הצעת", "מחיר"),
        ALL("utf-8", "Größe", "見積書", "Смета", "🎉", "ﬁn", "e\u0301");

        private final String charset;
        /** With bars between. */
        private final String words;

        Tongue(String charset, String... words) {
            this.charset = charset;
            this.words = String.join("|", words);
        }

        String text(Random random, int most) {
            List<String> all = List.of(words.split("\\|", -1));
            return random.ints(1 + random.nextInt(most), 0, all.size())
                    .mapToObj(all::get)
                    .collect(Collectors.joining(" "));
        }
    }

    /** A file that was sent. */
    private record Sent(String name, int size) {}

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void isReadAsItWasWritten(long seed) throws MessagingException, IOException {
        Random random = new Random(seed);
        for (int i = 0; i < MESSAGES; i++) {
            Tongue tongue = Tongue.values()[random.nextInt(Tongue.values().length)];
            String subject = tongue.text(random, 12);
            String name = tongue.text(random, 3);
            StringBuilder lines = new StringBuilder();
            for (int line = random.nextInt(6); line >= 0; line--) {
                lines.append(tongue.text(random, 14)).append("\r\n");
            }
            Date date = new Date(1_000L * random.nextInt(2_000_000_000));
            MimeMessage message = new MimeMessage(SESSION);
            message.setFrom(new InternetAddress("o.grebe@grebe.example", name, tongue.charset));
            message.setRecipient(
                    Message.RecipientType.TO,
                    new InternetAddress("a@b.example", tongue.text(random, 2), tongue.charset));
            message.setSubject(subject, tongue.charset);
            message.setSentDate(date);
            List<Sent> files = new ArrayList<>();
            fill(message, lines.toString(), tongue, random, files);

            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            message.writeTo(bytes);
            ParsedMail read = MimeReader.read(bytes.toByteArray());

            String which = "seed %d, message %d, %s".formatted(seed, i, tongue);
            assertThat(read.subject()).as(which).isEqualTo(subject);
            assertThat(read.from().name()).as(which).isEqualTo(name);
            assertThat(read.from().email()).as(which).isEqualTo("o.grebe@grebe.example");
            assertThat(read.to())
                    .as(which)
                    .singleElement()
                    .satisfies(one -> assertThat(one.email()).isEqualTo("a@b.example"));
            assertThat(read.sent()).as(which).isEqualTo(Instant.ofEpochMilli(date.getTime()));
            assertThat(read.text().stripTrailing())
                    .as(which)
                    .isEqualTo(lines.toString().stripTrailing());
            assertThat(read.attachments())
                    .as(which)
                    .extracting(part -> new Sent(part.name(), part.size()))
                    .isEqualTo(files);
            assertThat(read.cuts()).as(which).isEmpty();
        }
    }

    private static void fill(MimeMessage message, String text, Tongue tongue, Random random, List<Sent> files)
            throws MessagingException, IOException {
        int structure = random.nextInt(4);
        if (structure == 0) {
            message.setText(text, tongue.charset);
            message.saveChanges();
            return;
        }
        MimeMultipart all = new MimeMultipart("mixed");
        MimeBodyPart body = new MimeBodyPart();
        if (structure == 1) {
            body.setText(text, tongue.charset);
        } else {
            MimeMultipart alternatives = new MimeMultipart("alternative");
            MimeBodyPart plain = new MimeBodyPart();
            plain.setText(text, tongue.charset);
            MimeBodyPart html = new MimeBodyPart();
            html.setText("<p>" + text + "</p>", "utf-8", "html");
            alternatives.addBodyPart(plain);
            alternatives.addBodyPart(html);
            body.setContent(alternatives);
        }
        all.addBodyPart(body);
        for (int i = random.nextInt(4); i > 0; i--) {
            byte[] content = new byte[random.nextInt(2000)];
            random.nextBytes(content);
            MimeBodyPart file = new MimeBodyPart();
            file.setDataHandler(new DataHandler(new ByteArrayDataSource(content, "application/octet-stream")));
            String name = i + " " + tongue.text(random, 4).replaceAll("[/\\\\]", "") + ".bin";
            file.setFileName(name);
            file.setHeader("Content-Transfer-Encoding", content.length == 0 ? "7bit" : "base64");
            all.addBodyPart(file);
            files.add(new Sent(name, content.length));
        }
        message.setContent(all);
        message.saveChanges();
    }
}
