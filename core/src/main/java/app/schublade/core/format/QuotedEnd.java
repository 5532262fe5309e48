package app.schublade.core.format;

import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.nodes.TextNode;
import org.jspecify.annotations.Nullable;

/**
 * What a message quotes at its end, below what its sender has written: whoever reads a conversation has read that before. What
 * is quoted between the sender's own words stays where it is, and so does all of a message that says nothing of its own.
 */
public final class QuotedEnd {
    /** A quotation that is shorter is not worth a press. */
    private static final int SHORTEST = 120;
    /** Who wrote what is quoted, and when, is said in no more than that. */
    private static final int LONGEST_SOURCE = 300;

    private QuotedEnd() {}

    /** Where in a plain text it begins, with the line that says whom it quotes; the length of the text if it quotes nobody. */
    public static int in(String text) {
        int end = text.length();
        int begin = end;
        boolean quotes = false;
        for (int start = end; start > 0; ) {
            int lineStart = text.lastIndexOf('\n', start - 2) + 1;
            String line = text.substring(lineStart, start).strip();
            if (!line.isEmpty() && !line.startsWith(">")) {
                break;
            }
            quotes |= !line.isEmpty();
            begin = line.isEmpty() ? begin : lineStart;
            start = lineStart;
        }
        if (!quotes || end - begin < SHORTEST) {
            return end;
        }
        int source = source(text, begin);
        return text.substring(0, source).isBlank() ? end : source;
    }

    /** The paragraph before a quotation, if it ends with a colon. */
    private static int source(String text, int quote) {
        String before = text.substring(0, quote).stripTrailing();
        if (!before.endsWith(":")) {
            return quote;
        }
        int start = before.length();
        while (start > 0) {
            int lineStart = before.lastIndexOf('\n', start - 2) + 1;
            if (before.substring(lineStart, start).isBlank()) {
                break;
            }
            start = lineStart;
        }
        return before.length() - start <= LONGEST_SOURCE ? start : quote;
    }

    /**
     * The same HTML with the quotation at its end folded.
     *
     * @param html of a body, in which nothing is that may not be there
     */
    public static String folded(String html) {
        if (!html.contains("<blockquote")) {
            return html;
        }
        Document document = Jsoup.parseBodyFragment(html);
        Element quote = atTheEnd(document.body());
        if (quote == null || quote.text().length() < SHORTEST) {
            return html;
        }
        Element fold = new Element("details").attr("class", "quoted");
        Node source = quote.previousSibling();
        while (source != null && isEmpty(source)) {
            source = source.previousSibling();
        }
        quote.before(fold);
        fold.appendElement("summary").text("quoted text");
        if (source != null && isSource(source)) {
            fold.appendChild(source);
        }
        fold.appendChild(quote);
        Document own = document.clone();
        own.select("details.quoted").remove();
        document.outputSettings().prettyPrint(false);
        return own.text().isBlank() ? html : document.body().html();
    }

    /** The quotation that is the last of what an element holds. */
    private static @Nullable Element atTheEnd(Element body) {
        Node last = lastChild(body);
        while (last instanceof Element element) {
            if (element.normalName().equals("blockquote")) {
                return element;
            }
            last = lastChild(element);
        }
        return null;
    }

    private static @Nullable Node lastChild(Element element) {
        Node last = element.lastChild();
        while (last != null && isEmpty(last)) {
            last = last.previousSibling();
        }
        return last;
    }

    private static boolean isEmpty(Node node) {
        if (node instanceof TextNode text) {
            return text.isBlank();
        }
        return !(node instanceof Element element)
                || (!element.hasText() && element.select("img, hr").isEmpty());
    }

    private static boolean isSource(Node node) {
        String words =
                node instanceof TextNode text ? text.text() : node instanceof Element element ? element.text() : "";
        return words.length() <= LONGEST_SOURCE && words.strip().endsWith(":");
    }
}
