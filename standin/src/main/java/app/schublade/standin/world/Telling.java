package app.schublade.standin.world;

import java.time.LocalDate;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;

/** Tells a story once: draws its facts and writes its letters, the oldest first. */
final class Telling {
    private static final int JITTER_MINUTES = 45;

    private final Story story;
    private final Cast people;
    private final Facts facts;
    private final Random random;
    private final String number;
    private final List<Letter> letters = new ArrayList<>();

    private Telling(Story story, LocalDate start, Cast people, Deck deck, String number) {
        this.story = story;
        this.people = people;
        this.facts = Facts.draw(story.facts(), start, people, deck);
        this.random = deck.random();
        this.number = number;
    }

    /**
     * The letters of a story that begins on this day.
     *
     * @param number makes its ids differ from those of every other telling
     */
    static List<Letter> of(Story story, LocalDate start, Cast people, Deck deck, String number) {
        Telling telling = new Telling(story, start, people, deck, number);
        story.scenes().forEach(telling::write);
        return telling.letters;
    }

    private void write(Story.Scene scene) {
        Person from = facts.person(scene.from(), people);
        Language language =
                scene.options().containsKey("in") ? Language.of(scene.options().get("in")) : from.language();
        @Nullable Letter earlier = earlier(scene);
        List<Enclosure> enclosures = new ArrayList<>();
        for (Story.Enclosed file : scene.enclosed()) {
            enclosures.add(new Enclosure.File(fill(file.name(), language), fill(file.lines(), language), from));
        }
        String text = fill(scene.text(), language);
        if (scene.options().containsKey("forwards")) {
            enclosures.addAll(numbered(scene, "forwards").enclosures());
        }
        if (scene.options().containsKey("attaches")) {
            enclosures.add(new Enclosure.Whole(numbered(scene, "attaches")));
        }
        if (scene.options().containsKey("undelivered")) {
            Letter lost = numbered(scene, "undelivered");
            enclosures.add(new Enclosure.Undelivered(lost, lost.to().get(0)));
        }
        letters.add(new Letter(
                "%s.%d@%s".formatted(number, letters.size() + 1, from.domain()),
                from,
                persons(scene.to()),
                persons(scene.cc()),
                language,
                scene.isNew() ? fill(scene.subject(), language) : answering(earlier, language),
                text,
                scene.options().getOrDefault("html", ""),
                date(scene).toInstant(),
                scene.options().getOrDefault("charset", from.option("charset", "utf-8")),
                scene.options().containsKey("urgent") || from.is("urgent"),
                below(scene),
                enclosures,
                earlier));
    }

    private @Nullable Letter earlier(Story.Scene scene) {
        for (String option : List.of("answers", "forwards")) {
            if (scene.options().containsKey(option)) {
                return numbered(scene, option);
            }
        }
        boolean alone = scene.isNew() && !scene.options().containsKey("follows");
        return alone || letters.isEmpty() ? null : letters.get(letters.size() - 1);
    }

    private Letter numbered(Story.Scene scene, String option) {
        int at = Integer.parseInt(scene.options().get(option));
        if (at < 1 || at > letters.size()) {
            throw new IllegalStateException("%s: letter %d is named before it is written".formatted(story.name(), at));
        }
        return letters.get(at - 1);
    }

    private String answering(@Nullable Letter earlier, Language language) {
        if (earlier == null) {
            throw new IllegalStateException(story.name() + ": a letter has no subject and answers nothing");
        }
        return language.answer() + bare(earlier.subject());
    }

    private static String bare(String subject) {
        return subject.replaceFirst("^(Re|AW|RE|SV|Απ|Fwd): ", "");
    }

    private static Letter.Below below(Story.Scene scene) {
        return scene.options().containsKey("forwards")
                ? Letter.Below.PASSED_ON
                : scene.options().containsKey("quote") ? Letter.Below.QUOTED : Letter.Below.NOTHING;
    }

    private ZonedDateTime date(Story.Scene scene) {
        LocalDate day = facts.day(scene.day()).plusDays(scene.offset());
        LocalDate sent = story.options().containsKey("anyday") ? day : Facts.working(day);
        ZonedDateTime wanted = sent.atStartOfDay(World.ZONE)
                .plusMinutes(scene.minute() + random.nextInt(2 * JITTER_MINUTES) - JITTER_MINUTES)
                .plusSeconds(random.nextInt(60));
        if (letters.isEmpty()) {
            return wanted;
        }
        ZonedDateTime before = letters.get(letters.size() - 1).date().atZone(World.ZONE);
        return wanted.isAfter(before) ? wanted : before.plusMinutes(7L + random.nextInt(90));
    }

    private List<Person> persons(List<String> names) {
        return names.stream().map(name -> facts.person(name, people)).toList();
    }

    private String fill(String text, Language language) {
        return facts.fill(text, language, random);
    }
}
