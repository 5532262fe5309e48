package app.schublade.core.words;

import static org.assertj.core.api.Assertions.assertThat;

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
}
