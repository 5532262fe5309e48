package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class NarrowingTest {
    private static Message from(String sender, String subject, Trait... traits) {
        return Message.from(1, new Address("", sender), subject)
                .sentTo(List.of("loans@quay.example"), List.of("loans@quay.example"))
                .traits(Set.of(traits))
                .build();
    }

    private static String sparing(Message message, Message... others) {
        return Narrowing.sparing(message, List.of(others))
                .map(one -> "%s, %d of %d".formatted(one.exception().sentence(), one.sparedToo(), one.others()))
                .orElse("nothing");
    }

    @Test
    void theSenderIsEnoughWhereNobodyElseIsSpared() {
        assertThat(sparing(from("ben@wharf.example", "Loan"), from("anna@wharf.example", "Loan")))
                .isEqualTo("from ben@wharf.example, 0 of 1");
        assertThat(sparing(from("ben@wharf.example", "Loan"))).isEqualTo("from ben@wharf.example, 0 of 0");
    }

    @Test
    void ofOneSenderWhatTellsTheMessageFromTheOthers() {
        Message robot = from("anna@wharf.example", "Loan of a crate", Trait.AUTOMATED);
        assertThat(sparing(robot, from("anna@wharf.example", "Loan of a crate")))
                .isEqualTo("automated mail, 0 of 1");
        assertThat(sparing(
                        from("anna@wharf.example", "Loan 17: the invoice"),
                        from("anna@wharf.example", "Loan 18: the crate"),
                        from("anna@wharf.example", "Loan 19: the courier")))
                .isEqualTo("subject has “invoice”, 0 of 2");
    }

    @Test
    void theFewestOthersAreSparedAndThatIsCounted() {
        assertThat(sparing(
                        from("anna@wharf.example", "Loan"),
                        from("anna@wharf.example", "Loan"),
                        from("ben@wharf.example", "Loan")))
                .isEqualTo("from anna@wharf.example, 1 of 2");
    }

    @Test
    void nothingIsOfferedForWhatIsLikeAllOthers() {
        Message one = from("anna@wharf.example", "Loan");
        assertThat(sparing(one, one, one)).isEqualTo("nothing");
    }
}
