package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatNoException;

import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class QuotedEndTest {
    /** Long enough to be folded. */
    private static final String LONG =
            "the port rigging has slackened since the model came back from Halden, and there is a"
                    + " new hairline crack in the deck behind the main mast";

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Yes.~~On Monday, Anna wrote:~> LONG | On Monday, Anna wrote:",
                "Yes.~~On Monday,~Anna <anna@wharf.example> wrote:~~> LONG~>~> x~~ | On Monday,",
                "Yes.~> LONG | > the port",
                "Yes.~~My answer ends here:~x~> LONG | > the port",
                "> LONG~~Yes. | -",
                "> LONG~Yes.~> LONG | > the port",
                "> LONG | -",
                "On Monday, Anna wrote:~> LONG | -",
                "Yes.~> short | -",
                "Yes. | -",
                "'' | -",
            })
    void whereAPlainTextQuotesAtItsEnd(String given, String begins) {
        for (String end : List.of("\n", "\r\n")) {
            quotes(given.replace("~", end).replace("LONG", LONG), begins);
        }
    }

    private static void quotes(String text, String begins) {
        String quoted = text.substring(QuotedEnd.in(text));
        if (begins.equals("-")) {
            assertThat(quoted).isEmpty();
        } else {
            assertThat(quoted.strip()).startsWith(begins);
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<p>Yes.</p><p>Anna wrote:</p><blockquote>LONG</blockquote> | Yes.",
                "<div><div>Yes.</div><div>Anna wrote:<br></div><blockquote>LONG</blockquote></div><br> | Yes.",
                "Yes.<br>Anna wrote:<blockquote>LONG</blockquote> | Yes.",
                "<p>Yes.</p><blockquote>LONG</blockquote><p>Regards</p> | Yes. LONG Regards",
                "<p>One</p><blockquote>LONG</blockquote><p>Two</p><blockquote>LONG</blockquote> | One LONG Two",
                "<blockquote>LONG</blockquote> | LONG",
                "<p>Anna wrote:</p><blockquote>LONG</blockquote> | Anna wrote: LONG",
                "<p>Yes.</p><blockquote>short</blockquote> | Yes. short",
            })
    void whatStaysOpenOfHtml(String html, String own) {
        String folded = QuotedEnd.folded(html.replace("LONG", LONG));
        var document = Jsoup.parse(folded);
        assertThat(signs(folded)).as("nothing is lost").isEqualTo(signs(html.replace("LONG", LONG)));
        document.select("details.quoted").remove();
        assertThat(document.text()).isEqualTo(own.replace("LONG", LONG));
    }

    /** All that is read, without blanks and without the word for what is folded. */
    private static String signs(String html) {
        return Jsoup.parse(html).text().replace("quoted text", "").replaceAll("\\s+", "");
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void nothingIsLostWhateverItIs(long seed) {
        Random random = new Random(seed);
        List<String> lines = List.of("> " + LONG, ">", "", "Yes.", "Anna wrote:", ">> x", " > y");
        List<String> tags =
                List.of("<blockquote>", "</blockquote>", "<div>", "</div>", "<p>", "</p>", "<br>", LONG, "x:", "<img>");
        for (int i = 0; i < 400; i++) {
            String text = random.ints(random.nextInt(9), 0, lines.size())
                    .mapToObj(lines::get)
                    .collect(Collectors.joining("\n"));
            int at = QuotedEnd.in(text);
            assertThat(at).isBetween(0, text.length());
            assertThat(at == text.length() || !text.substring(0, at).isBlank())
                    .as(text)
                    .isTrue();
            String html = random.ints(random.nextInt(14), 0, tags.size())
                    .mapToObj(tags::get)
                    .collect(Collectors.joining());
            assertThat(signs(QuotedEnd.folded(html))).as(html).isEqualTo(signs(html));
        }
    }

    @Test
    @Timeout(20)
    void whatIsVeryLongOrDeep() {
        assertThatNoException().isThrownBy(() -> {
            QuotedEnd.in("\n".repeat(2_000_000));
            QuotedEnd.in("> x\n".repeat(500_000));
            QuotedEnd.folded("x" + "<blockquote>".repeat(50_000) + LONG);
            QuotedEnd.folded(
                    "x" + "<blockquote>".repeat(2) + LONG + "</blockquote></blockquote>" + "<br>".repeat(200_000));
        });
    }
}
