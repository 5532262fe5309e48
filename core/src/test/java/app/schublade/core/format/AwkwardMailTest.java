package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Messages that are awkward to read, each with what a person should see of it in a file beside it. */
class AwkwardMailTest {
    private static final Path COLLECTION = Path.of("src/test/resources/awkward");
    private static final String MESSAGE = ".eml";
    private static final String LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/=:;-";
    private static final int MUCH = 20_000;

    static List<String> names() throws IOException {
        try (Stream<Path> files = Files.list(COLLECTION)) {
            return files.map(file -> file.getFileName().toString())
                    .filter(name -> name.endsWith(MESSAGE))
                    .map(name -> name.substring(0, name.length() - MESSAGE.length()))
                    .sorted()
                    .toList();
        }
    }

    static byte[] source(String name) throws IOException {
        return Files.readAllBytes(COLLECTION.resolve(name + MESSAGE));
    }

    @ParameterizedTest
    @MethodSource("names")
    void isReadAsAPersonShouldSeeIt(String name) throws IOException {
        String seen = Portrait.of(MimeReader.read(source(name)));
        assertThat(seen).isEqualTo(Files.readString(COLLECTION.resolve(name + ".txt")));
    }

    /** Letters for letters, so that what is encoded stays so; now and then any byte. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2})
    void howeverItIsChangedNothingIsThrown(long seed) throws IOException {
        Random random = new Random(seed);
        for (String name : names()) {
            byte[] source = source(name);
            int times = source.length > MUCH ? 1 : name.startsWith("event-") ? 150 : 15;
            for (int i = 0; i < times && source.length > 0; i++) {
                byte[] changed = source.clone();
                for (int k = 1 + random.nextInt(6); k > 0; k--) {
                    changed[random.nextInt(changed.length)] = (byte)
                            (random.nextInt(4) == 0
                                    ? random.nextInt(256)
                                    : LETTERS.charAt(random.nextInt(LETTERS.length())));
                }
                int number = i;
                assertThatCode(() -> MimeReader.read(changed).parts().forEach(Part::size))
                        .as("%s, seed %d, change %d", name, seed, number)
                        .doesNotThrowAnyException();
            }
        }
    }

    @Test
    void isALargeCollection() throws IOException {
        assertThat(names()).hasSizeGreaterThan(250);
    }
}
