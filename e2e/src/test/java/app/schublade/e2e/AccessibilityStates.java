package app.schublade.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.Rule;
import app.schublade.core.place.FolderPath;
import app.schublade.core.triage.LookHours;
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
import com.microsoft.playwright.Page;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
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
 * An office in which there is some of everything, and states of it that are looked at one after the other. A template that
 * is in none of them fails the test whose it is.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
abstract class AccessibilityStates {
    /** Where the templates are that the states of the desk show; the others are on pages. */
    static final List<String> OF_THE_DESK = List.of(
            "desk/",
            "reader/",
            "compose/page",
            "compose/texts :: menu",
            "frame/parts",
            "people/card",
            "places/menus",
            "record/acts",
            "rules/explained");

    /** Seen only while something long goes on. */
    private static final Set<String> MOMENTARY = Set.of("frame/parts :: howFar");

    private static final Path AWKWARD = Path.of("../core/src/test/resources/awkward");

    /**
     * Something to look at.
     *
     * @param steps what is done on its page: keys; {@code click …} and {@code menu …} with a selector; {@code type …}; {@code
     *     changed}, when something has changed elsewhere; {@code tell}, of a problem; {@code see …}, what must be visible then
     */
    record State(String name, String address, List<String> steps) {
        static State of(String address, String... steps) {
            return new State((address + " " + String.join(", ", steps)).strip(), address, List.of(steps));
        }

        @Override
        public String toString() {
            return name;
        }
    }

    final Office office = Office.alone();
    final Window window;
    final Page page;
    final AccessibilityChecker checker;
    private final TemplatesSeen templates = new TemplatesSeen();
    private final Cabinet cabinet;
    private final Map<String, Object> numbers = new HashMap<>();
    private Account account;
    private CurrentUser person;

    AccessibilityStates() {
        office.bean(SpringTemplateEngine.class).addDialect(templates);
        window = new Window(office);
        page = window.page;
        checker = new AccessibilityChecker(page);
        cabinet = Cabinet.of(office);
        window.open("/"); // Nobody is here yet.
        assertThat(page.locator("h1")).isVisible();
    }

    @BeforeAll
    void furnish() throws IOException {
        person = office.person();
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

    @ParameterizedTest
    @MethodSource("states")
    @Order(1)
    void nothingIsFound(State state) {
        checker.in(AccessibilityChecker.Setting.USUAL);
        window.open(filled(state.address()));
        assertThat(page.locator("h1, h2").first()).isAttached();
        if (state.address().startsWith("/mail")) {
            assertThat(page.locator("#rows")).isFocused();
        }
        if (state.steps().contains("click .to-cabinet")) {
            checker.in(AccessibilityChecker.Setting.NARROW);
        }
        state.steps().forEach(step -> take(filled(step)));
        checker.inEverySetting(state.name());
        window.mayHaveBeenRefused(404);
    }

    String filled(String text) {
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

    /** Whether a template is to be in one of these states. */
    abstract boolean isShown(String template);

    @Test
    @Order(4)
    void everyTemplateWasAmongThem() {
        Set<String> missing = new TreeSet<>(templates.missing());
        missing.removeIf(template -> MOMENTARY.contains(template) || !isShown(template));
        assertThat(missing).as("templates that no state shows").isEmpty();
    }

    @AfterAll
    void close() {
        window.close();
        office.close();
    }
}
