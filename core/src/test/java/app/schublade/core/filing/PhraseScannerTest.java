package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.words.Fold;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class PhraseScannerTest {
    private static Set<String> found(List<String> phrases, String text) {
        Set<String> found = new TreeSet<>();
        new PhraseScanner(phrases).scan(Fold.bytes(text), number -> found.add(phrases.get(number)));
        return found;
    }

    @Test
    void wordsAreWholeAndPhrasesGoOverSignsAndLines() {
        List<String> phrases = List.of(" port ", " art courier ", "port", " transport ", " ubersee ");
        assertThat(found(phrases, "A report")).containsExactly("port");
        assertThat(found(phrases, "The Art --\r\n Courier, transport"))
                .containsExactly(" art courier ", " transport ", "port");
        assertThat(found(phrases, "PORT")).containsExactly(" port ", "port");
        assertThat(found(phrases, "(Übersee)")).containsExactly(" ubersee ");
        assertThat(found(phrases, "")).isEmpty();
        assertThat(found(List.of(), "anything")).isEmpty();
    }

    @Test
    void shorterPhrasesWithinLongerOnesAreFoundToo() {
        List<String> phrases = List.of("abcd", "bc", "c", "bcx", "xyz");
        assertThat(found(phrases, "abcd")).containsExactly("abcd", "bc", "c");
        assertThat(found(phrases, "abcx")).containsExactly("bc", "bcx", "c");
    }

    /** Whatever is looked for, wherever a long text is taken apart, it finds what looking for one after the other finds. */
    @Test
    void findsWhatLookingForEachWouldFind() {
        Random random = new Random(7);
        for (int round = 0; round < 400; round++) {
            Set<String> phrases = new LinkedHashSet<>();
            for (int i = 0; i < 30; i++) {
                String phrase = Fold.phrase(text(random, 1 + random.nextInt(3)));
                phrases.add(random.nextBoolean() ? phrase : phrase.strip());
            }
            phrases.removeIf(String::isBlank);
            String text = text(random, random.nextInt(round % 2 == 0 ? 20 : 600));
            String folded = Fold.phrase(text);
            Set<String> expected = new TreeSet<>(phrases);
            expected.removeIf(phrase -> !folded.contains(phrase));
            assertThat(found(new ArrayList<>(phrases), text)).isEqualTo(expected);
        }
    }

    private static String text(Random random, int words) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < words; i++) {
            for (int letter = random.nextInt(4); letter >= 0; letter--) {
                text.append("abAé".charAt(random.nextInt(random.nextInt(30) == 0 ? 4 : 3)));
            }
            text.append(List.of(" ", ", ", "-", "\r\n", " ... ").get(random.nextInt(5)));
        }
        return text.toString();
    }
}
