package app.schublade;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.store.base.StartProblem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SettingsCheckTest {
    @TempDir
    Path directory;

    private Path file(String text) throws IOException {
        return Files.writeString(directory.resolve("schublade.properties"), text);
    }

    @Test
    void whatThereIsMayBeSet() throws IOException {
        SettingsCheck.check(file("""
                # a note
                server.port = 9000
                schublade.public-host=mail.quay.example
                server.ssl.key-store=/etc/keys
                logging.level.app.schublade=debug
                """));
        SettingsCheck.check(file(""));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "server.prot=1 | There is no setting server.prot | Is server.port meant?",
                "schublade.public-hosts=a | There is no setting schublade.public-hosts | Is schublade.public-host meant?",
                "colour=red | There is no setting colour | There are: server.port",
                "server.port=many | server.port is “many” | at most 65535",
                "server.port=70000 | server.port is “70000” | at most 65535",
                "a=\\u00 | cannot be read | A line is a name"
            })
    void whatThereIsNotIsToldWithWhatThereIs(String text, String what, String wayOut) throws IOException {
        Path file = file(text);
        assertThatThrownBy(() -> SettingsCheck.check(file)).isInstanceOfSatisfying(StartProblem.class, problem -> {
            assertThat(problem.getMessage()).contains(what, file.toString());
            assertThat(problem.wayOut()).contains(wayOut);
        });
    }

    /** Whoever reads README finds every one of them there, and none that does not exist. */
    @Test
    void theReadmeHasAllOfThem() throws IOException {
        String readme = Files.readString(Path.of("../README.md"));
        for (String name : SettingsCheck.KNOWN) {
            assertThat(readme).contains("`" + name);
        }
    }
}
