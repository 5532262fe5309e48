package app.schublade.core.filing;

import com.google.re2j.Pattern;

/** A pattern with {@code *} for any signs and {@code ?} for one, for a whole folded text; in linear time. */
public record WildcardPattern(String pattern, Pattern compiled) {
    static WildcardPattern of(String folded) {
        StringBuilder expression = new StringBuilder();
        folded.codePoints()
                .forEach(sign -> expression.append(
                        sign == '*' ? ".*" : sign == '?' ? "." : Pattern.quote(Character.toString(sign))));
        return new WildcardPattern(folded, Pattern.compile(expression.toString(), Pattern.DOTALL));
    }

    boolean fits(String folded) {
        return compiled.matches(folded);
    }
}
