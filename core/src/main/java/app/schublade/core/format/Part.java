package app.schublade.core.format;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** One attachment or embedded picture; decoded when it is asked for. */
public final class Part {
    private static final Set<String> PICTURES = Set.of("image/png", "image/jpeg", "image/gif", "image/webp");
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
    private final MimeEntity entity;
    private final @Nullable String contentId;
    private final boolean insideHtml;
    private int size = -1;

    /** @param named whether the HTML refers to it by its Content-ID */
    Part(int number, MimeEntity entity, boolean named) {
        insideHtml = named && PICTURES.contains(typeOf(entity));
        this.number = number;
        this.entity = entity;
        String given = entity.fileName();
        name = given == null ? "part-" + number : given;
        contentId = entity.contentId();
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
        return typeOf(entity);
    }

    private static String typeOf(MimeEntity entity) {
        String type = entity.type();
        return MISSPELT.getOrDefault(type, type);
    }

    /** Whether a browser shows it. */
    public boolean isPicture() {
        return PICTURES.contains(type());
    }

    /** What the HTML calls it by (RFC 2392), or null. */
    public @Nullable String contentId() {
        return contentId;
    }

    /** Whether it is a picture that the HTML shows in its place, and no file to those who read. */
    public boolean insideHtml() {
        return insideHtml;
    }

    /** The content, decoded piece by piece. */
    public InputStream open() {
        return entity.open();
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
