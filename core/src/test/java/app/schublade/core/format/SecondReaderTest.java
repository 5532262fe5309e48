package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import jakarta.mail.Address;
import jakarta.mail.BodyPart;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeUtility;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Date;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Properties;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/**
 * The collection of awkward messages, read by another library too. Where the two differ it was decided who is right; the reasons
 * stand in {@code differences.txt}, each with what differs: {@code subject}, {@code from}, {@code to}, {@code date}, {@code text},
 * {@code names} or {@code sizes} of files.
 */
class SecondReaderTest {
    private static final Session SESSION = Session.getInstance(new Properties());

    @Test
    void differsOnlyWhereThatWasDecided() throws IOException {
        Set<String> found = new LinkedHashSet<>();
        for (String name : AwkwardMailTest.names()) {
            byte[] source = AwkwardMailTest.source(name);
            Seen ours = Seen.of(MimeReader.read(source));
            Seen theirs = Seen.of(source);
            List<String> differences = ours.differences(theirs);
            if (!differences.isEmpty()) {
                found.add(name + ": " + String.join(", ", differences));
            }
        }
        List<String> decided = Files.readAllLines(Path.of("src/test/resources/differences.txt")).stream()
                .filter(line -> !line.isBlank() && !line.startsWith("#"))
                .toList();
        assertThat(found).containsExactlyInAnyOrderElementsOf(decided);
    }

    /** What a reader saw; null where it threw. */
    private record Seen(
            @Nullable String subject,
            @Nullable String from,
            @Nullable String to,
            @Nullable String date,
            @Nullable String text,
            @Nullable String names,
            @Nullable String sizes) {

        static Seen of(ParsedMail mail) {
            Instant sent = mail.sent();
            List<app.schublade.core.format.Part> files = mail.attachments().stream()
                    .filter(part ->
                            !part.name().startsWith("part-") && !part.name().endsWith(".eml"))
                    .toList();
            return new Seen(
                    mail.subject(),
                    shown(List.of(mail.from())),
                    shown(mail.to()),
                    sent == null ? "" : sent.toString(),
                    flat(mail.text()),
                    files.stream()
                            .map(app.schublade.core.format.Part::name)
                            .sorted()
                            .toList()
                            .toString(),
                    files.stream()
                            .map(app.schublade.core.format.Part::size)
                            .sorted()
                            .toList()
                            .toString());
        }

        private static String shown(List<app.schublade.core.message.Address> addresses) {
            return addresses.stream()
                    .map(one -> one.name() + " <" + one.key() + ">")
                    .toList()
                    .toString();
        }

        /** Words alone: how HTML becomes lines is not compared. */
        private static String flat(String text) {
            return text.replaceAll("<https?://[^>]*>|[•\\s\\u00a0\\ufeff]+", " ")
                    .strip();
        }

        static Seen of(byte[] source) {
            try {
                MimeMessage message = new MimeMessage(SESSION, new ByteArrayInputStream(source));
                List<String> texts = new ArrayList<>();
                TreeMap<String, Integer> files = new TreeMap<>();
                String text = tried(() -> {
                    walk(message, texts, files);
                    return flat(String.join("\n", texts));
                });
                return new Seen(
                        tried(() -> oneLine(message.getSubject())),
                        tried(() -> addresses(first(message.getFrom()))),
                        tried(() -> addresses(message.getRecipients(Message.RecipientType.TO))),
                        tried(() -> date(message.getSentDate())),
                        text,
                        files.keySet().stream().toList().toString(),
                        files.values().stream().sorted().toList().toString());
            } catch (MessagingException e) {
                return new Seen(null, null, null, null, null, null, null);
            }
        }

        private interface Reads {
            String read() throws MessagingException, IOException;
        }

        private static @Nullable String tried(Reads reads) {
            try {
                return reads.read();
            } catch (MessagingException | IOException | RuntimeException e) {
                return null;
            }
        }

        private static String oneLine(@Nullable String subject) {
            return subject == null ? "" : subject.replaceAll("\\s+", " ").strip();
        }

        private static String date(@Nullable Date date) {
            return date == null ? "" : date.toInstant().toString();
        }

        private static Address @Nullable [] first(Address @Nullable [] all) {
            return all == null || all.length == 0 ? all : new Address[] {all[0]};
        }

        private static String addresses(Address @Nullable [] all) {
            List<Address> some = all == null ? List.of() : Arrays.asList(all);
            return some.stream()
                    .map(InternetAddress.class::cast)
                    .map(one -> (one.getPersonal() == null ? "" : one.getPersonal()) + " <"
                            + (one.getAddress() == null ? "" : one.getAddress().toLowerCase(Locale.ROOT)) + ">")
                    .toList()
                    .toString();
        }

        /** The plainest way: the first alternative that is text, all other text, everything with a name is a file. */
        private static void walk(Part part, List<String> texts, TreeMap<String, Integer> files)
                throws MessagingException, IOException {
            String name = part.getFileName();
            if (name != null) {
                files.put(MimeUtility.decodeText(name), part.getInputStream().readAllBytes().length);
            }
            if (part.isMimeType("multipart/*") && part.getContent() instanceof Multipart several) {
                boolean alternative = part.isMimeType("multipart/alternative");
                for (int i = 0; i < several.getCount(); i++) {
                    BodyPart one = several.getBodyPart(i);
                    int before = texts.size();
                    walk(one, texts, files);
                    if (alternative && texts.size() > before) {
                        return;
                    }
                }
            } else if (part.isMimeType("text/plain") && !Part.ATTACHMENT.equalsIgnoreCase(part.getDisposition())) {
                Object content = part.getContent();
                texts.add(
                        content instanceof String text
                                ? text
                                : new String(part.getInputStream().readAllBytes(), StandardCharsets.ISO_8859_1));
            } else if (part.isMimeType("text/html") && !Part.ATTACHMENT.equalsIgnoreCase(part.getDisposition())) {
                texts.add(HtmlText.of((String) part.getContent()));
            }
        }

        List<String> differences(Seen other) {
            List<String> names = new ArrayList<>();
            add(names, "subject", subject, other.subject);
            add(names, "from", from, other.from);
            add(names, "to", to, other.to);
            add(names, "date", date, other.date);
            add(names, "text", text, other.text);
            add(names, "names", this.names, other.names);
            add(names, "sizes", sizes, other.sizes);
            return names;
        }

        private static void add(List<String> names, String name, @Nullable String ours, @Nullable String theirs) {
            if (!Objects.equals(ours, theirs)) {
                names.add(name);
            }
        }
    }
}
