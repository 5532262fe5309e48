package app.schublade.core.format;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.apache.james.mime4j.dom.Body;
import org.apache.james.mime4j.dom.Entity;
import org.apache.james.mime4j.dom.Multipart;
import org.apache.james.mime4j.dom.SingleBody;
import org.apache.james.mime4j.dom.field.ContentTypeField;
import org.apache.james.mime4j.message.DefaultMessageWriter;
import org.apache.james.mime4j.stream.Field;
import org.jsoup.Jsoup;
import org.jspecify.annotations.Nullable;

/** Walks the parts of a message: the first plain and the first HTML part are its body, all others are parts. */
final class BodyCollector {
    private static final int MAX_DEPTH = 20;
    private static final int MAX_PARTS = 500;
    private static final int MAX_TEXT = 2_000_000;

    private @Nullable String plain;
    private @Nullable String html;
    private final List<Part> parts = new ArrayList<>();

    static BodyCollector collect(Entity message) throws IOException {
        BodyCollector collector = new BodyCollector();
        collector.walk(message, 0);
        return collector;
    }

    String text() {
        if (plain != null) {
            return plain;
        }
        return html == null ? "" : Jsoup.parse(html).text();
    }

    @Nullable
    String html() {
        return html;
    }

    List<Part> parts() {
        return List.copyOf(parts);
    }

    private void walk(Entity entity, int depth) throws IOException {
        Body body = entity.getBody();
        if (depth > MAX_DEPTH || parts.size() >= MAX_PARTS || body == null) {
            return;
        }
        if (body instanceof Multipart multipart) {
            for (Entity part : multipart.getBodyParts()) {
                walk(part, depth + 1);
            }
        } else if (body instanceof SingleBody single) {
            take(entity, single);
        } else if (body instanceof org.apache.james.mime4j.dom.Message enclosed) {
            takeEnclosed(entity, enclosed);
        }
    }

    private void take(Entity entity, SingleBody body) throws IOException {
        String type = type(entity);
        boolean attached = "attachment".equalsIgnoreCase(entity.getDispositionType()) || fileName(entity) != null;
        if (!attached && type.equals("text/plain") && plain == null) {
            plain = text(entity, body);
        } else if (!attached && type.equals("text/html") && html == null) {
            html = text(entity, body);
        } else {
            add(entity, type, bytes(body));
        }
    }

    private void takeEnclosed(Entity entity, org.apache.james.mime4j.dom.Message enclosed) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        new DefaultMessageWriter().writeMessage(enclosed, out);
        add(entity, "message/rfc822", out.toByteArray());
    }

    private void add(Entity entity, String type, byte[] content) {
        int number = parts.size() + 1;
        String name = fileName(entity);
        Field id = entity.getHeader().getField("Content-ID");
        String contentId = id == null ? null : id.getBody().strip().replaceAll("^<|>$", "");
        parts.add(new Part(number, name == null ? "part-" + number : name, type, contentId, content));
    }

    private static String text(Entity entity, SingleBody body) throws IOException {
        String declared = entity.getHeader().getField("Content-Type") instanceof ContentTypeField field
                ? field.getCharset()
                : null;
        return MimeReader.limit(Charsets.decode(bytes(body), declared), MAX_TEXT)
                .replace("\0", "");
    }

    private static String type(Entity entity) {
        String type = entity.getMimeType();
        return type == null ? "application/octet-stream" : type.toLowerCase(Locale.ROOT);
    }

    /** The name without path and control signs, so that it can be offered for saving. */
    private static @Nullable String fileName(Entity entity) {
        String name = entity.getFilename();
        if (name == null && entity.getHeader().getField("Content-Type") instanceof ContentTypeField field) {
            name = field.getParameter("name");
        }
        if (name == null || name.isBlank()) {
            return null;
        }
        String decoded = Charsets.decodeWords(name);
        String bare = decoded.substring(Math.max(decoded.lastIndexOf('/'), decoded.lastIndexOf('\\')) + 1);
        String clean = bare.replaceAll("\\p{Cntrl}", "").strip();
        return clean.isEmpty() ? null : MimeReader.limit(clean, 150);
    }

    private static byte[] bytes(SingleBody body) throws IOException {
        try (InputStream in = body.getInputStream()) {
            return in.readAllBytes();
        }
    }
}
