package app.schublade.core.format;

import com.google.re2j.Pattern;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** One part of a message that is not its text: an attachment, an embedded picture, a signature; decoded when it is asked for. */
public final class Part {
    /** A whole message (RFC 2046, section 5.2.1). */
    static final String MESSAGE = "message/rfc822";

    private static final Set<String> PICTURES = Set.of("image/png", "image/jpeg", "image/gif", "image/webp");
    private static final Pattern TEXT_NAME = Pattern.compile("(?i).+\\.(txt|csv|tsv|md|log|ini|json|xml|ya?ml)");
    private static final Map<String, String> MISSPELT = Map.of(
            "image/jpg",
            "image/jpeg",
            "image/pjpeg",
            "image/jpeg",
            "image/jpe",
            "image/jpeg",
            "image/x-png",
            "image/png");

    private final int number;
    private final String name;
    private final String type;
    private final PartRole role;
    private final @Nullable String contentId;
    private final Content content;
    private int size = -1;

    Part(int number, String name, String type, PartRole role, @Nullable String contentId, Content content) {
        this.number = number;
        this.name = name;
        this.type = usual(type);
        this.role = role;
        this.contentId = contentId;
        this.content = content;
    }

    /** What a part holds, decoded each time it is opened. */
    @FunctionalInterface
    interface Content {
        InputStream open();

        static Content of(byte[] bytes) {
            return () -> new ByteArrayInputStream(bytes);
        }
    }

    /** Its place in the message, from 1. */
    public int number() {
        return number;
    }

    /** A file name without any path, never empty. */
    public String name() {
        return name;
    }

    /** The media type in lower case, without parameters. */
    public String type() {
        return type;
    }

    /** The media type that a misspelt one means. */
    static String usual(String type) {
        return MISSPELT.getOrDefault(type, type);
    }

    static boolean isPicture(String type) {
        return PICTURES.contains(usual(type));
    }

    public PartRole role() {
        return role;
    }

    /** Whether a browser shows it. */
    public boolean isPicture() {
        return isPicture(type);
    }

    /** Whether it says that it is a PDF (ISO 32000). */
    public boolean isPdf() {
        return type.equals("application/pdf")
                || (type.equals("application/octet-stream")
                        && name.toLowerCase(Locale.ROOT).endsWith(".pdf"));
    }

    /** Whether it is a text that is read as it is. */
    public boolean isText() {
        boolean said = type.startsWith("text/") && !type.equals("text/html") && !type.equals("text/calendar");
        return said || (type.equals("application/octet-stream") && TEXT_NAME.matches(name));
    }

    /**
     * The beginning of its text, in the character set that its bytes look like.
     *
     * @param most bytes of it that are read
     */
    public String beginning(int most) {
        try (InputStream in = open()) {
            return Charsets.decodeUndeclared(in.readNBytes(most), null);
        } catch (IOException e) {
            throw new UncheckedIOException("Cannot happen in memory", e);
        }
    }

    /** Whether it is a message, which can be read as one. */
    public boolean isMessage() {
        return type.equals(MESSAGE) || type.equals("message/global");
    }

    /** What the HTML calls it by (RFC 2392), or null. */
    public @Nullable String contentId() {
        return contentId;
    }

    /** The content, decoded piece by piece. */
    public InputStream open() {
        return content.open();
    }

    /** All of the content, decoded. */
    public byte[] content() {
        try (InputStream in = open()) {
            return in.readAllBytes();
        } catch (IOException e) {
            throw new UncheckedIOException("Cannot happen in memory", e);
        }
    }

    /** How many bytes the content has. */
    public synchronized int size() {
        if (size < 0) {
            try (InputStream in = open()) {
                size = (int) Math.min(Integer.MAX_VALUE, in.transferTo(OutputStream.nullOutputStream()));
            } catch (IOException e) {
                throw new UncheckedIOException("Cannot happen in memory", e);
            }
        }
        return size;
    }
}
