package app.schublade.core.format;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Walks the parts of a message: the first plain and the first HTML part that are no files are its body, all others are
 * files. Where all text lies in files, the first of them is shown as the body too.
 */
final class BodyCollector {
    private static final int MAX_BYTES_OF_CHAR = 4;

    private final MimeLimits limits;
    private final Collection<String> cuts;
    private final List<Part> parts = new ArrayList<>();
    private @Nullable String plain;
    private @Nullable String html;
    private @Nullable MimeEntity textInFile;

    private BodyCollector(MimeLimits limits, Collection<String> cuts) {
        this.limits = limits;
        this.cuts = cuts;
    }

    /** @param cuts gets a sentence for all that was left out */
    static BodyCollector collect(MimeEntity message, MimeLimits limits, Collection<String> cuts) {
        BodyCollector collector = new BodyCollector(limits, cuts);
        Deque<MimeEntity> next = new ArrayDeque<>(List.of(message));
        while (!next.isEmpty()) {
            MimeEntity entity = next.pop();
            if (entity.hasParts()) {
                for (int i = entity.parts().size() - 1; i >= 0; i--) {
                    next.push(entity.parts().get(i));
                }
            } else {
                collector.take(entity);
            }
        }
        collector.takeTextOfFile();
        return collector;
    }

    String text() {
        if (plain != null) {
            return plain;
        }
        return html == null ? "" : HtmlText.of(html);
    }

    @Nullable
    String html() {
        return html;
    }

    List<Part> parts() {
        return List.copyOf(parts);
    }

    private void take(MimeEntity entity) {
        String type = entity.type();
        boolean withoutParts = type.startsWith("multipart/") && entity.boundary() == null;
        boolean isText = type.equals("text/plain") || type.equals("text/html") || withoutParts;
        boolean isFile = entity.isAttached() || entity.fileName() != null;
        if (!isFile && plain == null && isText && !type.equals("text/html")) {
            plain = text(entity);
        } else if (!isFile && html == null && type.equals("text/html")) {
            html = text(entity);
        } else {
            textInFile = textInFile == null && isText ? entity : textInFile;
            parts.add(new Part(parts.size() + 1, entity));
        }
    }

    private void takeTextOfFile() {
        if (plain == null && html == null && textInFile != null) {
            if (textInFile.type().equals("text/html")) {
                html = text(textInFile);
            } else {
                plain = text(textInFile);
            }
        }
    }

    private String text(MimeEntity entity) {
        try (InputStream in = entity.open()) {
            String text = Charsets.decode(in.readNBytes(limits.textChars() * MAX_BYTES_OF_CHAR), entity.charset());
            if (text.length() > limits.textChars()) {
                cuts.add("Its text has more than %,d characters; the rest is not shown.".formatted(limits.textChars()));
            }
            return MimeReader.limit(text, limits.textChars()).replace("\0", "");
        } catch (IOException e) {
            cuts.add("Its text could not be read to the end.");
            return "";
        }
    }
}
