package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class BookRunTest {
    private static final long INBOX = 1;

    private static Rule rule(long id, boolean on, Condition condition, Effect... then) {
        return new Rule(id, "Rule " + id, on, List.of(condition), List.of(), List.of(then), false);
    }

    private static Effect into(long folder) {
        return new Effect.FileInto(new FolderRef(folder, FolderPath.parse("Folder " + folder)));
    }

    private static State in(long folder) {
        return new State(folder, true, false, null, Set.of());
    }

    @Test
    void figuresAndConflictsOfAllRules() {
        BookRun run = new BookRun(new RuleBook(List.of(
                rule(1, true, Text.subject("loan"), into(7)),
                rule(2, true, Correspondent.sender("quay.example"), into(8), new Effect.Flag(true)),
                rule(3, true, Text.subject("crate"), into(7)),
                rule(4, false, Text.subject("loan"), into(9)))));
        for (long id = 1; id <= 5; id++) {
            assertThat(run.look(id, message("Loan of a crate"), in(INBOX)))
                    .as("what changes something: the folder by the first, the flag by the second")
                    .extracting(Verdict.Hit::number)
                    .containsExactly(1, 2);
        }
        run.look(6, message("Lunch"), in(INBOX));
        run.look(7, message("Lunch"), new State(8, true, true, null, Set.of()));
        run.look(8, message("Loan"), new State(7, true, true, null, Set.of()));

        assertThat(run.findings().seen()).isEqualTo(8);
        assertThat(run.findings().changed()).isEqualTo(6);
        assertThat(run.findings().lines()).extracting(BookRun.BookLine::takes).containsExactly(6, 8, 5, 0);
        assertThat(run.findings().lines()).extracting(BookRun.BookLine::changes).containsExactly(5, 6, 0, 0);
        assertThat(run.findings().lines().get(0).conflicts()).isEmpty();
        assertThat(run.findings().lines().get(1).conflicts()).hasEntrySatisfying(1, conflict -> {
            assertThat(conflict.messages()).isEqualTo(6);
            assertThat(conflict.examples()).containsExactly(1L, 2L, 3L);
        });
        assertThat(run.findings().lines().get(2).conflicts())
                .as("it wants the same folder")
                .isEmpty();
    }

    private static Message message(String subject) {
        return Message.from(1, new Address("", "anna@quay.example"), subject).build();
    }
}
