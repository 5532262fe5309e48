package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Date;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.james.mime4j.codec.DecodeMonitor;
import org.apache.james.mime4j.dom.Header;
import org.apache.james.mime4j.dom.Message;
import org.apache.james.mime4j.dom.address.AddressList;
import org.apache.james.mime4j.dom.address.Mailbox;
import org.apache.james.mime4j.field.address.LenientAddressParser;
import org.apache.james.mime4j.message.DefaultMessageBuilder;
import org.apache.james.mime4j.stream.Field;
import org.apache.james.mime4j.stream.MimeConfig;
import org.jspecify.annotations.Nullable;

/**
 * Reads a message's source (RFC 5322, RFC 2045 to 2049). Whatever the source looks like, a {@link ParsedMail} comes
 * out: what cannot be read is left empty, never an error, since a user must see that something arrived.
 */
public final class MimeReader {
    /** How long a header may be, how many there may be, how deep parts may lie in each other. */
    private static final MimeConfig LIMITS = MimeConfig.custom()
            .setMaxHeaderLen(256 * 1024)
            .setMaxHeaderCount(1000)
            .setMaxLineLen(-1)
            .setHeadlessParsing(null)
            .build();

    private static final int MAX_BOUNDARIES = 200;
    private static final byte[] BOUNDARY = "boundary=".getBytes(StandardCharsets.US_ASCII);
    private static final int MAX_SUBJECT = 500;
    private static final int MAX_ADDRESSES = 500;
    /** A date outside is a mistake or a trick, and not every database has a place for it. */
    private static final Instant EARLIEST = Instant.parse("1900-01-01T00:00:00Z");

    private static final Instant LATEST = Instant.parse("9999-12-31T00:00:00Z");
    private static final Pattern ID = Pattern.compile("<([^<>\\s]{1,500})>");

    private MimeReader() {}

    /** Reads a whole source; one that was cut off is read as far as it goes. */
    public static ParsedMail read(byte[] source) {
        if (isTooDeep(source)) {
            return unreadable(source);
        }
        DefaultMessageBuilder builder = new DefaultMessageBuilder();
        builder.setMimeEntityConfig(LIMITS);
        builder.setDecodeMonitor(DecodeMonitor.SILENT);
        try {
            Message message = builder.parseMessage(new ByteArrayInputStream(source));
            try {
                return read(message.getHeader(), BodyCollector.collect(message));
            } finally {
                message.dispose();
            }
        } catch (IOException | RuntimeException e) {
            // mime4j throws unchecked errors on some broken fields; the message must still arrive.
            return unreadable(source);
        }
    }

    /** The parser calls itself for each level of parts; there cannot be more levels than declared boundaries. */
    private static boolean isTooDeep(byte[] source) {
        int boundaries = 0;
        for (int i = 0; i + BOUNDARY.length <= source.length; i++) {
            boundaries += (source[i] | 0x20) == 'b' && isBoundary(source, i) ? 1 : 0;
        }
        return boundaries > MAX_BOUNDARIES;
    }

    private static boolean isBoundary(byte[] source, int start) {
        for (int i = 0; i < BOUNDARY.length; i++) {
            if ((source[start + i] | 0x20) != (BOUNDARY[i] | 0x20)) {
                return false;
            }
        }
        return true;
    }

    private static ParsedMail read(Header header, BodyCollector body) {
        List<Address> from = addresses(header, "From");
        return new ParsedMail(
                lastId(text(header, "Message-ID")),
                from.isEmpty() ? sender(header) : from.get(0),
                addresses(header, "Reply-To"),
                addresses(header, "To"),
                addresses(header, "Cc"),
                envelope(header),
                limit(text(header, "Subject").replaceAll("\\s+", " ").strip(), MAX_SUBJECT),
                references(header),
                sent(header),
                listId(header),
                body.text(),
                body.html(),
                body.parts(),
                new Headers(List.copyOf(header.getFields())));
    }

    private static ParsedMail unreadable(byte[] source) {
        String start = new String(source, 0, Math.min(source.length, 20_000), StandardCharsets.ISO_8859_1);
        return new ParsedMail(
                "",
                Address.UNKNOWN,
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                "(unreadable message)",
                List.of(),
                null,
                null,
                start,
                null,
                List.of(),
                Headers.NONE);
    }

    private static Address sender(Header header) {
        List<Address> sender = addresses(header, "Sender");
        return sender.isEmpty() ? Address.UNKNOWN : sender.get(0);
    }

    private static List<Address> envelope(Header header) {
        List<Address> all = new ArrayList<>(addresses(header, "Delivered-To"));
        all.addAll(addresses(header, "X-Original-To"));
        return all;
    }

    private static List<Address> addresses(Header header, String name) {
        List<Address> all = new ArrayList<>();
        for (Field field : header.getFields(name)) {
            AddressList list = LenientAddressParser.DEFAULT.parseAddressList(raw(field));
            for (Mailbox mailbox : list.flatten()) {
                if (all.size() < MAX_ADDRESSES) {
                    all.add(address(mailbox));
                }
            }
        }
        return all;
    }

    private static Address address(Mailbox mailbox) {
        String name = mailbox.getName() == null ? "" : Charsets.decodeWords(mailbox.getName());
        return new Address(limit(name.strip(), 200), limit(mailbox.getAddress(), 320));
    }

    private static List<String> references(Header header) {
        List<String> ids = new ArrayList<>();
        for (String name : List.of("References", "In-Reply-To")) {
            Matcher matcher = ID.matcher(text(header, name));
            while (matcher.find() && ids.size() < 100) {
                if (!ids.contains(matcher.group(1))) {
                    ids.add(matcher.group(1));
                }
            }
        }
        return ids;
    }

    private static String lastId(String text) {
        Matcher matcher = ID.matcher(text);
        String id = "";
        while (matcher.find()) {
            id = matcher.group(1);
        }
        return id;
    }

    private static @Nullable String listId(Header header) {
        Matcher matcher = ID.matcher(text(header, "List-Id"));
        return matcher.find() ? matcher.group(1).toLowerCase(Locale.ROOT) : null;
    }

    private static @Nullable Instant sent(Header header) {
        Field field = header.getField("Date");
        Date date = field instanceof org.apache.james.mime4j.dom.field.DateTimeField time ? time.getDate() : null;
        Instant sent = date == null ? null : date.toInstant();
        return sent == null || sent.isBefore(EARLIEST) || sent.isAfter(LATEST) ? null : sent;
    }

    private static String text(Header header, String name) {
        Field field = header.getField(name);
        return field == null ? "" : Charsets.decodeWords(raw(field));
    }

    /** The unfolded value; bytes that are not ASCII are taken as UTF-8 (RFC 6532), else as windows-1252. */
    static String raw(Field field) {
        org.apache.james.mime4j.util.ByteSequence bytes = field.getRaw();
        if (bytes == null) {
            return field.getBody() == null ? "" : field.getBody();
        }
        String line = Charsets.decode(bytes.toByteArray(), null);
        return line.substring(line.indexOf(':') + 1)
                .replaceAll("[\\r\\n]+[ \\t]*", " ")
                .strip();
    }

    static String limit(String text, int length) {
        return text.length() <= length ? text : text.substring(0, length);
    }
}
