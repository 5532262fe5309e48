package app.schublade.core.format;

import java.util.Map;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Entities;
import org.jsoup.nodes.Node;
import org.jsoup.nodes.TextNode;
import org.jsoup.parser.Parser;
import org.jsoup.safety.Cleaner;
import org.jsoup.safety.Safelist;
import org.jsoup.select.NodeFilter.FilterResult;
import org.jsoup.select.NodeTraversor;

/**
 * The HTML that people write here, and what they quote of others: paragraphs, lists, quotations, headings, links, tables, and
 * what is bold, italic, underlined or struck out. No colours, no layout, nothing that comes from outside, nothing that does
 * anything. Pictures are those that go along with it, by their Content-ID (RFC 2392).
 */
public final class WrittenHtml {
    /** So much of a message is quoted, in characters. */
    private static final int MAX_QUOTED = 200_000;

    private static final int DEEPEST_QUOTE = 20;

    private static final String CID = "cid:";

    private static final Safelist ALLOWED = new Safelist()
            .addTags("p", "div", "br", "hr", "b", "strong", "i", "em", "u", "s", "sub", "sup", "code", "pre")
            .addTags("ul", "ol", "li", "blockquote", "h1", "h2", "h3")
            .addTags("table", "thead", "tbody", "tfoot", "tr", "td", "th")
            .addTags("a")
            .addAttributes("a", "href")
            .addProtocols("a", "href", "http", "https", "mailto")
            .addAttributes("td", "colspan", "rowspan")
            .addAttributes("th", "colspan", "rowspan")
            .addTags("img")
            .addAttributes("img", "src", "alt", "width")
            .addProtocols("img", "src", "cid");

    private WrittenHtml() {}

    /** What of it is allowed, whoever wrote it. */
    public static String clean(String html) {
        Document typed = Jsoup.parseBodyFragment(HtmlText.withShortTags(html.replace("\0", "")));
        NodeTraversor.filter((node, depth) -> isSeen(node) ? FilterResult.CONTINUE : FilterResult.REMOVE, typed.body());
        Document clean = new Cleaner(ALLOWED).clean(typed);
        clean.select("img:not([src])").remove();
        return html(clean);
    }

    private static String html(Document document) {
        document.outputSettings().prettyPrint(false).escapeMode(Entities.EscapeMode.xhtml);
        return document.body().html().strip();
    }

    /** Elements of other vocabularies (SVG, MathML) mean something else when they are read once more. */
    private static boolean isSeen(Node node) {
        return !(node instanceof Element element)
                || (element.tag().namespace().equals(Parser.NamespaceHtml) && !TextFromHtml.isUnseen(element));
    }

    /** How it reads as plain text: with a sign before each line that is quoted, and the one above a signature (RFC 3676, section 4.3). */
    public static String text(String html) {
        String text = "\n" + HtmlText.withQuotes(withPicturesNamed(html)) + "\n";
        return text.replace("\n--\n", "\n-- \n").substring(1).replaceFirst("\n$", "");
    }

    /** Where a picture stands, its name stands in the plain text. */
    private static String withPicturesNamed(String html) {
        if (!html.contains("<img")) {
            return html;
        }
        Document named = Jsoup.parseBodyFragment(html);
        for (Element picture : named.select("img")) {
            String name = picture.attr("alt").strip();
            picture.replaceWith(new TextNode(name.isEmpty() ? "[picture]" : "[picture: " + name + "]"));
        }
        return html(named);
    }

    /** A plain text: a paragraph for each of its own, and quotations where its lines begin with their sign. */
    public static String of(String text) {
        StringBuilder html = new StringBuilder(text.length() + text.length() / 8);
        int depth = 0;
        boolean open = false;
        for (String line : text.lines().toList()) {
            int at = 0;
            int level = 0;
            while (at < line.length() && line.charAt(at) == '>' && level < DEEPEST_QUOTE) {
                level++;
                at += at + 1 < line.length() && line.charAt(at + 1) == ' ' ? 2 : 1;
            }
            String words = line.substring(at);
            if (open && (level != depth || words.isBlank())) {
                html.append("</p>");
                open = false;
            }
            if (level != depth) {
                html.append((level > depth ? "<blockquote>" : "</blockquote>").repeat(Math.abs(level - depth)));
                depth = level;
            }
            if (!words.isBlank()) {
                html.append(open ? "<br>" : "<p>").append(Entities.escape(words));
                open = true;
            }
        }
        return html.append(open ? "</p>" : "")
                .append("</blockquote>".repeat(depth))
                .toString();
    }

    /**
     * What a message says, to be quoted or passed on.
     *
     * @param pictures those of its pictures that go along: how they are called there, and here (RFC 2392)
     */
    static String quotable(ParsedMail mail, Map<String, String> pictures) {
        String html = mail.html();
        if (html == null || html.length() > MAX_QUOTED) {
            String text = mail.text().strip();
            return of(text.length() > MAX_QUOTED ? text.substring(0, MAX_QUOTED) + "\n\n…" : text);
        }
        Document quoted = Jsoup.parseBodyFragment(clean(html));
        for (Element picture : quoted.select("img")) {
            String here = pictures.get(picture.attr("src").substring(CID.length()));
            if (here == null) {
                picture.remove();
            } else {
                picture.attr("src", CID + here);
            }
        }
        return html(quoted);
    }
}
