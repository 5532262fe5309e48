package app.schublade.web.reader;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import org.owasp.html.HtmlSanitizer;

/** A policy that ends when its time is over, and does not hand on styles that are made to keep somebody busy. */
final class BoundedPolicy implements HtmlSanitizer.Policy {
    private static final int MAX_ATTRIBUTES = 100;
    private static final int MAX_STYLE = 4_000;
    private static final int MAX_BRACKETS = 40;

    private final HtmlSanitizer.Policy policy;
    private final long end;

    BoundedPolicy(HtmlSanitizer.Policy policy, Duration time) {
        this.policy = policy;
        end = System.nanoTime() + time.toNanos();
    }

    /** The document took too long. */
    static final class TooMuch extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TooMuch() {
            super("The document took too long.", null, false, false);
        }
    }

    private void check() {
        if (System.nanoTime() - end > 0) {
            throw new TooMuch();
        }
    }

    @Override
    public void openTag(String element, List<String> attributes) {
        check();
        policy.openTag(element, bounded(attributes));
    }

    /** @param attributes names and values by turns, in a list that may be slow by index */
    private static List<String> bounded(List<String> attributes) {
        List<String> some = new ArrayList<>();
        for (Iterator<String> each = attributes.iterator(); each.hasNext() && some.size() < 2 * MAX_ATTRIBUTES; ) {
            String name = each.next();
            String value = each.next();
            if (!name.equalsIgnoreCase("style") || !isInvolved(value)) {
                some.add(name);
                some.add(value);
            }
        }
        return some;
    }

    private static boolean isInvolved(String style) {
        return style.length() > MAX_STYLE
                || style.chars()
                                .filter(sign -> sign == '(' || sign == '[' || sign == '{')
                                .count()
                        > MAX_BRACKETS;
    }

    @Override
    public void closeTag(String element) {
        check();
        policy.closeTag(element);
    }

    @Override
    public void text(String text) {
        check();
        policy.text(text);
    }

    @Override
    public void openDocument() {
        policy.openDocument();
    }

    @Override
    public void closeDocument() {
        policy.closeDocument();
    }
}
