package app.schublade.core.sieve;

import java.util.Locale;
import java.util.Set;

/** Takes a script apart into its signs, words, numbers and strings (RFC 5228, sections 2.1 to 2.4 and 8.1). */
final class Scanner {
    private static final int KILO = 1024;
    private static final int MAX_DIGITS = 12;

    /** One piece of a script. {@code text} of a string is what it means, of all others as it stands there. */
    record Token(TokenKind kind, String text, int line) {
        boolean is(String sign) {
            return kind == TokenKind.SIGN && text.equals(sign);
        }
    }

    enum TokenKind {
        WORD,
        TAG,
        NUMBER,
        STRING,
        SIGN,
        END
    }

    private final String script;
    private int at;
    private int line = 1;
    private String comment = "";

    Scanner(String script) {
        this.script = script;
    }

    /** The last line of comment before the token that was read last; asked once it is forgotten. */
    String comment() {
        String last = comment;
        comment = "";
        return last;
    }

    Token next() throws SieveException {
        skipBlanks();
        if (at >= script.length()) {
            return new Token(TokenKind.END, "the end of the script", line);
        }
        char sign = script.charAt(at);
        if (sign == '"') {
            return quoted();
        }
        if (sign == ':') {
            at++;
            return new Token(TokenKind.TAG, word(), line);
        }
        if (Character.isDigit(sign)) {
            return number();
        }
        if (isOfWord(sign)) {
            Token word = new Token(TokenKind.WORD, word(), line);
            return word.text().equals("text") && peek() == ':' ? multiline() : word;
        }
        if ("{}()[],;".indexOf(sign) < 0) {
            throw new SieveException(line, "“%c” cannot stand here.".formatted(sign));
        }
        at++;
        return new Token(TokenKind.SIGN, String.valueOf(sign), line);
    }

    private char peek() {
        return at < script.length() ? script.charAt(at) : '\0';
    }

    private void skipBlanks() throws SieveException {
        while (at < script.length()) {
            char sign = script.charAt(at);
            if (sign == '#') {
                int end = endOfLine();
                comment = script.substring(at + 1, end).strip();
                at = end;
            } else if (script.startsWith("/*", at)) {
                int end = script.indexOf("*/", at + 2);
                if (end < 0) {
                    throw new SieveException(line, "this comment never ends; it lacks its */.");
                }
                advance(end + 2);
            } else if (Character.isWhitespace(sign)) {
                advance(at + 1);
            } else {
                return;
            }
        }
    }

    private int endOfLine() {
        int end = script.indexOf('\n', at);
        return end < 0 ? script.length() : end;
    }

    private void advance(int to) {
        for (; at < to; at++) {
            line += script.charAt(at) == '\n' ? 1 : 0;
        }
    }

    private static boolean isOfWord(char sign) {
        return sign == '_' || (sign < 0x80 && Character.isLetterOrDigit(sign));
    }

    private String word() throws SieveException {
        int start = at;
        while (at < script.length() && isOfWord(script.charAt(at))) {
            at++;
        }
        if (at == start) {
            throw new SieveException(line, "after a colon there must be a name.");
        }
        return script.substring(start, at).toLowerCase(Locale.ROOT);
    }

    private Token number() throws SieveException {
        int start = at;
        while (Character.isDigit(peek())) {
            at++;
        }
        if (at - start > MAX_DIGITS) {
            throw new SieveException(line, "this number is too large.");
        }
        long value = Long.parseLong(script.substring(start, at));
        int power = "kmg".indexOf(Character.toLowerCase(peek()));
        if (power >= 0) {
            at++;
            value *= (long) Math.pow(KILO, power + 1);
        }
        return new Token(TokenKind.NUMBER, String.valueOf(value), line);
    }

    private Token quoted() throws SieveException {
        int start = line;
        StringBuilder text = new StringBuilder();
        for (advance(at + 1); peek() != '"'; advance(at + 1)) {
            if (peek() == '\\') {
                at++;
            }
            if (at >= script.length()) {
                throw new SieveException(start, "this string never ends; it lacks its closing quotation mark.");
            }
            text.append(script.charAt(at));
        }
        at++;
        return new Token(TokenKind.STRING, text.toString(), start);
    }

    /** Lines up to one with a dot alone; a dot before a dot is taken off (RFC 5228, section 2.4.2). */
    private Token multiline() throws SieveException {
        int start = line;
        advance(Math.min(script.length(), endOfLine() + 1));
        StringBuilder text = new StringBuilder();
        while (at < script.length()) {
            String one = script.substring(at, endOfLine());
            advance(Math.min(script.length(), endOfLine() + 1));
            if (Set.of(".", ".\r").contains(one)) {
                return new Token(TokenKind.STRING, text.toString(), start);
            }
            text.append(one.startsWith("..") ? one.substring(1) : one).append('\n');
        }
        throw new SieveException(start, "this text never ends; it lacks a line with a dot alone.");
    }
}
