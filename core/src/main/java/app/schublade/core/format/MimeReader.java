package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Reads a message's source (RFC 5322, RFC 2045 to 2049). Whatever the source looks like, a {@link ParsedMail} comes
 * out: what cannot be read is left empty, never an error, since a user must see that something arrived. The time is linear in
 * the size of the source, and what is read is bounded ({@link MimeLimits}); what lies beyond is said.
 */
public final class MimeReader {
    /** Grows when messages can be read that could not before: those are read again. */
    public static final int VERSION = 2;

    /** Where servers and programs say to whom it was delivered; the more certain ones first. */
    private static final List<String> ENVELOPE = List.of(
            "delivered-to",
            "x-original-to",
            "envelope-to",
            "x-envelope-to",
            "resent-to",
            "resent-cc",
            "bcc",
            "apparently-to");

    private static final int MAX_SUBJECT = 500;
    private static final int MAX_ADDRESSES = 500;
    /** A date outside is a mistake or a trick, and not every database has a place for it. */
    private static final Instant EARLIEST = Instant.parse("1900-01-01T00:00:00Z");

    private static final Instant LATEST = Instant.parse("9999-12-31T00:00:00Z");
    /** Of something that cannot be read so much is shown. */
    private static final int MAX_UNREADABLE = 20_000;

    private static final int MAX_REFERENCES = 100;
    private static final int MAX_ID = 500;

    private MimeReader() {}

    /** Reads a whole source; one that was cut off is read as far as it goes. */
    public static ParsedMail read(byte[] source) {
        return read(ByteBuffer.wrap(source));
    }

    /** As {@link #read(byte[])}, of a source that need not lie in memory. The parts are read from it when they are asked for. */
    public static ParsedMail read(ByteBuffer source) {
        return read(source, MimeLimits.USUAL);
    }

    static ParsedMail read(ByteBuffer source, MimeLimits limits) {
        Set<String> cuts = new LinkedHashSet<>();
        MimeEntity message = MimeParser.parse(source, limits, cuts);
        String charset = charset(message);
        List<HeaderField> header =
                message.fields().stream().map(field -> field.in(charset)).toList();
        return read(new Fields(header), BodyCollector.collect(message, limits, cuts), cuts);
    }

    /** What the first text of a message is declared to be in: programs that write bytes into headers mean the same there. */
    private static @Nullable String charset(MimeEntity message) {
        MimeEntity entity = message;
        while (entity.hasParts() && !entity.parts().isEmpty()) {
            entity = entity.parts().get(0);
        }
        return entity.charset();
    }

    private static ParsedMail read(Fields header, MailBody body, Collection<String> cuts) {
        List<Address> from = header.addresses("from");
        List<Address> sender = from.isEmpty() ? header.addresses("sender") : from;
        List<Address> envelope = new ArrayList<>();
        ENVELOPE.forEach(field -> envelope.addAll(header.addresses(field)));
        return new ParsedMail(
                lastId(header.text("message-id")),
                sender.isEmpty() ? Address.UNKNOWN : sender.get(0),
                header.addresses("reply-to"),
                header.addresses("to"),
                header.addresses("cc"),
                envelope,
                limit(oneLine(header.text("subject")), MAX_SUBJECT),
                references(header),
                sent(header),
                listId(header),
                body,
                new Headers(header.all()),
                List.copyOf(cuts));
    }

    /**
     * A message that cannot be read at all: its beginning as text, so that somebody sees that it is there.
     *
     * @param why a sentence
     */
    public static ParsedMail unreadable(byte[] source, String why) {
        String start = new String(source, 0, Math.min(source.length, MAX_UNREADABLE), StandardCharsets.ISO_8859_1);
        return new ParsedMail(
                "",
                Address.UNKNOWN,
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                "(could not be read)",
                List.of(),
                null,
                null,
                MailBody.of(start.replace("\0", "")),
                Headers.NONE,
                List.of(why));
    }

    /** The fields of a message's header. */
    private record Fields(List<HeaderField> all) {
        List<Address> addresses(String name) {
            List<Address> addresses = new ArrayList<>();
            for (HeaderField field : all) {
                if (field.name().equals(name) && addresses.size() < MAX_ADDRESSES) {
                    addresses.addAll(AddressFields.read(field.value(), MAX_ADDRESSES - addresses.size()));
                }
            }
            return addresses;
        }

        String text(String name) {
            return first(name).map(HeaderField::text).orElse("");
        }

        Optional<HeaderField> first(String name) {
            return all.stream().filter(field -> field.name().equals(name)).findFirst();
        }
    }

    private static String oneLine(String text) {
        return text.replaceAll("\\s+", " ").strip();
    }

    private static List<String> references(Fields header) {
        Set<String> ids = new LinkedHashSet<>();
        for (String name : List.of("references", "in-reply-to")) {
            for (String id : ids(header.text(name))) {
                if (ids.size() < MAX_REFERENCES) {
                    ids.add(id);
                }
            }
        }
        return List.copyOf(ids);
    }

    private static String lastId(String text) {
        List<String> ids = ids(text);
        return ids.isEmpty() ? "" : ids.get(ids.size() - 1);
    }

    private static @Nullable String listId(Fields header) {
        return ids(header.text("list-id")).stream()
                .findFirst()
                .map(id -> id.toLowerCase(Locale.ROOT))
                .orElse(null);
    }

    /** What stands in angle brackets, without blanks in it (RFC 5322, section 3.6.4). */
    private static List<String> ids(String text) {
        List<String> ids = new ArrayList<>();
        int start = -1;
        for (int i = 0; i < text.length(); i++) {
            char sign = text.charAt(i);
            if (sign == '<') {
                start = i + 1;
            } else if (sign == '>' && start >= 0 && i > start && i - start <= MAX_ID) {
                ids.add(text.substring(start, i));
                start = -1;
            } else if (sign <= ' ' || sign == '>') {
                start = -1;
            }
        }
        return ids;
    }

    private static @Nullable Instant sent(Fields header) {
        Instant sent =
                header.first("date").map(field -> MailDate.parse(field.value())).orElse(null);
        return sent == null || sent.isBefore(EARLIEST) || sent.isAfter(LATEST) ? null : sent;
    }

    static String limit(String text, int length) {
        return text.length() <= length ? text : text.substring(0, length);
    }
}
