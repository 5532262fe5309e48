package app.schublade.core.message;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.words.Fold;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AddressesTest {
    private static final OwnAddresses OWN =
            new OwnAddresses("Tilda@post.example", Set.of("tilda+Shop@post.example", "loans@quay.example"));

    @ParameterizedTest
    @CsvSource({
        "loans@quay.example, loans@quay.example",
        "LOANS@Quay.example, loans@quay.example",
        "tilda+shop@post.example, tilda+shop@post.example",
        "tilda+boats@post.example, tilda@post.example",
        "loans+x@quay.example, loans@quay.example",
        "press@quay.example, ''",
        "+@post.example, ''",
        "'', ''"
    })
    void recognisesItsOwnAddresses(String recipient, String own) {
        assertThat(String.join(" ", OWN.among(List.of(new Address("", recipient)))))
                .isEqualTo(own);
    }

    @ParameterizedTest
    @CsvSource({
        "tilda@post.example, ",
        "tilda@post.example loans@quay.example, loans@quay.example",
        "loans@quay.example tilda@post.example, loans@quay.example"
    })
    void namesTheAliasThatWasUsed(String sentTo, String alias) {
        assertThat(OWN.aliasIn(Arrays.asList(sentTo.split(" ", -1)))).isEqualTo(alias);
    }

    /** What the server delivered to counts whatever its domain; what stands in To only if the domain is the account's. */
    @ParameterizedTest
    @CsvSource({
        "elsewhere@third.example, '', elsewhere@third.example",
        "'', press@quay.example, press@quay.example",
        "'', elsewhere@third.example, ''",
        "tilda+boats@post.example, '', tilda+boats@post.example",
        "TILDA@post.example, loans@quay.example, ''",
        "nobody, '', ''",
    })
    void proposesAddressesThatMayBeItsOwn(String delivered, String sent, String proposed) {
        assertThat(String.join(" ", OWN.candidates(addresses(delivered), addresses(sent))))
                .isEqualTo(proposed);
    }

    @Test
    void whatAPatternCatchesIsAnAliasAndIsNotProposed() {
        OwnAddresses all = new OwnAddresses("tilda@post.example", Set.of("*@quay.example"));
        assertThat(all.among(addresses("Press@quay.example"))).containsExactly("press@quay.example");
        assertThat(all.among(addresses("press@sub.quay.example"))).isEmpty();
        assertThat(all.candidates(addresses("press@quay.example"), List.of())).isEmpty();
    }

    private static List<Address> addresses(String email) {
        return email.isEmpty() ? List.of() : List.of(new Address("", email));
    }

    @Test
    void addressesHaveADomainAndSomethingToShow() {
        assertThat(new Address("", "a@B.Example").domain()).isEqualTo("b.example");
        assertThat(new Address("", "nobody").domain()).isEmpty();
        assertThat(new Address(" ", "a@b.example").shown()).isEqualTo("a@b.example");
        assertThat(Address.UNKNOWN.shown()).isEqualTo("Unknown sender");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Re: [rowers] Booking 48213 for 12 Nov 2026 | Booking for",
                "AW: Fwd: RE[2]: Crate sizes, run 2 | Crate sizes run",
                "Your statement for October 2026 | Your statement for",
                "Report | Report",
                "2026-11-03 | ''",
                "Alarm #17: fault in gallery 3 (east) | Alarm fault in gallery east"
            })
    void subjectStemLeavesOutWhatChanges(String subject, String stem) {
        assertThat(SubjectStem.of(subject)).isEqualTo(stem);
    }

    @Test
    void wordsAreWholeAndFolded() {
        assertThat(Fold.words("Überführung: “Condition-report”, PORT, port!"))
                .containsExactly("uberfuhrung", "condition", "report", "port");
    }
}
