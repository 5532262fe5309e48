package app.schublade.store.triage;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.store.act.Acts;
import app.schublade.store.triage.AwaitingStore.Awaited;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What was asked is told of in time, and goes when it is answered: with a clock that is moved. */
@ExtendWith(Cabinet.Extension.class)
class AwaitingStoreTest {
    private static final Instant MONDAY = Cabinet.MORNING;
    private static final String ASKS = "Dear Anna,\nwhen does the boat come?\nTilda";

    private final Cabinet cabinet;
    private final long user;
    private final Account account;

    AwaitingStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        user = cabinet.user();
        account = cabinet.account(user, "MU");
    }

    private AwaitingStore after(int days) {
        Clock clock = Clock.fixed(MONDAY.plus(Duration.ofDays(days)), ZoneOffset.UTC);
        AwaitingStore awaiting = new AwaitingStore(cabinet.jdbc, clock);
        awaiting.look(user, 1000);
        awaiting.tidy(user);
        return awaiting;
    }

    private List<Awaited> open(int days) {
        AwaitingStore awaiting = after(days);
        Instant now = MONDAY.plus(Duration.ofDays(days));
        List<Awaited> open =
                awaiting.of(user).stream().filter(one -> one.isOverdue(now)).toList();
        assertThat(awaiting.count(user)).as("the figure in the cabinet").isEqualTo(open.size());
        return open;
    }

    private TestMail mine(String to, String subject, String text) {
        return TestMail.from(account.address(), subject).to(to).saying(text);
    }

    private long sent(TestMail letter) {
        long message = cabinet.arrives(account, cabinet.mailbox(account, "Sent"), letter);
        cabinet.conversations.join(account.id(), 1000);
        return message;
    }

    private void arrives(TestMail letter) {
        cabinet.arrives(account, letter);
        cabinet.conversations.join(account.id(), 1000);
    }

    @Test
    void aQuestionIsToldOfAfterThreeDaysWithItsReason() {
        long message = sent(mine("anna@wharf.example", "The boat", ASKS));
        assertThat(open(1)).isEmpty();
        assertThat(open(4)).singleElement().satisfies(one -> {
            assertThat(one.message()).isEqualTo(message);
            assertThat(one.asked()).isEqualTo("Dear Anna, when does the boat come?");
            assertThat(one.why()).contains("three days");
        });
    }

    @Test
    void itGoesWhenAnAnswerComesInTheConversationWhoeverWritesIt() {
        sent(mine("anna@wharf.example", "The boat", ASKS).named("q1"));
        arrives(TestMail.from("ben@wharf.example", "Quite another subject")
                .named("a1", "q1")
                .at(MONDAY.plus(Duration.ofDays(2))));
        assertThat(open(5)).isEmpty();
        assertThat(after(5).of(user)).singleElement().satisfies(one -> {
            AwaitingStore.ReceivedAnswer answer = one.answer();
            assertThat(answer).isNotNull();
            assertThat(Objects.requireNonNull(answer).from().email()).isEqualTo("ben@wharf.example");
        });
        assertThat(after(20).of(user)).as("an old answer is history").isEmpty();
    }

    @Test
    void aNewMessageOnTheSameSubjectFromThatPersonAnswersIt() {
        sent(mine("anna@wharf.example", "Delivery of the boat", ASKS).named("q2"));
        arrives(TestMail.from("anna@wharf.example", "Delivery of the boat, at last")
                .at(MONDAY.plus(Duration.ofDays(2))));
        assertThat(open(5)).isEmpty();
        sent(mine("carl@wharf.example", "Invoice for the ropes", ASKS).named("q3"));
        arrives(TestMail.from("carl@wharf.example", "Dinner").at(MONDAY.plus(Duration.ofDays(2))));
        assertThat(open(5)).as("about something else").hasSize(1);
    }

    @Test
    void anAutomaticAnswerIsNone() {
        sent(mine("anna@wharf.example", "The boat", ASKS).named("q4"));
        cabinet.arrives(
                account, """
                From: anna@wharf.example
                To: %s
                Subject: Away: The boat
                Message-ID: <a4@wharf.example>
                References: <q4@quay.example>
                Auto-Submitted: auto-replied

                I am away.
                """.formatted(account.address()).replace("\n", "\r\n").getBytes(StandardCharsets.US_ASCII));
        cabinet.conversations.join(account.id(), 1000);
        assertThat(open(5)).hasSize(1);
    }

    @Test
    void whoUsuallyAnswersSlowlyIsGivenTime() {
        for (int i = 1; i <= 4; i++) {
            Instant then = MONDAY.minus(Duration.ofDays(50 - i));
            sent(mine("slow@wharf.example", "Matter number " + i, "All well.")
                    .named("s" + i)
                    .at(then));
            arrives(TestMail.from("slow@wharf.example", "Re: Matter number " + i)
                    .named("t" + i, "s" + i)
                    .at(then.plus(Duration.ofDays(6))));
        }
        sent(mine("slow@wharf.example", "The boat", ASKS).named("s9"));
        assertThat(open(8)).isEmpty();
        assertThat(open(10))
                .singleElement()
                .satisfies(one -> assertThat(one.why()).contains("within 6 days"));
    }

    @Test
    void whatWasTickedIsToldOfOnItsDayWhetherItAsksOrNot() {
        cabinet.jdbc
                .sql("insert into awaited_ahead (user_id, internet_id, until) values (?, 'ticked@quay.example', ?)")
                .params(user, MONDAY.plus(Duration.ofDays(1)).atOffset(ZoneOffset.UTC))
                .update();
        sent(mine("anna@wharf.example", "The boat", "It is yours.").named("ticked"));
        assertThat(open(0)).isEmpty();
        assertThat(open(2)).hasSize(1);
    }

    @Test
    void nobodyIsAskedBySomethingToManyOrToOneself() {
        sent(mine(account.address(), "Note to myself", ASKS));
        sent(mine("a@x.example, b@x.example, c@x.example, d@x.example, e@x.example, f@x.example", "To all", ASKS));
        sent(mine("anna@wharf.example", "Nothing asked", "All is well."));
        assertThat(open(9)).isEmpty();
    }

    @Test
    void whatIsClosedIsGoneAndComesBackWithItsUndo() {
        long message = sent(mine("anna@wharf.example", "The boat", ASKS));
        AwaitingStore awaiting = after(5);
        cabinet.bean(Acts.class).record(user, "No answer awaited any more", () -> awaiting.close(user, message));
        assertThat(open(5)).isEmpty();
        cabinet.undo.latest(user);
        assertThat(open(5)).hasSize(1);
        assertThat(open(6)).as("looked through once").hasSize(1);
    }
}
