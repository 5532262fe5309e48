package app.schublade.standin.world;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;

/** Writes the mail of the demo world: the same seed and the same end give the same mail. */
public final class World {
    static final ZoneId ZONE = ZoneId.systemDefault();

    private static final List<String> STORIES =
            List.of("loans", "exhibition", "club", "private", "office", "machines", "newsletters");
    private static final Duration SPAN = Duration.ofDays(3 * 365);
    private static final Duration OLD = Duration.ofDays(75);
    private static final Duration RECENT = Duration.ofDays(21);
    private static final Duration NEW = Duration.ofDays(3);
    private static final double NEW_UNREAD = 0.75;

    private final Cast people = Cast.read(Resources.text("people.txt"));
    private final List<Story> stories = new ArrayList<>();
    private final Deck deck;
    private final Random random;
    private final Deque<Letter> coming = new ArrayDeque<>();
    private final Set<String> begun = new HashSet<>();
    private int tellings;

    public World(long seed) {
        random = new Random(seed);
        deck = new Deck(random);
        STORIES.forEach(name -> stories.addAll(Story.read(Resources.text("stories/" + name + ".txt"))));
    }

    /**
     * A letter and where it lies.
     *
     * @param account the code of the account
     * @param folder the Inbox, the folder the user filed it into, or Sent
     * @param deliveredTo the address of the account that got it; empty for what was sent
     */
    public record PlacedLetter(
            String account,
            String folder,
            String deliveredTo,
            Letter letter,
            boolean read,
            boolean flagged,
            boolean answered) {}

    /** About so many messages over three years, oldest first, more of them lately than long ago. */
    public List<PlacedLetter> until(int messages, Instant end) {
        List<PlacedLetter> all = new ArrayList<>();
        while (all.size() < messages) {
            for (Story story : plan(messages)) {
                if (all.size() >= messages) {
                    break;
                }
                tell(story, end, all);
            }
        }
        all.sort(Comparator.comparing(placed -> placed.letter().date()));
        return all;
    }

    /** What is told in the next two thousand messages: great matters first, unless they would fill a small world. */
    private List<Story> plan(int messages) {
        List<Story> matters = new ArrayList<>();
        List<Story> everyday = new ArrayList<>();
        for (Story story : stories) {
            for (int i = 0; i < story.times(); i++) {
                (story.times() == 1 ? matters : everyday).add(story);
            }
        }
        Collections.shuffle(everyday, random);
        int letters = matters.stream().mapToInt(story -> story.scenes().size()).sum();
        if (letters <= messages / 3) {
            everyday.addAll(0, matters);
        }
        return everyday;
    }

    private void tell(Story story, Instant end, List<PlacedLetter> all) {
        LocalDate start = begin(story, end.atZone(ZONE).toLocalDate().minusDays(age(story)));
        List<Letter> letters = telling(story, start).stream()
                .filter(letter -> !letter.date().isAfter(end))
                .toList();
        if (letters.isEmpty()) {
            return;
        }
        Instant last = letters.get(letters.size() - 1).date();
        boolean filed = story.options().containsKey("folder")
                && Duration.between(last, end).compareTo(OLD) > 0
                && (story.times() == 1 || random.nextInt(4) > 0);
        Set<String> answered = new HashSet<>();
        for (Letter letter : letters) {
            if (letter.from().is("account") && letter.answered() != null) {
                answered.add(letter.answered().id());
            }
        }
        for (Letter letter : letters) {
            place(story, letter, filed, answered.contains(letter.id()), end, all);
        }
    }

    /** The day itself, or the last one before it that is of the weekday on which the story begins. */
    private static LocalDate begin(Story story, LocalDate day) {
        String weekday = story.option("on", "");
        return weekday.isEmpty()
                ? day
                : day.with(TemporalAdjusters.previousOrSame(DayOfWeek.valueOf(weekday.toUpperCase(Locale.ROOT))));
    }

    /** How many days ago it begins: for the first time when it says so, else at any time, lately rather than long ago. */
    private int age(Story story) {
        String from = story.option("from", "");
        return from.isEmpty() || !begun.add(story.name())
                ? 1 + (int) (Math.pow(random.nextDouble(), 2.2) * SPAN.toDays())
                : Integer.parseInt(from.replaceAll("\\D", ""));
    }

    private List<Letter> telling(Story story, LocalDate start) {
        String number = "%d.%s".formatted(++tellings, Integer.toString(random.nextInt(1 << 20), 36));
        return Telling.of(story, start, people, deck, number);
    }

    private void place(
            Story story, Letter letter, boolean filed, boolean answered, Instant end, List<PlacedLetter> all) {
        Person from = letter.from();
        if (from.is("account")) {
            all.add(new PlacedLetter(from.option("account", ""), "Sent", "", letter, true, false, false));
        }
        Duration age = Duration.between(letter.date(), end);
        double unread = Double.parseDouble(story.option("unread", "0.4"));
        double chance = age.compareTo(NEW) < 0 ? NEW_UNREAD : age.compareTo(RECENT) < 0 ? unread : unread / 30;
        boolean read = filed || answered || random.nextDouble() > chance;
        boolean flagged = !filed && random.nextInt(60) == 0;
        Set<String> got = new HashSet<>();
        for (Person recipient : letter.recipients()) {
            Person own = recipient.is("delivers") ? people.one(recipient.option("delivers", "")) : recipient;
            if (own.is("account") && !own.equals(from) && got.add(own.option("account", ""))) {
                String folder = filed ? story.option("folder", "INBOX") : "INBOX";
                all.add(new PlacedLetter(
                        own.option("account", ""), folder, own.address(), letter, read, flagged, answered));
            }
        }
    }

    /** The next letter that reaches the user, of the matters of every day; {@link #deliveredTo} tells where. */
    public Letter next(Instant now) {
        List<Story> everyday =
                stories.stream().filter(story -> story.times() > 1).toList();
        while (coming.isEmpty()) {
            Story story = everyday.get(random.nextInt(everyday.size()));
            telling(story, now.atZone(ZONE).toLocalDate()).stream()
                    .filter(letter -> !letter.from().is("account"))
                    .forEach(coming::add);
        }
        return coming.remove().at(now);
    }

    /** The addresses of the user's own that a letter is delivered to. */
    public List<String> deliveredTo(Letter letter) {
        return letter.recipients().stream()
                .map(recipient -> recipient.is("delivers") ? people.one(recipient.option("delivers", "")) : recipient)
                .filter(recipient -> recipient.is("account"))
                .map(Person::address)
                .distinct()
                .toList();
    }

    /** What lies at the address of a picture that letters of this world name: the same address, the same picture. */
    public static byte[] picture(String address) {
        String scene = Math.floorMod(address.hashCode(), 2) == 0 ? "harbour" : "boat";
        return Picture.drawn(scene + " " + address, "png");
    }
}
