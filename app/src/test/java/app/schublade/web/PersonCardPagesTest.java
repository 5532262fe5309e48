package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.FolderPath;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.web.util.UriComponentsBuilder;

@ExtendWith(Office.Extension.class)
class PersonCardPagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Account account;

    PersonCardPagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU", "loans@quay.example");
    }

    private static Document card(Browser asking, String address) {
        return asking.get(UriComponentsBuilder.fromPath("/people/card")
                        .queryParam("address", "{address}")
                        .build(address)
                        .toString())
                .page();
    }

    private long letter(String from, String subject) {
        return cabinet.arrives(account, TestMail.from(from, subject).to("loans@quay.example"));
    }

    @Test
    void tellsWhatThereIsOfTheMailWithSomebody() {
        cabinet.people.markKey(person.id(), "anna@wharf.example", true);
        List<Long> letters = new ArrayList<>();
        for (int i = 1; i <= 7; i++) {
            letters.add(letter("Anna Grebe <anna@wharf.example>", "Letter " + i));
        }
        letter("Anna Grebe <a.grebe@home.example>", "From home");
        letter("Ben <ben@wharf.example>", "Of somebody else");
        cabinet.arrives(
                account, cabinet.mailbox(account, "Junk"), TestMail.from("anna@wharf.example", "Nothing of hers"));
        long sent = cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from("loans@quay.example", "To her")
                        .to("anna@wharf.example")
                        .at(Instant.now()));
        long label =
                cabinet.places.label(person.id(), FolderPath.parse("Crates")).id();
        cabinet.filing.act(person.id(), Cause.HAND, "Label", letters.subList(0, 2), state -> state.with(label, true));
        cabinet.index.index(account.id(), 100);

        Document card = card(browser, "Anna@Wharf.example");
        assertThat(card.select("h2").text()).isEqualTo("Anna Grebe");
        assertThat(card.select("#place-menu").attr("aria-label")).isEqualTo("Anna Grebe");
        assertThat(card.text())
                .contains("anna@wharf.example", "key person", "7 received since", ", 1 sent")
                .doesNotContain("Nothing of hers", "somebody else");
        assertThat(card.select("ul a")).as("the latest alone").hasSize(5);
        assertThat(card.select("ul a[href='/message/" + sent + "']")).hasSize(1);
        assertThat(card.select("a[href='/mail/label/" + label + "'] + small").text())
                .isEqualTo("2");
        assertThat(card.select("a[href^=/mail/folder/] + small").text()).isEqualTo("7");
        assertThat(browser.get(card.select("a:contains(All mail)").attr("href"))
                        .page()
                        .select("#rows .row"))
                .as("what the card counts is what the search finds")
                .hasSize(8);
        assertThat(card(new Browser(office, office.person()), "anna@wharf.example")
                        .text())
                .contains("There is no mail with this person here yet.");
    }

    @Test
    void aLetterToSomebodyBeginsWithTheAddress() {
        String address = browser.post("/write", "to", "anna@wharf.example").header("Location");
        assertThat(browser.get(address).page().select("[name=to]").val()).isEqualTo("anna@wharf.example");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " ", "nobody", "%", "a\"b<script>@x.example", "ä@ö.example", "a,b;c@d"})
    void whateverIsAskedFor(String address) {
        Browser.Answer answer = browser.get(UriComponentsBuilder.fromPath("/people/card")
                .queryParam("address", "{address}")
                .build(address)
                .toString());
        assertThat(answer.status()).isEqualTo(200);
        assertThat(answer.page().select("script")).isEmpty();
    }
}
