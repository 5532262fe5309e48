package app.schublade.store.find;

import app.schublade.core.words.WordSplitter;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * The words of a message with their places, as PostgreSQL's type {@code tsvector} in its binary form. Texts have a distance, so
 * that no phrase goes from one to the next.
 */
final class SearchVector {
    /** Where a word stands, as the two highest bits of its place. */
    enum Weight {
        BODY(0),
        RECIPIENTS(1),
        SENDER(2),
        SUBJECT(3);

        private final int bits;

        Weight(int value) {
            bits = value << 14;
        }
    }

    /** Stands before the words of file names, which are written down once more with it. */
    static final String FILE = "/";

    /** PostgreSQL knows no places behind this one. */
    private static final int LAST_PLACE = (1 << 14) - 1;

    private static final int MOST_PLACES = 255;
    /** PostgreSQL takes no longer word, and no more than 1 MB of them. */
    private static final int LONGEST = 200;

    private static final int MOST_BYTES = 700_000;
    private static final int DISTANCE = 20;

    private final Map<String, Places> words = new TreeMap<>();
    private int place;
    private int bytes;

    /** Where a word stands. */
    private static final class Places {
        private int[] all = new int[2];
        private int size;

        void add(int place) {
            if (size == MOST_PLACES || (size > 0 && (all[size - 1] & LAST_PLACE) == LAST_PLACE)) {
                return;
            }
            if (size == all.length) {
                all = Arrays.copyOf(all, size * 2);
            }
            all[size++] = place;
        }
    }

    SearchVector add(String text, Weight weight) {
        WordSplitter.forEach(text, token -> {
            place++;
            place(token.word(), weight);
            if (token.also() != null) {
                place(token.also(), weight);
            }
        });
        place += DISTANCE;
        return this;
    }

    /** The name of a file: its words anywhere, and as those of a file. */
    SearchVector addFile(String name) {
        int before = place;
        add(name, Weight.BODY);
        place = before;
        WordSplitter.forEach(name, token -> {
            place++;
            place(FILE + token.word(), Weight.BODY);
            if (token.also() != null) {
                place(FILE + token.also(), Weight.BODY);
            }
        });
        place += DISTANCE;
        return this;
    }

    private void place(String word, Weight weight) {
        if (word.length() > LONGEST) {
            return;
        }
        Places places = words.get(word);
        if (places == null) {
            bytes += word.length() * 3 + 8;
            if (bytes > MOST_BYTES) {
                return;
            }
            places = new Places();
            words.put(word, places);
        }
        places.add(weight.bits | Math.min(place, LAST_PLACE));
    }

    /** Its words, those of file names among them with their mark. */
    Set<String> words() {
        return words.keySet();
    }

    byte[] binary() {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (DataOutputStream out = new DataOutputStream(bytes)) {
            out.writeInt(words.size());
            for (Map.Entry<String, Places> word : words.entrySet()) {
                out.write(word.getKey().getBytes(StandardCharsets.UTF_8));
                out.writeByte(0);
                Places places = word.getValue();
                out.writeShort(places.size);
                for (int i = 0; i < places.size; i++) {
                    out.writeShort(places.all[i]);
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }
}
