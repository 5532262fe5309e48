package app.schublade.store.triage;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.standin.DemoAccount;
import app.schublade.standin.world.Letter;
import app.schublade.standin.world.LetterWriter;
import app.schublade.standin.world.Person;
import app.schublade.standin.world.World;
import app.schublade.standin.world.World.PlacedLetter;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.testing.Cabinet;
import java.io.ByteArrayOutputStream;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/**
 * How well questions that nobody answered are found in the demo world: held against what a reader says of each of its
 * sentences. The figures are printed.
 */
@ExtendWith(Cabinet.Extension.class)
class AwaitingFoundTest {
    private static final double PRECISION = 0.95;
    private static final double RECALL = 0.9;
    private static final int MESSAGES = 2500;
    private static final int WORLDS = 2;

    /** Whatever the user writes there that wants an answer, as somebody says who has read all of it. */
    private static final Pattern ASKS = Pattern.compile(String.join(
            "|",
            "may I have the drawing",
            "We should like an offer for a repair",
            "from the waterside fund\\?",
            "is the left half free",
            "Will you\\?",
            "May we ask the union",
            "What would you ask, and when",
            "send them to me and not to the printer",
            "Is it in the cab\\?",
            "Could you put it right",
            "Could the red be",
            "pouvons-nous en parler",
            "wenn Sie kommen könnten",
            "I would be glad to hear whether",
            "please issue a certificate",
            "May I have a new certificate",
            "can you answer this\\?",
            "Could you look at your pictures",
            "May I come on",
            "What do you ask for a reproduction",
            "Marlow, may I\\?",
            "could you look at the boxes",
            "Please tell us what you need",
            "how is your goodwill\\?",
            "Would one of your classes like",
            "On [^.?!]*\\?",
            "And you\\?",
            "at ten\\?",
            "Could you take",
            "How many are you thinking of",
            "Is the day free",
            "Could you have a look",
            "May I bring Runa",
            "The week after\\?",
            "When were you there"));

    /** Worlds end on days of their own, always the same ones, so that each run measures the same. */
    private static final Instant LAST_DAY = Instant.parse("2026-11-30T10:00:00Z");

    private static final long BETWEEN_WORLDS = 11;

    private final Cabinet cabinet;
    private final List<Letter> all = new ArrayList<>();

    AwaitingFoundTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    private static byte[] source(Letter letter) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        LetterWriter.mime(letter).writeTo(out);
        return out.toByteArray();
    }

    /** All letters of one matter have the same. */
    private static String matter(Letter letter) {
        return letter.id().replaceAll("\\.\\d+@.*", "");
    }

    private static List<Person> recipients(Letter letter) {
        return Stream.concat(letter.to().stream(), letter.cc().stream()).toList();
    }

    private static boolean is(Person person, String what) {
        return person.options().containsKey(what);
    }

    private static boolean isAsked(Letter letter) {
        return recipients(letter).stream().noneMatch(one -> is(one, "list"))
                && recipients(letter).stream().anyMatch(one -> !is(one, "account"))
                && ASKS.matcher(letter.text()).find();
    }

    /** Somebody answers it, or whoever was asked says something in the same thread later, or about the same subject. */
    private static boolean isAnswered(Letter letter, List<Letter> matter) {
        return matter.stream()
                .filter(later -> later.date().isAfter(letter.date()))
                .filter(later -> !is(later.from(), "auto") && !is(later.from(), "account"))
                .anyMatch(later -> thread(later).contains(letter)
                        || (recipients(letter).contains(later.from()) && isAboutTheSame(later, letter)));
    }

    private static boolean isAboutTheSame(Letter later, Letter letter) {
        return thread(later).get(0).equals(thread(letter).get(0))
                || later.subject().endsWith(letter.subject());
    }

    /** What it answers, directly or not, and itself at the end. */
    private static List<Letter> thread(Letter letter) {
        List<Letter> thread = new ArrayList<>();
        for (Letter one = letter; one != null; one = one.answered()) {
            thread.add(0, one);
        }
        return thread;
    }

    @Test
    void whatWantsAnAnswerIsFoundAndHardlyAnythingElse() throws Exception {
        Set<String> asked = new TreeSet<>();
        Set<String> found = new TreeSet<>();
        Set<String> open = new TreeSet<>();
        Set<String> listed = new TreeSet<>();
        for (int seed = 1; seed <= WORLDS; seed++) {
            Instant end = LAST_DAY.minus(Duration.ofDays(BETWEEN_WORLDS * seed));
            AwaitingStore awaiting = new AwaitingStore(cabinet.jdbc, Clock.fixed(end, ZoneOffset.UTC));
            long user = cabinet.user();
            Map<Long, Letter> sent = receive(user, new World(seed).until(MESSAGES, end), end);
            awaiting.look(user, MESSAGES);
            Map<String, List<Letter>> matters = all.stream().collect(Collectors.groupingBy(AwaitingFoundTest::matter));
            sent.forEach((id, letter) -> {
                if (isAsked(letter)) {
                    asked.add(shown(id, letter));
                    if (!isAnswered(letter, Objects.requireNonNull(matters.get(matter(letter))))) {
                        open.add(shown(id, letter));
                    }
                }
            });
            awaiting.of(user).stream()
                    .filter(one -> !one.isAnswered())
                    .forEach(one -> listed.add(shown(one.message(), Objects.requireNonNull(sent.get(one.message())))));
            cabinet.jdbc
                    .sql("select message_id from awaited where user_id = ?")
                    .param(user)
                    .query(Long.class)
                    .list()
                    .forEach(id -> found.add(shown(id, Objects.requireNonNull(sent.get(id)))));
        }
        compare("Questions", asked, found);
        compare("Open questions", open, listed);
    }

    /** What the stores are given of a world: the last weeks. Returns what the user has sent of it lately, by message. */
    private Map<Long, Letter> receive(long user, List<PlacedLetter> world, Instant end) throws Exception {
        all.clear();
        Map<Long, Letter> sent = new HashMap<>();
        Map<String, Account> accounts = new HashMap<>();
        for (DemoAccount demo : DemoAccount.ALL) {
            String[] addresses = Stream.concat(Stream.of(demo.address()), demo.aliases().stream())
                    .toArray(String[]::new);
            accounts.put(demo.code(), cabinet.account(user, demo.code(), addresses));
        }
        for (PlacedLetter placed : world) {
            Letter letter = placed.letter();
            if (letter.date().isBefore(end.minus(Duration.ofDays(90)))) {
                continue;
            }
            all.add(letter);
            Account account = Objects.requireNonNull(accounts.get(placed.account()));
            boolean own = placed.folder().equals("Sent");
            Mailbox mailbox = cabinet.mailbox(account, own ? "Sent" : "INBOX");
            long message = cabinet.arrives(account, mailbox, source(letter), letter.date());
            if (own && letter.date().isAfter(end.minus(Duration.ofDays(60)))) {
                sent.put(message, letter);
            }
        }
        return sent;
    }

    private static String shown(long id, Letter letter) {
        return id + ": " + letter.text().substring(0, Math.min(letter.text().length(), 300));
    }

    private static void compare(String of, Set<String> wanted, Set<String> found) {
        Set<String> right = new TreeSet<>(found);
        right.retainAll(wanted);
        double precision = (double) right.size() / found.size();
        double recall = (double) right.size() / wanted.size();
        Set<String> wrong = new TreeSet<>(found);
        wrong.removeAll(wanted);
        Set<String> missed = new TreeSet<>(wanted);
        missed.removeAll(found);
        System.out.printf(
                "%s: %d of %d found are right (%.3f), %d of %d are found (%.3f)%nwrong: %s%nmissed: %s%n",
                of, right.size(), found.size(), precision, right.size(), wanted.size(), recall, wrong, missed);
        assertThat(wanted).hasSizeGreaterThan(5);
        assertThat(precision).as("%s: wrong: %s", of, wrong).isGreaterThanOrEqualTo(PRECISION);
        assertThat(recall).as("%s: missed: %s", of, missed).isGreaterThanOrEqualTo(RECALL);
    }
}
