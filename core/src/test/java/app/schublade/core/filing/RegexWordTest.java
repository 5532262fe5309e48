package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RegexWordTest {
    @ParameterizedTest
    @CsvSource(delimiter = ';', quoteCharacter = '`', textBlock = """
            ^Invoice no\\. \\d+$  ; invoice
            invoices?          ; invoice
            colou?r chart      ; chart
            abcd+ef            ; abcd
            ab{2}cde           ; cde
            (abc)?def          ; def
            [abc]defg          ; defg
            []x]defg           ; defg
            abc|def            ; ``
            (?i)abcdef         ; ``
            \\Qabcdef\\E        ; ``
            \\x41bcdef          ; ``
            \\101bcdef          ; ``
            \\pLabcdef          ; ``
            [[:alpha:]]bcdef   ; ``
            abcdef\\            ; ``
            ab                 ; ``
            """)
    void itStandsInEveryMatch(String regex, String word) {
        assertThat(RegexWord.in(regex)).isEqualTo(word);
    }

    private static final String[] PIECES = {
        "abc", "xyz", "a", "b", "c1", ".", "*", "?", "+", "{0,2}", "{2}", "{", "}", "(", ")", "[", "]", "[ab]", "^",
        "$", "\\b", "\\d", "\\.", "\\", "|", "-"
    };

    @Test
    void nothingThatMatchesIsWithoutIt() {
        Random random = new Random(5);
        int matched = 0;
        for (int i = 0; i < 200_000; i++) {
            StringBuilder regex = new StringBuilder();
            for (int length = 1 + random.nextInt(7); length > 0; length--) {
                regex.append(PIECES[random.nextInt(PIECES.length)]);
            }
            StringBuilder text = new StringBuilder();
            for (int length = random.nextInt(5); length > 0; length--) {
                text.append(PIECES[random.nextInt(6)]);
            }
            if (matches(regex.toString(), text.toString())) {
                String word = RegexWord.in(regex.toString());
                assertThat(text.toString().toLowerCase(Locale.ROOT))
                        .as(regex + " in " + text)
                        .contains(word);
                matched += word.isEmpty() ? 0 : 1;
            }
        }
        assertThat(matched).as("it is asked often enough").isGreaterThan(500);
    }

    private static boolean matches(String regex, String text) {
        try {
            return Pattern.compile(regex, Pattern.CASE_INSENSITIVE)
                    .matcher(text)
                    .find();
        } catch (PatternSyntaxException e) {
            return false;
        }
    }
}
