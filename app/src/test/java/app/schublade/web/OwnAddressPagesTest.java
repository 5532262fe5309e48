package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.OwnAddresses;
import app.schublade.store.account.Account;
import app.schublade.store.account.AliasStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** An address that one correspondent alone is given, made while one writes. */
@ExtendWith(Office.Extension.class)
class OwnAddressPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final AliasStore aliases;
    private final Account account;
    private final String from;
    private final String draft;

    OwnAddressPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        aliases = office.bean(AliasStore.class);
        account = cabinet.account(person.id(), "MU");
        from = account.id() + " " + account.address();
        draft = browser.post("/write").header("Location");
    }

    private List<AliasStore.Alias> made() {
        return aliases.of(account).stream()
                .filter(alias -> !OwnAddresses.isPattern(alias.address()))
                .toList();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "*@quay.example | Anna <anna@wharf.example>, ben@x.example | wharf-....@quay\\.example | anna@wharf.example",
                "tilda+*@quay.example | anna@wharf.example | tilda\\+wharf-....@quay\\.example | anna@wharf.example",
                "*@quay.example | anna@wh | letter-....@quay\\.example | ''",
                "*@quay.example | '' | letter-....@quay\\.example | ''",
                "*@quay.example | a@averyveryverylongnameofadomain.example | averyveryverylongnam-....@quay\\.example | a@averyveryverylongnameofadomain.example",
            })
    void isMadeFromAPatternAndNotedWithWhomItIsFor(String pattern, String to, String address, String note) {
        aliases.add(account, pattern, "", "");
        assertThat(browser.get(draft).page().select("option[data-makes]")).isNotEmpty();
        Element chosen = browser.postFor("compose-from", draft + "/address", "from", from, "to", to)
                .page()
                .select("#compose-from option[selected]")
                .get(0);
        assertThat(made()).singleElement().satisfies(alias -> {
            assertThat(alias.address()).matches(address);
            assertThat(alias.note()).isEqualTo(note);
            assertThat(chosen.val()).isEqualTo(account.id() + " " + alias.address());
        });
        assertThat(browser.post(draft + "/keep", "from", chosen.val(), "to", "", "cc", "", "subject", "", "body", "x")
                        .status())
                .isEqualTo(200);
        assertThat(browser.get(draft)
                        .page()
                        .select("#compose-from option[selected]")
                        .val())
                .isEqualTo(chosen.val());
        browser.post("/undo");
        assertThat(made()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"''", "*@*.quay.example", "a*b*@quay.example", "tilda@quay.example"})
    void whereNoPatternMakesAddressesThatIsSaid(String alias) {
        if (!alias.isEmpty()) {
            aliases.add(account, alias, "", "");
        }
        assertThat(browser.get(draft).page().select("option[data-makes]")).isEmpty();
        assertThat(browser.post(draft + "/address", "from", from, "to", "anna@wharf.example")
                        .notice())
                .contains("has no pattern such as *@");
    }

    @Test
    void nobodyMakesOneInAnothersAccount() {
        aliases.add(account, "*@quay.example", "", "");
        Browser other = new Browser(office, office.person());
        cabinet.account(office.person().id(), "OT");
        assertThat(other.post(draft + "/address", "from", from, "to", "").status())
                .isEqualTo(404);
        assertThat(made()).isEmpty();
    }
}
