package app.schublade.core.format;

import java.util.Locale;
import org.jsoup.Jsoup;

/** The text of a message that has only HTML; a bound for the parser, and {@link TextFromHtml} does the rest. */
final class HtmlText {
    /** The parser compares each attribute of a tag with all others of it: tags have an end here. */
    private static final int LONGEST_TAG = 2_000;

    private static final int LONGEST_EMPTY = 20_000;

    private HtmlText() {}

    /** The text with its paragraphs, lists, links and tables. The time is linear in the length. */
    static String of(String html) {
        return TextFromHtml.of(Jsoup.parse(withShortTags(html)));
    }

    /** The same, with a sign before each line that is quoted. */
    static String withQuotes(String html) {
        return TextFromHtml.withQuotes(Jsoup.parse(withShortTags(html)));
    }

    /** Whether a reader would see something; of what is long it is taken for granted. */
    static boolean saysSomething(String html) {
        return html.length() > LONGEST_EMPTY || html.toLowerCase(Locale.ROOT).contains("<img") || !of(html).isBlank();
    }

    /** What a tag has beyond its limit is left out; that is never text. */
    static String withShortTags(String html) {
        StringBuilder out = new StringBuilder(html.length());
        int at = 0;
        for (int tag = html.indexOf('<'); tag >= 0; tag = html.indexOf('<', at)) {
            out.append(html, at, tag);
            at = tag + 1;
            if (at < html.length() && isTag(html.charAt(at))) {
                at = appendTag(html, tag, out);
            } else {
                out.append('<');
            }
        }
        return out.append(html, at, html.length()).toString();
    }

    private static boolean isTag(char first) {
        return (first >= 'a' && first <= 'z') || (first >= 'A' && first <= 'Z') || first == '/';
    }

    /** Returns where the tag ends. */
    private static int appendTag(String html, int start, StringBuilder out) {
        char quote = 0;
        int end = start + 1;
        for (; end < html.length(); end++) {
            char sign = html.charAt(end);
            if (quote != 0) {
                quote = sign == quote ? 0 : quote;
            } else if (sign == '>') {
                break;
            } else if ((sign == '"' || sign == '\'') && html.charAt(end - 1) == '=') {
                quote = sign;
            }
        }
        if (end - start <= LONGEST_TAG) {
            out.append(html, start, Math.min(html.length(), end + 1));
        } else {
            out.append(html, start, nameEnd(html, start)).append('>');
        }
        return Math.min(html.length(), end + 1);
    }

    /** Of a long tag only the name stays: a cut in the middle of an attribute could open a quotation. */
    private static int nameEnd(String html, int start) {
        int end = start + 1;
        while (end < start + LONGEST_TAG && html.charAt(end) > ' ') {
            end++;
        }
        return end;
    }
}
