package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Date;
import java.util.List;
import java.util.TimeZone;
import java.util.stream.Collectors;
import org.apache.james.mime4j.dom.Message;
import org.apache.james.mime4j.dom.Multipart;
import org.apache.james.mime4j.dom.address.Mailbox;
import org.apache.james.mime4j.field.UnstructuredFieldImpl;
import org.apache.james.mime4j.message.BodyPart;
import org.apache.james.mime4j.message.BodyPartBuilder;
import org.apache.james.mime4j.message.DefaultMessageWriter;
import org.apache.james.mime4j.message.MultipartBuilder;
import org.apache.james.mime4j.stream.RawField;
import org.apache.james.mime4j.util.MimeUtil;

/** Writes a message's source (RFC 5322, RFC 2045 to 2047): plain text in UTF-8. */
public final class MailWriter {
    /** How many people one message may go to. */
    private static final int MAX_RECIPIENTS = 200;

    private static final int FIELD_NAME = 12;
    private static final int MAX_LINE = 998;
    private static final String PLAIN = "[!-?A-~]+@[A-Za-z0-9-]+(\\.[A-Za-z0-9-]+)+";

    private MailWriter() {}

    /**
     * Writes a message.
     *
     * @param messageId without angle brackets
     */
    public static byte[] write(Outline outline, String messageId, Instant date) {
        try {
            ByteArrayOutputStream source = new ByteArrayOutputStream();
            new DefaultMessageWriter().writeMessage(message(outline, messageId, date), source);
            return source.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException("Cannot happen in memory", e);
        }
    }

    private static Message message(Outline outline, String messageId, Instant date) throws IOException {
        Message.Builder message = Message.Builder.of()
                .setFrom(mailbox(outline.from()))
                .setTo(mailboxes(outline.to()))
                .setSubject(oneLine(outline.subject()))
                .setDate(Date.from(date), TimeZone.getDefault())
                .addField(field("Message-ID", "<" + messageId + ">"));
        Outline.Enclosed enclosed = outline.enclosed();
        if (enclosed == null) {
            message.setBody(lines(outline.text()), StandardCharsets.UTF_8)
                    .setContentTransferEncoding(MimeUtil.ENC_QUOTED_PRINTABLE);
        } else {
            message.setBody(multipart(outline.text(), enclosed));
            enclosed.passedOnBy().forEach(address -> message.addField(field(Outline.PASSED_ON_BY, address)));
        }
        if (!outline.cc().isEmpty()) {
            message.setCc(mailboxes(outline.cc()));
        }
        switch (outline.origin()) { // RFC 3834, section 5
            case ANSWERING_RULE -> message.addField(field("Auto-Submitted", "auto-replied"));
            case FORWARDING_RULE -> message.addField(field("Auto-Submitted", "auto-generated"));
            case PERSON -> {}
        }
        if (outline.inReplyTo() != null) {
            message.addField(field("In-Reply-To", "<" + outline.inReplyTo() + ">"));
        }
        if (!outline.references().isEmpty()) {
            String all = outline.references().stream().collect(Collectors.joining("> <", "<", ">"));
            message.addField(field("References", MimeUtil.fold(all, FIELD_NAME)));
        }
        return message.build();
    }

    private static String lines(String text) {
        return text.replace("\r\n", "\n").replace("\n", "\r\n");
    }

    /** The text, and with it the message or its files (RFC 2046, sections 5.1.3 and 5.2.1). */
    private static Multipart multipart(String text, Outline.Enclosed enclosed) throws IOException {
        MultipartBuilder parts = MultipartBuilder.create("mixed");
        parts.addBodyPart(BodyPartBuilder.create()
                .setBody(lines(text), StandardCharsets.UTF_8)
                .setContentTransferEncoding(MimeUtil.ENC_QUOTED_PRINTABLE)
                .build());
        if (enclosed.attached()) {
            parts.addBodyPart(attached(enclosed.source()));
        } else {
            for (Part file : MimeReader.read(enclosed.source()).attachments()) {
                parts.addBodyPart(file(file.name(), file.type(), file.content()));
            }
        }
        return parts.build();
    }

    /** A message may only lie in another one as it is; one that no server would take so goes along as a file. */
    private static BodyPart attached(byte[] source) throws IOException {
        if (!isPlain(source)) {
            return file("message.eml", "application/octet-stream", source);
        }
        return BodyPartBuilder.create()
                .setBody(source, "message/rfc822")
                .setContentTransferEncoding(MimeUtil.ENC_7BIT)
                .setContentDisposition("attachment", "message.eml")
                .build();
    }

    private static BodyPart file(String name, String type, byte[] content) throws IOException {
        return BodyPartBuilder.create()
                .setBody(content, type.matches("[!-~&&[^()<>@,;:\\\\\"\\[\\]?=]]+") ? type : "application/octet-stream")
                .setContentTransferEncoding(MimeUtil.ENC_BASE64)
                .setContentDisposition("attachment", oneLine(name))
                .build();
    }

    /** Whether all of it is ASCII in lines that every server takes (RFC 5321, section 4.5.3.1.6). */
    private static boolean isPlain(byte[] source) {
        int line = 0;
        for (byte one : source) {
            line = one == '\n' ? 0 : line + 1;
            if (one <= 0 || line > MAX_LINE) {
                return false;
            }
        }
        return true;
    }

    private static org.apache.james.mime4j.stream.Field field(String name, String value) {
        return UnstructuredFieldImpl.PARSER.parse(new RawField(name, value), null);
    }

    /** No sign may end the field and begin another one. */
    private static String oneLine(String text) {
        return text.replaceAll("\\p{Cntrl}+", " ").strip();
    }

    private static Mailbox mailbox(Address address) {
        int at = address.email().lastIndexOf('@');
        String name = oneLine(address.name());
        return new Mailbox(
                name.isEmpty() ? null : name,
                address.email().substring(0, at),
                address.email().substring(at + 1));
    }

    private static List<Mailbox> mailboxes(List<Address> addresses) {
        return addresses.stream().map(MailWriter::mailbox).toList();
    }

    /** Addresses as people write them: with names or without, commas between. */
    public static String typed(List<Address> addresses) {
        return addresses.stream()
                .map(one -> one.name().isBlank()
                        ? one.email()
                        : "%s <%s>".formatted(quotedIfNeeded(oneLine(one.name())), one.email()))
                .collect(Collectors.joining(", "));
    }

    private static String quotedIfNeeded(String name) {
        return name.matches("[\\p{L}\\p{N} ’'-]+") ? name : '"' + name.replaceAll("[\"\\\\]", "") + '"';
    }

    /**
     * Reads what a person typed as recipients.
     *
     * @throws IllegalArgumentException with a sentence for the user if something of it is no address
     */
    public static List<Address> addresses(String typed) {
        List<Address> all = new ArrayList<>();
        for (String piece : typed.split("[,;\\n](?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)", -1)) {
            if (!piece.isBlank()) {
                all.add(address(piece.strip()));
            }
        }
        if (all.size() > MAX_RECIPIENTS) {
            throw new IllegalArgumentException(
                    "These are %d recipients; %d is the limit.".formatted(all.size(), MAX_RECIPIENTS));
        }
        return all;
    }

    private static Address address(String piece) {
        int open = piece.lastIndexOf('<');
        boolean named = open >= 0 && piece.endsWith(">");
        String email = named ? piece.substring(open + 1, piece.length() - 1).strip() : piece;
        if (!email.matches(PLAIN)) {
            throw new IllegalArgumentException(
                    "“%s” is no address; write anna@wharf.example, or Anna <anna@wharf.example>.".formatted(piece));
        }
        String name = named ? piece.substring(0, open).strip() : "";
        boolean quoted = name.length() > 1 && name.startsWith("\"") && name.endsWith("\"");
        return new Address(quoted ? name.substring(1, name.length() - 1) : name, email);
    }
}
