package app.schublade.store.act;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.testing.Cabinet;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is kept of an act can be put back: a table with the trigger is one that undo knows. */
@ExtendWith(Cabinet.Extension.class)
class KeptTablesTest {
    private final Cabinet cabinet;

    KeptTablesTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    @Test
    void undoKnowsEveryTableOfWhichRowsAreKept() {
        assertThat(cabinet.jdbc
                        .sql("select tgrelid::regclass::text from pg_trigger where tgname = 'row_kept'")
                        .query(String.class)
                        .list())
                .containsExactlyInAnyOrderElementsOf(Arrays.stream(KeptRows.Table.values())
                        .map(KeptRows.Table::sql)
                        .toList());
    }
}
