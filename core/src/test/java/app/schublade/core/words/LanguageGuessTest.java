package app.schublade.core.words;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LanguageGuessTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Dear Anna, the crates are here and we have to open them with you. | en",
                "Liebe Anna, die Kisten sind da, und wir müssen sie mit der Leihgeberin öffnen; ich bin nicht sicher. | de",
                "Chère Anna, les caisses sont là et nous devons les ouvrir pour vous dans une salle. | fr",
                "Beste Anna, het schip ligt niet in een dok van ons, en ik ga ook naar de werf voor je. | nl",
                "Cara Anna, il modello è con una cassa che non è della nave, per noi sono due. | it",
                "Querida Anna, el barco está como los otros, pero para una revisión por las mañanas. | es",
                "Kære Anna, det er ikke klart, og jeg har kasserne på lageret til vi kan åbne dem. | da",
                "KD-77812, 3 x 40 | ",
                "Ok! | ",
                "'' | ",
                "展覧会は来週です | ",
            })
    void bySmallWords(String text, String language) {
        assertThat(LanguageGuess.of(text).orElse(null)).isEqualTo(language);
    }

    @Test
    void aLongTextTakesNoLonger() {
        assertThat(LanguageGuess.of("the and is you ".repeat(500_000))).contains("en");
    }
}
