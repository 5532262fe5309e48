package app.schublade.web.frame;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.io.ResourceLoader;
import org.springframework.stereotype.Component;
import org.webjars.WebJarVersionLocator;

/**
 * All style sheets as one file and all scripts as one, each under a name that changes with its content: a browser asks for
 * two files, once, and never for an old one.
 */
@Component("bundle")
public class Bundle {
    private static final String SOURCE_MAP = "(?m)^/[/*]# sourceMappingURL=.*$";
    /** Bootstrap first, so that all others can overrule it. */
    private static final List<String> STYLES = List.of(
            "css/tokens.css",
            "css/frame.css",
            "css/desk.css",
            "css/triage.css",
            "css/places.css",
            "css/found.css",
            "css/reader.css",
            "css/rules.css",
            "css/record.css",
            "css/compose.css",
            "css/doors.css",
            "css/accounts.css");
    /** Alpine last: it begins at once with the components that are known by then. */
    private static final List<String> SCRIPTS = List.of(
            "js/frame.js",
            "js/login-again.js",
            "js/focus.js",
            "js/field-problems.js",
            "js/splitter.js",
            "js/live.js",
            "js/drag.js",
            "js/message-list.js",
            "js/columns.js",
            "js/desk.js",
            "js/picker.js",
            "js/menus.js",
            "js/print.js",
            "js/html-mail.js",
            "js/conversation.js",
            "js/find.js",
            "js/found-words.js",
            "js/people.js",
            "js/folder-form.js",
            "js/rule-editor.js",
            "js/step-lines.js",
            "js/rule-list.js",
            "js/text-file.js",
            "vendor/squire.min.js",
            "js/editor.js",
            "js/recipients.js",
            "js/saved-texts.js",
            "js/files.js",
            "js/compose.js",
            "vendor/alpine-csp.min.js");

    private final ResourceLoader resources;
    private final String root;
    private final boolean cached;
    private Files files;

    /** @param cached false while the files are being written: then they are read anew for every page */
    Bundle(
            ResourceLoader resources,
            @Value("${spring.web.resources.static-locations:classpath:/static/}") List<String> roots,
            @Value("${spring.thymeleaf.cache:true}") boolean cached) {
        this.resources = resources;
        this.root = roots.get(0);
        this.cached = cached;
        this.files = read();
    }

    /** A file as it is sent. */
    record Asset(String name, String content) {
        static Asset of(String content, String ending) {
            try {
                byte[] digest = MessageDigest.getInstance("SHA-256").digest(content.getBytes(StandardCharsets.UTF_8));
                return new Asset(HexFormat.of().formatHex(digest, 0, 10) + ending, content);
            } catch (NoSuchAlgorithmException e) {
                throw new IllegalStateException("Every Java has SHA-256", e);
            }
        }
    }

    private record Files(Asset styles, Asset scripts) {}

    private Files read() {
        StringBuilder styles = new StringBuilder(webJar("bootstrap", "dist/css/bootstrap.min.css"));
        STYLES.forEach(one -> styles.append('\n').append(text(root + one)));
        StringBuilder scripts = new StringBuilder(webJar("htmx.org", "dist/htmx.min.js"));
        SCRIPTS.forEach(one -> scripts.append("\n;").append(text(root + one)));
        return new Files(Asset.of(styles.toString(), ".css"), Asset.of(scripts.toString(), ".js"));
    }

    private String webJar(String name, String file) {
        return text("classpath:/" + new WebJarVersionLocator().fullPath(name, file));
    }

    private String text(String location) {
        try {
            return resources
                    .getResource(location)
                    .getContentAsString(StandardCharsets.UTF_8)
                    .replaceAll(SOURCE_MAP, "");
        } catch (IOException e) {
            throw new UncheckedIOException("A part of every page is missing: " + location, e);
        }
    }

    /** The address of the style sheets. */
    public synchronized String styles() {
        if (!cached) {
            files = read();
        }
        return "/bundle/" + files.styles().name();
    }

    /** The address of the scripts. */
    public synchronized String scripts() {
        return "/bundle/" + files.scripts().name();
    }

    /** The styles or the scripts, whatever version of them is asked for: after an update, open pages get on with the new ones. */
    synchronized Asset asset(boolean style) {
        return style ? files.styles() : files.scripts();
    }
}
