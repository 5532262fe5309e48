package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderPath;
import app.schublade.core.triage.LookHours;
import app.schublade.standin.AuthorisationHost;
import app.schublade.standin.DovecotHost;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.noise.BlockStore;
import app.schublade.store.noise.MutedStore;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.SavedTextStore;
import app.schublade.store.triage.AwaitingStore;
import app.schublade.store.triage.ReminderStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.ForcedColors;
import com.microsoft.playwright.options.ReducedMotion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.thymeleaf.spring6.SpringTemplateEngine;

/**
 * Every page, and whatever opens on one, as a checker of accessibility sees it (WCAG 2.2 A and AA, good practice, and what
 * the checker only tries out): at every size and with every choice of colours. A template that is on none of them fails.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class AccessibilityTest {
    private static final List<String> WANTED =
            List.of("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice", "experimental");
    /** Rules to which nothing but the colours makes a difference. */
    private static final List<String> OF_COLOURS = List.of("color-contrast", "link-in-text-block");
    /** Rules to which it makes a difference where things are; magnified, the same things are there as in a narrow window. */
    private static final List<String> OF_LAYOUT =
            List.of("color-contrast", "link-in-text-block", "target-size", "scrollable-region-focusable");
    /** Parts of a page that are the same behind most of what opens: their looks are checked once in each setting. */
    private static final String PARTS = ".top, #cabinet, #rows > *, #sheet > *";

    private static final Path AWKWARD = Path.of("../core/src/test/resources/awkward");

    private static final String CHECKER = checker();
    /**
     * What is in a frame is what somebody else has written, and no script runs in it. That the focus can be on what scrolls,
     * and on what divides two parts, is wanted (WCAG 2.1.1), though one of the rules that are tried out objects.
     */
    private static final String CHECK = """
            async ([tags, looks, isNarrow, sheetsToo]) => {
              const seen = [['[data-checked]']];
              const told = async (type, values, exclude) => {
                if (values.length === 0) return [];
                const { violations } = await axe.run({ include: [document.documentElement], exclude }, {
                  runOnly: { type, values }, iframes: false, resultTypes: ['violations'], preload: sheetsToo,
                  rules: type === 'tag'
                    ? Object.fromEntries(['focus-order-semantics', ...looks].map((rule) => [rule, { enabled: false }]))
                    : {},
                });
                return violations.map(({ id, help, nodes }) =>
                  `${id}: ${help}` + nodes.slice(0, 4).map((one) => `\\n    ${one.target} ${one.html.slice(0, 200)} ${one.any[0]?.message ?? ''}`).join(''));
              };
              // What a menu that is open covers in part is no target: a press there closes the menu.
              const sheets = [...document.querySelectorAll('[open] > .menu-sheet')].map((one) => [one, one.getBoundingClientRect()]);
              document.querySelectorAll('a, button, input, summary').forEach((one) => {
                const { left, right, top, bottom } = one.getBoundingClientRect();
                one.toggleAttribute('data-covered', sheets.some(([sheet, at]) => !sheet.contains(one)
                  && left < at.right && at.left < right && top < at.bottom && at.top < bottom));
              });
              return [...await told('tag', tags, isNarrow ? seen : []), ...await told('rule', looks, [...seen, ['[data-covered]']])];
            }
            """;

    /** What is in each part, and where; nothing while something lies before it. */
    private static final String IN_PARTS = """
            (parts) => [...document.querySelectorAll(parts)].map((one) => {
              one.removeAttribute('data-checked');
              if (document.querySelector('dialog[open]') !== null) return '';
              const { x, y, width, height } = one.getBoundingClientRect();
              return [x, y, width, height, document.body.className, one.outerHTML.replace(/name="_csrf" value="[^"]*"/g, '')].join(' ');
            })
            """;

    private static final String MARK = """
            ([parts, checked]) => document.querySelectorAll(parts).forEach((one, i) => one.toggleAttribute('data-checked', checked[i]))
            """;

    /** Colours that change take a moment. */
    private static final String AT_REST = """
            () => Promise.race([
              new Promise((done) => setTimeout(done, 500)),
              Promise.all(document.getAnimations().filter((one) => one.effect.getComputedTiming().endTime < 1000).map((one) => one.finished.catch(() => {}))),
            ])
            """;

    private static String checker() {
        try (InputStream source = AxeBuilder.class.getResourceAsStream("/axe.min.js")) {
            return new String(Objects.requireNonNull(source).readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException("The checker cannot be read", e);
        }
    }

    /** How somebody looks at it; all but the usual way is without motion too. */
    private enum Setting {
        USUAL(1280, 800),
        MAGNIFIED(640, 400),
        NARROW(390, 844),
        DARK(1280, 800),
        FORCED(1280, 800);

        private final int width;
        private final int height;

        Setting(int width, int height) {
            this.width = width;
            this.height = height;
        }

        void apply(Page page) {
            page.setViewportSize(width, height);
            page.emulateMedia(new Page.EmulateMediaOptions()
                    .setColorScheme(this == DARK ? ColorScheme.DARK : ColorScheme.LIGHT)
                    .setForcedColors(this == FORCED ? ForcedColors.ACTIVE : ForcedColors.NONE)
                    .setReducedMotion(this == USUAL ? ReducedMotion.NO_PREFERENCE : ReducedMotion.REDUCE));
        }

        /** The same page in other colours, or magnified, was checked for all that is not in its looks before. */
        List<String> tags() {
            return this == USUAL || this == NARROW ? WANTED : List.of();
        }

        List<String> looks() {
            return this == DARK || this == FORCED ? OF_COLOURS : OF_LAYOUT;
        }
    }

    /**
     * Something to look at.
     *
     * @param steps what is done on its page: keys; {@code click …} and {@code menu …} with a selector; {@code type …}; {@code
     *     changed}, when something has changed elsewhere; {@code tell}, of a problem; {@code see …}, what must be visible then
     */
    private record State(String name, String address, List<String> steps) {
        static State of(String address, String... steps) {
            return new State((address + " " + String.join(", ", steps)).strip(), address, List.of(steps));
        }

        @Override
        public String toString() {
            return name;
        }
    }

    private final Office office = Office.alone();
    private final TemplatesSeen templates = new TemplatesSeen();
    private final Window window;
    private final Page page;
    private final Cabinet cabinet;
    private final Set<String> seen = new HashSet<>();
    private Account account;
    private CurrentUser person;

    AccessibilityTest() {
        office.bean(SpringTemplateEngine.class).addDialect(templates);
        window = new Window(office);
        page = window.page;
        cabinet = Cabinet.of(office);
        window.open("/"); // Nobody is here yet.
        assertThat(page.locator("h1")).isVisible();
    }

    private final Map<String, Object> numbers = new HashMap<>();

    @BeforeAll
    void furnish() throws IOException {
        inEverySetting("welcome");
        person = office.person();
        window.open("/login");
        inEverySetting("login");
        page.getByLabel("Login").fill("nobody");
        page.getByLabel("Password").fill("wrong");
        window.button("Log in").click();
        assertThat(page.locator(".problem")).isVisible();
        inEverySetting("login refused");

        account = cabinet.account(person.id(), "MU", "loans@quay.example");
        cabinet.account(person.id(), "TS");
        office.bean(SavedTextStore.class).add(person.id(), "Opening hours", "Dear {name},");
        long loans = cabinet.folder(person.id(), "Loans").id();
        long folder = cabinet.folder(person.id(), "Loans/Halden").id();
        long gone = cabinet.folder(person.id(), "Gone").id();
        long label = cabinet.places
                .label(person.id(), FolderPath.parse("Objects/Ship models"))
                .id();
        cabinet.people.markKey(person.id(), "halden.example", true);
        cabinet.people.markKey(person.id(), "key@person.example", true);
        cabinet.rules.save(person.id(), cabinet.filing(person.id(), "grebe.example", "Loans"));
        long hidden = cabinet.rules.save(person.id(), cabinet.filing(person.id(), "o.grebe.example", "Loans/Halden"));
        numbers.put("dated", cabinet.rules.save(person.id(), holidays()));
        long category = cabinet.places.categories(person.id()).get(0).id();
        long message = 0;
        for (int i = 0; i < 4; i++) {
            message = cabinet.arrives(
                    account,
                    TestMail.from("Halden <office@halden.example>", "Re: Letter " + i)
                            .to("loans@quay.example")
                            .named("x" + i, "x0"));
        }
        numbers.put(
                "circular",
                cabinet.arrives(
                        account,
                        TestMail.from("News <n@b.example>\nContent-Type: text/html; charset=utf-8", "Circular")
                                .saying(
                                        "<h1>News</h1><p>Two things.</p><img src='https://b.example/x.png' alt='The quay'>")));
        cabinet.arrives(account, TestMail.from("Ottoline <o@grebe.example>", "Filed by a rule"));
        cabinet.arrives(
                account,
                cabinet.mailbox(account, "Sent"),
                TestMail.from(account.address(), "The boat")
                        .to("anna@wharf.example")
                        .saying("When does it come?")
                        .at(Instant.now().minus(Duration.ofDays(5))));
        office.bean(AwaitingStore.class).look(person.id(), 10);
        cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", "Visit"));
        cabinet.arrives(account, TestMail.from("Ben <ben@wharf.example>", "Crates"));
        cabinet.filing.act(
                person.id(),
                Cause.HAND,
                "Labelled",
                List.of(message),
                state -> state.with(label, true).categorised(category).due(DayTime.parse("2026-11-20 09:30")));
        office.bean(ReminderStore.class).remind(person.id()); // So that no notice of it comes in between.
        FlagStore flags = cabinet.bean(FlagStore.class);
        flags.add(person.id(), "To call");
        flags.add(person.id(), "To pay");
        numbers.putAll(Map.of("message", message, "folder", folder, "label", label, "loans", loans));
        numbers.putAll(Map.of("account", account.id(), "gone", gone, "rule", hidden));
        for (String awkward : List.of(
                "event-request-weekly",
                "html-table",
                "inner-message-with-file",
                "report-no-such-address",
                "name-plain")) {
            numbers.put(awkward, cabinet.arrives(account, Files.readAllBytes(AWKWARD.resolve(awkward + ".eml"))));
        }
        addNoise(person.id());
        cabinet.index.index(account.id(), 100);
        numbers.put(
                "search",
                cabinet.bean(SavedSearchStore.class)
                        .add(
                                person.id(),
                                "Crates and visits",
                                cabinet.bean(SearchWorlds.class).read(person.id(), "crates or visit")));
        cabinet.bean(QuietStore.class)
                .keep(person.id(), LookHours.parse("9:00"), QuietStore.Notices.RULES, List.of(), List.of());
        window.logIn(person, Office.PASSWORD);
        page.locator("summary[data-key=v]").click();
        page.getByLabel("A conversation is one row").check();
        window.button("Arrange").click();
        assertThat(page.locator(".fold")).hasCount(1);
    }

    private static Rule holidays() {
        ReceivedAt days = ReceivedAt.days(LocalDate.parse("2026-12-20"), LocalDate.parse("2027-01-06"));
        return new Rule(0, "Holidays", true, List.of(days), List.of(), List.of(new Effect.Flag(true)), false);
    }

    /** Somebody blocked, a conversation muted, a list, and a message that is done with. */
    private void addNoise(long user) {
        cabinet.bean(BlockStore.class).block(user, "spam@shop.example");
        long muted = cabinet.arrives(account, TestMail.from("Anna <anna@wharf.example>", "The lift"));
        MutedStore mutes = cabinet.bean(MutedStore.class);
        mutes.mute(user, mutes.conversation(user, muted).orElseThrow());
        String letter = """
                From: Circular <news@circular.example>
                To: me@quay.example
                Subject: Circular 7
                List-Id: <circular.example>
                List-Unsubscribe: <https://circular.example/leave>
                List-Unsubscribe-Post: List-Unsubscribe=One-Click

                News
                """;
        numbers.put("letter", cabinet.arrives(account, letter.getBytes(StandardCharsets.UTF_8)));
        cabinet.jdbc
                .sql("update message set received_at = now() where id = ?")
                .param(numbers.get("letter"))
                .update();
        TestMail done = TestMail.from("Anna <anna@wharf.example>", "Done with")
                .at(Instant.now().minus(Duration.ofDays(20)));
        cabinet.arrives(account, done.read());
    }

    /** Pages, then what opens on them. */
    private static Stream<State> states() {
        String message = "/mail/inbox?open={message}";
        return Stream.of(
                State.of("/nowhere"),
                State.of(message),
                State.of("/mail/inbox?open={event-request-weekly}"),
                State.of("/mail/inbox?open={html-table}"),
                State.of(
                        "/mail/inbox?open={inner-message-with-file}", "see .att", "click button.att", "see .inside-of"),
                State.of("/mail/inbox?open={report-no-such-address}"),
                State.of(
                        "/mail/folder/{loans}",
                        "ArrowDown",
                        "see #sheet .note",
                        "click #sheet .note [data-unfolds]",
                        "see .why"),
                State.of("/mail/flagged?open={message}"),
                State.of("/mail/tickler"),
                State.of("/mail/folder/{folder}"),
                State.of("/mail/label/{label}?open={message}"),
                State.of("/mail/find?words=letter or filed or visit", "see .bar-line"),
                State.of("/mail/find?words=lettter not from nowhere crates", "see #facets .meant"),
                State.of("/mail/find?words=letter from halden", "click .term summary", "see .term [open]"),
                State.of("/mail/find?words=letter", "click .keeps summary", "see .keeps [open]"),
                State.of("/mail/search/{search}?words=visit", "click .keeps summary", "see .keeps [open]"),
                State.of("/mail/inbox", "ArrowDown", "Shift+ArrowDown", "see .row[aria-selected=true]"),
                State.of(message, "ArrowRight", "see .row.inner"),
                State.of(message, "click .asked summary", "see .explanations"),
                State.of(message, "j", "see .other[open] .unfolded .text"),
                State.of(message, "Enter", "see .main.full"),
                State.of(message, "f", "see dialog[open]", "type New", "see #folder-choice-new"),
                State.of(message, "c", "see dialog[open]"),
                State.of(message, "l", "see dialog[open]", "type Sails", "see #label-choice-new"),
                State.of(message, "p", "see dialog[open]", "type lo", "see #place-choices li"),
                State.of(message, "p", "see dialog[open]", "type zzzz", "see #place-choices .none"),
                State.of(message, "d", "see dialog[open]"),
                State.of(message, "t", "see dialog[open]"),
                State.of(message, "k", "see dialog[open]"),
                State.of(message, "x", "see dialog[open]"),
                State.of(message, "?", "see dialog[open]"),
                State.of(message, "g", "see #notice .told", "h", "see #acts li"),
                State.of(message, "tell", "see #notice .problem"),
                State.of(message, "v", "see .arrange[open]"),
                State.of(message, "s", "see .only[open]"),
                State.of("/rules", "click .top .menu summary", "see .menu[open]"),
                State.of("/habits", "click .top .menu summary", "see .menu[open]"),
                State.of(message, "menu #rows", "see #place-menu"),
                State.of(message, "menu #cabinet [data-folder='{folder}']", "see #place-menu a"),
                State.of(message, "menu #cabinet [data-label='{label}']", "see #place-menu a"),
                State.of(message, "n", "see .new-folder [name=path]"),
                State.of(message, "click .to-cabinet", "see .drawer"),
                State.of(message, "/", "type lo", "see #finds li"),
                State.of("/mail/folder/{gone}"),
                State.of(message, "r", "see #answer .editor", "click .send-later summary", "see .send-later[open]"),
                State.of(message, "r", "see #answer .editor", "type Yes.", "Escape", "see #answer .note"),
                State.of("/mail/inbox?open={name-plain}", "click .asked summary", "see .pages .hint"),
                State.of("/texts"),
                State.of(message, "r", "see #answer .editor", "click .puts-text", "see #place-menu [data-saved-text]"),
                State.of(message, "click .who .name", "see .person-card .go"),
                State.of(message, "r", "see #answer .editor", "elsewhere", "see .elsewhere"),
                State.of(
                        "/mail/inbox?open={circular}",
                        "see #sheet .outside [data-shows-pictures]",
                        "click details:has(.header) summary",
                        "see .header"),
                State.of(
                        message,
                        "w",
                        "see .page .editor",
                        "type nobody, anna@wharf.example,",
                        "see .recipient.wrong",
                        "click [data-shows-copies]",
                        "click [data-format=link]",
                        "see .link-to input"),
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
                State.of("/mail/inbox", "ArrowDown", "Shift+G", "see [aria-labelledby=flag-title][open]"),
                State.of("/habits"),
                State.of("/routines"),
                State.of("/awaiting"),
                State.of("/today"),
                State.of("/today", "click .by-rule summary", "see .by-rule .done"),
                State.of("/tidy", "see .heap", "click .heap summary", "see .heap details[open] .stays"),
                State.of("/noise", "see .lists .does .btn"),
                State.of("/quiet", "see .quiet-page .btn"),
                State.of("/mail/inbox?open={letter}", "b", "see .noise[open] button"),
                State.of("/routines", "click .routine summary >> nth=0", "see .routine details[open] .step"),
                State.of(message, "q", "see .picker[open] li"),
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
                State.of("/accounts/{account}/remove"),
                State.of(
                        "/mail/inbox",
                        "changed",
                        "ArrowDown",
                        "see #sheet h2",
                        "a",
                        "see #notice button",
                        "see #sheet h2"));
    }

    @ParameterizedTest
    @MethodSource("states")
    @Order(1)
    void nothingIsFound(State state) {
        Setting.USUAL.apply(page);
        window.open(filled(state.address()));
        assertThat(page.locator("h1, h2").first()).isAttached();
        if (state.address().startsWith("/mail")) {
            assertThat(page.locator("#rows")).isFocused();
        }
        if (state.steps().contains("click .to-cabinet")) {
            Setting.NARROW.apply(page);
        }
        state.steps().forEach(step -> take(filled(step)));
        inEverySetting(state.name());
        window.mayHaveBeenRefused(404);
    }

    private String filled(String text) {
        String filled = text;
        for (Map.Entry<String, Object> number : numbers.entrySet()) {
            filled = filled.replace(
                    "{" + number.getKey() + "}", number.getValue().toString());
        }
        return filled;
    }

    private void take(String step) {
        String[] parts = step.split(" ", 2);
        switch (parts[0]) {
            case "click" -> page.locator(parts[1]).first().click();
            case "menu" -> page.locator(parts[1]).first().dispatchEvent("contextmenu", Map.of("bubbles", true));
            case "type" -> page.keyboard().type(parts[1]);
            case "changed" -> page.evaluate("document.dispatchEvent(new CustomEvent('mail-changed'))");
            case "tell" -> page.evaluate("schublade.tell('That did not work.', true)");
            case "elsewhere" -> writeElsewhere(cabinet.outgoing.of(person.id()).get(0));
            case "see" -> assertThat(page.locator(parts[1]).first()).isVisible();
            default -> page.keyboard().press(step);
        }
    }

    /** Somebody writes on in another window. */
    private void writeElsewhere(OutgoingStore.Outgoing draft) {
        OutgoingStore.DraftText other = draft.text().copiedTo("ben@wharf.example");
        cabinet.outgoing.keepOver(person.id(), draft.id(), other, new OutgoingStore.Edition(0, "another"));
    }

    /** Checks what is on the screen in every setting, and tells all of it at once. */
    private void inEverySetting(String name) {
        List<String> found = new ArrayList<>();
        for (Setting setting : Setting.values()) {
            setting.apply(page);
            page.evaluate(AT_REST);
            if (page.evaluate("() => window.axe === undefined").equals(true)) {
                page.evaluate(CHECKER);
            }
            markWhatWasSeen(setting);
            boolean narrow = setting == Setting.NARROW;
            boolean sheetsToo = seen.add("style sheets"); // They are the same on every page.
            List<Object> wish = List.of(setting.tags(), setting.looks(), narrow, sheetsToo);
            for (Object one : (List<?>) page.evaluate(CHECK, wish)) {
                found.add(setting + " " + one);
            }
            Object wide = page.evaluate("document.documentElement.scrollWidth - innerWidth");
            if (((Number) wide).intValue() > 0) {
                found.add(setting + " the page is wider than its window by " + wide);
            }
        }
        Setting.USUAL.apply(page);
        assertThat(found).as(name).isEmpty();
    }

    /** The parts that were checked in this setting as they are now. */
    private void markWhatWasSeen(Setting setting) {
        List<?> contents = (List<?>) page.evaluate(IN_PARTS, PARTS);
        List<Boolean> checked = contents.stream()
                .map(content -> !content.equals("") && !seen.add(setting + " " + content))
                .toList();
        page.evaluate(MARK, List.of(PARTS, checked));
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
        Setting.USUAL.apply(page);
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
            inEverySetting("a server that wants one to sign in");
            page.getByLabel("Name for this account").fill("Tokens");
            page.getByLabel("Two letters").fill("TO");
            window.button("Sign in at").click();
            assertThat(page.locator("main a.go")).isVisible();
            inEverySetting("before one signs in");

            publishes("unknown.example", server.imapTlsPort(), "SSL", "password-cleartext", "");
            find(server.user() + "@unknown.example");
            assertThat(page.locator(".fingerprint")).isVisible();
            inEverySetting("a certificate that nobody vouches for");

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
            inEverySetting("a server without encryption");
        }
    }

    /** No script runs in what is to be printed; so it is looked at where one does. */
    @Test
    @Order(2)
    void norOnPaper() {
        String address = office.address() + filled("/message/{html-table}/print?conversation=true");
        page.navigate("about:blank");
        page.setContent(page.request().get(address).text());
        assertThat(page.locator("h1").first()).isVisible();
        inEverySetting("print");
    }

    /** Seen only while something long goes on. */
    private static final Set<String> MOMENTARY = Set.of("frame/parts :: howFar");

    @Test
    @Order(3)
    void everyTemplateWasAmongThem() {
        Set<String> missing = templates.missing();
        missing.removeAll(MOMENTARY);
        assertThat(missing).as("templates that no state shows").isEmpty();
    }

    @AfterAll
    void close() {
        window.close();
        office.close();
    }
}
