package app.schublade.core.format;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Locale;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.jsoup.nodes.Node;
import org.jsoup.nodes.TextNode;
import org.jsoup.select.NodeFilter;
import org.jsoup.select.NodeTraversor;

/**
 * Writes a document as plain text: paragraphs with a blank line between, list entries with their signs, rows of tables on lines
 * of their own, the address of a link behind its words. What a browser does not show is left out.
 */
final class TextFromHtml implements NodeFilter {
    private static final Set<String> UNSEEN =
            Set.of("head", "script", "style", "template", "noscript", "title", "select", "textarea", "svg", "object");
    private static final Set<String> PARAGRAPHS =
            Set.of("p", "h1", "h2", "h3", "h4", "h5", "h6", "ul", "ol", "dl", "pre", "blockquote", "table");
    private static final Set<String> LINES = Set.of(
            "div",
            "tr",
            "li",
            "dt",
            "dd",
            "section",
            "article",
            "header",
            "footer",
            "address",
            "center",
            "form",
            "figure",
            "figcaption",
            "main",
            "nav",
            "aside",
            "caption");
    private static final int LONGEST_ADDRESS = 500;
    private static final int DEEPEST_LIST = 10;
    private static final int DEEPEST_QUOTE = 20;
    private static final String HIDDEN = "display:none";
    private static final String MAILTO = "mailto:";
    private static final char NO_BREAK_SPACE = '\u00a0';

    private final StringBuilder text = new StringBuilder();
    /** The lists that are open: how many entries have been counted; -1 where they are not. */
    private final Deque<Integer> lists = new ArrayDeque<>();

    /** Where lines begin that are quoted otherwise than those before, and how often they are. */
    private final NavigableMap<Integer, Integer> quotes = new TreeMap<>();

    private int quoteDepth;
    private int linkStart;
    private int preformatted;
    private int tables;
    /** Ends of lines that stand before the next word. */
    private int ends;

    private String gap = "";
    private boolean inCell;

    private TextFromHtml() {}

    static String of(Document document) {
        return written(document).text.toString();
    }

    /** As in mail that is plain text: what is quoted has a sign before each of its lines (RFC 3676, section 4.5). */
    static String withQuotes(Document document) {
        return written(document).quoted();
    }

    private static TextFromHtml written(Document document) {
        TextFromHtml writer = new TextFromHtml();
        NodeTraversor.filter(writer, document);
        return writer;
    }

    private String quoted() {
        StringBuilder quoted = new StringBuilder(text.length());
        int above = 0;
        for (int start = 0; start <= text.length(); ) {
            int end = text.indexOf("\n", start);
            int stop = end < 0 ? text.length() : end;
            Map.Entry<Integer, Integer> last = quotes.floorEntry(start);
            boolean blank = start == stop;
            Map.Entry<Integer, Integer> next = blank ? quotes.ceilingEntry(start) : last;
            int depth = next == null ? 0 : next.getValue();
            int level = blank ? Math.min(above, depth) : depth;
            quoted.append(">".repeat(level))
                    .append(level > 0 && !blank ? " " : "")
                    .append(text, start, stop);
            if (end >= 0) {
                quoted.append('\n');
            }
            above = depth;
            start = stop + 1;
        }
        return quoted.toString();
    }

    @Override
    public FilterResult head(Node node, int depth) {
        if (node instanceof TextNode words) {
            write(words.getWholeText());
            return FilterResult.CONTINUE;
        }
        if (!(node instanceof Element element)) {
            return FilterResult.CONTINUE;
        }
        String name = element.normalName();
        if (isUnseen(element)) {
            return FilterResult.SKIP_ENTIRELY;
        }
        open(name);
        return FilterResult.CONTINUE;
    }

    private void open(String name) {
        breakLine(name);
        switch (name) {
            case "br" -> newLine();
            case "hr" -> {
                paragraph();
                word("----------");
                paragraph();
            }
            case "pre" -> preformatted++;
            case "blockquote" -> quoteDepth++;
            case "table" -> tables++;
            case "ul" -> lists.push(-1);
            case "ol" -> lists.push(0);
            case "li" -> word(entrySign());
            case "td", "th" -> {
                gap = inCell ? "\t" : gap;
                inCell = true;
            }
            case "tr" -> inCell = false;
            case "a" -> linkStart = text.length();
            default -> {}
        }
    }

    @Override
    public FilterResult tail(Node node, int depth) {
        if (node instanceof Element element) {
            String name = element.normalName();
            switch (name) {
                case "pre" -> preformatted--;
                case "blockquote" -> quoteDepth--;
                case "ul", "ol" -> lists.poll();
                case "a" -> writeAddress(element);
                case "tr" -> inCell = false;
                case "table" -> {
                    tables--;
                    inCell = tables > 0;
                }
                default -> {}
            }
            breakLine(name);
        }
        return FilterResult.CONTINUE;
    }

    private void breakLine(String name) {
        boolean inList = !lists.isEmpty() && (name.equals("ul") || name.equals("ol"));
        if (PARAGRAPHS.contains(name) && !inList && !inCell) {
            paragraph();
        } else if (LINES.contains(name) || inList || PARAGRAPHS.contains(name)) {
            atLeast(1);
        }
    }

    /** Whether a browser does not show it. */
    static boolean isUnseen(Element element) {
        return UNSEEN.contains(element.normalName()) || element.hasAttr("hidden") || isHidden(element.attr("style"));
    }

    /** Whether a style takes its element out of sight altogether. */
    static boolean isHidden(String style) {
        return style.length() >= HIDDEN.length()
                && style.replaceAll("\\s", "").toLowerCase(Locale.ROOT).contains(HIDDEN);
    }

    private String entrySign() {
        Integer counted = lists.poll();
        if (counted == null) {
            return "• ";
        }
        int number = counted < 0 ? counted : counted + 1;
        lists.push(number);
        String indent = "  ".repeat(Math.min(DEEPEST_LIST, lists.size()) - 1);
        return indent + (counted < 0 ? "• " : number + ". ");
    }

    /** The address of a link to a page or a person, unless its words say it already. */
    private void writeAddress(Element link) {
        String address = link.attr("href").replaceAll("\\s", "");
        String lower = address.toLowerCase(Locale.ROOT);
        boolean toPerson = lower.startsWith(MAILTO);
        boolean leads = toPerson || lower.startsWith("http://") || lower.startsWith("https://");
        if (!leads || linkStart >= text.length() || address.length() > LONGEST_ADDRESS) {
            return;
        }
        String words = text.substring(linkStart).strip();
        if (!words.isEmpty() && !bare(words).equalsIgnoreCase(bare(address))) {
            gap = " ";
            word("<" + (toPerson ? bare(address) : address) + ">");
        }
    }

    /** Without what nobody types. */
    private static String bare(String address) {
        String lower = address.toLowerCase(Locale.ROOT);
        if (lower.startsWith(MAILTO)) {
            int query = address.indexOf('?');
            return address.substring(MAILTO.length(), query < 0 ? address.length() : query);
        }
        int scheme = lower.startsWith("http") ? address.indexOf("://") : -1;
        String rest = scheme < 0 ? address : address.substring(scheme + "://".length());
        return rest.endsWith("/") ? rest.substring(0, rest.length() - 1) : rest;
    }

    private void write(String words) {
        if (preformatted > 0) {
            flush();
            text.append(words);
            return;
        }
        int start = -1;
        for (int i = 0; i <= words.length(); i++) {
            boolean blank = i == words.length() || isBlank(words.charAt(i));
            if (!blank && start < 0) {
                start = i;
            } else if (blank && start >= 0) {
                word(words.substring(start, i));
                start = -1;
            }
            if (blank && i < words.length() && gap.isEmpty()) {
                gap = " ";
            }
        }
    }

    private static boolean isBlank(char sign) {
        return sign == ' ' || sign == '\n' || sign == '\r' || sign == '\t' || sign == '\f' || sign == NO_BREAK_SPACE;
    }

    private void word(String word) {
        flush();
        text.append(word);
    }

    /** Writes the ends of lines, or the gap, that are due before the next word. */
    private void flush() {
        if (ends > 0 && !text.isEmpty()) {
            text.append("\n".repeat(ends));
        } else if (ends == 0 && !text.isEmpty() && !isBlank(text.charAt(text.length() - 1))) {
            text.append(gap);
        }
        if (ends > 0 || text.isEmpty()) {
            quotes.put(text.length(), Math.min(DEEPEST_QUOTE, quoteDepth));
        }
        ends = 0;
        gap = "";
    }

    private void atLeast(int lines) {
        ends = Math.max(ends, lines);
        gap = "";
    }

    private void paragraph() {
        atLeast(2);
    }

    /** Each counts, but no more than one line stays blank. */
    private void newLine() {
        ends = Math.min(2, ends + 1);
        gap = "";
    }
}
