package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.outgoing.SavedTextStore;
import app.schublade.store.outgoing.SavedTextStore.SavedText;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

@ExtendWith(Office.Extension.class)
class SavedTextPagesTest {
    private final Office office;
    private final CurrentUser person;
    private final Browser browser;
    private final SavedTextStore texts;

    SavedTextPagesTest(Office office) {
        this.office = office;
        person = office.person();
        browser = new Browser(office, person);
        texts = office.bean(SavedTextStore.class);
        Cabinet.of(office).account(person.id(), "MU");
    }

    private SavedText only() {
        assertThat(texts.of(person.id())).hasSize(1);
        return texts.of(person.id()).get(0);
    }

    @Test
    void areKeptChangedDeletedAndBroughtBack() {
        browser.post("/texts", "name", " Opening hours ", "body", "We are open.");
        assertThat(only().name()).isEqualTo("Opening hours");
        assertThat(browser.post("/texts", "name", "opening HOURS", "body", "x").notice())
                .contains("There is a text called “opening HOURS” already.");
        assertThat(browser.post("/texts", "name", " ", "body", "x").notice()).contains("Give it a name");
        assertThat(browser.post("/texts", "name", "x".repeat(61), "body", "x").notice())
                .contains("Give it a name");
        assertThat(browser.post("/texts", "name", "x", "body", "y".repeat(20_001))
                        .notice())
                .contains("20,000");
        assertThat(browser.post("/texts", "name", "x\0", "body", "y").status()).isEqualTo(422);
        String address = "/texts/" + only().id();
        browser.post(address, "name", "Hours", "body", "We are open on {day}.");
        assertThat(browser.get("/texts")
                        .page()
                        .select("textarea")
                        .get(0)
                        .wholeText()
                        .strip())
                .isEqualTo("We are open on {day}.");

        Browser other = new Browser(office, office.person());
        other.post(address, "name", "Mine", "body", "z");
        other.post(address + "/remove");
        assertThat(other.get(address + "/filled").status()).isEqualTo(404);
        assertThat(only().name()).isEqualTo("Hours");

        browser.post(address + "/remove");
        assertThat(texts.of(person.id())).isEmpty();
        browser.post("/undo");
        assertThat(only().body()).isEqualTo("We are open on {day}.");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Anna Grebe <anna@wharf.example> | Dear Anna,",
                "\"Grebe, Anna\" <anna@wharf.example>, Ben <ben@wharf.example> | Dear Anna,",
                "anna@wharf.example | Dear {name},",
                "Anna <an | Dear {name},",
                "'' | Dear {name},",
                "\"<b>x</b>\" <anna@wharf.example> | Dear <b>x</b>,",
            })
    void theNameOfWhomOneWritesToIsPutIn(String to, String filled) {
        texts.add(person.id(), "Letter", "Dear {name},\n\ntoday, {date}, and {other}");
        String answer = browser.get("/texts/meant?letters=le&to="
                        + URLEncoder.encode(to, StandardCharsets.UTF_8).replace("+", "%20"))
                .text();
        assertThat(answer).contains(filled.replace("\"", "\\\""), "{other}").doesNotContain("{date}");
        assertThat(answer).as("what is HTML is none").doesNotContain("<p>Dear <b>");
    }

    @Test
    void aFewLettersMeanTheLikeliest() {
        for (String name : new String[] {"Opening hours", "Open", "Please open it", "Ürün"}) {
            texts.add(person.id(), name, name);
        }
        assertThat(meant("open")).isEqualTo("Open");
        assertThat(meant("opening")).isEqualTo("Opening hours");
        assertThat(meant("it")).isEqualTo("Please open it");
        assertThat(meant("ür")).isEqualTo("Ürün");
        assertThat(meant("x%")).isEmpty();
    }

    private String meant(String letters) {
        return texts.meant(person.id(), letters).map(SavedText::name).orElse("");
    }
}
