package app.schublade.core.format;

import app.schublade.core.message.Address;
import app.schublade.core.problem.InputProblem;
import com.google.re2j.Pattern;
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
import java.util.stream.IntStream;
import org.apache.james.mime4j.dom.Message;
import org.apache.james.mime4j.dom.Multipart;
import org.apache.james.mime4j.field.UnstructuredFieldImpl;
import org.apache.james.mime4j.message.BodyPart;
import org.apache.james.mime4j.message.BodyPartBuilder;
import org.apache.james.mime4j.message.DefaultMessageWriter;
import org.apache.james.mime4j.message.MultipartBuilder;
import org.apache.james.mime4j.stream.NameValuePair;
import org.apache.james.mime4j.stream.RawField;
import org.apache.james.mime4j.util.MimeUtil;

/** Writes a message's source (RFC 5322, RFC 2045 to 2047): its text in UTF-8, and with its formatting if it has any. */
public final class MailWriter {
    /** How many people one message may go to. */
    private static final int MAX_RECIPIENTS = 200;

    /** More are not even read. */
    private static final int MAX_READ = 1000;

    private static final int MAX_LINE = 998;
    /** Characters of a parameter in one line. */
    private static final int PIECE = 50;

    /** RFC 5321, section 4.5.3.1.3. */
    private static final int MAX_ADDRESS = 254;

    /** So much of what is no address is repeated to whoever typed it. */
    private static final int MAX_REPEATED = 60;

    private static final Pattern EMAIL =
            Pattern.compile("[A-Za-z0-9!#$%&'*+/=?^_`{|}~.-]+@[A-Za-z0-9-]+(\\.[A-Za-z0-9-]+)+");
    /** What may stand in the angle brackets of an id and breaks no field; others' ids can be anything. */
    private static final Pattern ID = Pattern.compile("[!-;=?-~]{1,500}");

    private static final String ATTACHED = "attachment";
    private static final String UNKNOWN = "application/octet-stream";

    private static final String DOCUMENT = """
            <!doctype html>
            <html><head><meta charset="utf-8"></head><body>
            %s
            </body></html>
            """;

    private MailWriter() {}

    /**
     * Writes a message.
     *
     * @param messageId without angle brackets
     */
    public static byte[] write(OutgoingMessage outline, String messageId, Instant date) {
        try {
            ByteArrayOutputStream source = new ByteArrayOutputStream();
            new DefaultMessageWriter()
                    .writeMessage(message(outline, messageId, date).build(), source);
            return source.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException("Cannot happen in memory", e);
        }
    }

    /**
     * Writes a message as it is left unfinished: of its recipients those that are addresses, with those whom the others are not
     * to know of, as only its writer reads it.
     *
     * @param blind as they were typed
     */
    public static byte[] writeDraft(OutgoingMessage outline, String blind, String messageId, Instant date) {
        try {
            Message.Builder message = message(outline, messageId, date);
            List<Address> unseen = likely(blind);
            if (!unseen.isEmpty()) {
                message.addField(field("Bcc", written(unseen)));
            }
            ByteArrayOutputStream source = new ByteArrayOutputStream();
            new DefaultMessageWriter().writeMessage(message.build(), source);
            return source.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException("Cannot happen in memory", e);
        }
    }

    private static Message.Builder message(OutgoingMessage outline, String messageId, Instant date) throws IOException {
        Message.Builder message = Message.Builder.of()
                .addField(field("From", written(List.of(outline.from()))))
                .addField(field("To", written(outline.to())))
                .addField(field("Subject", EncodedWords.encode(oneLine(outline.subject()))))
                .setDate(Date.from(date), TimeZone.getDefault())
                .addField(field("Message-ID", "<" + messageId + ">"));
        OutgoingMessage.EnclosedMessage enclosed = outline.enclosed();
        boolean alone = enclosed == null && outline.attached().isEmpty();
        if (alone && outline.html() != null) {
            message.setBody(alternatives(outline, outline.html()));
        } else if (alone) {
            message.setBody(lines(outline.text()), StandardCharsets.UTF_8)
                    .setContentTransferEncoding(MimeUtil.ENC_QUOTED_PRINTABLE);
        } else {
            message.setBody(multipart(outline));
        }
        if (enclosed != null) {
            enclosed.passedOnBy().forEach(address -> message.addField(field(OutgoingMessage.PASSED_ON_BY, address)));
        }
        if (!outline.cc().isEmpty()) {
            message.addField(field("Cc", written(outline.cc())));
        }
        switch (outline.origin()) { // RFC 3834, section 5
            case ANSWERING_RULE -> message.addField(field("Auto-Submitted", "auto-replied"));
            case FORWARDING_RULE, PROGRAM -> message.addField(field("Auto-Submitted", "auto-generated"));
            case PERSON -> {}
        }
        String answered = outline.inReplyTo();
        if (answered != null && ID.matches(answered)) {
            message.addField(field("In-Reply-To", "<" + answered + ">"));
        }
        List<String> references =
                outline.references().stream().filter(ID::matches).toList();
        if (!references.isEmpty()) {
            message.addField(field("References", references.stream().collect(Collectors.joining("> <", "<", ">"))));
        }
        return message;
    }

    /** Lines end as the standard wants it; of control characters only tabs are text (RFC 5322, section 2.3; RFC 2046, section 4.1.2). */
    private static String lines(String text) {
        String lines = text.replace("\r\n", "\n")
                .replace('\r', '\n')
                .replaceAll("[\\p{Cntrl}&&[^\\n\\t]]", "")
                .replace("\n", "\r\n");
        // A blank at the very end would be lost (RFC 2045, section 6.7, rule 3).
        return lines.endsWith(" ") || lines.endsWith("\t") ? lines + "\r\n" : lines;
    }

    /** The plain text, in lines that flow, and its formatting (RFC 2046, section 5.1.4). */
    private static Multipart alternatives(OutgoingMessage outline, String html) throws IOException {
        BodyPart formatted = text(DOCUMENT.formatted(html), "html");
        return MultipartBuilder.create("alternative")
                .addBodyPart(text(FlowedText.write(outline.text()), "plain; format=flowed"))
                .addBodyPart(outline.pictures().isEmpty() ? formatted : related(formatted, outline.pictures()))
                .build();
    }

    /** The formatted text, and the pictures in it (RFC 2387, section 3). */
    private static BodyPart related(BodyPart formatted, List<OutgoingMessage.AttachedFile> pictures)
            throws IOException {
        MultipartBuilder parts = MultipartBuilder.create("related")
                .addContentTypeParameter(new NameValuePair("type", "text/html"))
                .addBodyPart(formatted);
        for (OutgoingMessage.AttachedFile picture : pictures) {
            parts.addBodyPart(file(picture, "inline"));
        }
        return BodyPartBuilder.create().setBody(parts.build()).build();
    }

    private static BodyPart text(String text, String type) throws IOException {
        return BodyPartBuilder.create()
                .setBody(lines(text), StandardCharsets.UTF_8)
                .setField(field("Content-Type", "text/%s; charset=UTF-8".formatted(type)))
                .setContentTransferEncoding(MimeUtil.ENC_QUOTED_PRINTABLE)
                .build();
    }

    /** The text, and with it files, and the message that is passed on or its files (RFC 2046, sections 5.1.3 and 5.2.1). */
    private static Multipart multipart(OutgoingMessage outline) throws IOException {
        MultipartBuilder parts = MultipartBuilder.create("mixed");
        BodyPartBuilder text = BodyPartBuilder.create();
        if (outline.html() == null) {
            text.setBody(lines(outline.text()), StandardCharsets.UTF_8)
                    .setContentTransferEncoding(MimeUtil.ENC_QUOTED_PRINTABLE);
        } else {
            text.setBody(alternatives(outline, outline.html()));
        }
        parts.addBodyPart(text.build());
        for (OutgoingMessage.AttachedFile file : outline.attached()) {
            parts.addBodyPart(
                    file.type().equals(Part.MESSAGE) ? attached(file.name(), file.content()) : file(file, ATTACHED));
        }
        OutgoingMessage.EnclosedMessage enclosed = outline.enclosed();
        if (enclosed == null) {
            return parts.build();
        }
        if (enclosed.attached()) {
            parts.addBodyPart(attached("message.eml", enclosed.source()));
        } else {
            for (Part file : MimeReader.read(enclosed.source()).attachments()) {
                parts.addBodyPart(
                        file(new OutgoingMessage.AttachedFile(file.name(), file.type(), file.content()), ATTACHED));
            }
        }
        return parts.build();
    }

    /** A message may only lie in another one as it is; one that no server would take so goes along as a file. */
    private static BodyPart attached(String name, byte[] source) throws IOException {
        if (!isPlain(source)) {
            return file(new OutgoingMessage.AttachedFile(name, UNKNOWN, source), ATTACHED);
        }
        return BodyPartBuilder.create()
                .setBody(source, "message/rfc822")
                .setContentTransferEncoding(MimeUtil.ENC_7BIT)
                .setField(disposition(ATTACHED, name))
                .build();
    }

    private static BodyPart file(OutgoingMessage.AttachedFile file, String disposition) throws IOException {
        String type = file.type().matches("[!-~&&[^()<>@,;:\\\"\\[\\]?=]]+") ? file.type() : UNKNOWN;
        BodyPartBuilder part = BodyPartBuilder.create()
                .setBody(file.content(), type)
                .setContentTransferEncoding(MimeUtil.ENC_BASE64)
                .setField(disposition(disposition, file.name()));
        if (file.contentId() != null) {
            part.addField(field("Content-ID", "<" + oneLine(file.contentId()) + ">"));
        }
        return part.build();
    }

    /** RFC 2183, section 2. */
    private static org.apache.james.mime4j.stream.Field disposition(String kind, String name) {
        return field("Content-Disposition", kind + ";" + named(oneLine(name)));
    }

    /** A file name as a parameter, in pieces that fit into a line (RFC 2231, sections 3 and 4). */
    private static String named(String name) {
        if (name.length() <= PIECE && name.matches("[A-Za-z0-9 ._-]+")) {
            return " filename=\"" + name + '"';
        }
        List<String> pieces = new ArrayList<>();
        StringBuilder piece = new StringBuilder("UTF-8''");
        for (byte one : name.getBytes(StandardCharsets.UTF_8)) {
            if (piece.length() >= PIECE) {
                pieces.add(piece.toString());
                piece.setLength(0);
            }
            boolean plain = (one >= '0' && one <= '9') || (one >= 'A' && one <= 'Z') || (one >= 'a' && one <= 'z');
            piece.append(
                    plain || one == '.' || one == '-' ? String.valueOf((char) one) : "%%%02X".formatted(one & 0xff));
        }
        pieces.add(piece.toString());
        return pieces.size() == 1
                ? " filename*=" + piece
                : IntStream.range(0, pieces.size())
                        .mapToObj(number -> " filename*%d*=%s".formatted(number, pieces.get(number)))
                        .collect(Collectors.joining(";"));
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

    /** @param value unfolded: the library folds it as it writes, and one that was folded before would end too early */
    private static org.apache.james.mime4j.stream.Field field(String name, String value) {
        return UnstructuredFieldImpl.PARSER.parse(new RawField(name, value), null);
    }

    /** No sign may end the field and begin another one. */
    private static String oneLine(String text) {
        return text.replaceAll("\\p{Cntrl}+", " ").strip();
    }

    /** Addresses as they stand in a header: a name in words of ASCII, quoted, or encoded (RFC 5322, section 3.4). */
    private static String written(List<Address> addresses) {
        return addresses.stream()
                .map(one -> {
                    String name = oneLine(one.name());
                    String encoded = EncodedWords.encode(name);
                    return name.isEmpty()
                            ? one.email()
                            : "%s <%s>".formatted(encoded.equals(name) ? quotedIfNeeded(name) : encoded, one.email());
                })
                .collect(Collectors.joining(", "));
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
        return name.matches("[\\p{L}\\p{N} ’'-]+")
                ? name
                : '"' + name.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    /**
     * Reads what a person typed as recipients: with commas, semicolons or new lines between.
     *
     * @throws InputProblem with a sentence for the user if something of it is no address
     */
    public static List<Address> addresses(String typed) {
        List<Address> all = AddressFields.readTyped(withCommas(typed.replace('\0', '\ufffd')), MAX_READ);
        if (all.size() > MAX_RECIPIENTS) {
            throw new InputProblem("That is %s recipients; %d is the limit."
                    .formatted(all.size() < MAX_READ ? String.valueOf(all.size()) : "too many", MAX_RECIPIENTS));
        }
        all.forEach(one -> check(one, typed));
        return all;
    }

    /** What of it is an address already; the rest is still being typed. */
    public static List<Address> likely(String typed) {
        return AddressFields.readTyped(withCommas(typed.replace('\0', '\ufffd')), MAX_RECIPIENTS).stream()
                .filter(one -> isAddress(one.email()))
                .toList();
    }

    private static boolean isAddress(String email) {
        return email.length() <= MAX_ADDRESS && EMAIL.matches(email);
    }

    /** Semicolons and new lines that are not quoted stand for commas. */
    private static String withCommas(String typed) {
        StringBuilder text = new StringBuilder(typed.length());
        boolean quoted = false;
        boolean escaped = false;
        for (int i = 0; i < typed.length(); i++) {
            char sign = typed.charAt(i);
            quoted ^= sign == '"' && !escaped;
            escaped = quoted && sign == '\\' && !escaped;
            text.append(!quoted && (sign == ';' || sign == '\n') ? ',' : sign);
        }
        return text.toString();
    }

    /** The parser puts "anna@wharf.example x" together to one address: what nobody typed in one piece is none. */
    private static void check(Address address, String typed) {
        String email = address.email();
        if (!isAddress(email) || !typed.contains(email)) {
            String shown = address.name().isEmpty() ? email : address.name() + " <" + email + ">";
            throw new InputProblem("“%s” is not an address; write anna@wharf.example, or Anna <anna@wharf.example>."
                    .formatted(shown.length() <= MAX_REPEATED ? shown : shown.substring(0, MAX_REPEATED) + "…"));
        }
    }
}
