package app.schublade.core.format;

import org.jspecify.annotations.Nullable;

/** What says one thing, as plain text, as HTML, or as both. */
record BodyText(@Nullable String plain, @Nullable String html) {
    /** A plain part that is much shorter than the HTML beside it only says that there is one. */
    private static final int LONGEST_STUB = 400;

    private static final int STUB_TIMES = 4;

    boolean isHtml() {
        return html != null;
    }

    String asText() {
        if (html == null) {
            return plain == null ? "" : plain;
        }
        if (plain == null) {
            return HtmlText.of(html);
        }
        if (plain.length() > LONGEST_STUB) {
            return plain;
        }
        String read = HtmlText.of(html);
        return read.length() > STUB_TIMES * plain.length() ? read : plain;
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
