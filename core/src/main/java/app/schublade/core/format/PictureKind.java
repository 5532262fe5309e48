package app.schublade.core.format;

import java.nio.charset.StandardCharsets;
import java.util.Optional;

/** The kinds of pictures that every browser shows and that do nothing else, by how their bytes begin. */
public enum PictureKind {
    PNG("image/png", "\u0089PNG\r\n\u001a\n"),
    JPEG("image/jpeg", "\u00ff\u00d8\u00ff"),
    GIF("image/gif", "GIF8"),
    WEBP("image/webp", "RIFF");

    private static final String WEBP_MARK = "WEBP";
    private static final int WEBP_AT = 8;

    private final String type;
    private final String beginning;

    PictureKind(String type, String beginning) {
        this.type = type;
        this.beginning = beginning;
    }

    /** Its media type. */
    public String type() {
        return type;
    }

    public static Optional<PictureKind> of(byte[] content) {
        String first = new String(
                content, 0, Math.min(content.length, WEBP_AT + WEBP_MARK.length()), StandardCharsets.ISO_8859_1);
        for (PictureKind kind : values()) {
            boolean begins = first.startsWith(kind.beginning);
            if (begins && (kind != WEBP || first.startsWith(WEBP_MARK, WEBP_AT))) {
                return Optional.of(kind);
            }
        }
        return Optional.empty();
    }
}
