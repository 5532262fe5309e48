package app.schublade.web.reader;

import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.owasp.html.AttributePolicy;
import org.owasp.html.HtmlPolicyBuilder;
import org.owasp.html.PolicyFactory;

/**
 * Turns the HTML of a message into a document that can do nothing but be read: no script, no form, nothing loaded from
 * outside. The frame that shows it and its own content security policy forbid the same once more.
 */
final class SafeHtml {
    /** For the document: pictures that are part of it, styles that are written in it, links that open a new window. */
    static final String CONTENT_SECURITY_POLICY =
            "default-src 'none'; img-src data:; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none';"
                    + " frame-ancestors 'self'; sandbox allow-popups allow-popups-to-escape-sandbox";

    private static final Pattern LINK = Pattern.compile("(?i)^(https?:|mailto:).*", Pattern.DOTALL);
    private static final Pattern PICTURE = Pattern.compile("^data:image/(?:png|jpeg|gif|webp);base64,[A-Za-z0-9+/=]*$");
    private static final Pattern EMBEDDED = Pattern.compile("(?i)(src\\s*=\\s*[\"']?)cid:([^\"'>\\s]+)");
    private static final Pattern FROM_OUTSIDE = Pattern.compile("(?i)<img\\b[^>]*\\bsrc\\s*=\\s*[\"']?\\s*https?:");
    private static final Set<String> PICTURES = Set.of("image/png", "image/jpeg", "image/gif", "image/webp");
    private static final int MAX_HTML = 2_000_000;
    private static final int MAX_PICTURES = 5_000_000;

    private static final PolicyFactory POLICY = new HtmlPolicyBuilder()
            .allowCommonBlockElements()
            .allowCommonInlineFormattingElements()
            .allowElements(
                    "a",
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
            .allowStyling()
            .allowUrlProtocols("http", "https", "mailto", "data")
            .allowAttributes("href")
            .matching(LINK)
            .onElements("a")
            .requireRelsOnLinks("noopener", "noreferrer", "nofollow")
            .allowAttributes("src")
            .matching(PICTURE)
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
            .allowAttributes("dir", "lang", "title", "align")
            .globally()
            .allowAttributes("target")
            .matching((AttributePolicy) (element, attribute, value) -> "_blank")
            .onElements("a")
            .toFactory();

    private SafeHtml() {}

    /** A whole document; the body is the sanitised HTML. */
    static String document(ParsedMail mail) {
        String html = mail.html() == null ? "" : mail.html();
        String cut = html.substring(0, Math.min(html.length(), MAX_HTML));
        String body = POLICY.sanitize(openingWindows(withPictures(cut, mail.parts())));
        return """
                <!doctype html><html><head><meta charset="utf-8"><title>Message</title><style>
                body{margin:0;padding:2px 18px 18px;font:14.5px/1.5 system-ui,sans-serif;color:#22302f;\
                background:#fffdf7;overflow-wrap:anywhere}
                h1{font-size:20px} h2{font-size:17px} img{max-width:100%;height:auto} table{max-width:100%} a{color:#125457} pre{white-space:pre-wrap}
                blockquote{margin:8px 0 8px 4px;padding-left:10px;border-left:2px solid #d2c9b4;color:#566260}
                </style></head><body>
                """ + body + "</body></html>";
    }

    /** Whether the sender wanted pictures to be loaded from outside. */
    static boolean wantsPicturesFromOutside(ParsedMail mail) {
        return mail.html() != null && FROM_OUTSIDE.matcher(mail.html()).find();
    }

    /** Every link gets a target, which the policy then makes a new window. */
    private static String openingWindows(String html) {
        return html.replaceAll("(?i)<a\\s", "<a target=\"_blank\" ");
    }

    /** Pictures that came with the message are written into its HTML (RFC 2392). */
    private static String withPictures(String html, List<Part> parts) {
        Matcher matcher = EMBEDDED.matcher(html);
        StringBuilder out = new StringBuilder(html.length());
        while (matcher.find() && out.length() < MAX_PICTURES) {
            String picture = parts.stream()
                    .filter(part -> matcher.group(2).equals(part.contentId()) && PICTURES.contains(part.type()))
                    .findFirst()
                    .map(SafeHtml::dataUrl)
                    .orElse("");
            matcher.appendReplacement(out, Matcher.quoteReplacement(matcher.group(1) + picture));
        }
        return matcher.appendTail(out).toString();
    }

    private static String dataUrl(Part part) {
        return "data:" + part.type() + ";base64," + Base64.getEncoder().encodeToString(part.content());
    }
}
