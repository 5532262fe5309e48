package app.schublade.core.format;

import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/** By what HTML names the parts of its message that it shows (RFC 2392). */
public final class ContentIds {
    private static final String SCHEME = "cid:";
    private static final String ENDS = "\"'<> )\r\n\t";
    private static final int LONGEST = 500;
    private static final int HEX = 16;

    private ContentIds() {}

    /** All that are named somewhere. */
    static Set<String> in(String html) {
        Set<String> ids = new HashSet<>();
        String lower = html.toLowerCase(Locale.ROOT);
        for (int at = lower.indexOf(SCHEME); at >= 0; at = lower.indexOf(SCHEME, at + 1)) {
            int start = at + SCHEME.length();
            int end = start;
            while (end < html.length() && end - start <= LONGEST && ENDS.indexOf(html.charAt(end)) < 0) {
                end++;
            }
            if (end - start <= LONGEST) {
                ids.add(decoded(html.substring(start, end)).replace("&amp;", "&"));
            }
        }
        return ids;
    }

    /** The Content-ID that an address names; empty if it names none. */
    public static String of(String address) {
        return address.regionMatches(true, 0, SCHEME, 0, SCHEME.length())
                ? decoded(address.substring(SCHEME.length()))
                : "";
    }

    /** Without percent-encoding (RFC 3986, section 2.1); ids are ASCII. */
    private static String decoded(String id) {
        StringBuilder bare = new StringBuilder(id.length());
        for (int i = 0; i < id.length(); i++) {
            boolean coded = id.charAt(i) == '%' && i + 2 < id.length();
            int high = coded ? Character.digit(id.charAt(i + 1), HEX) : -1;
            int low = coded ? Character.digit(id.charAt(i + 2), HEX) : -1;
            if (high >= 0 && low >= 0) {
                bare.append((char) (high * HEX + low));
                i += 2;
            } else {
                bare.append(id.charAt(i));
            }
        }
        return bare.toString();
    }
}
