package app.schublade.web.frame;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * HTML written piece by piece, for what is on a page hundreds of times over (see {@link WrittenElements}). Texts and values of attributes are escaped; names are those of the code that calls.
 */
public final class Markup {
    private final StringBuilder written = new StringBuilder(1 << 14);
    private final Deque<String> open = new ArrayDeque<>();
    private boolean inTag;

    /** Begins an element; its attributes follow, then what is in it, then {@link #close}. */
    public Markup open(String element) {
        endTag();
        written.append('<').append(element);
        open.push(element);
        inTag = true;
        return this;
    }

    /** Begins an element of these classes. */
    public Markup open(String element, String css) {
        return open(element).attribute("class", css);
    }

    /** Nothing is written where the value is null. */
    public Markup attribute(String name, @Nullable Object value) {
        if (!inTag) {
            throw new IllegalStateException("The attribute %s stands outside of a tag.".formatted(name));
        }
        if (value != null) {
            written.append(' ').append(name).append("=\"");
            escape(value.toString());
            written.append('"');
        }
        return this;
    }

    public Markup text(@Nullable Object text) {
        endTag();
        if (text != null) {
            escape(text.toString());
        }
        return this;
    }

    /** Ends the element that was begun last. */
    public Markup close() {
        endTag();
        written.append("</").append(open.pop()).append('>');
        return this;
    }

    /** An element with nothing but text in it. */
    public Markup element(String element, String css, @Nullable Object text) {
        return open(element, css).text(text).close();
    }

    /** As people read numbers: {@code 3,120}. */
    public static String number(int number) {
        return String.format(Locale.ENGLISH, "%,d", number);
    }

    private void endTag() {
        if (inTag) {
            written.append('>');
            inTag = false;
        }
    }

    private void escape(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '<' -> written.append("&lt;");
                case '>' -> written.append("&gt;");
                case '&' -> written.append("&amp;");
                case '"' -> written.append("&quot;");
                case '\'' -> written.append("&#39;");
                default -> written.append(c);
            }
        }
    }

    /** @throws IllegalStateException if an element was not closed */
    @Override
    public String toString() {
        if (!open.isEmpty()) {
            throw new IllegalStateException("Not closed: " + open);
        }
        return written.toString();
    }
}
