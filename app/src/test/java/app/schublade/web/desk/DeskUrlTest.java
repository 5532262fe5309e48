package app.schublade.web.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import app.schublade.core.query.Filter;
import app.schublade.store.place.Places;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DeskUrlTest {
    private static final DeskUrl INBOX = new DeskUrl("/mail/inbox", null, ListFilter.NONE, false, null);
    private static final DeskUrl MUSEUM = new DeskUrl("/mail/inbox", "MU", ListFilter.NONE, false, null);

    private static final Places NO_PLACES = new Places(List.of(), List.of(), List.of(), List.of(), List.of());

    private static ListFilter filtered(Filter filter) {
        return new ListFilter(Set.of(filter), false, null, null, null);
    }

    @Test
    void categoryLabelAndSenderStandThereToo() {
        DeskUrl address = DeskUrl.parse("/mail/inbox?from=@Wharf.example&label=3&category=12&unread=on&label=4");
        assertThat(address.here()).isEqualTo("/mail/inbox?unread=on&category=12&label=3&from=wharf.example");
        assertThat(DeskUrl.parse(address.here())).isEqualTo(address);
        assertThat(address.withoutChosen().here()).isEqualTo("/mail/inbox?unread=on");
        assertThat(address.parametersButChosen()).containsExactly(Map.entry("unread", "on"));
        assertThat(DeskUrl.parse("/mail/inbox?label=x&category=-1&from=").isNarrowed())
                .isFalse();
        assertThatThrownBy(() -> DeskUrl.parse("/mail/inbox?from=two+words"))
                .isInstanceOf(InputProblem.class)
                .hasMessageContaining("neither an address nor a domain");
    }

    @Test
    void theOwnFilterStandsThereToo() {
        DeskUrl own = DeskUrl.parse("/mail/inbox?mine=on&files=on&from=wharf.example");
        assertThat(own.here()).isEqualTo("/mail/inbox?files=on&mine=on&from=wharf.example");
        assertThat(own.narrowing().words(NO_PLACES, Set.of(Filter.FLAGGED, Filter.UNREAD)))
                .isEqualTo("with files and either unread or flagged and from wharf.example");
        assertThat(own.withoutChosen().toggleOwn().here()).isEqualTo("/mail/inbox?files=on");
        assertThat(own.whole().here()).isEqualTo("/mail/inbox");
    }

    @Test
    void everythingThatNarrowsStandsInTheAddress() {
        DeskUrl narrow = MUSEUM.toggle(Filter.UNREAD)
                .toggle(Filter.FLAGGED)
                .toggle(Filter.FILES)
                .toggle(Filter.KEY_PEOPLE);
        assertThat(narrow.here()).isEqualTo("/mail/inbox?account=MU&unread=on&flagged=on&files=on&key-people=on");
        assertThat(narrow.narrowing().words(NO_PLACES, Set.of()))
                .isEqualTo("unread and flagged and with files and from key people");
        assertThat(narrow.whole().here()).isEqualTo("/mail/inbox?account=MU");
        assertThat(narrow.toggle(Filter.UNREAD).narrowing().filters())
                .containsOnly(Filter.FLAGGED, Filter.FILES, Filter.KEY_PEOPLE);
        assertThat(INBOX.opening()).isEqualTo("/mail/inbox?open=");
        assertThat(INBOX.toggle(Filter.UNREAD).after("1.2.3", "A & B"))
                .isEqualTo("/mail/inbox?unread=on&after=1.2.3&under=A%20%26%20B");
    }

    @Test
    void wordsAreWrittenSoThatNoneIsLost() {
        DeskUrl found = new DeskUrl("/mail/find", "MU", filtered(Filter.UNREAD), false, "a&b=c {d} 100% ü+#");
        assertThat(found.everywhere()).isEqualTo("/mail/find?words=a%26b%3Dc%20%7Bd%7D%20100%25%20%C3%BC%2B%23");
        assertThat(found.opening()).endsWith("&account=MU&unread=on&open=");
        assertThat(DeskUrl.parse(found.here())).isEqualTo(found);
    }

    @Test
    void onlyItsOwnParametersAreTaken() {
        assertThat(DeskUrl.of("/mail/label/3", Map.of("alone", "on", "open", "7", "to-me", "", "words", "x")))
                .isEqualTo(new DeskUrl("/mail/label/3", null, filtered(Filter.TO_ME), true, null));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "/rules", "https://elsewhere.example/rules?x=1"})
    void whatIsNoListIsRefused(String address) {
        assertThatThrownBy(() -> DeskUrl.parse(address)).isInstanceOf(InputProblem.class);
    }
}
