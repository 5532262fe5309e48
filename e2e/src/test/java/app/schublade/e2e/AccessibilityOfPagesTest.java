package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import app.schublade.standin.AuthorisationHost;
import app.schublade.standin.DovecotHost;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** All pages but the desk: what is set up, and what is seen before one is here. */
class AccessibilityOfPagesTest extends AccessibilityStates {
    AccessibilityOfPagesTest() {
        checker.inEverySetting("welcome");
    }

    static Stream<State> states() {
        return Stream.of(
                State.of("/nowhere"),
                State.of("/rules", "click .top .menu summary", "see .menu[open]"),
                State.of("/habits", "click .top .menu summary", "see .menu[open]"),
                State.of("/texts"),
                State.of("/outgoing"),
                State.of("/rules"),
                State.of("/rules", "click input[name=ids]", "see #several"),
                State.of("/rules/{rule}"),
                State.of("/rules/new?message={message}", "see .trow"),
                State.of("/rules/new"),
                State.of("/rules/{dated}", "see .line .days"),
                State.of("/rules/check"),
                State.of("/rules/check", "click main .btn", "see .checked"),
                State.of("/rules/sieve"),
                State.of("/record"),
                State.of("/people"),
                State.of("/labels"),
                State.of("/labels", "click details summary >> nth=1", "see details[open] .fields"),
                State.of("/categories"),
                State.of("/trays"),
                State.of("/flags"),
                State.of("/habits"),
                State.of("/routines"),
                State.of("/awaiting"),
                State.of("/today"),
                State.of("/today", "click .by-rule summary", "see .by-rule .done"),
                State.of("/tidy", "see .heap", "click .heap summary", "see .heap details[open] .stays"),
                State.of("/noise", "see .lists .does .btn"),
                State.of("/quiet", "see .quiet-page .btn"),
                State.of("/routines", "click .routine summary >> nth=0", "see .routine details[open] .step"),
                State.of("/folders/{folder}"),
                State.of("/folders/{loans}"),
                State.of("/folders/deleted"),
                State.of("/own-login"),
                State.of("/accounts"),
                State.of("/accounts/new"),
                State.of("/accounts/{account}"),
                State.of("/accounts/{account}", "click .log summary >> nth=0", "see .log[open]"),
                State.of("/accounts/{account}/aliases"),
                State.of("/accounts/{account}/aliases?of=loans@quay.example"),
                State.of("/accounts/{account}/remove"));
    }

    /** Documents by which a provider says where its server is (draft-ietf-mailmaint-autoconfig). */
    private void publishes(String domain, int port, String socket, String authentication, String more) {
        office.publishes("https://%s/.well-known/autoconfig/mail/config-v1.1.xml".formatted(domain), """
                <clientConfig version="1.1">%s<emailProvider id="%s"><incomingServer type="imap">
                  <hostname>localhost</hostname><port>%d</port><socketType>%s</socketType>
                  <username>%%EMAILLOCALPART%%</username><authentication>%s</authentication>
                </incomingServer></emailProvider></clientConfig>
                """.formatted(
                        more, domain, port, socket, authentication));
    }

    private void find(String address) {
        checker.in(AccessibilityChecker.Setting.USUAL);
        window.open("/accounts");
        page.getByLabel("Address").fill(address);
        page.getByLabel("Password").fill(DovecotHost.PASSWORD);
        window.button("Find its servers").click();
        assertThat(page.locator(".found, .new-account").first()).isVisible();
    }

    @Test
    @Order(2)
    void norOnTheWayToAServer() throws Exception {
        try (AuthorisationHost authorisation = new AuthorisationHost();
                DovecotHost server = DovecotHost.startFor(authorisation)) {
            String signIn =
                    "<oAuth2><authURL>%1$s/authorise</authURL><tokenURL>%1$s/token</tokenURL><scope>mail</scope></oAuth2>"
                            .formatted(authorisation.address());
            publishes("tokens.example", server.imapPort(), "plain", "OAuth2", signIn);
            find(server.user() + "@tokens.example");
            checker.inEverySetting("a server that wants one to sign in");
            page.getByLabel("Name for this account").fill("Tokens");
            page.getByLabel("Two letters").fill("TO");
            window.button("Sign in at").click();
            assertThat(page.locator("main a.go")).isVisible();
            checker.inEverySetting("before one signs in");

            publishes("unknown.example", server.imapTlsPort(), "SSL", "password-cleartext", "");
            find(server.user() + "@unknown.example");
            assertThat(page.locator(".fingerprint")).isVisible();
            checker.inEverySetting("a certificate that nobody vouches for");

            window.open("/accounts/new");
            Map.of(
                            "address",
                            "tilda@quay.example",
                            "password",
                            "x",
                            "name",
                            "Plain",
                            "code",
                            "PL",
                            "host",
                            "mail.quay.example")
                    .forEach(
                            (name, value) -> page.locator("[name=" + name + "]").fill(value));
            page.locator("[name=port]").fill("143");
            page.locator("[name=encryption]").selectOption("NONE");
            window.button("Add it").click();
            assertThat(page.getByText("Without encryption, anyone")).isVisible();
            checker.inEverySetting("a server without encryption");
        }
    }

    @Test
    @Order(3)
    void norBeforeOneIsHere() {
        checker.in(AccessibilityChecker.Setting.USUAL);
        window.leave();
        window.open("/login");
        checker.inEverySetting("login");
        page.getByLabel("Login").fill("nobody");
        page.getByLabel("Password").fill("wrong");
        window.button("Log in").click();
        assertThat(page.locator(".problem")).isVisible();
        checker.inEverySetting("login refused");
    }

    @Override
    boolean isShown(String template) {
        return OF_THE_DESK.stream().noneMatch(template::startsWith);
    }
}
