package app.schublade.standin;

import jakarta.mail.Message.RecipientType;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import java.time.Instant;
import java.util.Date;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import org.jspecify.annotations.Nullable;

/**
 * A message of the demo world before it is put into an envelope.
 *
 * @param to the address it is written to, an alias perhaps
 * @param list the list's id (RFC 2919), or null
 * @param automatic sent by a machine (RFC 3834)
 * @param html whether an HTML version goes with it
 * @param inReplyTo the id it answers, or null
 */
record Letter(
        String id,
        InternetAddress from,
        String to,
        String subject,
        String text,
        Instant date,
        @Nullable String list,
        boolean automatic,
        boolean urgent,
        boolean html,
        String charset,
        List<String> attachments,
        @Nullable String inReplyTo) {

    static final Session SESSION = Session.getInstance(new Properties());

    MimeMessage toMime() throws MessagingException {
        MimeMessage mime = new KeepingItsId(id);
        mime.setFrom(from);
        mime.setRecipient(RecipientType.TO, new InternetAddress(to));
        mime.setSubject(subject, charset);
        mime.setSentDate(Date.from(date));
        if (inReplyTo != null) {
            mime.setHeader("In-Reply-To", "<" + inReplyTo + ">");
            mime.setHeader("References", "<" + inReplyTo + ">");
        }
        addOrigin(mime);
        addBody(mime);
        mime.saveChanges();
        return mime;
    }

    private void addOrigin(MimeMessage mime) throws MessagingException {
        if (list != null) {
            mime.setHeader("List-Id", "<" + list + ">");
            mime.setHeader("List-Unsubscribe", "<mailto:leave@" + list + ">");
        }
        if (automatic) {
            mime.setHeader("Auto-Submitted", "auto-generated");
        }
        if (urgent) {
            mime.setHeader("Importance", "high");
        }
    }

    private void addBody(MimeMessage mime) throws MessagingException {
        if (attachments.isEmpty() && !html) {
            mime.setText(text, charset);
            return;
        }
        MimeMultipart mixed = new MimeMultipart("mixed");
        mixed.addBodyPart(html ? alternative() : plain());
        for (String name : attachments) {
            mixed.addBodyPart(attachment(name));
        }
        mime.setContent(mixed);
    }

    private MimeBodyPart plain() throws MessagingException {
        MimeBodyPart part = new MimeBodyPart();
        part.setText(text, charset);
        return part;
    }

    private MimeBodyPart alternative() throws MessagingException {
        MimeBodyPart page = new MimeBodyPart();
        page.setContent(asHtml(), "text/html; charset=utf-8");
        MimeBodyPart both = new MimeBodyPart();
        both.setContent(new MimeMultipart("alternative", plain(), page));
        return both;
    }

    private String asHtml() {
        String paragraphs =
                text.strip().replace("&", "&amp;").replace("<", "&lt;").replace("\n\n", "</p><p>");
        return """
                <html><head><style>h1{font-size:20px;color:#125457}</style></head><body>
                <h1>%s</h1><p>%s</p>
                <p><a href="https://%s/view">Read this on our page</a></p>
                <img src="https://%s/pixel.png" width="1" height="1" alt=""></body></html>
                """.formatted(subject.replace("<", "&lt;"), paragraphs.replace("\n", "<br>"), domain(), domain());
    }

    private String domain() {
        return from.getAddress().substring(from.getAddress().indexOf('@') + 1);
    }

    private MimeBodyPart attachment(String name) throws MessagingException {
        String ending = name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
        String type = switch (ending) {
            case "pdf" -> "application/pdf";
            case "jpg" -> "image/jpeg";
            default -> "text/plain";
        };
        MimeBodyPart part = new MimeBodyPart();
        part.setDataHandler(new jakarta.activation.DataHandler(
                new jakarta.mail.util.ByteArrayDataSource(Samples.file(ending, name), type)));
        part.setFileName(name);
        part.setDisposition(MimeBodyPart.ATTACHMENT);
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
