package app.schublade.store.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import app.schublade.testing.Cabinet;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** What is said of a problem with the database by what was thrown. */
@ExtendWith(Cabinet.Extension.class)
class DatabaseTest {
    private final Cabinet cabinet;

    DatabaseTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    /** At the first statement of a transaction or after others, which then cannot be rolled back. */
    @ParameterizedTest
    @ValueSource(ints = {0, 1, 3})
    void aConnectionThatIsCutInATransactionIsBroken(int statements) {
        TransactionTemplate transaction = new TransactionTemplate(cabinet.bean(PlatformTransactionManager.class));
        Throwable cut = catchThrowable(() -> transaction.executeWithoutResult(status -> {
            for (int i = 0; i < statements; i++) {
                ask("select 1");
            }
            ask("select pg_terminate_backend(pg_backend_pid())");
        }));
        assertThat(Database.isBroken(cut)).as(String.valueOf(cut)).isTrue();
        assertThat(Database.isAway(cut)).isFalse();
        assertThat(Database.hasNoRoom(cut)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(strings = {"select 1 / 0", "select nothing", "insert into label (user_id, path) values (-1, 'x')"})
    void aMistakeIsNone(String statement) {
        Throwable mistake = catchThrowable(() -> ask(statement));
        assertThat(mistake).isNotNull();
        assertThat(Database.isBroken(mistake)).isFalse();
    }

    private void ask(String statement) {
        cabinet.jdbc.sql(statement).query().listOfRows();
    }
}
