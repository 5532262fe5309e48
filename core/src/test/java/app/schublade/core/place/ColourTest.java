package app.schublade.core.place;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.schublade.core.problem.InputProblem;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ColourTest {
    @Test
    void contrastIsThatOfTheGuidelines() {
        assertThat(Colour.parse("#ffffff").contrast()).isEqualTo(1, within(1e-9));
        assertThat(Colour.parse("#000000").contrast()).isEqualTo(21, within(1e-9));
        assertThat(Colour.parse("#767676").contrast()).isEqualTo(4.54, within(0.01));
    }

    @Test
    void aColourThatStandsOutStaysAsItIs() {
        assertThat(Colour.parse("#2D6A4F").readable()).hasToString("#2d6a4f");
    }

    @Test
    void aPaleOneIsMadeDarkerOnlyAsFarAsNeeded() {
        Random random = new Random(3);
        for (int i = 0; i < 2000; i++) {
            Colour colour = new Colour(random.nextInt(1 << 24));
            double contrast = colour.readable().contrast();
            assertThat(contrast).isGreaterThanOrEqualTo(Colour.LEAST_CONTRAST);
            if (colour.contrast() < Colour.LEAST_CONTRAST) {
                assertThat(contrast).as(colour.toString()).isLessThan(5.3);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "red", "#12345", "#1234567", "#12345g", "2d6a4f", "#2d6a4f; x: y"})
    void otherTextIsNoColour(String text) {
        assertThatThrownBy(() -> Colour.parse(text))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("not a colour");
    }
}
