package app.schublade.core.words;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.words.WordSplitter.SplitWord;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class WordSplitterTest {
    /** The quick way that rules go finds the same words with signs. */
    @Test
    void findsTheSameWordsWithSignsAsRulesDo() {
        List<String> signs = List.of("c", "C", "é", "e\u0301", "字", "7", "++", "+", "#", " ", "-", "ü", "\u00ad", "𝒜");
        Random random = new Random(3);
        for (int i = 0; i < 20_000; i++) {
            String text = Stream.generate(() -> signs.get(random.nextInt(signs.size())))
                    .limit(random.nextInt(9))
                    .collect(Collectors.joining());
            assertThat(Fold.signedWords(text))
                    .as(text)
                    .isEqualTo(WordSplitter.of(text).stream()
                            .filter(WordSplitter.SplitWord::isSigned)
                            .map(WordSplitter.SplitWord::also)
                            .toList());
        }
    }

    private static final String SIGNS =
            "aZ9 -ß\u00fcu\u0308\u00ad\u200bйが\u304b\u3099東ーกิ한हि'+#½ﬁ\ud83d\ude00\ud800\n\u0301";

    private static String shown(SplitWord token) {
        return token.also() == null ? token.word() : token.word() + "|" + token.also();
    }

    @ParameterizedTest
    @CsvSource({
        "'', ''",
        "'Re: KD-77812', 're kd 77812'",
        "'M\u00fcller und Mu\u0308ller', 'muller|mueller und muller|mueller'",
        "'Mueller', 'mueller'",
        "'\u00dcberf\u00fchrung', 'uberfuhrung|ueberfuehrung'",
        "'Ver\u00adsiche\u00adrung', 'versicherung'",
        "'C++ and C#', 'c|c++ and c|c#'",
        "'it''s e-mail', 'it s e mail'",
        "'東京タワー', '東 京 タ ワ ー'",
        "'がか', 'が か'",
        "'мой мои', 'мой мои'",
        "'ёлка', 'елка'",
        "'हिन्दी', 'हिन्दी'",
        "'한국어', '한국어'",
        "'ﬁle ½', 'file 1 2'",
        "'café\u0301', 'cafe'"
    })
    void wordsAreFoldedAndHaveTheirOtherForms(String text, String words) {
        assertThat(WordSplitter.of(text).stream().map(WordSplitterTest::shown).collect(Collectors.joining(" ")))
                .isEqualTo(words);
    }

    /** Rules, that look for phrases, and search, that looks for words, see the same borders. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void theWordsAreThoseOfThePhrase(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 20_000; i++) {
            StringBuilder text = new StringBuilder();
            for (int length = random.nextInt(12); length > 0; length--) {
                text.appendCodePoint(SIGNS.codePointAt(random.nextInt(SIGNS.length())));
            }
            List<String> words = WordSplitter.of(text.toString()).stream()
                    .map(SplitWord::word)
                    .toList();
            assertThat(words)
                    .as("%s", text)
                    .containsExactlyElementsOf(
                            Fold.phrase(text.toString()).isBlank()
                                    ? List.of()
                                    : List.of(
                                            Fold.phrase(text.toString()).strip().split(" ", -1)));
        }
    }
}
