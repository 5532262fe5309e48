package app.schublade.core.format;

import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.apache.james.mime4j.codec.Base64InputStream;
import org.apache.james.mime4j.codec.DecodeMonitor;
import org.apache.james.mime4j.codec.QuotedPrintableInputStream;
import org.apache.james.mime4j.dom.field.ContentDispositionField;
import org.apache.james.mime4j.dom.field.ContentTypeField;
import org.jspecify.annotations.Nullable;

/** A message or a part of one (RFC 2045, section 2.4): its header, and where its body lies in the source. */
final class MimeEntity {
    private static final int MAX_NAME = 150;

    private final ByteBuffer source;
    private final List<HeaderField> fields = new ArrayList<>();
    private final List<MimeEntity> parts = new ArrayList<>();
    private int bodyStart;
    private int bodyEnd;
    private boolean multipart;
    private @Nullable ContentTypeField contentType;

    MimeEntity(ByteBuffer source) {
        this.source = source;
    }

    void add(HeaderField field) {
        fields.add(field);
    }

    void add(MimeEntity part) {
        parts.add(part);
    }

    /** The header is read; the body begins here. */
    void headerEnds(int at) {
        bodyStart = at;
        bodyEnd = at;
        contentType = first("content-type")
                .map(HeaderField::parsed)
                .filter(ContentTypeField.class::isInstance)
                .map(ContentTypeField.class::cast)
                .orElse(null);
    }

    void bodyEnds(int at) {
        bodyEnd = Math.max(bodyStart, at);
    }

    /** Its body is read as parts. */
    void isMultipart() {
        multipart = true;
    }

    boolean hasParts() {
        return multipart;
    }

    List<MimeEntity> parts() {
        return parts;
    }

    List<HeaderField> fields() {
        return fields;
    }

    java.util.Optional<HeaderField> first(String name) {
        return fields.stream().filter(field -> field.name().equals(name)).findFirst();
    }

    /** In lower case; plain text where nothing is said (RFC 2045, section 5.2). */
    String type() {
        String type = contentType == null ? null : contentType.getMimeType();
        return type == null || type.isEmpty()
                ? "text/plain"
                : type.toLowerCase(Locale.ROOT).replace("\0", "");
    }

    /** What delimits its parts; null if it has none. */
    @Nullable
    String boundary() {
        String boundary = contentType == null || !type().startsWith("multipart/") ? null : contentType.getBoundary();
        return boundary == null || boundary.isBlank() ? null : boundary.stripTrailing();
    }

    @Nullable
    String charset() {
        return contentType == null ? null : contentType.getCharset();
    }

    boolean isAttached() {
        ContentDispositionField disposition = disposition();
        return disposition != null && "attachment".equalsIgnoreCase(disposition.getDispositionType());
    }

    private @Nullable ContentDispositionField disposition() {
        return first("content-disposition")
                .map(HeaderField::parsed)
                .filter(ContentDispositionField.class::isInstance)
                .map(ContentDispositionField.class::cast)
                .orElse(null);
    }

    /** The name without path and control characters, so that it can be offered for saving; null if there is none. */
    @Nullable
    String fileName() {
        ContentDispositionField disposition = disposition();
        String name = disposition == null ? null : disposition.getFilename();
        if (name == null && contentType != null) {
            name = contentType.getParameter("name");
        }
        if (name == null || name.isBlank()) {
            return null;
        }
        String decoded = EncodedWords.decode(name);
        String bare = decoded.substring(Math.max(decoded.lastIndexOf('/'), decoded.lastIndexOf('\\')) + 1);
        String clean = bare.replaceAll("\\p{Cntrl}", "").strip();
        return clean.isEmpty() ? null : MimeReader.limit(clean, MAX_NAME);
    }

    /** What the HTML calls it by (RFC 2392), or null. */
    @Nullable
    String contentId() {
        return first("content-id")
                .map(HeaderField::value)
                .map(id -> id.startsWith("<") ? id.substring(1) : id)
                .map(id -> id.endsWith(">") ? id.substring(0, id.length() - 1) : id)
                .orElse(null);
    }

    /** The body, decoded (RFC 2045, section 6). */
    InputStream open() {
        InputStream raw = new SliceInputStream(source, bodyStart, bodyEnd);
        String encoding = first("content-transfer-encoding")
                .map(HeaderField::value)
                .map(value -> value.strip().toLowerCase(Locale.ROOT))
                .orElse("");
        return switch (encoding) {
            case "base64" -> new Base64InputStream(raw, DecodeMonitor.SILENT);
            case "quoted-printable" -> new QuotedPrintableInputStream(raw, DecodeMonitor.SILENT);
            default -> raw;
        };
    }
}
