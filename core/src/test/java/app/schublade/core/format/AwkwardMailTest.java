package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Messages that are awkward to read, each with what a person should see of it in a file beside it. */
class AwkwardMailTest {
    private static final Path COLLECTION = Path.of("src/test/resources/awkward");
    private static final String MESSAGE = ".eml";

    static List<String> names() throws IOException {
        try (Stream<Path> files = Files.list(COLLECTION)) {
            return files.map(file -> file.getFileName().toString())
                    .filter(name -> name.endsWith(MESSAGE))
                    .map(name -> name.substring(0, name.length() - MESSAGE.length()))
                    .sorted()
                    .toList();
        }
    }

    @ParameterizedTest
    @MethodSource("names")
    void isReadAsAPersonShouldSeeIt(String name) throws IOException {
        String seen = Portrait.of(MimeReader.read(Files.readAllBytes(COLLECTION.resolve(name + MESSAGE))));
        assertThat(seen).isEqualTo(Files.readString(COLLECTION.resolve(name + ".txt")));
    }

    @Test
    void isALargeCollection() throws IOException {
        assertThat(names()).hasSizeGreaterThan(250);
    }
}
