package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.net.URI;
import java.util.List;
import org.jsoup.nodes.Document;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Pictures from outside are fetched when they are wanted, by the server, and nothing else is. */
@ExtendWith(Office.Extension.class)
class PicturePagesTest {
    private final Office office;
    private final Cabinet cabinet;
    private final Browser browser;
    private final Account account;
    private final long circular;

    PicturePagesTest(Office office) {
        this.office = office;
        cabinet = Cabinet.of(office);
        CurrentUser person = office.person();
        browser = new Browser(office, person);
        account = cabinet.account(person.id(), "MU");
        circular = circular("one");
    }

    private long circular(String name) {
        return cabinet.arrives(
                account,
                TestMail.from("News <news@b.example>\nContent-Type: text/html; charset=utf-8", "Circular")
                        .saying(
                                "<h1>News</h1><img src='https://b.example/%s.png'><img src='https://b.example/seen.gif' width=1>"
                                                .formatted(name)
                                        + "<img src='http://b.example/page.png'><img src='//b.example/gone.png'>"));
    }

    private Document sheet(long message) {
        return browser.part("/message/" + message, "sheet").page();
    }

    private List<String> shown(String address) {
        return browser.get(address).page().select("img").eachAttr("src");
    }

    @Test
    void theyAreFetchedWhenTheyAreWanted() {
        assertThat(sheet(circular).select(".outside").text())
                .contains("Pictures from outside are not shown", "Always from news@b.example");
        assertThat(shown(sheet(circular).select("iframe").attr("src"))).isEmpty();
        assertThat(office.picturesAsked())
                .noneMatch(address -> address.getPath().equals("/one.png"));

        Browser.Answer page = browser.get("/message/" + circular + "/html?pictures=true");
        assertThat(page.header("Content-Security-Policy"))
                .contains("img-src data: 'self'")
                .doesNotContain("https:");
        List<String> pictures = page.page().select("img").eachAttr("src");
        assertThat(pictures).as("but the one that cannot be seen").hasSize(3);
        Browser.Answer picture = browser.get(pictures.get(0));
        assertThat(picture.header("Content-Type")).isEqualTo("image/png");
        assertThat(picture.header("Content-Security-Policy")).contains("sandbox");
        assertThat(office.picturesAsked()).contains(URI.create("https://b.example/one.png"));
        assertThat(browser.get(pictures.get(1)).status())
                .as("no picture at all")
                .isEqualTo(404);
        assertThat(browser.get(pictures.get(2)).status()).as("it is gone").isEqualTo(404);
        assertThat(office.picturesAsked())
                .noneMatch(address -> address.getPath().equals("/seen.gif"));
    }

    @Test
    void onlyWhatTheMessageNamesAndOnlyForItsReader() {
        for (String number : List.of("3", "-1", "99999")) {
            assertThat(browser.get("/message/" + circular + "/outside/" + number)
                            .status())
                    .isEqualTo(404);
        }
        assertThat(browser.get("/message/" + circular + "/outside/x").status()).isEqualTo(400);
        Browser other = new Browser(office, office.person());
        assertThat(other.get("/message/" + circular + "/outside/0").status()).isEqualTo(404);
        assertThat(other.get("/message/" + circular + "/html?pictures=true").status())
                .isEqualTo(404);
    }

    @Test
    void alwaysOfASender() {
        browser.post("/message/pictures", "value", "News@b.example", "on", true);
        long next = circular("two");
        Document sheet = sheet(next);
        assertThat(sheet.select(".outside").text()).contains("are shown for this sender");
        assertThat(shown(sheet.select("iframe").attr("src"))).hasSize(3);
        browser.post("/message/pictures", "value", "news@b.example", "on", false);
        assertThat(sheet(next).select(".outside").text()).contains("not shown");
        assertThat(shown(sheet(next).select("iframe").attr("src"))).isEmpty();
    }
}
