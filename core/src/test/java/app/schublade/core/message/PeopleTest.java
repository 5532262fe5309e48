package app.schublade.core.message;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PeopleTest {
    private static final People PEOPLE = new People(
            Set.of("anna@wharf.example", "halden.example"),
            Map.of("wharf.example", Set.of("Lenders"), "anna@wharf.example", Set.of("Couriers")));

    @ParameterizedTest
    @CsvSource({
        "Anna@Wharf.example, true, Couriers+Lenders",
        "ben@wharf.example, false, Lenders",
        "x@halden.example, true, ''",
        "x@sub.halden.example, false, ''"
    })
    void addressesAndDomainsAreKnown(String address, boolean key, String groups) {
        Address sender = new Address("Anna", address);
        assertThat(PEOPLE.isKey(sender)).isEqualTo(key);
        assertThat(String.join("+", PEOPLE.groupsOf(sender))).isEqualTo(groups);
        assertThat(PEOPLE.with(Set.of(Trait.TO_ME), sender))
                .isEqualTo(key ? Set.of(Trait.TO_ME, Trait.KEY_PERSON) : Set.of(Trait.TO_ME));
    }

    @Test
    void whatIsTypedIsReadAsPeopleWriteIt() {
        assertThat(People.value(" Anna@Wharf.example ")).isEqualTo("anna@wharf.example");
        assertThat(People.value("@wharf.example")).isEqualTo("wharf.example");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "anna", "anna@", "a b@wharf.example", "a@b@wharf.example", "wharf."})
    void whatIsNeitherIsRefused(String typed) {
        assertThatThrownBy(() -> People.value(typed))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("neither an address nor a domain");
    }
}
