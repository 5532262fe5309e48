package app.schublade.sync;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.Standin;
import app.schublade.store.account.Account;
import app.schublade.testing.Await;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
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

    interface Work {
        void run() throws Exception;
    }

    /** Meanwhile new rows of a table are refused as PostgreSQL does when a file cannot be made larger. */
    private void withoutRoom(String table, String when, Work work) throws Exception {
        cabinet.jdbc.sql("""
                        create or replace function no_room() returns trigger language plpgsql as $$ begin
                            raise exception 'could not extend file: No space left on device' using errcode = '53100';
                        end $$
                        """).update();
        cabinet.jdbc
                .sql("create trigger no_room before insert on %s for each row when (%s) execute function no_room()"
                        .formatted(table, when))
                .update();
        try {
            work.run();
        } finally {
            cabinet.jdbc.sql("drop trigger no_room on " + table).update();
        }
    }

    @Test
    void mailStaysAtItsServerUntilThereIsRoom() throws Exception {
        CurrentUser person = office.person();
        try (Standin hosts = new Standin(Standin.Options.forTests(0))) {
            Account account = office.addAndImport(person, hosts, "MU");
            withoutRoom("message", "new.account_id = " + account.id(), () -> {
                hosts.deliver("anna@wharf.example", account.address(), "A crate", "Hello");
                Await.until("it is told", () -> office.state(account.id()) == Account.AccountState.STUCK);
                assertThat(cabinet.accounts
                                .byId(account.id())
                                .orElseThrow()
                                .status()
                                .trouble())
                        .isEqualTo(
                                "Its mail cannot be stored: the disk of the database is full. It stays at its server meanwhile.");
            });
            Await.until(
                    "it is here",
                    () -> cabinet.jdbc
                            .sql("select count(*) = 1 from message_head where account_id = ? and subject = 'A crate'")
                            .param(account.id())
                            .query(Boolean.class)
                            .single());
            Await.until("connected", () -> office.state(account.id()) == Account.AccountState.CONNECTED);
        }
    }

    /** Where the session cannot be kept, which happens when the page is written already. */
    @Test
    void theLoginSaysItToo() throws Exception {
        withoutRoom("spring_session", "true", () -> {
            HttpResponse<String> answer = HttpClient.newHttpClient()
                    .send(
                            HttpRequest.newBuilder(URI.create(office.address() + "/login"))
                                    .build(),
                            HttpResponse.BodyHandlers.ofString());
            assertThat(answer.body()).contains("<h1>The disk of the database is full</h1>");
            assertThat(answer.statusCode()).isEqualTo(503);
        });
    }
}
