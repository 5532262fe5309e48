package app.schublade.store.message;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.message.Trait;
import app.schublade.core.query.Query;
import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Messages as rules see them, from what is stored of them. */
@ExtendWith(Cabinet.Extension.class)
class RuleInputStoreTest {
    private final Cabinet cabinet;
    private final long user;
    private final Account account;

    RuleInputStoreTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        user = cabinet.user();
        account = cabinet.account(user, "MU", "loans@quay.example");
    }

    private RuleInputStore.RuleCandidate only(Set<Need> needs) {
        List<RuleInputStore.RuleCandidate> seen = new ArrayList<>();
        cabinet.subjects.forEach(user, Query.everything(), needs, seen::add);
        assertThat(seen).hasSize(1);
        return seen.get(0);
    }

    @Test
    void onlyWhatIsNeededIsRead() {
        cabinet.arrives(
                account, TestMail.from("Robot <no-reply@shop.example>", "Sale").to("loans@quay.example"));
        var bare = only(Set.of()).message();
        assertThat(bare.body()).isEmpty();
        assertThat(bare.headers()).isEmpty();
        assertThat(bare.recipients()).containsExactly("loans@quay.example");
        assertThat(bare.traits()).contains(Trait.TO_ME_ALONE, Trait.AUTOMATED).doesNotContain(Trait.NEW_SENDER);
        assertThat(bare.size()).isPositive();
        var full = only(Set.of(Need.values())).message();
        assertThat(full.body()).isNotBlank();
        assertThat(full.header("Subject")).containsExactly("Sale");
        assertThat(full.traits()).contains(Trait.NEW_SENDER);
    }

    @Test
    void whatWasStoredBeforeThereWereSuchColumnsIsReadAgain() {
        long id = cabinet.arrives(
                account, TestMail.from("Robot <no-reply@shop.example>", "Sale").to("loans@quay.example"));
        cabinet.age(id);
        var message = only(Set.of()).message();
        assertThat(message.traits()).contains(Trait.TO_ME_ALONE, Trait.AUTOMATED);
        assertThat(message.recipients()).containsExactly("loans@quay.example");
    }

    @Test
    void whoIsKnownAndWhatAnswersMineIsToldByOtherMail() {
        cabinet.arrives(account, TestMail.from("anna@wharf.example", "First"));
        cabinet.arrives(account, TestMail.from("anna@wharf.example", "Second"));
        List<Set<Trait>> traits = new ArrayList<>();
        cabinet.subjects.forEach(
                user,
                Query.everything(),
                Set.of(Need.ACQUAINTANCE),
                one -> traits.add(one.message().traits()));
        assertThat(traits).filteredOn(one -> one.contains(Trait.NEW_SENDER)).hasSize(1);
        assertThat(traits).filteredOn(one -> one.contains(Trait.KNOWN_SENDER)).hasSize(1);
    }
}
