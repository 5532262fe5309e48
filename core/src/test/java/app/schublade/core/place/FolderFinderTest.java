package app.schublade.core.place;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FolderFinderTest {
    private static final List<FolderPath> ALL = Stream.of(
                    "Courier & customs",
                    "Exhibition 2027",
                    "Loans",
                    "Loans/Halden Foundation",
                    "Loans/Kestrel Island",
                    "Schools",
                    "Größe",
                    "Travel/Halle")
            .map(FolderPath::parse)
            .toList();

    @ParameterizedTest
    @CsvSource({
        "hal, Travel/Halle",
        "halden, Loans/Halden Foundation",
        "sch, Schools",
        "SCHOOLS, Schools",
        "kes, Loans/Kestrel Island",
        "2027, Exhibition 2027",
        "cust, Courier & customs",
        "grosse, Größe",
        "grösse, Größe",
        "loans, Loans"
    })
    void aFewLettersFindTheFolderOneMeans(String letters, String first) {
        List<FolderPath> found = FolderFinder.find(ALL, Function.identity(), letters, 8);
        assertThat(found).extracting(FolderPath::toString).contains(first);
    }

    @Test
    void nothingTypedOffersTheFirstFewAndNonsenseNothing() {
        assertThat(FolderFinder.find(ALL, Function.identity(), "", 3)).hasSize(3);
        assertThat(FolderFinder.find(ALL, Function.identity(), "zzqx", 8)).isEmpty();
        assertThat(FolderFinder.find(ALL, Function.identity(), "loans", 1)).containsExactly(FolderPath.parse("Loans"));
    }
}
