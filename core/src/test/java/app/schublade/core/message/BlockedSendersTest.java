package app.schublade.core.message;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Whom a blocked address, or a blocked domain, keeps away. */
@Timeout(10)
class BlockedSendersTest {
    private static final BlockedSenders BLOCKED =
            new BlockedSenders(Set.of("spam@shop.example", "adverts.example", "anna@adverts.example"));

    @ParameterizedTest
    @CsvSource({
        "spam@shop.example, false, spam@shop.example",
        "SPAM@Shop.Example, false, spam@shop.example",
        "spam@shop.example, true, spam@shop.example",
        "other@shop.example, false, ",
        "x@adverts.example, false, adverts.example",
        "x@news.adverts.example, false, adverts.example",
        "x@badadverts.example, false, ",
        "x@adverts.example.wharf.example, false, ",
        "x@adverts.example, true, ",
        "anna@adverts.example, true, anna@adverts.example",
        "'', false, ",
        "x@..., false, ",
        "x@example, false, ",
    })
    void who(String address, boolean keyPerson, String by) {
        assertThat(BLOCKED.by(new Address("", address), keyPerson)).isEqualTo(by);
        assertThat(BlockedSenders.NOBODY.by(new Address("", address), keyPerson))
                .isNull();
    }

    @Test
    void aDomainOfNothingButDotsTakesNoTime() {
        assertThat(BLOCKED.by(new Address("", "x@" + ".a".repeat(500_000)), false))
                .isNull();
    }
}
