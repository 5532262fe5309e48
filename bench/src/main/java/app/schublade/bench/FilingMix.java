package app.schublade.bench;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Text;
import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;

/**
 * Mail and rules as a busy office has them: bodies of 600 words, few senders that write often and many that write seldom;
 * of a hundred rules 45 ask for a sender, 20 for a domain, 20 for a phrase in the subject, 5 each for an alias, a mailing
 * list, a phrase in the body.
 */
final class FilingMix {
    static final State NEW = new State(1, true, false, null, Set.of());
    private static final int WORDS = 8000;
    private static final int SENDERS = 20_000;
    private static final int DOMAINS = 4000;
    private static final int BODY_WORDS = 600;

    private final Random random = new Random(42);
    private final List<String> words = new ArrayList<>();

    FilingMix() {
        for (int i = 0; i < WORDS; i++) {
            StringBuilder word = new StringBuilder();
            for (int letter = 3 + random.nextInt(6); letter > 0; letter--) {
                word.append((char) ('a' + random.nextInt(26)));
            }
            words.add(word.toString());
        }
    }

    /** A number below a limit; small ones are much more frequent (Zipf). */
    private int seldom(int limit) {
        return (int) Math.pow(limit, random.nextDouble()) - 1;
    }

    private String phrase(int length) {
        StringBuilder phrase = new StringBuilder();
        for (int i = 0; i < length; i++) {
            phrase.append(i == 0 ? "" : " ").append(words.get(seldom(WORDS)));
        }
        return phrase.toString();
    }

    private static String sender(int number) {
        return "writer%d@domain%d.example".formatted(number, number % DOMAINS);
    }

    private static String list(int number) {
        return "list%d.domain%d.example".formatted(number, number % DOMAINS);
    }

    private static String alias(int number) {
        return "alias%d@quay.example".formatted(number);
    }

    List<Message> messages(int count) {
        List<Message> messages = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            String subject = phrase(6);
            String own = random.nextInt(3) == 0 ? alias(seldom(200)) : "tilda@quay.example";
            messages.add(Message.from(
                            1,
                            new Address("Writer", sender(seldom(SENDERS))),
                            Character.toUpperCase(subject.charAt(0)) + subject.substring(1))
                    .body(phrase(BODY_WORDS) + ".")
                    .sentTo(List.of(own), List.of(own))
                    .list(random.nextInt(5) == 0 ? list(seldom(500)) : null)
                    .build());
        }
        return messages;
    }

    List<Rule> rules(int count) {
        List<Rule> rules = new ArrayList<>();
        Effect file = new Effect.FileInto(new FolderRef(2, FolderPath.parse("Loans")));
        for (int i = 0; i < count; i++) {
            rules.add(new Rule(i + 1, "Rule " + i, true, List.of(condition(i % 100)), List.of(), List.of(file), false));
        }
        return rules;
    }

    private Condition condition(int share) {
        if (share < 45) {
            return Correspondent.sender(sender(random.nextInt(SENDERS)));
        }
        if (share < 65) {
            return Correspondent.sender("domain%d.example".formatted(random.nextInt(DOMAINS)));
        }
        if (share < 85) {
            return new Text(Text.Where.SUBJECT, "", Text.Match.PHRASE, List.of(phrase(2)));
        }
        if (share < 90) {
            return new SentTo(List.of(alias(random.nextInt(200))));
        }
        return share < 95
                ? new FromList(List.of(list(random.nextInt(500))))
                : new Text(Text.Where.BODY, "", Text.Match.PHRASE, List.of(phrase(3)));
    }
}
