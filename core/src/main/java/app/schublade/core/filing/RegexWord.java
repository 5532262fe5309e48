package app.schublade.core.filing;

/**
 * Finds letters that stand in every text that a regular expression matches, so that the expression need not be tried where
 * they do not. It reads as little of the syntax of RE2 as it must: whatever it is not sure of, it leaves out.
 */
final class RegexWord {
    /** Fewer letters would be in nearly every text. */
    private static final int LEAST = 3;

    private static final String BETWEEN = "dDwWsSbBAztnrfva";

    private final String regex;
    private final StringBuilder run = new StringBuilder();
    private String longest = "";
    private int at;

    private RegexWord(String regex) {
        this.regex = regex;
    }

    /** Letters and digits in lower case; empty if nothing is known to stand in every match. */
    static String in(String regex) {
        return regex.contains("|") || regex.contains("(?") ? "" : new RegexWord(regex).read();
    }

    private String read() {
        int depth = 0;
        while (at < regex.length()) {
            char sign = regex.charAt(at++);
            if (sign == '\\' && !isBorder()) {
                return "";
            } else if (sign == '(' || sign == ')') {
                depth += sign == '(' ? 1 : -1;
                end();
            } else if (sign == '[') {
                if (!skipClass()) {
                    return "";
                }
            } else if (sign == '*' || sign == '?' || sign == '{') {
                run.setLength(Math.max(0, run.length() - 1)); // It may be there no time.
                end();
                int close = sign == '{' ? regex.indexOf('}', at) : -1;
                at = close < 0 ? at : close + 1;
            } else if (depth == 0 && sign < 0x80 && Character.isLetterOrDigit(sign)) {
                run.append(Character.toLowerCase(sign));
            } else {
                end();
            }
        }
        end();
        return longest.length() < LEAST ? "" : longest;
    }

    /** Passes over what is behind a backslash; false if it may be anything. */
    private boolean isBorder() {
        end();
        if (at == regex.length()) {
            return false;
        }
        char sign = regex.charAt(at++);
        return BETWEEN.indexOf(sign) >= 0 || (sign < 0x80 && !Character.isLetterOrDigit(sign));
    }

    /** Passes over signs of which one must stand there; false if their end is not clear. */
    private boolean skipClass() {
        end();
        int end = regex.indexOf(']', at + 1); // Directly behind the bracket it is one of the signs.
        if (end < 0
                || regex.substring(at, end).contains("[")
                || regex.substring(at, end).contains("\\")) {
            return false;
        }
        at = end + 1;
        return true;
    }

    private void end() {
        if (run.length() > longest.length()) {
            longest = run.toString();
        }
        run.setLength(0);
    }
}
