package app.schublade.core.format;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Walks the parts of a message. Its body is all text that a reader is to see, once: every text part that is no attachment, in its
 * order; of alternatives (RFC 2046, section 5.1.4) one. All other parts are files; a text with a file name is both. Where all
 * text is attached, the first of it is shown as the body too.
 */
final class BodyCollector {
    private static final int MAX_BYTES_OF_CHAR = 4;
    /** A plain part that is much shorter than the HTML beside it only says that there is one. */
    private static final int LONGEST_STUB = 400;

    private static final int STUB_TIMES = 4;
    private static final String CID = "cid:";
    private static final String ENDS_ID = "\"'<> )\r\n\t";
    private static final int MAX_ID = 500;
    private static final int HEX = 16;

    private final MimeLimits limits;
    private final Collection<String> cuts;
    private final List<Text> texts = new ArrayList<>();
    private final List<MimeEntity> files = new ArrayList<>();
    private @Nullable MimeEntity textInFile;
    private int plainChars;
    private int htmlChars;

    private BodyCollector(MimeLimits limits, Collection<String> cuts) {
        this.limits = limits;
        this.cuts = cuts;
    }

    /** What says one thing, as plain text, as HTML, or as both. */
    private record Text(@Nullable String plain, @Nullable String html) {
        String shown() {
            if (html == null) {
                return plain == null ? "" : plain;
            }
            if (plain == null) {
                return HtmlText.of(html);
            }
            if (plain.length() > LONGEST_STUB) {
                return plain;
            }
            String read = HtmlText.of(html);
            return read.length() > STUB_TIMES * plain.length() ? read : plain;
        }

        String asHtml() {
            return html != null ? html : "<p>%s</p>".formatted(escaped(plain == null ? "" : plain));
        }

        private static String escaped(String text) {
            return text.strip()
                    .replace("&", "&amp;")
                    .replace("<", "&lt;")
                    .replace(">", "&gt;")
                    .replace("\n", "<br>");
        }
    }

    /** @param cuts gets a sentence for all that was left out */
    static BodyCollector collect(MimeEntity message, MimeLimits limits, Collection<String> cuts) {
        BodyCollector collector = new BodyCollector(limits, cuts);
        collector.walk(message, collector.texts);
        if (collector.texts.isEmpty() && collector.textInFile != null) {
            collector.takeText(collector.textInFile, collector.texts);
        }
        return collector;
    }

    String text() {
        return texts.stream().map(Text::shown).collect(Collectors.joining("\n\n"));
    }

    /** Null if all of it is plain text. */
    @Nullable
    String html() {
        if (texts.stream().allMatch(text -> text.html() == null)) {
            return null;
        }
        return texts.stream().map(Text::asHtml).collect(Collectors.joining("\n"));
    }

    List<Part> parts() {
        Set<String> shown = pictures();
        List<Part> parts = new ArrayList<>();
        for (MimeEntity file : files) {
            String id = file.contentId();
            parts.add(new Part(parts.size() + 1, file, id != null && shown.contains(id)));
        }
        return List.copyOf(parts);
    }

    /** What the HTML shows in its place, by Content-ID (RFC 2392). */
    private Set<String> pictures() {
        Set<String> ids = new HashSet<>();
        for (Text text : texts) {
            String html = text.html();
            String lower = html == null ? "" : html.toLowerCase(Locale.ROOT);
            for (int at = lower.indexOf(CID); html != null && at >= 0; at = lower.indexOf(CID, at + 1)) {
                int start = at + CID.length();
                int end = start;
                while (end < html.length() && end - start <= MAX_ID && ENDS_ID.indexOf(html.charAt(end)) < 0) {
                    end++;
                }
                if (end - start <= MAX_ID) {
                    ids.add(decoded(html.substring(start, end)));
                }
            }
        }
        return ids;
    }

    /** Without percent-encoding (RFC 3986, section 2.1); ids are ASCII. */
    private static String decoded(String id) {
        StringBuilder bare = new StringBuilder(id.length());
        for (int i = 0; i < id.length(); i++) {
            boolean coded = id.charAt(i) == '%' && i + 2 < id.length();
            int high = coded ? Character.digit(id.charAt(i + 1), HEX) : -1;
            int low = coded ? Character.digit(id.charAt(i + 2), HEX) : -1;
            if (high >= 0 && low >= 0) {
                bare.append((char) (high * HEX + low));
                i += 2;
            } else {
                bare.append(id.charAt(i));
            }
        }
        return bare.toString().replace("&amp;", "&");
    }

    private void walk(MimeEntity entity, List<Text> into) {
        if (!entity.hasParts()) {
            take(entity, into);
        } else if (entity.type().equals("multipart/alternative")) {
            into.addAll(best(entity));
        } else {
            entity.parts().forEach(part -> walk(part, into));
        }
    }

    /** The first plain text, and the last HTML: the alternatives stand from the plainest to the one that says most. */
    private List<Text> best(MimeEntity alternatives) {
        String plain = null;
        String html = null;
        List<Text> withHtml = List.of();
        for (MimeEntity part : alternatives.parts()) {
            List<Text> found = new ArrayList<>();
            walk(part, found);
            if (found.stream().anyMatch(text -> text.html() != null)) {
                withHtml = found;
            }
            for (Text text : found) {
                plain = plain == null && text.html() == null ? text.plain() : plain;
                html = text.html() != null ? text.html() : html;
            }
        }
        if (withHtml.size() > 1) {
            return withHtml; // HTML with more around it: that as a whole is one alternative.
        }
        return plain == null && html == null ? List.of() : List.of(new Text(plain, html));
    }

    private void take(MimeEntity entity, List<Text> into) {
        String type = entity.type();
        boolean withoutParts = type.startsWith("multipart/") && entity.boundary() == null;
        boolean isText = type.equals("text/plain") || type.equals("text/html") || withoutParts;
        boolean named = entity.fileName() != null;
        if (isText && !entity.isAttached() && (!named || type.equals("text/plain"))) {
            takeText(entity, into);
            if (!named) {
                return;
            }
        }
        textInFile = textInFile == null && isText ? entity : textInFile;
        files.add(entity);
    }

    private void takeText(MimeEntity entity, List<Text> into) {
        String text = text(entity);
        if (text.isBlank()) {
            return;
        }
        if (!entity.type().equals("text/html")) {
            into.add(new Text(text, null));
        } else if (HtmlText.saysSomething(text)) {
            into.add(new Text(null, text));
        }
    }

    private String text(MimeEntity entity) {
        boolean isHtml = entity.type().equals("text/html");
        int room = limits.textChars() - (isHtml ? htmlChars : plainChars);
        if (room <= 0) {
            return "";
        }
        try (InputStream in = entity.open()) {
            String text = Charsets.decode(in.readNBytes(room * MAX_BYTES_OF_CHAR), entity.charset());
            if (text.length() > room) {
                cuts.add("Its text has more than %,d characters; the rest is not shown.".formatted(limits.textChars()));
            }
            String read = MimeReader.limit(text, room).replace("\0", "");
            htmlChars += isHtml ? read.length() : 0;
            plainChars += isHtml ? 0 : read.length();
            return read;
        } catch (IOException e) {
            cuts.add("Its text could not be read to the end.");
            return "";
        }
    }
}
