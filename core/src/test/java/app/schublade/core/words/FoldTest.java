package app.schublade.core.words;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FoldTest {
    @ParameterizedTest
    @CsvSource({
        "'', ' '",
        "' -- ', ' '",
        "'Port', ' port '",
        "'  The,  brig-', ' the brig '",
        "'No. 412/3', ' no 412 3 '",
        "'Größe', ' grosse '",
        "'—', ' '",
        "'ΛΙΜΆΝΙ ένας', ' λιμανι ενασ '",
        "'Œuvre ½', ' oeuvre 1 2 '"
    })
    void phrasesHaveOneBlankBetweenTheirWords(String text, String phrase) {
        assertThat(Fold.phrase(text)).isEqualTo(phrase);
    }

    /** The short way for ASCII comes to the same as the long one for everything else. */
    @ParameterizedTest
    @CsvSource({"'a b'", "' A--b '", "'...'", "'x_y z9'", "'tab\tand\nline'"})
    void asciiIsFoldedAsAnythingElse(String text) {
        assertThat(Fold.phrase(text + "é").strip())
                .isEqualTo(Fold.phrase(text + "e").strip());
    }

    private static final String SIGNS =
            "aAzZ09 \t\n.-_#++äöüÄÖÜßéÉñøØæœłŁđıİſŉÿŸªº²½´¨¸ª°§€×÷ǄǆȘșĳŀ\u00ad\u200b\u2060“”„‘’–—…‰″‼⁇\u2044\u2028\u202f«»¡¿";

    /** The short way for Latin letters comes to the same as the long one, sign by sign and together. */
    @Test
    void latinLettersAreFoldedAsAnythingElse() {
        for (char sign = 0x80; sign < 0x2070; sign++) {
            isFoldedAlike("x" + sign + "y " + sign);
        }
        Random random = new Random(7);
        for (int i = 0; i < 20_000; i++) {
            StringBuilder text = new StringBuilder();
            for (int length = random.nextInt(30); length > 0; length--) {
                text.append(
                        random.nextInt(8) == 0
                                ? (char) (0x80 + random.nextInt(0x1d0))
                                : SIGNS.charAt(random.nextInt(SIGNS.length())));
            }
            isFoldedAlike(text.toString());
        }
        assertThat(LatinFold.phraseInAllForms("λ")).isNull();
        assertThat(LatinFold.phraseInAllForms("e\u0301")).isNull();
    }

    private static void isFoldedAlike(String text) {
        byte[] latin = LatinFold.phraseInAllForms(text);
        if (latin != null) {
            assertThat(new String(latin, StandardCharsets.UTF_8)).as(text).isEqualTo(Fold.slowPhraseInAllForms(text));
            assertThat(Fold.line(text)).as(text).isEqualTo(Fold.slowLine(text));
            // A sign that is not Latin makes it the long way.
            assertThat(Fold.withoutUmlauts(text) + "λ").as(text).isEqualTo(Fold.withoutUmlauts(text + "λ"));
        }
    }

    @Test
    void aLineOfAsciiIsFoldedAsAnythingElse() {
        Random random = new Random(7);
        for (int i = 0; i < 5000; i++) {
            StringBuilder text = new StringBuilder();
            for (int length = random.nextInt(12); length > 0; length--) {
                text.append((char) (random.nextInt(3) == 0 ? random.nextInt(0x21) : random.nextInt(0x80)));
            }
            assertThat(Fold.line(text + "x")).isEqualTo(Fold.line(text + "x\u00ad"));
            assertThat(Fold.line("x" + text)).isEqualTo(Fold.line("x\u00ad" + text));
        }
    }
}
