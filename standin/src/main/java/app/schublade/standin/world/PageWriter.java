package app.schublade.standin.world;

import java.util.List;
import java.util.regex.Pattern;
import org.commonmark.Extension;
import org.commonmark.ext.gfm.tables.TablesExtension;
import org.commonmark.parser.Parser;
import org.commonmark.renderer.html.HtmlRenderer;
import org.commonmark.renderer.text.TextContentRenderer;

/** The HTML of a letter that has a layout, and its plain text; both from the Markdown it was written in. */
final class PageWriter {
    private static final List<Extension> TABLES = List.of(TablesExtension.create());
    private static final Parser PARSER = Parser.builder().extensions(TABLES).build();
    private static final HtmlRenderer HTML = HtmlRenderer.builder()
            .extensions(TABLES)
            .escapeHtml(true)
            .softbreak("<br>")
            .build();
    private static final TextContentRenderer TEXT =
            TextContentRenderer.builder().extensions(TABLES).build();
    private static final Pattern OWN_PICTURE = Pattern.compile("src=\"([\\w.-]+\\.(?:jpg|png))\"");

    private static final Pattern PICTURE = Pattern.compile("!\\[[^]]*]\\([^)]*\\)\n*");

    private PageWriter() {}

    static String text(Letter letter) {
        return TEXT.render(PARSER.parse(PICTURE.matcher(Prose.whole(letter)).replaceAll("")))
                        .strip() + "\n";
    }

    static String contentId(Letter letter, String file) {
        return file.replace('.', '-') + "." + letter.id();
    }

    static String html(Letter letter) {
        String body = HTML.render(PARSER.parse(Prose.written(letter)));
        String pictures = OWN_PICTURE
                .matcher(body)
                .replaceAll(found -> "src=\"cid:" + contentId(letter, found.group(1)) + "\" width=\"560\"");
        String tone = letter.from().option("tone", "#31525b");
        return switch (letter.layout()) {
            case "newsletter" -> newsletter(letter, pictures, tone);
            case "receipt" -> receipt(letter, pictures, tone);
            default -> plain(letter, pictures);
        };
    }

    private static String plain(Letter letter, String body) {
        String signature = letter.from().signature().replace("&", "&amp;").replace("\n", "<br>");
        Letter quoted = letter.below() == Letter.Below.NOTHING ? null : letter.answered();
        String below = quoted == null
                ? ""
                : "<p>%s</p><blockquote style=\"margin:0 0 0 8px;padding-left:10px;border-left:2px solid #bbb\">%s</blockquote>"
                        .formatted(Prose.attribution(letter, quoted), HTML.render(PARSER.parse(Prose.written(quoted))));
        return """
                <html><body style="font-family:Calibri,Carlito,Arial,sans-serif;font-size:15px;color:#222">
                %s<p style="color:#777;font-size:13px">%s</p>
                %s</body></html>
                """.formatted(body, letter.answered() == null ? signature : "", below);
    }

    private static String newsletter(Letter letter, String body, String tone) {
        return """
                <html><head><style>
                h1{font-size:26px;line-height:1.2;margin:18px 0 8px;color:%1$s}
                h2{font-size:19px;margin:26px 0 4px;color:%1$s}
                p,li{font-size:15px;line-height:1.5} img{max-width:100%%}
                table{border-collapse:collapse;width:100%%} td,th{padding:6px 8px;border-bottom:1px solid #ddd;text-align:left}
                </style></head>
                <body style="margin:0;background:#eeeeea">
                <table role="presentation" width="100%%"><tr><td align="center">
                <table role="presentation" width="100%%" style="max-width:600px;background:#ffffff;font-family:Georgia,serif;color:#222">
                <tr><td style="background:%1$s;color:#fff;padding:14px 24px;font-size:20px">%2$s</td></tr>
                <tr><td><img src="https://%5$s/pictures/%6$s.png" width="600" alt="%2$s"></td></tr>
                <tr><td style="padding:4px 24px 20px">%3$s</td></tr>
                <tr><td style="padding:14px 24px;font-size:12px;color:#666;border-top:1px solid #ddd">%4$s<br>
                <a href="https://%5$s/view/%6$s">Read this in the browser</a> &nbsp; <a href="https://%5$s/leave">Leave this list</a>
                <img src="https://%5$s/seen/%6$s.gif" width="1" height="1" alt=""></td></tr>
                </table></td></tr></table></body></html>
                """.formatted(
                        tone,
                        escaped(letter.from().name()),
                        body,
                        escaped(letter.from().signature()).replace("\n", "<br>"),
                        letter.from().domain(),
                        letter.id().replaceAll("@.*", ""));
    }

    private static String receipt(Letter letter, String body, String tone) {
        return """
                <html><head><style>
                table{border-collapse:collapse;width:100%%} td,th{padding:8px;border-bottom:1px solid #d8d8d8;text-align:left}
                h1{font-size:21px;font-weight:normal}
                </style></head>
                <body style="font-family:Arial,sans-serif;font-size:14px;color:#222">
                <div style="max-width:560px;border-top:6px solid %s;padding:8px 18px">%s
                <p style="font-size:12px;color:#777">%s</p></div></body></html>
                """.formatted(tone, body, escaped(letter.from().signature()).replace("\n", "<br>"));
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;");
    }
}
