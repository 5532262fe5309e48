package app.schublade.core.query;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.Marked;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FlagRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.query.SearchWorld.NameKind;
import app.schublade.core.query.SearchWorld.Named;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The table of {@code docs/find.md}, and what holds for everything that can be typed. */
class FindExamplesTest {
    private static final Pattern ROW = Pattern.compile("\\| `(.*)` \\| ?(.*?) ?\\|");

    private static final SearchWorld WORLD = new SearchWorld(
            LocalDate.of(2026, 3, 4),
            List.of(
                    folder(1, "Loans", false),
                    folder(2, "Loans/Halden", false),
                    folder(3, "Trash", true),
                    new Named(
                            NameKind.LABEL,
                            "4",
                            List.of("Objects / Sails", "Sails"),
                            "Objects / Sails",
                            new Query.Meets(new Marked(
                                    List.of(new LabelRef(4, FolderPath.parse("Objects/Sails"))), List.of(), false)),
                            null,
                            false),
                    Named.of(
                            NameKind.CATEGORY,
                            "5",
                            "Soon",
                            new Query.Meets(new Marked(List.of(), List.of(new CategoryRef(5, "Soon")), false))),
                    new Named(
                            NameKind.ACCOUNT,
                            "6",
                            List.of("Museum", "MU"),
                            "Museum",
                            new Query.Meets(new InAccount(List.of(new InAccount.Ref(6, "Museum")))),
                            null,
                            false),
                    Named.of(NameKind.FLAG, "7", "To pay", new Query.FlaggedAs(new FlagRef(7, "To pay"))),
                    Named.of(NameKind.GROUP, "Lenders", "Lenders", Query.everything())),
            new Query.InFolder(new FolderRef(9, FolderPath.parse("Sent"))));

    private static Named folder(long id, String path, boolean outOfSight) {
        FolderPath parsed = FolderPath.parse(path);
        Query in = new Query.InFolder(new FolderRef(id, parsed));
        return new Named(
                NameKind.FOLDER,
                String.valueOf(id),
                List.of(parsed.shown(), parsed.name()),
                parsed.shown(),
                in,
                in,
                outOfSight);
    }

    static Stream<Arguments> examples() throws IOException {
        return Files.readAllLines(Path.of("../docs/find.md")).stream()
                .map(ROW::matcher)
                .filter(java.util.regex.Matcher::matches)
                .map(row -> Arguments.of(row.group(1), row.group(2)));
    }

    @ParameterizedTest
    @MethodSource("examples")
    void whatIsTypedIsUnderstoodAsTheTableSays(String typed, String understood) {
        assertThat(SearchReader.read(typed, WORLD).sentence()).isEqualTo(understood);
    }

    @Test
    void thereAreExamples() throws IOException {
        assertThat(examples()).hasSizeGreaterThan(60);
    }

    private static List<String> pieces() throws IOException {
        List<String> pieces =
                new ArrayList<>(List.of("or", "not", "-", "\"", "from", "in", "to", "“", " ", "\u0000", "the", "last"));
        examples().forEach(one -> pieces.add((String) one.get()[0]));
        return pieces;
    }

    @ParameterizedTest
    @MethodSource("examples")
    void aTermThatIsTurnedRoundTwiceIsAsBefore(String typed) {
        Search search = SearchReader.read(typed, WORLD);
        assumeThat(search.terms()).hasSize(1);
        Search turned = SearchReader.read(search.turned(search.terms().get(0)), WORLD);
        assertThat(turned.terms()).singleElement().satisfies(term -> {
            assertThat(term.wanted()).isNotEqualTo(search.terms().get(0).wanted());
            assertThat(term.query()).isEqualTo(search.terms().get(0).query());
        });
        assertThat(SearchReader.read(turned.turned(turned.terms().get(0)), WORLD)
                        .query())
                .isEqualTo(search.query());
    }

    /** Whatever is typed: terms lie one behind the other in the text; each can be taken back and out. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void everyTermCanBeTakenBackAndOut(long seed) throws IOException {
        Random random = new Random(seed);
        List<String> pieces = pieces();
        int understood = 0;
        for (int i = 0; i < 800; i++) {
            StringBuilder typed = new StringBuilder();
            for (int parts = 1 + random.nextInt(5); parts > 0; parts--) {
                typed.append(pieces.get(random.nextInt(pieces.size()))).append(random.nextInt(8) == 0 ? "" : " ");
            }
            Search search = SearchReader.read(typed.toString(), WORLD);
            int end = 0;
            for (Search.SearchTerm term : search.terms()) {
                assertThat(term.start()).as("%s", typed).isGreaterThanOrEqualTo(end);
                end = term.end();
                if (term.isUnderstood()) {
                    understood++;
                    assertThat(understoodIn(search.asWords(term)))
                            .as("%s without %s", typed, term.said())
                            .isLessThan(understoodIn(search.typed()));
                }
                assertThat(search.without(term))
                        .as("%s without %s", typed, term.said())
                        .isNotEqualTo(search.typed());
            }
            assertThat(SearchReader.read(search.typed(), WORLD).query()).isEqualTo(search.query());
        }
        assertThat(understood).isGreaterThan(300);
    }

    private static long understoodIn(String typed) {
        return SearchReader.read(typed, WORLD).terms().stream()
                .filter(Search.SearchTerm::isUnderstood)
                .count();
    }

    @Test
    void whatIsOutOfSightIsFoundWhenItIsAskedFor() {
        Search search = SearchReader.read("crates", WORLD);
        assertThat(search.query().sentence()).isEqualTo("with “crates” and not (in Trash)");
        assertThat(search.leftOut().sentence()).isEqualTo("with “crates” and (in Trash)");
        assertThat(SearchReader.read("crates in trash", WORLD).leavesOut()).isFalse();
    }

    /** Whatever a saved search names is found by the name that it had then. */
    @Test
    void namesMeanWhatTheyMeantWhenASearchWasSaved() {
        Search saved = SearchReader.read("crates in loans -in soon", WORLD);
        SearchWorld later = new SearchWorld(
                WORLD.today(), List.of(folder(1, "Lending/Out", false), folder(7, "Loans", false)), WORLD.sent());
        Search opened = SearchReader.read(saved.typed(), later.asOf(saved.references()));
        assertThat(opened.query().sentence())
                .isEqualTo("with “crates” and in Lending / Out and not (nowhere) and not (nowhere)");
        assertThat(opened.withNamesOfNow()).isEqualTo("crates in \"Lending / Out\" -in soon");
        assertThat(opened.sentence()).isEqualTo("with “crates”, in Lending / Out, not in Soon (deleted)");
        assertThat(SearchReader.read("in loans", later).query().sentence()).startsWith("in Loans ");
    }

    @Test
    void anOrWithNothingBesideItGoesWithWhatStoodThere() {
        Search search = SearchReader.read("from anna or crates or in loans", WORLD);
        assertThat(search.without(search.terms().get(0))).isEqualTo("crates or in loans");
        assertThat(search.without(search.terms().get(1))).isEqualTo("from anna or in loans");
        assertThat(search.without(search.terms().get(2))).isEqualTo("from anna or crates");
        assertThat(search.changed(search.terms().get(0), "from ben")).isEqualTo("from ben or crates or in loans");
    }

    @Test
    void aFurtherTermIsOneOfEachAlternative() {
        Search search = SearchReader.read(" crates from anna or  sails ", WORLD);
        assertThat(search.narrowed("in Loans")).isEqualTo("crates from anna in Loans or sails in Loans");
    }

    /** Long, or made to take long. */
    @Test
    void whateverIsTypedTakesNoTimeToRead() {
        for (String piece : List.of("\"", "-", "in ", "from ", "or ", "a", "last ", "12.3. to ", "\"a", "not ")) {
            assertThat(SearchReader.read(piece.repeat(200_000), WORLD).terms().size())
                    .isLessThan(100);
        }
    }
}
