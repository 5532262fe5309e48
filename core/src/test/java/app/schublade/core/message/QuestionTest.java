package app.schublade.core.message;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class QuestionTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Dear Anna,\\n\\ncould you send me the list? It is for Monday.\\n\\nTilda | could you send me the list?",
                "Two things. When does the boat come? And who pays?\\nThanks, Tilda | And who pays?",
                "Können Sie mir die Rechnung schicken?\\n\\nAm Montag schrieb Anna:\\n> Wann kommt das Boot? | Können Sie mir die Rechnung schicken?",
                "Please let me know by Friday. | Please let me know by Friday.",
                "Wir bitte um Rückmeldung bis Dienstag. | Wir bitte um Rückmeldung bis Dienstag.",
                "It goes over two\\nlines, does it not? | It goes over two lines, does it not?",
                "いつ来ますか？ | いつ来ますか？"
            })
    void theLastSentenceThatAsksIsFound(String text, String asked) {
        assertThat(Question.in(text.replace("\\n", "\n"))).contains(asked);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "?",
                "Thank you, all is well.",
                "Dear Anna, how are you?\nAll is well here.",
                "Gladly.\n\nOn Monday Anna wrote:\n> When does the boat come?",
                "Gladly.\n-- \nTilda\nDo you know our museum?",
                "See https://quay.example/?a=b&c=d? and be well.",
                "For you.\n\n----- Forwarded message -----\nWill you come?"
            })
    void whatIsQuotedSignedForwardedOrPoliteIsNoQuestion(String text) {
        assertThat(Question.in(text)).isEmpty();
    }

    @Test
    void hugeTextsAreReadAsFarAsAnybodyWould() {
        assertThat(Question.in("a".repeat(5_000_000) + "?")).isEmpty();
        assertThat(Question.in("Is it? ".repeat(100_000))).isPresent();
        assertThat(Question.in("\u0000?\n".repeat(10_000))).isEmpty();
    }
}
