package app.schublade.web.reader;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Set;
import org.owasp.html.HtmlSanitizer;
import org.owasp.html.HtmlTextEscapingMode;

/** A policy that ends when its time is over, and does not hand on what is no text, nor styles that are made to keep somebody busy. */
final class BoundedPolicy implements HtmlSanitizer.Policy {
    /** Deeper down the library leaves out text without a word. */
    private static final int MAX_DEPTH = 250;

    private static final int MAX_ATTRIBUTES = 100;
    private static final int MAX_STYLE = 4_000;
    private static final int MAX_BRACKETS = 40;

    /** What is in these is no text: fields of forms, drawings. */
    private static final Set<String> NO_TEXT = Set.of("select", "textarea", "svg", "object", "template");

    private final HtmlSanitizer.Policy policy;
    private final long end;
    /** How many elements are open that have no text. */
    private int withoutText;

    private int depth;

    BoundedPolicy(HtmlSanitizer.Policy policy, Duration time) {
        this.policy = policy;
        end = System.nanoTime() + time.toNanos();
    }

    /** The document took too long, or its elements lie too deep in each other. */
    static final class TooMuch extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TooMuch() {
            super("The document is too complex.", null, false, false);
        }
    }

    private void check() {
        if (System.nanoTime() - end > 0 || depth > MAX_DEPTH) {
            throw new TooMuch();
        }
    }

    @Override
    public void openTag(String element, List<String> attributes) {
        check();
        depth += HtmlTextEscapingMode.isVoidElement(element) ? 0 : 1;
        withoutText += NO_TEXT.contains(element) ? 1 : 0;
        if (withoutText == 0) {
            policy.openTag(element, bounded(attributes));
        }
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
        depth--;
        if (withoutText == 0) {
            policy.closeTag(element);
        }
        withoutText -= NO_TEXT.contains(element) ? 1 : 0;
    }

    @Override
    public void text(String text) {
        check();
        if (withoutText == 0) {
            policy.text(text);
        }
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
