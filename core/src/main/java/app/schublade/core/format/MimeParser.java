package app.schublade.core.format;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Finds the parts of a message in its source (RFC 2046, section 5.1).
 *
 * <p>One pass over the lines: a line that begins with two hyphens is compared with the boundaries of those multiparts that
 * are open, of which there are never more than {@link MimeLimits#depth}; nothing is copied, nothing calls itself. So the time
 * is linear in the size of the source, whatever it looks like. A message in a message is not looked into: it is a file.
 */
final class MimeParser {
    /** Kept however many fields there are before them. */
    private static final Set<String> NEEDED = Set.of(
            "from",
            "sender",
            "reply-to",
            "to",
            "cc",
            "bcc",
            "subject",
            "date",
            "message-id",
            "references",
            "in-reply-to",
            "list-id",
            "list-post",
            "list-unsubscribe",
            "list-unsubscribe-post",
            "delivered-to",
            "x-original-to",
            "return-path",
            "auto-submitted",
            "precedence",
            "importance",
            "priority",
            "x-priority",
            "sensitivity",
            "content-type",
            "content-disposition",
            "content-transfer-encoding",
            "content-id",
            "mime-version");

    private static final int LONGEST_NAME = 200;
    /** RFC 2046, section 5.1.1, allows 70 characters; some programs write more. */
    private static final int LONGEST_BOUNDARY = 250;

    private final ByteBuffer source;
    private final MimeLimits limits;
    private final Collection<String> cuts;
    private final List<Open> open = new ArrayList<>();
    /** The part that is being read; null between parts. */
    private @Nullable MimeEntity current;

    private boolean inHeader = true;
    /** Up to here there was nothing but blank lines. */
    private int blank;

    private int fieldStart = -1;
    private int fieldEnd;
    private int kept;
    private int neededKept;
    private int parts = 1;
    private int partsLeftOut;

    /** A multipart whose end has not come yet. */
    @SuppressWarnings("ArrayRecordComponent") // never compared
    private record Open(MimeEntity entity, byte[] boundary) {}

    private MimeParser(ByteBuffer source, MimeLimits limits, Collection<String> cuts) {
        this.source = source;
        this.limits = limits;
        this.cuts = cuts;
    }

    /**
     * Finds the parts of a whole source, or of the beginning of one.
     *
     * @param cuts gets a sentence for all that was left out
     */
    static MimeEntity parse(ByteBuffer source, MimeLimits limits, Collection<String> cuts) {
        return new MimeParser(source, limits, cuts).parse();
    }

    private MimeEntity parse() {
        MimeEntity root = new MimeEntity(source, false);
        current = root;
        int length = source.limit();
        for (int line = 0; line < length; ) {
            int end = lineEnd(line, length);
            take(line, end);
            line = end;
        }
        if (inHeader && current != null) {
            endHeader(current, length);
        }
        close(0, length);
        if (partsLeftOut > 0) {
            cuts.add("It has %,d parts; %,d of them are left out.".formatted(parts - 1 + partsLeftOut, partsLeftOut));
        }
        if (root.fields().isEmpty()) { // It has no header: all of it is text.
            root.headerEnds(0);
            root.bodyEnds(length);
        } else if (!root.hasParts()) {
            root.bodyEnds(length);
        }
        return root;
    }

    private int lineEnd(int start, int length) {
        int at = start;
        while (at < length && source.get(at) != '\n') {
            at++;
        }
        return Math.min(length, at + 1);
    }

    private void take(int start, int end) {
        int level = open.isEmpty() ? -1 : level(start, end);
        if (level >= 0) {
            delimit(level, start, end);
        } else if (inHeader && current != null) {
            takeHeaderLine(current, start, end);
        }
    }

    /** The innermost open multipart that this line delimits, or -1. */
    private int level(int start, int end) {
        if (end - start < 3 || source.get(start) != '-' || source.get(start + 1) != '-') {
            return -1;
        }
        for (int level = open.size() - 1; level >= 0; level--) {
            if (isDelimiter(start, end, open.get(level).boundary())) {
                return level;
            }
        }
        return -1;
    }

    /** Two hyphens, the boundary, perhaps two hyphens more, and blanks. */
    private boolean isDelimiter(int start, int end, byte[] boundary) {
        int at = start + 2;
        if (end - at < boundary.length) {
            return false;
        }
        for (byte one : boundary) {
            if (source.get(at++) != one) {
                return false;
            }
        }
        return isBlank(closes(at, end) ? at + 2 : at, end);
    }

    private boolean closes(int at, int end) {
        return at + 1 < end && source.get(at) == '-' && source.get(at + 1) == '-';
    }

    private boolean isBlank(int start, int end) {
        for (int i = start; i < end; i++) {
            byte one = source.get(i);
            if (one != ' ' && one != '\t' && one != '\r' && one != '\n') {
                return false;
            }
        }
        return true;
    }

    private void delimit(int level, int start, int end) {
        if (inHeader && current != null) {
            endHeader(current, start);
        }
        close(level + 1, start);
        Open multipart = open.get(level);
        if (closes(start + 2 + multipart.boundary().length, end)) {
            open.remove(level);
        } else if (parts >= limits.parts()) {
            partsLeftOut++;
        } else {
            parts++;
            current = new MimeEntity(source, multipart.entity().type().equals("multipart/digest"));
            multipart.entity().add(current);
            inHeader = true;
            fieldStart = -1;
            kept = 0;
            neededKept = 0;
        }
    }

    /** Ends the part that is being read, and all multiparts that lie deeper. The line's end before belongs to the delimiter. */
    private void close(int levels, int at) {
        if (current != null) {
            int end = at;
            if (end > 0 && source.get(end - 1) == '\n' && at < source.limit()) {
                end--;
                end -= end > 0 && source.get(end - 1) == '\r' ? 1 : 0;
            }
            current.bodyEnds(end);
            current = null;
        }
        inHeader = false;
        while (open.size() > levels) {
            MimeEntity ended = open.remove(open.size() - 1).entity();
            if (ended.parts().isEmpty()) {
                ended.isUndelimited(at);
            }
        }
    }

    private void takeHeaderLine(MimeEntity entity, int start, int end) {
        if (isBlank(start, end)) {
            if (start == blank) {
                blank = end; // Blank lines before the header of all.
                return;
            }
            if (goesOnBehind(start, end)) {
                return;
            }
            endHeader(entity, end);
        } else if (beginsBody(entity, start, end)) {
            endHeader(entity, start);
        } else if (isFolded(start)) {
            fieldEnd = end;
        } else {
            keepField(entity);
            fieldStart = start;
            fieldEnd = end;
        }
    }

    /** Whether a line of blanks stands within a folded field (RFC 5322, section 4.2). */
    private boolean goesOnBehind(int start, int end) {
        return fieldStart >= 0
                && isFolded(start)
                && end < source.limit()
                && isFolded(end)
                && !isBlank(end, lineEnd(end, source.limit()));
    }

    private boolean isFolded(int start) {
        return source.get(start) == ' ' || source.get(start) == '\t';
    }

    /**
     * Whether the blank line before the body is missing: what is no field, and has none behind it, is text. In front of fields it
     * is rubbish, or the line that mailboxes in files begin with.
     */
    private boolean beginsBody(MimeEntity entity, int start, int end) {
        boolean first = entity.fields().isEmpty() && fieldStart < 0;
        return (isFolded(start) ? first : colon(start, end) < 0) && colon(end, lineEnd(end, source.limit())) < 0;
    }

    private void keepField(MimeEntity entity) {
        if (fieldStart < 0) {
            return;
        }
        int start = fieldStart;
        fieldStart = -1;
        int colon = colon(start, fieldEnd);
        if (colon < 0) {
            return; // No field: the line that mailboxes in files begin with, or rubbish.
        }
        int length = fieldEnd - start;
        while (length > 0 && (source.get(start + length - 1) == '\n' || source.get(start + length - 1) == '\r')) {
            length--;
        }
        HeaderField field = HeaderField.of(
                source.slice(start, Math.max(colon - start + 1, Math.min(length, limits.fieldBytes()))), colon - start);
        boolean needed = NEEDED.contains(field.name());
        if ((needed ? ++neededKept : ++kept) > limits.fields()) {
            cuts.add("Its header has more than %,d fields; not all are known.".formatted(limits.fields()));
            return;
        }
        if (length > limits.fieldBytes()) {
            cuts.add("Of the field %s only the first %,d kB were read."
                    .formatted(field.name(), limits.fieldBytes() / 1024));
        }
        entity.add(field);
    }

    /** Where the name of the field ends, or -1 if it begins with no name (RFC 5322, section 3.6.8). */
    private int colon(int start, int end) {
        for (int i = start; i < end && i - start <= LONGEST_NAME; i++) {
            byte one = source.get(i);
            if (one == ':') {
                return i == start ? -1 : i;
            }
            boolean blankBefore = (one == ' ' || one == '\t') && i > start; // obsolete, section 4.5.8
            if (!blankBefore && (one <= ' ' || one == 0x7f)) {
                return -1;
            }
            if (blankBefore && !onlyBlanksUntilColon(i, end)) {
                return -1;
            }
        }
        return -1;
    }

    private boolean onlyBlanksUntilColon(int from, int end) {
        for (int i = from; i < end && i - from <= LONGEST_NAME; i++) {
            if (source.get(i) == ':') {
                return true;
            }
            if (source.get(i) != ' ' && source.get(i) != '\t') {
                return false;
            }
        }
        return false;
    }

    private void endHeader(MimeEntity entity, int bodyStart) {
        keepField(entity);
        inHeader = false;
        entity.headerEnds(bodyStart);
        String boundary = entity.boundary();
        if (boundary == null || boundary.length() > LONGEST_BOUNDARY) {
            return;
        }
        if (open.size() >= limits.depth()) {
            cuts.add("Its parts lie more than %d deep in each other; what lies deeper is kept as one file."
                    .formatted(limits.depth()));
            return;
        }
        entity.isMultipart();
        open.add(new Open(entity, boundary.getBytes(StandardCharsets.UTF_8)));
        current = null;
    }
}
