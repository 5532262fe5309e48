package app.schublade.web.reader;

import app.schublade.core.format.ContentIds;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import app.schublade.core.format.QuotedEnd;
import com.google.re2j.Pattern;
import java.time.Duration;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.owasp.html.AttributePolicy;
import org.owasp.html.CssSchema;
import org.owasp.html.Handler;
import org.owasp.html.HtmlPolicyBuilder;
import org.owasp.html.HtmlSanitizer;
import org.owasp.html.HtmlStreamRenderer;
import org.springframework.web.util.HtmlUtils;

/**
 * Turns the HTML of a message into a document that can do nothing but be read: no script, no form, nothing loaded from
 * outside. The frame that shows it and its own content security policy forbid the same once more.
 */
final class SafeHtml {
    /**
     * For the document: pictures that are part of it, styles that are written in it, links that open a new window. It is of
     * the same origin, so that the page around it hears the keys that are pressed in it; no script runs there.
     */
    static final String CONTENT_SECURITY_POLICY =
            "default-src 'none'; img-src data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none';"
                    + " frame-ancestors 'self'; sandbox allow-same-origin allow-popups allow-popups-to-escape-sandbox";

    /** The same, with pictures that this server fetches from outside. */
    static final String WITH_PICTURES = CONTENT_SECURITY_POLICY.replace("img-src data:", "img-src data: 'self'");

    /** For a document that the page around it prints. */
    static final String PRINTED_POLICY =
            "default-src 'none'; img-src data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none';"
                    + " frame-ancestors 'self'; sandbox allow-same-origin allow-modals";

    private static final Pattern LINK = Pattern.compile("(?is)(https?:|mailto:).*");
    private static final Pattern DATA = Pattern.compile("data:image/(png|jpeg|gif|webp);base64,[A-Za-z0-9+/=]*");
    /** What is usual, and that something is not shown: mail hides a text for lists of messages. */
    private static final CssSchema STYLES = CssSchema.union(
            CssSchema.DEFAULT,
            CssSchema.withProperties(Map.of("display", new CssSchema.Property(0, Set.of("none"), Map.of()))));

    private static final int MAX_HTML = 2_000_000;
    /** Bytes of all pictures that are written into a document. */
    private static final int MAX_PICTURES = 5_000_000;

    private static final Duration MAX_TIME = Duration.ofSeconds(3);
    private static final String HEAD = """
            <!doctype html><html><head><meta charset="utf-8"><title>Message</title><style>
            body{margin:0;padding:2px 18px 18px;font:14.5px/1.5 system-ui,sans-serif;color:#22302f;\
            background:#fffdf7;overflow-wrap:anywhere}
            body>:first-child{margin-top:8px} h1{font-size:20px} h2{font-size:17px} img{max-width:100%;height:auto} table{max-width:100%} a{color:#125457} pre{white-space:pre-wrap}
            blockquote{margin:8px 0 8px 4px;padding-left:10px;border-left:2px solid #d2c9b4;color:#566260}
            summary{width:fit-content;margin:8px 0;color:#125457;cursor:pointer}
            </style></head><body>
            """;

    private final Map<String, Part> pictures = new HashMap<>();
    private final OutsideAddresses outside;
    private int pictureBytes;

    private SafeHtml(List<Part> parts, OutsideAddresses outside) {
        this.outside = outside;
        parts.stream()
                .filter(part -> part.contentId() != null && part.isPicture())
                .forEach(part -> pictures.putIfAbsent(part.contentId(), part));
    }

    /** What may be in a document; its pictures are those that came with the message. */
    private HtmlPolicyBuilder policy() {
        return new HtmlPolicyBuilder()
                .allowCommonBlockElements()
                .allowCommonInlineFormattingElements()
                .allowElements(
                        "img",
                        "table",
                        "caption",
                        "colgroup",
                        "col",
                        "thead",
                        "tbody",
                        "tfoot",
                        "tr",
                        "td",
                        "th",
                        "hr",
                        "pre",
                        "center",
                        "font",
                        "dl",
                        "dt",
                        "dd",
                        "span",
                        "address")
                .allowStyling(STYLES)
                .allowUrlProtocols("http", "https", "mailto", "data", "cid")
                .allowElements(SafeHtml::openingWindow, "a")
                .allowAttributes("href")
                .matching((AttributePolicy) (element, attribute, value) -> LINK.matches(value) ? value : null)
                .onElements("a")
                .requireRelsOnLinks("noopener", "noreferrer", "nofollow")
                .allowAttributes("src")
                .matching((AttributePolicy) (element, attribute, value) -> picture(value))
                .onElements("img")
                .allowAttributes("alt", "width", "height")
                .onElements("img")
                .allowAttributes(
                        "align",
                        "valign",
                        "bgcolor",
                        "width",
                        "height",
                        "colspan",
                        "rowspan",
                        "border",
                        "cellpadding",
                        "cellspacing")
                .onElements("table", "tr", "td", "th", "col", "colgroup", "thead", "tbody", "tfoot")
                .allowAttributes("color", "size", "face")
                .onElements("font")
                .allowAttributes("dir", "lang", "title", "align", "hidden")
                .globally()
                .allowAttributes("target")
                .matching(true, "_blank")
                .onElements("a");
    }

    /** Where a picture from outside is fetched, by what stands in the HTML; null if it is not to be. */
    interface OutsideAddresses {
        OutsideAddresses NONE = source -> null;

        @Nullable
        String of(String source);
    }

    /** A whole document, in which what is quoted at the end is folded. */
    static String document(ParsedMail mail, OutsideAddresses outside) {
        return HEAD + QuotedEnd.folded(body(mail, MAX_TIME, outside)) + "</body></html>";
    }

    /** What is in a document: the sanitised HTML, or the text of the message if that took too long. */
    static String body(ParsedMail mail) {
        return body(mail, MAX_TIME, OutsideAddresses.NONE);
    }

    static String body(ParsedMail mail, Duration maxTime, OutsideAddresses outside) {
        String html = mail.html() == null ? "" : mail.html();
        StringBuilder body = new StringBuilder();
        try {
            HtmlSanitizer.Policy policy = new SafeHtml(mail.parts(), outside)
                    .policy()
                    .build(HtmlStreamRenderer.create(body, Handler.DO_NOTHING));
            HtmlSanitizer.sanitize(
                    html.substring(0, Math.min(html.length(), MAX_HTML)), new BoundedPolicy(policy, maxTime));
        } catch (BoundedPolicy.TooMuch | StackOverflowError e) {
            body = new StringBuilder(
                            "<p><i>The layout of this message is too involved to be shown. This is its text:</i></p><pre>")
                    .append(HtmlUtils.htmlEscape(mail.text()))
                    .append("</pre>");
        }
        return body.toString();
    }

    /** Every link opens a new window. */
    private static String openingWindow(String element, List<String> attributes) {
        attributes.add("target");
        attributes.add("_blank");
        return element;
    }

    /** Pictures that came with the message are written into its HTML (RFC 2392); others are fetched by this server, or not at all. */
    private @Nullable String picture(String source) {
        String address = source.strip();
        Part part = pictures.get(ContentIds.of(address));
        if (part == null || pictureBytes + part.size() > MAX_PICTURES) {
            return DATA.matches(address) ? address : outside.of(address);
        }
        pictureBytes += part.size();
        return "data:" + part.type() + ";base64," + Base64.getEncoder().encodeToString(part.content());
    }
}
