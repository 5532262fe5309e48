package app.schublade.core.filing;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntConsumer;

/**
 * Finds many phrases in a text in one pass, however many they are: the automaton of A. V. Aho and M. J. Corasick
 * ("Efficient string matching", 1975) with all its transitions worked out.
 *
 * <p>Phrases are given folded, their words with one blank between them. A blank at the beginning or end of a phrase
 * stands for the border of a word. In the text upper case counts as lower, and any run of signs that are neither letters
 * nor digits as one blank; before and after the text there is one.
 *
 * <p>The table has one row a state and one column a class of bytes; a state is the index of its row. States that a phrase
 * ends in come last, so that one comparison tells them.
 */
final class PhraseScanner {
    /** From here on a text is read in four places at once, so that the processor need not wait for one after the other. */
    private static final int LONG = 512;

    private static final int ROOT = 0;
    private static final int BETWEEN_WORDS = 0;
    private static final int UNKNOWN = 1;

    private final int[] classes;
    private final int width;
    private final int[] next;
    /** For rows from {@link #firstEnd} on: which phrase ends there, -1 if only a shorter one does. */
    private final int[] ends;
    /** For the same rows: the row of the next shorter phrase that ends there too, the root if none. */
    private final int[] shorter;

    /** Where reading begins: as after a sign between words. */
    private final int border;

    private final int firstEnd;

    /** @param phrases folded, each once, none empty */
    PhraseScanner(List<String> phrases) {
        List<byte[]> bytes = phrases.stream()
                .map(phrase -> phrase.getBytes(StandardCharsets.UTF_8))
                .toList();
        classes = classes(bytes);
        width = width(classes);
        Trie trie = new Trie(bytes, classes, width);
        trie.link();
        int[] rows = trie.rows();
        next = trie.table(rows);
        firstEnd = trie.firstEnd * width;
        ends = new int[trie.states - trie.firstEnd];
        shorter = new int[ends.length];
        for (int state = 0; state < trie.states; state++) {
            if (rows[state] >= firstEnd) {
                int end = (rows[state] - firstEnd) / width;
                ends[end] = trie.ends[state];
                shorter[end] = rows[trie.shorter[state]];
            }
        }
        border = next[ROOT + BETWEEN_WORDS];
    }

    /** A class for every byte that stands in a phrase; one for what lies between words, one for all others. */
    private static int[] classes(List<byte[]> phrases) {
        int[] classes = new int[256];
        Arrays.fill(classes, UNKNOWN);
        for (int sign = 0; sign < 0x80; sign++) {
            if (!Character.isLetterOrDigit(sign)) {
                classes[sign] = BETWEEN_WORDS;
            }
        }
        int count = UNKNOWN;
        for (byte[] phrase : phrases) {
            for (byte one : phrase) {
                if (classes[one & 0xff] == UNKNOWN) {
                    count++;
                    classes[one & 0xff] = count;
                    if (one > 0) {
                        classes[Character.toUpperCase(one)] = count;
                    }
                }
            }
        }
        return classes;
    }

    private static int width(int[] classes) {
        return 1 + Arrays.stream(classes).max().orElse(0);
    }

    /** Tells the number of every phrase that stands in a text, as often as it does or oftener; see {@code Fold.bytes}. */
    void scan(byte[] text, IntConsumer found) {
        int quarter = text.length < LONG ? 0 : text.length / 4;
        int[] states = {beginAt(0, text), beginAt(quarter, text), beginAt(2 * quarter, text), beginAt(3 * quarter, text)
        };
        for (int i = advance(states, text, 0, quarter); i <= quarter; i = advance(states, text, i, quarter)) {
            for (int state : states) {
                tell(state, found);
            }
        }
        if (quarter > 0) {
            finish(states[0], text, quarter, found);
            finish(states[1], text, 2 * quarter, found);
            finish(states[2], text, 3 * quarter, found);
        }
        toEnd(states[3], text, 4 * quarter, found);
    }

    /**
     * Reads on in four places at once until a phrase ends in one of them. Returns how far it has come, or more than a
     * quarter if nothing was found up to its end. Nothing is called from its loop, so that all stays in registers.
     */
    private int advance(int[] states, byte[] text, int from, int quarter) {
        int[] table = next;
        int[] kinds = classes;
        int end = firstEnd;
        int a = states[0];
        int b = states[1];
        int c = states[2];
        int d = states[3];
        int i = from;
        boolean ends = false;
        while (i < quarter && !ends) {
            a = table[a + kinds[text[i] & 0xff]];
            b = table[b + kinds[text[i + quarter] & 0xff]];
            c = table[c + kinds[text[i + 2 * quarter] & 0xff]];
            d = table[d + kinds[text[i + 3 * quarter] & 0xff]];
            ends = a >= end || b >= end || c >= end || d >= end;
            i++;
        }
        states[0] = a;
        states[1] = b;
        states[2] = c;
        states[3] = d;
        return ends ? i : quarter + 1;
    }

    /** A phrase that begins with the border of a word may have it just before a part of the text. */
    private int beginAt(int start, byte[] text) {
        return start == 0 ? border : next[ROOT + classes[text[start - 1] & 0xff]];
    }

    /** What had begun when a part of the text ended; what begins later is found in the next part. */
    private void finish(int from, byte[] text, int start, IntConsumer found) {
        int state = from;
        for (int i = start; state != ROOT && state != border && i < text.length; i++) {
            state = next[state + classes[text[i] & 0xff]];
            tell(state, found);
        }
        if (state != ROOT && state != border) {
            tell(next[state + BETWEEN_WORDS], found);
        }
    }

    private void toEnd(int from, byte[] text, int start, IntConsumer found) {
        int state = from;
        for (int i = start; i < text.length; i++) {
            state = next[state + classes[text[i] & 0xff]];
            tell(state, found);
        }
        tell(next[state + BETWEEN_WORDS], found);
    }

    private void tell(int state, IntConsumer found) {
        for (int row = state; row >= firstEnd; row = shorter[(row - firstEnd) / width]) {
            int phrase = ends[(row - firstEnd) / width];
            if (phrase >= 0) {
                found.accept(phrase);
            }
        }
    }

    /** The automaton while it is being built, states in the order in which they were met. */
    private static final class Trie {
        private final int width;
        private final int[] children;
        private final int[] ends;
        private final int[] shorter;
        private final boolean[] afterBlank;
        private int states = 1;
        private int firstEnd;

        Trie(List<byte[]> phrases, int[] classes, int width) {
            this.width = width;
            int most = 1 + phrases.stream().mapToInt(phrase -> phrase.length).sum();
            children = new int[most * width];
            ends = new int[most];
            shorter = new int[most];
            afterBlank = new boolean[most];
            Arrays.fill(ends, -1);
            for (int i = 0; i < phrases.size(); i++) {
                add(phrases.get(i), i, classes);
            }
        }

        private void add(byte[] phrase, int number, int[] classes) {
            int state = 0;
            for (byte one : phrase) {
                int column = classes[one & 0xff];
                int child = children[state * width + column];
                if (child == 0) {
                    child = states++;
                    children[state * width + column] = child;
                    afterBlank[child] = column == BETWEEN_WORDS;
                }
                state = child;
            }
            ends[state] = number;
        }

        /** Works out every transition, nearest states first: where no phrase goes on, the longest rest that does. */
        void link() {
            int[] rest = new int[states];
            int[] queue = new int[states];
            int last = 0;
            for (int read = -1; read < last; read++) {
                int state = read < 0 ? 0 : queue[read];
                for (int column = 0; column < width; column++) {
                    int at = state * width + column;
                    int child = children[at];
                    int otherwise = state == 0 ? 0 : children[rest[state] * width + column];
                    if (child == 0) {
                        children[at] = column == BETWEEN_WORDS && afterBlank[state] ? state : otherwise;
                    } else {
                        rest[child] = otherwise;
                        shorter[child] = ends[otherwise] >= 0 ? otherwise : shorter[otherwise];
                        queue[last++] = child;
                    }
                }
            }
        }

        private boolean isEnd(int state) {
            return ends[state] >= 0 || shorter[state] > 0;
        }

        /** Where each state's row begins. */
        int[] rows() {
            int[] rows = new int[states];
            int plain = 0;
            for (int state = 0; state < states; state++) {
                rows[state] = isEnd(state) ? -1 : width * plain++;
            }
            firstEnd = plain;
            int end = plain;
            for (int state = 0; state < states; state++) {
                rows[state] = rows[state] < 0 ? width * end++ : rows[state];
            }
            return rows;
        }

        int[] table(int[] rows) {
            int[] table = new int[states * width];
            for (int state = 0; state < states; state++) {
                for (int column = 0; column < width; column++) {
                    table[rows[state] + column] = rows[children[state * width + column]];
                }
            }
            return table;
        }
    }
}
