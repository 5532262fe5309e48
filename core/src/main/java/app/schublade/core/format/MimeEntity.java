package app.schublade.core.format;

import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.apache.james.mime4j.codec.Base64InputStream;
import org.apache.james.mime4j.codec.DecodeMonitor;
import org.apache.james.mime4j.codec.QuotedPrintableInputStream;
import org.jspecify.annotations.Nullable;

/** A message or a part of one (RFC 2045, section 2.4): its header, and where its body lies in the source. */
final class MimeEntity {
    private final ByteBuffer source;
    private final List<HeaderField> fields = new ArrayList<>();
    private final List<MimeEntity> parts = new ArrayList<>();
    private int bodyStart;
    private int bodyEnd;
    private boolean multipart;
    private boolean undelimited;
    private final boolean inDigest;
    private ContentField contentType = ContentField.NONE;
    private ContentField disposition = ContentField.NONE;

    /** @param inDigest whether it lies where everything is a message that says nothing else (RFC 2046, section 5.1.5) */
    MimeEntity(ByteBuffer source, boolean inDigest) {
        this.source = source;
        this.inDigest = inDigest;
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
        contentType = content("content-type");
        disposition = content("content-disposition");
    }

    private ContentField content(String name) {
        return first(name).map(ContentField::read).orElse(ContentField.NONE);
    }

    void bodyEnds(int at) {
        bodyEnd = Math.max(bodyStart, at);
    }

    /** Its body is read as parts. */
    void isMultipart() {
        multipart = true;
    }

    /** The boundary that it names never came: all of it up to here is its body. */
    void isUndelimited(int at) {
        multipart = false;
        undelimited = true;
        bodyEnds(at);
    }

    /** Whether it says that it has parts, and nothing tells where they are. */
    boolean saysPartsInVain() {
        return undelimited || (type().startsWith("multipart/") && boundary() == null);
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

    Optional<HeaderField> first(String name) {
        return fields.stream().filter(field -> field.name().equals(name)).findFirst();
    }

    /** In lower case; plain text where nothing is said (RFC 2045, section 5.2). */
    String type() {
        String type = contentType.mediaType();
        return type != null ? type : inDigest ? Part.MESSAGE : "text/plain";
    }

    /** What delimits its parts; null if it has none. */
    @Nullable
    String boundary() {
        String boundary = type().startsWith("multipart/") ? parameter("boundary") : "";
        return boundary.isBlank() ? null : boundary.stripTrailing();
    }

    @Nullable
    String charset() {
        String charset = parameter("charset");
        return charset.isEmpty() ? null : charset;
    }

    /** A parameter of the content type; empty where it has none of that name. */
    String parameter(String name) {
        return contentType.parameter(name);
    }

    boolean isAttached() {
        return disposition.value().equals("attachment");
    }

    /** The name without path and control characters, so that it can be offered for saving; null if there is none. */
    @Nullable
    String fileName() {
        String name = disposition.parameter("filename");
        String given = name.isBlank() ? parameter("name") : name;
        return FileNames.clean(EncodedWords.decode(given));
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
