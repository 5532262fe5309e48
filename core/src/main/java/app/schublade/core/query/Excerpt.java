package app.schublade.core.query;

import app.schublade.core.words.WordSplitter;
import app.schublade.core.words.WordSplitter.SplitWord;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/** The part of a text around the first of some words, for a line in a list. */
public final class Excerpt {
    private static final int BEFORE = 16;
    private static final int LENGTH = 160;
    private static final Pattern BLANKS = Pattern.compile("[\\s\\p{Z}]+");

    private Excerpt() {}

    /** The text around the first place where some of the words stand; empty if none of them does. */
    public static Optional<String> of(String text, List<Words> wanted) {
        List<SplitWord> tokens = WordSplitter.of(text);
        return wanted.stream()
                .map(one -> one.placeIn(tokens))
                .filter(place -> place >= 0)
                .min(Integer::compare)
                .map(place -> around(text, tokens.get(place).start()));
    }

    private static String around(String text, int start) {
        int from = Math.max(0, start - BEFORE);
        if (from > 0) {
            int blank = text.indexOf(' ', from);
            from = blank < 0 || blank >= start ? start : blank + 1;
        }
        String cut = text.substring(from, Math.min(text.length(), from + LENGTH));
        return (from == 0 ? "" : "… ") + BLANKS.matcher(cut).replaceAll(" ").strip();
    }
}
