package app.schublade.store.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SecretsTest {
    @Test
    void secretsOpenOnlyWithTheirKeyAndUnchanged(@TempDir Path directory) throws Exception {
        Path key = directory.resolve("inside/key");
        Secrets secrets = new Secrets(key, List.of());
        byte[] sealed = secrets.seal("pässword");
        assertThat(new Secrets(key, List.of(sealed)).open(sealed)).isEqualTo("pässword");
        assertThat(secrets.seal("pässword")).isNotEqualTo(sealed);
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(key)))
                .isEqualTo("rw-------");
        sealed[15] ^= 1;
        assertThatThrownBy(() -> secrets.open(sealed)).hasMessageContaining("right key file");
        Secrets others = new Secrets(directory.resolve("other"), List.of());
        assertThatThrownBy(() -> others.open(secrets.seal("x"))).hasMessageContaining("right key file");
        Files.writeString(key, "c2hvcnQ=");
        assertThatThrownBy(() -> new Secrets(key, List.of())).hasMessageContaining("holds 5 bytes, not 32");
    }
}
