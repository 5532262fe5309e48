package app.schublade.core.format;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * Takes files out of a text that were written into it before there was MIME: uuencoded (IEEE 1003.1, uuencode) and yEnc. What
 * begins like one and does not end like one stays text. One pass: a line that is looked at and given back is never one that a
 * file begins with.
 */
final class FilesInText {
    private static final int MOST = 200;
    private static final int LONGEST_NAME = 200;
    private static final int ESCAPE = 64;
    private static final int SHIFT = 42;

    private final byte[] source;
    private final ByteArrayOutputStream text;
    private final List<ExtractedFile> files = new ArrayList<>();

    private FilesInText(byte[] source) {
        this.source = source;
        text = new ByteArrayOutputStream(source.length);
    }

    /** A text without its files, and the files. */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    record Split(byte[] text, List<ExtractedFile> files) {}

    static Split split(byte[] source) {
        FilesInText reader = new FilesInText(source);
        reader.read();
        return reader.files.isEmpty()
                ? new Split(source, List.of())
                : new Split(reader.text.toByteArray(), List.copyOf(reader.files));
    }

    private void read() {
        for (int line = 0; line < source.length; ) {
            int end = lineEnd(line);
            int after = -1;
            if (files.size() < MOST && startsWith(line, "begin ")) {
                after = uuencoded(line, end);
            } else if (files.size() < MOST && startsWith(line, "=ybegin ")) {
                after = yenc(line, end);
            }
            if (after < 0) {
                text.write(source, line, end - line);
            }
            line = Math.max(after, end);
        }
    }

    private int lineEnd(int start) {
        int at = start;
        while (at < source.length && source[at] != '\n') {
            at++;
        }
        return Math.min(source.length, at + 1);
    }

    private boolean startsWith(int at, String word) {
        if (source.length - at < word.length()) {
            return false;
        }
        for (int i = 0; i < word.length(); i++) {
            if (source[at + i] != word.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    /** A line without its end. */
    private String line(int start, int end) {
        return new String(source, start, Math.min(end - start, LONGEST_NAME * 2), StandardCharsets.ISO_8859_1).strip();
    }

    /** Behind the file that begins here; -1 if none does. */
    private int uuencoded(int start, int end) {
        String[] words = line(start, end).split(" +", 3);
        if (words.length < 3 || !words[1].matches("[0-7]{3,4}") || words[2].length() > LONGEST_NAME) {
            return -1;
        }
        ByteArrayOutputStream content = new ByteArrayOutputStream();
        for (int line = end; line < source.length; ) {
            int stop = lineEnd(line);
            int length = withoutEnd(line, stop) - line;
            if (startsWith(line, "end") && length <= "end ".length()) {
                files.add(new ExtractedFile(words[2], content.toByteArray()));
                return stop;
            }
            if (length > 0 && !uuLine(line, length, content)) {
                return -1;
            }
            line = stop;
        }
        return -1;
    }

    private int withoutEnd(int start, int stop) {
        int end = stop;
        while (end > start && (source[end - 1] == '\n' || source[end - 1] == '\r')) {
            end--;
        }
        return end;
    }

    /** Blanks at the end of a line may have been lost on the way. */
    private boolean uuLine(int start, int length, ByteArrayOutputStream content) {
        int bytes = sixBits(start);
        int wanted = (bytes + 2) / 3 * 4;
        if (bytes < 0 || length - 1 > wanted + 1) {
            return false;
        }
        for (int i = 1; i < length; i++) {
            if (sixBits(start + i) < 0) {
                return false;
            }
        }
        for (int i = 0; i < bytes; i++) {
            int at = 1 + i / 3 * 4 + i % 3;
            int two = sixBits(start, at, length) << 6 | sixBits(start, at + 1, length);
            content.write(two >> (4 - i % 3 * 2));
        }
        return true;
    }

    private int sixBits(int start, int at, int length) {
        return at < length ? sixBits(start + at) : 0;
    }

    private int sixBits(int at) {
        return source[at] < ' ' || source[at] > '`' ? -1 : (source[at] - ' ') & 0x3f;
    }

    /** Behind the file that begins here; -1 if it has no end. */
    private int yenc(int start, int end) {
        String head = line(start, end);
        int name = head.indexOf(" name=");
        if (name < 0 || !head.contains(" size=")) {
            return -1;
        }
        ByteArrayOutputStream content = new ByteArrayOutputStream();
        for (int line = end; line < source.length; ) {
            int stop = lineEnd(line);
            if (startsWith(line, "=yend ")) {
                String called = head.substring(name + " name=".length());
                files.add(new ExtractedFile(MimeReader.limit(called, LONGEST_NAME), content.toByteArray()));
                return stop;
            }
            if (startsWith(line, "=ybegin ")) {
                return -1;
            }
            if (!startsWith(line, "=ypart ")) {
                yencLine(line, withoutEnd(line, stop), content);
            }
            line = stop;
        }
        return -1;
    }

    private void yencLine(int start, int end, ByteArrayOutputStream content) {
        for (int i = start; i < end; i++) {
            boolean escaped = source[i] == '=' && i + 1 < end;
            i += escaped ? 1 : 0;
            content.write(source[i] - SHIFT - (escaped ? ESCAPE : 0));
        }
    }
}
