package app.schublade.standin.world;

import jakarta.activation.DataHandler;
import jakarta.mail.Message.RecipientType;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Date;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import org.jspecify.annotations.Nullable;

/** Puts letters into their envelopes: headers, parts, files (RFC 5322, RFC 2045 and after). */
public final class LetterWriter {
    private static final Session SESSION = Session.getInstance(new Properties());
    private static final String CALENDAR = ".ics";

    private LetterWriter() {}

    /** The message as it is sent. */
    public static MimeMessage mime(Letter letter) throws MessagingException {
        MimeMessage mime = new KeepingItsId(letter.id());
        String charset = charset(letter);
        mime.setFrom(letter.from().internetAddress());
        mime.setRecipients(RecipientType.TO, addresses(letter.to()));
        mime.setRecipients(RecipientType.CC, addresses(letter.cc()));
        mime.setSubject(letter.subject(), charset);
        mime.setSentDate(Date.from(letter.date()));
        addReferences(mime, letter);
        addOrigin(mime, letter);
        addContent(mime, letter, charset);
        mime.saveChanges();
        return mime;
    }

    private static String charset(Letter letter) {
        String all = letter.subject() + Prose.whole(letter);
        return Charset.forName(letter.charset()).newEncoder().canEncode(all) ? letter.charset() : "utf-8";
    }

    private static InternetAddress[] addresses(List<Person> people) {
        return people.stream().map(Person::internetAddress).toArray(InternetAddress[]::new);
    }

    private static void addReferences(MimeMessage mime, Letter letter) throws MessagingException {
        List<String> before = letter.references();
        if (!before.isEmpty()) {
            mime.setHeader("In-Reply-To", "<" + before.get(before.size() - 1) + ">");
            mime.setHeader("References", "<" + String.join(">\r\n <", before) + ">");
        }
    }

    private static void addOrigin(MimeMessage mime, Letter letter) throws MessagingException {
        Person list = list(letter);
        if (list != null) {
            String id = list.option("list", "");
            mime.setHeader("List-Id", "<" + id + ">");
            mime.setHeader("List-Unsubscribe-Post", "List-Unsubscribe=One-Click");
            mime.setHeader("List-Unsubscribe", "<mailto:leave@" + id + ">,\r\n <https://" + list.domain() + "/leave>");
            if (list.is("delivers")) {
                mime.setHeader("List-Post", "<mailto:" + list.address() + ">");
                mime.setHeader("Reply-To", list.address());
            }
        }
        if (letter.from().is("auto")) {
            mime.setHeader("Auto-Submitted", "auto-generated");
        }
        if (letter.urgent()) {
            mime.setHeader("Importance", "high");
        }
    }

    /** The mailing list that a letter came through. */
    private static @Nullable Person list(Letter letter) {
        return letter.from().is("list")
                ? letter.from()
                : letter.to().stream().filter(to -> to.is("list")).findFirst().orElse(null);
    }

    private static void addContent(MimeMessage mime, Letter letter, String charset) throws MessagingException {
        List<Enclosure.File> shown = letter.enclosures().stream()
                .filter(enclosure -> isInText(letter, enclosure))
                .map(Enclosure.File.class::cast)
                .toList();
        boolean plain = letter.layout().isEmpty() && shown.isEmpty();
        if (letter.enclosures().size() > shown.size()) {
            MimeMultipart mixed = new MimeMultipart(isReport(letter) ? "report; report-type=delivery-status" : "mixed");
            mixed.addBodyPart(plain ? plain(Prose.whole(letter), charset) : holding(ways(letter, charset, shown)));
            for (Enclosure enclosure : letter.enclosures()) {
                if (!isInText(letter, enclosure)) {
                    add(mixed, enclosure);
                }
            }
            mime.setContent(mixed);
        } else if (plain) {
            mime.setText(Prose.whole(letter), charset);
        } else {
            mime.setContent(ways(letter, charset, shown));
        }
    }

    private static boolean isReport(Letter letter) {
        return letter.enclosures().stream().anyMatch(Enclosure.Undelivered.class::isInstance);
    }

    /** Shown where it is named: a picture of an HTML text, an invitation. */
    private static boolean isInText(Letter letter, Enclosure enclosure) {
        return enclosure instanceof Enclosure.File file
                && (file.name().endsWith(CALENDAR)
                        || (!letter.layout().isEmpty() && letter.text().contains("](" + file.name() + ")")));
    }

    private static MimeMultipart ways(Letter letter, String charset, List<Enclosure.File> shown)
            throws MessagingException {
        MimeMultipart ways = new MimeMultipart("alternative");
        ways.addBodyPart(plain(letter.layout().isEmpty() ? Prose.whole(letter) : PageWriter.text(letter), charset));
        if (!letter.layout().isEmpty()) {
            ways.addBodyPart(page(letter, shown));
        }
        for (Enclosure.File file : shown) {
            if (file.name().endsWith(CALENDAR)) {
                ways.addBodyPart(invitation(file));
            }
        }
        return ways;
    }

    private static MimeBodyPart page(Letter letter, List<Enclosure.File> shown) throws MessagingException {
        MimeBodyPart page = new MimeBodyPart();
        page.setContent(PageWriter.html(letter), "text/html; charset=utf-8");
        MimeMultipart related = new MimeMultipart("related", page);
        for (Enclosure.File file : shown) {
            if (!file.name().endsWith(CALENDAR)) {
                MimeBodyPart picture = file(file);
                picture.setContentID("<" + PageWriter.contentId(letter, file.name()) + ">");
                picture.setDisposition(MimeBodyPart.INLINE);
                related.addBodyPart(picture);
            }
        }
        return related.getCount() == 1 ? page : holding(related);
    }

    private static MimeBodyPart holding(MimeMultipart parts) throws MessagingException {
        MimeBodyPart holder = new MimeBodyPart();
        holder.setContent(parts);
        return holder;
    }

    private static MimeBodyPart plain(String text, String charset) throws MessagingException {
        MimeBodyPart part = new MimeBodyPart();
        part.setText(text, charset);
        return part;
    }

    private static void add(MimeMultipart mixed, Enclosure enclosure) throws MessagingException {
        if (enclosure instanceof Enclosure.File file) {
            mixed.addBodyPart(file(file));
        } else if (enclosure instanceof Enclosure.Whole whole) {
            MimeBodyPart part = new MimeBodyPart();
            part.setContent(mime(whole.letter()), "message/rfc822");
            mixed.addBodyPart(part);
        } else if (enclosure instanceof Enclosure.Undelivered lost) {
            addReport(mixed, lost);
        }
    }

    /** The two parts of a report that machines read (RFC 3464, section 2; RFC 6522, section 4). */
    private static void addReport(MimeMultipart report, Enclosure.Undelivered lost) throws MessagingException {
        String status =
                """
                Reporting-MTA: dns; mail.%s\r
                \r
                Final-Recipient: rfc822; %s\r
                Action: failed\r
                Status: 5.1.1\r
                Diagnostic-Code: smtp; 550 5.1.1 No such mailbox\r
                """.formatted(lost.letter().from().domain(), lost.recipient().address());
        report.addBodyPart(data(status.getBytes(StandardCharsets.US_ASCII), "message/delivery-status"));
        ByteArrayOutputStream headers = new ByteArrayOutputStream();
        try {
            mime(lost.letter()).writeTo(headers);
        } catch (IOException e) {
            throw new MessagingException("The report cannot be written", e);
        }
        String source = headers.toString(StandardCharsets.US_ASCII);
        int end = source.indexOf("\r\n\r\n");
        report.addBodyPart(
                data(source.substring(0, end + 2).getBytes(StandardCharsets.US_ASCII), "text/rfc822-headers"));
    }

    private static MimeBodyPart data(byte[] content, String type) throws MessagingException {
        MimeBodyPart part = new MimeBodyPart();
        part.setDataHandler(new DataHandler(new ByteArrayDataSource(content, type)));
        return part;
    }

    private static MimeBodyPart file(Enclosure.File file) throws MessagingException {
        String ending = file.name().substring(file.name().lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
        MimeBodyPart part = switch (ending) {
            case "pdf" -> data(Paper.pdf(file.lines(), file.from()), "application/pdf");
            case "jpg" -> data(Picture.drawn(file.lines(), "jpg"), "image/jpeg");
            case "png" -> data(Picture.drawn(file.lines(), "png"), "image/png");
            case "csv" -> text(file.lines(), "text/csv; charset=utf-8");
            default -> text(file.lines(), "text/plain; charset=utf-8");
        };
        part.setFileName(file.name());
        part.setDisposition(MimeBodyPart.ATTACHMENT);
        return part;
    }

    private static MimeBodyPart text(String lines, String type) throws MessagingException {
        return data((lines.replace("\n", "\r\n") + "\r\n").getBytes(StandardCharsets.UTF_8), type);
    }

    private static MimeBodyPart invitation(Enclosure.File file) throws MessagingException {
        MimeBodyPart part = text(InvitationFile.calendar(file), "text/calendar; method=REQUEST; charset=utf-8");
        part.setFileName(file.name());
        return part;
    }

    /** A message whose id is given rather than made up when it is saved. */
    private static final class KeepingItsId extends MimeMessage {
        private final String id;

        KeepingItsId(String id) {
            super(SESSION);
            this.id = id;
        }

        @Override
        protected void updateMessageID() throws MessagingException {
            setHeader("Message-ID", "<" + id + ">");
        }
    }
}
