package app.schublade.web.triage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.problem.InputProblem;
import app.schublade.core.triage.LookHours;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.triage.DayMailStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import java.time.Instant;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** The day sheet comes by mail to whoever wants it, once at each hour, if there is anything to tell. */
@ExtendWith(Office.Extension.class)
class DayMailTest {
    private final Cabinet cabinet;
    private final DayMailStore mails;
    private final DayMailClock clock;
    private final long user;
    private final Account account;

    DayMailTest(Office office) {
        cabinet = Cabinet.of(office);
        mails = office.bean(DayMailStore.class);
        clock = office.bean(DayMailClock.class);
        user = office.person().id();
        account = cabinet.account(user, "MU");
    }

    private void anHourPasses() {
        cabinet.jdbc
                .sql("update day_mail set sent_at = now() - interval '25 hours' where user_id = ?")
                .param(user)
                .update();
        IntStream.range(0, 3).parallel().forEach(one -> clock.go());
    }

    private List<Outgoing> sent() {
        return cabinet.outgoing.of(user);
    }

    @Test
    void comesOnceWithWhatThereIsToTell() {
        mails.keep(user, account.id(), LookHours.parse("0:00"));
        assertThat(mails.due()).noneMatch(one -> one.userId() == user);
        anHourPasses();
        assertThat(sent()).as("there is nothing to tell").isEmpty();

        cabinet.rules.save(user, cabinet.filing(user, "shop.example", "Shopping"));
        cabinet.arrives(account, TestMail.from("bo@shop.example", "Receipt <1>").at(Instant.now()));
        cabinet.arrives(account, TestMail.from("bo@shop.example", "Receipt 2").at(Instant.now()));
        anHourPasses();
        assertThat(sent()).hasSize(1).allMatch(Outgoing::toSelf);
        ParsedMail mail =
                MimeReader.read(cabinet.sending.source(sent().get(0).id()).orElseThrow());
        assertThat(mail.subject()).startsWith("Day sheet, ");
        assertThat(mail.to()).extracting(one -> one.email()).containsExactly(account.address());
        assertThat(mail.headers().values("Auto-Submitted")).containsExactly("auto-generated");
        assertThat(mail.words())
                .contains(
                        "Done by rules",
                        "- 2 messages filed into Shopping by From shop.example",
                        "- Shopping: 2 messages, 2 unread")
                .doesNotContain("Due today");
        clock.go();
        assertThat(sent()).hasSize(1);

        mails.keep(user, account.id(), LookHours.NONE);
        anHourPasses();
        assertThat(sent()).hasSize(1);
    }

    @Test
    void goesToAnAccountOfOnesOwnAlone() {
        Account other = cabinet.account(cabinet.user(), "CL");
        mails.keep(user, other.id(), LookHours.parse("8"));
        assertThat(mails.of(user)).isEmpty();
        assertThatThrownBy(() -> LookHours.parse("8 o'clock")).isInstanceOf(InputProblem.class);
    }
}
