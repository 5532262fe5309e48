package app.schublade.core.format;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.net.URI;
import java.net.URISyntaxException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * How one leaves a mailing list, as its messages say: {@code List-Unsubscribe} (RFC 2369, section 3.2), by one request where
 * {@code List-Unsubscribe-Post} says so (RFC 8058, section 3). Whoever wrote the message wrote that too, so nothing of it is
 * believed: only addresses that are whole, of https and mailto, count.
 *
 * @param request where one request is enough, or null
 * @param mail what is to be written to the list, or null
 * @param page where a person can go, or null
 */
public record ListExit(
        @Nullable URI request,
        @Nullable ExitMail mail,
        @Nullable URI page) {
    private static final Pattern ADDRESS = Pattern.compile("<([^<>]+)>");
    private static final Pattern MAILBOX = Pattern.compile("[^\\s@<>,;:\"\\\\()]{1,200}@[A-Za-z0-9.-]{1,200}");
    private static final String ONE_CLICK = "list-unsubscribe=one-click";
    private static final int MAX_ADDRESSES = 10;
    private static final int MAX_SUBJECT = 400;
    private static final int MAX_TEXT = 2000;

    /** A message that asks to be taken off. */
    public record ExitMail(String to, String subject, String text) {}

    /** Empty if the message says nothing that can be followed. */
    public static Optional<ListExit> of(Headers headers) {
        boolean oneClick = headers.values("List-Unsubscribe-Post").stream()
                .anyMatch(value -> value.strip().toLowerCase(Locale.ROOT).equals(ONE_CLICK));
        URI secure = null;
        ExitMail mail = null;
        for (String address : addresses(headers.values("List-Unsubscribe"))) {
            if (secure == null && address.regionMatches(true, 0, "https:", 0, 6)) {
                secure = secure(address);
            } else if (mail == null && address.regionMatches(true, 0, "mailto:", 0, 7)) {
                mail = mail(address.substring(7));
            }
        }
        return secure == null && mail == null
                ? Optional.empty()
                : Optional.of(new ListExit(oneClick ? secure : null, mail, oneClick ? null : secure));
    }

    private static List<String> addresses(List<String> values) {
        List<String> addresses = new ArrayList<>();
        for (String value : values) {
            Matcher each = ADDRESS.matcher(value);
            while (each.find() && addresses.size() < MAX_ADDRESSES) {
                addresses.add(each.group(1).replaceAll("\\s+", ""));
            }
        }
        return addresses;
    }

    private static @Nullable URI secure(String address) {
        try {
            URI uri = new URI(address);
            boolean isUsual = uri.getHost() != null && uri.getUserInfo() == null && uri.getFragment() == null;
            return isUsual ? uri : null;
        } catch (URISyntaxException e) {
            return null;
        }
    }

    /** What follows {@code mailto:} (RFC 6068); only one recipient, a subject and a text are listened to. */
    private static @Nullable ExitMail mail(String rest) {
        String[] sides = rest.split("\\?", 2);
        String to = decoded(sides[0]);
        if (!MAILBOX.matcher(to).matches()) {
            return null;
        }
        String subject = "unsubscribe";
        String text = "unsubscribe";
        for (String field : sides.length < 2 ? new String[0] : sides[1].split("&", MAX_ADDRESSES)) {
            String value = decoded(field.substring(field.indexOf('=') + 1));
            if (field.regionMatches(true, 0, "subject=", 0, 8)) {
                subject = MimeReader.limit(value.replaceAll("\\p{Cntrl}+", " ").strip(), MAX_SUBJECT);
            } else if (field.regionMatches(true, 0, "body=", 0, 5)) {
                text = MimeReader.limit(value.replaceAll("[\\p{Cntrl}&&[^\\n]]+", ""), MAX_TEXT);
            }
        }
        return new ExitMail(to, subject, text);
    }

    /** With its percent signs resolved; empty if they are no text. */
    private static String decoded(String text) {
        try {
            return URLDecoder.decode(text.replace("+", "%2B"), StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
            return "";
        }
    }
}
