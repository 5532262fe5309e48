package app.schublade.store.intake;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

@ExtendWith(Cabinet.Extension.class)
class ConversationStoreTest {
    private final Cabinet cabinet;
    private long user;
    private Account account;

    ConversationStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    @BeforeEach
    void newcomer() {
        user = cabinet.user();
        account = cabinet.account(user, "MU");
    }

    @Test
    void whatArrivesIsInItsConversationAtOnce() {
        long question = arrives("Crates", "q1");
        long other = arrives("Else", "x1");
        long answer = arrives("Re: Crates", "q2", "q1");
        assertThat(conversation(answer)).isEqualTo(conversation(question)).isEqualTo(question);
        assertThat(conversation(other)).isEqualTo(other);
    }

    @Test
    void twoHalvesBecomeOneWhenWhatJoinsThemArrives() {
        long first = arrives("Sail lofts", "h1");
        long third = arrives("Another subject", "h3", "h2");
        assertThat(conversation(third)).isEqualTo(third);
        long second = arrives("Re: Sail lofts", "h2", "h1");
        assertThat(conversation(third))
                .isEqualTo(conversation(second))
                .isEqualTo(conversation(first))
                .isEqualTo(first);
        long fourth = arrives("Yet another", "h4", "h3");
        assertThat(conversation(fourth)).isEqualTo(first);
    }

    @Test
    void twoAccountsOfOneUserShareTheirConversationsAndTwoUsersDoNot() {
        long question = arrives("Tides", "t1");
        Account second = cabinet.account(user, "HO");
        long answer = cabinet.arrives(second, named("Re: Tides", "t2", "t1"));
        long stranger = cabinet.arrives(cabinet.account(cabinet.user(), "MU"), named("Re: Tides", "t2", "t1"));
        assertThat(conversation(answer)).isEqualTo(question);
        assertThat(conversation(stranger)).isEqualTo(stranger);
    }

    @Test
    void whatWasStoredBeforeThereWereConversationsIsJoinedLaterTheOldestFirst() {
        long question = arrives("Ropes", "r1");
        long answer = arrives("Re: Ropes", "r2", "r1");
        long other = arrives("Pulleys", "p1");
        cabinet.jdbc
                .sql("update message set conversation_id = null where user_id = ?")
                .param(user)
                .update();
        cabinet.jdbc
                .sql("delete from conversation_key where user_id = ?")
                .param(user)
                .update();
        assertThat(cabinet.conversations.join(account.id(), 2)).isEqualTo(2);
        assertThat(conversation(other)).isZero();
        assertThat(cabinet.conversations.join(account.id(), 2)).isEqualTo(1);
        assertThat(cabinet.conversations.join(account.id(), 2)).isZero();
        assertThat(conversation(answer)).isEqualTo(conversation(question)).isEqualTo(question);
        assertThat(conversation(other)).isEqualTo(other);
    }

    @Test
    void nothingOfItIsLeftWhenTheUserGoes() {
        arrives("Farewell", "f1");
        assertThat(keys()).isPositive();
        cabinet.jdbc.sql("delete from app_user where id = ?").param(user).update();
        assertThat(keys()).isZero();
    }

    private long arrives(String subject, String id, String... references) {
        return cabinet.arrives(account, named(subject, id, references));
    }

    private static TestMail named(String subject, String id, String... references) {
        return TestMail.from("o@grebe.example", subject).named(id, references);
    }

    private long conversation(long message) {
        return cabinet.jdbc
                .sql("select coalesce(conversation_id, 0) from message where id = ?")
                .param(message)
                .query(Long.class)
                .single();
    }

    private int keys() {
        return cabinet.jdbc
                .sql("select count(*) from conversation_key where user_id = ?")
                .param(user)
                .query(Integer.class)
                .single();
    }
}
