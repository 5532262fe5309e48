package app.schublade.core.format;

import com.google.re2j.Pattern;
import org.jspecify.annotations.Nullable;

/** What says one thing, as plain text, as HTML, or as both. */
record BodyText(@Nullable String plain, @Nullable String html) {
    /** A plain part that is much shorter than the HTML beside it only says that there is one. */
    private static final int LONGEST_STUB = 400;

    private static final int STUB_TIMES = 4;

    boolean isHtml() {
        return html != null;
    }

    /**
     * It as plain text.
     *
     * @param words without the addresses of links, which a reader of the HTML does not see
     */
    record Said(String text, String words) {
        private static final Pattern ADDRESS = Pattern.compile(" <https?://[^> ]*>");

        static Said plain(String text) {
            return new Said(text, text);
        }

        static Said fromHtml(String text) {
            return new Said(text, ADDRESS.matcher(text).replaceAll(""));
        }
    }

    Said said() {
        if (html == null) {
            return Said.plain(plain == null ? "" : plain);
        }
        if (plain == null) {
            return Said.fromHtml(HtmlText.of(html));
        }
        if (plain.length() > LONGEST_STUB) {
            return Said.plain(plain);
        }
        String read = HtmlText.of(html);
        return read.length() > STUB_TIMES * plain.length() ? Said.fromHtml(read) : Said.plain(plain);
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
