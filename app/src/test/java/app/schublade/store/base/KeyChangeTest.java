package app.schublade.store.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.testing.Cabinet;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** What is sealed can always be opened with the key that lies there, or the start says which one is missing. */
@ExtendWith(Cabinet.Extension.class)
class KeyChangeTest {
    private final Cabinet cabinet;
    private final TransactionTemplate transaction;
    private final Database database;

    @TempDir
    Path directory;

    KeyChangeTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        transaction = new TransactionTemplate(cabinet.bean(PlatformTransactionManager.class));
        database = cabinet.bean(Database.class);
    }

    private Path key() {
        return directory.resolve("key");
    }

    @BeforeEach
    void twoAccounts() throws IOException {
        cabinet.jdbc.sql("delete from app_user").update();
        Secrets secrets = new Secrets(key(), List.of());
        long user = cabinet.user();
        for (String code : List.of("AA", "BB")) {
            long account = cabinet.account(user, code).id();
            cabinet.jdbc
                    .sql("update account set secret = ? where id = ?")
                    .params(secrets.seal("password of " + code), account)
                    .update();
        }
    }

    private List<String> opened() throws IOException {
        Secrets secrets = new Secrets(key(), database);
        return database.sealed().stream().map(secrets::open).sorted().toList();
    }

    private List<String> files() throws IOException {
        try (Stream<Path> files = Files.list(directory)) {
            return files.map(file -> file.getFileName().toString().replaceAll("\\d", "0"))
                    .sorted()
                    .toList();
        }
    }

    @Test
    void anotherKeyOpensTheSame() throws IOException {
        String before = Files.readString(key());
        KeyChange.change(cabinet.jdbc, transaction, key());
        assertThat(opened()).containsExactly("password of AA", "password of BB");
        assertThat(Files.readString(key())).isNotEqualTo(before);
        assertThat(files()).containsExactly("key", "key.until-00000000-000000-000");
        assertThat(Files.getPosixFilePermissions(key())).hasSize(2);
    }

    @Test
    void aChangeThatWasCutOffBeforeItsKeyTookItsPlaceIsEnded() throws IOException {
        Path old = Files.copy(key(), directory.resolve("old"));
        KeyChange.change(cabinet.jdbc, transaction, key());
        Files.move(key(), KeyChange.next(key()));
        Files.move(old, key(), StandardCopyOption.REPLACE_EXISTING);
        assertThatThrownBy(this::opened)
                .isInstanceOf(StartProblem.class)
                .hasMessageContaining("does not open the accounts' passwords");
        KeyChange.change(cabinet.jdbc, transaction, key());
        assertThat(opened()).containsExactly("password of AA", "password of BB");
    }

    @Test
    void aChangeThatWasCutOffBeforeAnythingWasSealedIsDoneAgain() throws IOException {
        new Secrets(KeyChange.next(key()), List.of());
        assertThat(opened()).hasSize(2);
        KeyChange.change(cabinet.jdbc, transaction, key());
        assertThat(opened()).containsExactly("password of AA", "password of BB");
    }

    @Test
    void withoutTheKeyNothingStarts() throws IOException {
        Files.delete(key());
        assertThatThrownBy(() -> new Secrets(key(), database)).isInstanceOfSatisfying(StartProblem.class, problem -> {
            FailureAnalysis told = Objects.requireNonNull(
                    new StartFailures().analyze(new IllegalStateException("Bean secrets", problem)));
            assertThat(told.getDescription()).contains("is gone: " + key());
            assertThat(told.getAction()).contains("Restore it there");
        });
        assertThat(Files.exists(key())).as("none is made").isFalse();
        Files.writeString(key(), "no key at all");
        assertThatThrownBy(() -> new Secrets(key(), database)).hasMessageContaining("bytes, not 32");
    }

    @Test
    void oneSpoiltPasswordStopsNobody() throws IOException {
        cabinet.jdbc
                .sql("update account set secret = set_byte(secret, 20, get_byte(secret, 20) # 1) where code = 'AA'")
                .update();
        Secrets secrets = new Secrets(key(), database);
        assertThat(database.sealed().stream().filter(one -> opens(secrets, one)))
                .hasSize(1);
    }

    private static boolean opens(Secrets secrets, byte[] sealed) {
        try {
            return secrets.open(sealed).startsWith("password");
        } catch (IllegalStateException e) {
            return false;
        }
    }
}
