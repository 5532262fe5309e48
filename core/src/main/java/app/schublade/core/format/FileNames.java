package app.schublade.core.format;

import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Names of files, such that they can be offered for saving. */
final class FileNames {
    private static final int MAX_NAME = 150;
    /** What a file of a type is called when nobody gave it a name. */
    private static final Map<String, String> ENDINGS = Map.ofEntries(
            Map.entry("text/plain", ".txt"),
            Map.entry("text/html", ".html"),
            Map.entry("text/calendar", ".ics"),
            Map.entry("text/csv", ".csv"),
            Map.entry("text/vcard", ".vcf"),
            Map.entry("text/x-vcard", ".vcf"),
            Map.entry("application/pdf", ".pdf"),
            Map.entry("application/zip", ".zip"),
            Map.entry("application/pgp-signature", ".asc"),
            Map.entry("application/pkcs7-signature", ".p7s"),
            Map.entry("application/pkcs7-mime", ".p7m"),
            Map.entry("image/png", ".png"),
            Map.entry("image/jpeg", ".jpg"),
            Map.entry("image/gif", ".gif"),
            Map.entry("image/webp", ".webp"),
            Map.entry(Part.MESSAGE, ".eml"));

    private static final Map<String, String> TYPES = Map.ofEntries(
            Map.entry("pdf", "application/pdf"),
            Map.entry("zip", "application/zip"),
            Map.entry("txt", "text/plain"),
            Map.entry("csv", "text/csv"),
            Map.entry("png", "image/png"),
            Map.entry("jpg", "image/jpeg"),
            Map.entry("jpeg", "image/jpeg"),
            Map.entry("gif", "image/gif"),
            Map.entry("eml", Part.MESSAGE));

    private FileNames() {}

    /** Without path and control characters, and not endless; null if nothing is left. */
    static @Nullable String clean(String name) {
        String bare = name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1);
        String clean = bare.replaceAll("[\\p{Cntrl}\\u202a-\\u202e\\u2066-\\u2069]", "")
                .strip();
        return clean.isEmpty() ? null : shortened(clean);
    }

    /** The ending stays: it says what the file is. */
    private static String shortened(String name) {
        int dot = name.lastIndexOf('.');
        boolean hasEnding = dot > 0 && name.length() - dot <= 10;
        String ending = hasEnding ? name.substring(dot) : "";
        return name.length() <= MAX_NAME ? name : MimeReader.limit(name, MAX_NAME - ending.length()) + ending;
    }

    /** For a part that has no name. */
    static String of(int number, String type) {
        return "part-" + number + ENDINGS.getOrDefault(type, "");
    }

    /** For a message in a message. */
    static String ofMessage(String subject) {
        String clean = clean(subject.replace('/', '-').replace('\\', '-'));
        return clean == null ? "message.eml" : shortened(clean + ".eml");
    }

    /** The media type of a file of which nothing but its name is known. */
    static String type(String name) {
        String ending = name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
        return TYPES.getOrDefault(ending, "application/octet-stream");
    }
}
