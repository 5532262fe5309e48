package app.schublade.mail;

import jakarta.mail.Flags;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import org.eclipse.angus.mail.iap.ByteArray;
import org.eclipse.angus.mail.iap.ParsingException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.CopyUID;
import org.eclipse.angus.mail.imap.protocol.BODY;
import org.eclipse.angus.mail.imap.protocol.FLAGS;
import org.eclipse.angus.mail.imap.protocol.FetchResponse;
import org.eclipse.angus.mail.imap.protocol.IMAPResponse;
import org.eclipse.angus.mail.imap.protocol.INTERNALDATE;
import org.eclipse.angus.mail.imap.protocol.RFC822SIZE;
import org.eclipse.angus.mail.imap.protocol.UID;
import org.eclipse.angus.mail.imap.protocol.UIDSet;
import org.jspecify.annotations.Nullable;

/** Reads the answers of an IMAP server. They are taken for what they claim only within limits. */
final class ResponseReader {
    /** More messages than this in one folder are not believed. */
    static final int MAX_UIDS = 5_000_000;

    private static final int MAX_KEYWORDS = 200;

    private ResponseReader() {}

    /** What a reader finds in each of the answers that tell of a message. */
    static <T> List<T> collect(Response[] answers, Function<FetchResponse, @Nullable T> reader) {
        List<T> all = new ArrayList<>();
        for (Response answer : answers) {
            T read = answer instanceof FetchResponse fetched ? reader.apply(fetched) : null;
            if (read != null) {
                all.add(read);
            }
        }
        return all;
    }

    /** How a message is marked, if the answer tells. */
    static @Nullable Sighting sighting(FetchResponse answer) {
        UID uid = answer.getItem(UID.class);
        Flags flags = answer.getItem(FLAGS.class);
        if (uid == null || flags == null) {
            return null;
        }
        Set<String> keywords = new TreeSet<>();
        for (String keyword : flags.getUserFlags()) {
            if (keywords.size() < MAX_KEYWORDS) {
                keywords.add(keyword.toLowerCase(Locale.ROOT));
            }
        }
        return new Sighting(
                uid.uid,
                flags.contains(Flags.Flag.SEEN),
                flags.contains(Flags.Flag.FLAGGED),
                flags.contains(Flags.Flag.ANSWERED),
                flags.contains(Flags.Flag.DELETED),
                keywords);
    }

    /** A message, if the answer holds one. */
    static @Nullable Fetched fetched(FetchResponse answer) {
        Sighting sighting = sighting(answer);
        BODY body = answer.getItem(BODY.class);
        RFC822SIZE size = answer.getItem(RFC822SIZE.class);
        boolean given = body != null && (body.getByteArray() != null || (size != null && size.size == 0));
        return sighting == null || body == null || size == null || !given
                ? null
                : new Fetched(sighting, received(answer), (int) Math.min(size.size, Integer.MAX_VALUE), bytes(body));
    }

    /** A piece of a message. */
    static byte @Nullable [] piece(FetchResponse answer) {
        BODY body = answer.getItem(BODY.class);
        return body == null ? null : bytes(body);
    }

    /** When a message came, if the answer tells. */
    static Map.@Nullable Entry<Long, Instant> arrival(FetchResponse answer) {
        UID uid = answer.getItem(UID.class);
        return uid == null ? null : Map.entry(uid.uid, received(answer));
    }

    private static Instant received(FetchResponse answer) {
        INTERNALDATE date = answer.getItem(INTERNALDATE.class);
        return date == null || date.getDate() == null
                ? Instant.now()
                : date.getDate().toInstant();
    }

    private static byte[] bytes(BODY body) {
        ByteArray content = body.getByteArray();
        return content == null
                ? new byte[0]
                : Arrays.copyOfRange(content.getBytes(), content.getStart(), content.getStart() + content.getCount());
    }

    /** UIDs that a search found (RFC 3501), also as sets (RFC 4731), in ascending order. */
    static long[] found(Response[] answers) throws ParsingException {
        long[] all = new long[0];
        for (Response answer : answers) {
            if (answer instanceof IMAPResponse found && found.keyEquals("SEARCH")) {
                all = joined(all, numbers(found));
            } else if (answer instanceof IMAPResponse found && found.keyEquals("ESEARCH")) {
                all = joined(all, extended(found));
            }
        }
        Arrays.sort(all);
        return all;
    }

    private static long[] numbers(IMAPResponse found) {
        long[] numbers = new long[1024];
        int count = 0;
        for (long uid = found.readLong(); uid > 0 && count < MAX_UIDS; uid = found.readLong()) {
            numbers = count == numbers.length ? Arrays.copyOf(numbers, count * 2) : numbers;
            numbers[count++] = uid;
        }
        return Arrays.copyOf(numbers, count);
    }

    /** {@code * ESEARCH (TAG "A3") UID ALL 1:7,9} */
    private static long[] extended(IMAPResponse found) throws ParsingException {
        String rest = found.getRest().strip().replaceFirst("^\\([^)]*\\)\\s*", "");
        String[] words = rest.split("\\s+", -1);
        for (int i = 0; i + 1 < words.length; i++) {
            if (words[i].equalsIgnoreCase("ALL")) {
                UIDSet[] sets = UIDSet.parseUIDSets(words[i + 1]);
                if (UIDSet.size(sets) > MAX_UIDS) {
                    throw new ParsingException("The server claims to have " + UIDSet.size(sets) + " messages");
                }
                return UIDSet.toArray(sets);
            }
        }
        return new long[0];
    }

    private static long[] joined(long[] some, long[] more) {
        if (some.length == 0) {
            return more;
        }
        long[] all = Arrays.copyOf(some, some.length + more.length);
        System.arraycopy(more, 0, all, some.length, more.length);
        return all;
    }

    /** Ranges of UIDs that a VANISHED answer names (RFC 7162, section 3.2.10). */
    static List<Opened.Range> vanished(IMAPResponse answer) {
        String rest = answer.getRest().strip().replaceFirst("(?i)^\\(EARLIER\\)\\s*", "");
        List<Opened.Range> ranges = new ArrayList<>();
        for (UIDSet set : UIDSet.parseUIDSets(rest)) {
            ranges.add(new Opened.Range(Math.min(set.start, set.end), Math.max(set.start, set.end)));
        }
        return ranges;
    }

    /** Old UIDs with the new ones that a copy or move gave them. */
    static Map<Long, Long> pairs(@Nullable CopyUID copied) {
        Map<Long, Long> pairs = new HashMap<>();
        if (copied != null && UIDSet.size(copied.src) <= MAX_UIDS && UIDSet.size(copied.dst) <= MAX_UIDS) {
            long[] from = UIDSet.toArray(copied.src);
            long[] to = UIDSet.toArray(copied.dst);
            for (int i = 0; i < Math.min(from.length, to.length); i++) {
                pairs.put(from[i], to[i]);
            }
        }
        return pairs;
    }
}
