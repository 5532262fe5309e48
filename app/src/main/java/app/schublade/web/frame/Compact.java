package app.schublade.web.frame;

import java.util.Arrays;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Makes style sheets and scripts smaller before they are sent; what they do stays the same. */
final class Compact {
    private static final Pattern BLOCK_COMMENT = Pattern.compile("(?ms)^\\s*/\\*.*?\\*/[ \\t]*\\n?");
    private static final Pattern LINE_COMMENT = Pattern.compile("(?m)^\\s*//.*\\n");
    private static final Pattern INDENT = Pattern.compile("(?m)^[ \\t]+|[ \\t]+$");
    private static final Pattern EMPTY_LINES = Pattern.compile("\\n{2,}");
    private static final Pattern CLASS = Pattern.compile("\\.(-?[_a-zA-Z][\\w-]*)");
    /** A comma that is not within parentheses. */
    private static final Pattern COMMA = Pattern.compile(",(?![^(]*\\))");

    private Compact() {}

    /** Without comments that stand on lines of their own, and without what is indented or empty. */
    static String lines(String source) {
        String bare = BLOCK_COMMENT.matcher(source).replaceAll("");
        bare = LINE_COMMENT.matcher(bare).replaceAll("");
        bare = INDENT.matcher(bare).replaceAll("");
        return EMPTY_LINES.matcher(bare).replaceAll("\n");
    }

    /**
     * The rules of a style sheet (without comments) whose classes can occur.
     *
     * @param words all words of what classes may be named in
     */
    static String used(String styles, Set<String> words) {
        StringBuilder kept = new StringBuilder();
        int at = 0;
        while (at < styles.length()) {
            int open = styles.indexOf('{', at);
            int statement = styles.indexOf(';', at);
            if (statement >= 0 && (open < 0 || statement < open)) { // @charset, @import
                kept.append(styles, at, statement + 1);
                at = statement + 1;
            } else if (open < 0) {
                break;
            } else {
                int end = end(styles, open);
                kept.append(rule(styles.substring(at, open).strip(), styles.substring(open + 1, end - 1), words));
                at = end;
            }
        }
        return kept.toString();
    }

    /** The place behind the brace that belongs to the one at a place. */
    private static int end(String styles, int open) {
        int depth = 0;
        for (int i = open; i < styles.length(); i++) {
            char sign = styles.charAt(i);
            depth += sign == '{' ? 1 : sign == '}' ? -1 : 0;
            if (depth == 0) {
                return i + 1;
            }
        }
        throw new IllegalArgumentException(
                "A brace is not closed: " + styles.substring(open, Math.min(styles.length(), open + 80)));
    }

    private static String rule(String head, String body, Set<String> words) {
        if (head.startsWith("@media") || head.startsWith("@supports")) {
            String inner = used(body, words);
            return inner.isBlank() ? "" : head + "{" + inner + "}";
        }
        if (head.startsWith("@")) {
            return head + "{" + body + "}";
        }
        String selectors = Arrays.stream(COMMA.split(head))
                .filter(selector -> CLASS.matcher(selector).results().allMatch(name -> words.contains(name.group(1))))
                .collect(Collectors.joining(","));
        return selectors.isEmpty() ? "" : selectors + "{" + body + "}";
    }
}
