package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Messages as documents to be printed. */
@ExtendWith(Office.Extension.class)
class PrintPagesTest {
    private final Cabinet cabinet;
    private final CurrentUser person;
    private final Browser browser;
    private final Browser stranger;
    private final Account account;

    PrintPagesTest(Office office) {
        cabinet = Cabinet.of(office);
        person = office.person();
        browser = new Browser(office, person);
        stranger = new Browser(office, office.person());
        account = cabinet.account(person.id(), "MU");
    }

    @Test
    void aConversationIsPrintedFromItsFirstMessageOn() {
        long last = 0;
        for (int i = 1; i <= 3; i++) {
            last = cabinet.arrives(
                    account,
                    TestMail.from("Halden <office@halden.example>", "Loan")
                            .named("p" + i, "p1")
                            .saying("Part " + i)
                            .at(Cabinet.MORNING.plus(Duration.ofHours(i))));
        }
        Document alone = browser.get("/message/" + last + "/print").page();
        assertThat(alone.select("article")).hasSize(1);
        assertThat(alone.select("dl").text()).contains("From Halden, office@halden.example", "To me@quay.example");
        Document all =
                browser.get("/message/" + last + "/print?conversation=true").page();
        assertThat(all.select(".words").eachText()).containsExactly("Part 1", "Part 2", "Part 3");
        assertThat(stranger.get("/message/" + last + "/print").status()).isEqualTo(404);
    }

    @Test
    void whatOthersWroteCanDoNothingOnPaperToo() {
        long message = cabinet.arrives(account, """
                From: a@wharf.example
                Subject: <script>alert(1)</script>
                Content-Type: text/html

                <p onclick="x()">Hello <a href="https://wharf.example/loan">there</a></p><script>alert(2)</script>
                <img src="https://outside.example/pixel.png"><form action="/logout"><input name="a"></form>
                """.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8));
        Browser.Answer answer = browser.get("/message/" + message + "/print");
        Document page = answer.page();
        assertThat(page.select("script, form, input, [onclick], img")).isEmpty();
        assertThat(page.select(".mail a").attr("href")).isEqualTo("https://wharf.example/loan");
        assertThat(page.select("h1").text()).isEqualTo("<script>alert(1)</script>");
        assertThat(answer.header("Content-Security-Policy"))
                .startsWith("default-src 'none'")
                .doesNotContain("allow-scripts");
    }
}
