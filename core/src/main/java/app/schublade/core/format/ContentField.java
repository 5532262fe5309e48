package app.schublade.core.format;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * A field that says something and has parameters: {@code Content-Type} (RFC 2045, section 5.1), {@code Content-Disposition} (RFC
 * 2183). Reads what is common and against the rules too: values with blanks but without quotes, a parameter where the value should
 * be, encoded words, bytes that are not ASCII. One pass.
 *
 * @param value in lower case; empty where a parameter stands in its place
 * @param parameters by their names in lower case, put together and decoded (RFC 2231)
 */
record ContentField(String value, Map<String, String> parameters) {
    static final ContentField NONE = new ContentField("", Map.of());

    /** Parameters beyond are none that a program needs. */
    private static final int LONGEST = 16 * 1024;

    private static final int MOST = 200;
    private static final int HEX = 16;

    ContentField {
        parameters = Map.copyOf(parameters);
    }

    /** Empty where it is not given. */
    String parameter(String name) {
        return parameters.getOrDefault(name, "");
    }

    static ContentField read(HeaderField field) {
        return new Reader(MimeReader.limit(field.value(), LONGEST)).read();
    }

    /** A piece of a parameter that was sent in several (RFC 2231, section 3). */
    private record Section(String text, boolean coded) {}

    private static final class Reader {
        private final String text;
        private final Map<String, String> plain = new HashMap<>();
        private final Map<String, SortedMap<Integer, Section>> inSections = new HashMap<>();
        private int at;

        Reader(String text) {
            this.text = text;
        }

        ContentField read() {
            int semicolon = text.indexOf(';');
            String first = (semicolon < 0 ? text : text.substring(0, semicolon)).strip();
            boolean isValue = first.indexOf('=') < 0;
            at = !isValue ? 0 : semicolon < 0 ? text.length() : semicolon;
            for (int i = 0; i < MOST && at < text.length(); i++) {
                readParameter();
            }
            inSections.forEach((name, sections) -> plain.put(name, joined(sections.values())));
            return new ContentField(isValue ? withoutComment(first).toLowerCase(Locale.ROOT) : "", plain);
        }

        private static String withoutComment(String value) {
            int comment = value.indexOf('(');
            return (comment < 0 ? value : value.substring(0, comment)).strip();
        }

        private void readParameter() {
            while (at < text.length() && (text.charAt(at) == ';' || Character.isWhitespace(text.charAt(at)))) {
                at++;
            }
            int start = at;
            while (at < text.length() && text.charAt(at) != '=' && text.charAt(at) != ';') {
                at++;
            }
            String name = text.substring(start, at).strip().toLowerCase(Locale.ROOT);
            if (at >= text.length() || text.charAt(at) == ';') {
                return;
            }
            at++;
            while (at < text.length() && Character.isWhitespace(text.charAt(at))) {
                at++;
            }
            boolean quoted = at < text.length() && text.charAt(at) == '"';
            put(name, quoted ? quoted() : unquoted());
        }

        private String quoted() {
            StringBuilder value = new StringBuilder();
            for (at++; at < text.length() && text.charAt(at) != '"'; at++) {
                if (text.charAt(at) == '\\' && at + 1 < text.length()) {
                    at++;
                }
                value.append(text.charAt(at));
            }
            while (at < text.length() && text.charAt(at) != ';') {
                at++;
            }
            return value.toString();
        }

        private String unquoted() {
            int start = at;
            while (at < text.length() && text.charAt(at) != ';') {
                at++;
            }
            return text.substring(start, at).strip();
        }

        /** {@code name}, {@code name*} for a coded value, {@code name*0} and {@code name*0*} for a section. */
        private void put(String name, String value) {
            int star = name.indexOf('*');
            if (star < 0) {
                plain.putIfAbsent(name, value);
                return;
            }
            boolean coded = name.endsWith("*");
            String number = name.substring(star + 1, Math.max(star + 1, coded ? name.length() - 1 : name.length()));
            if (number.length() <= 4 && number.chars().allMatch(Character::isDigit)) {
                int section = number.isEmpty() ? 0 : Integer.parseInt(number);
                inSections
                        .computeIfAbsent(name.substring(0, star), key -> new TreeMap<>())
                        .putIfAbsent(section, new Section(value, coded));
            }
        }

        /** The first section tells the charset of all (RFC 2231, section 4.1). */
        private static String joined(Iterable<Section> sections) {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            String charset = null;
            boolean first = true;
            for (Section section : sections) {
                String text = section.text();
                int quote = first && section.coded() ? text.indexOf('\'') : -1;
                int second = quote < 0 ? -1 : text.indexOf('\'', quote + 1);
                if (second > 0) {
                    charset = text.substring(0, quote);
                    text = text.substring(second + 1);
                }
                first = false;
                if (section.coded()) {
                    decode(text, bytes);
                } else {
                    bytes.writeBytes(text.getBytes(StandardCharsets.UTF_8));
                }
            }
            return Charsets.decode(bytes.toByteArray(), charset);
        }

        private static void decode(String text, ByteArrayOutputStream bytes) {
            for (int i = 0; i < text.length(); i++) {
                boolean percent = text.charAt(i) == '%' && i + 2 < text.length();
                int high = percent ? Character.digit(text.charAt(i + 1), HEX) : -1;
                int low = percent ? Character.digit(text.charAt(i + 2), HEX) : -1;
                if (high >= 0 && low >= 0) {
                    bytes.write(high * HEX + low);
                    i += 2;
                } else {
                    bytes.writeBytes(text.substring(i, i + 1).getBytes(StandardCharsets.UTF_8));
                }
            }
        }
    }

    /** The whole media type, if it is one. */
    @Nullable
    String mediaType() {
        int slash = value.indexOf('/');
        boolean isOne = slash > 0
                && slash < value.length() - 1
                && value.indexOf('/', slash + 1) < 0
                && value.chars().noneMatch(sign -> sign <= ' ' || "()<>@,;:\\\"[]?=".indexOf(sign) >= 0);
        return isOne ? value : null;
    }
}
