package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.Standin;
import app.schublade.store.Account;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.Person;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The disk of the database is full: nothing is lost, and the account says so. */
@ExtendWith(Office.Extension.class)
class FullDiskTest {
    private final Office office;
    private final Cabinet cabinet;

    FullDiskTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
    }

    /** What PostgreSQL says when a file cannot be made larger, of new messages of one account. */
    private void noRoomFor(Account account) {
        cabinet.jdbc.sql("""
                        create or replace function no_room() returns trigger language plpgsql as $$ begin
                            raise exception 'could not extend file: No space left on device' using errcode = '53100';
                        end $$
                        """).update();
        cabinet.jdbc
                .sql("create trigger no_room before insert on message for each row when (new.account_id = %d)"
                                .formatted(account.id())
                        + " execute function no_room()")
                .update();
    }

    private void roomAgain() {
        cabinet.jdbc.sql("drop trigger no_room on message").update();
    }

    @Test
    void mailStaysAtItsServerUntilThereIsRoom() throws Exception {
        Person person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account account = office.addAndImport(person, hosts, "MU");
            noRoomFor(account);
            try {
                hosts.deliver("anna@wharf.example", account.address(), "A crate", "Hello");
                Await.until("it is told", () -> office.state(account.id()) == Account.State.AWAY);
                assertThat(cabinet.accounts
                                .byId(account.id())
                                .orElseThrow()
                                .status()
                                .trouble())
                        .isEqualTo(
                                "Its mail cannot be stored: the disk of the database is full. It stays at its server meanwhile.");
            } finally {
                roomAgain();
            }
            Await.until(
                    "it is here",
                    () -> cabinet.jdbc
                            .sql("select count(*) = 1 from message_head where account_id = ? and subject = 'A crate'")
                            .param(account.id())
                            .query(Boolean.class)
                            .single());
            Await.until("connected", () -> office.state(account.id()) == Account.State.CONNECTED);
        }
    }
}
