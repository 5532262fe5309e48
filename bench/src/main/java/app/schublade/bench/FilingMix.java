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
import java.util.Map;
import java.util.Random;
import java.util.Set;

/**
 * Mail and rules as a busy office has them: bodies of 600 words, every fourth with umlauts, few senders that write often and
 * many that write seldom; of a hundred rules 40 ask for a sender, 15 for a domain, 20 for what the subject has or contains, 5
 * each for an alias, a mailing list, a header field, what the body has or contains, 3 for the sender's name, 2 for where the
 * answer goes.
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
            String body = phrase(BODY_WORDS) + ".";
            messages.add(Message.from(
                            1,
                            new Address(name(seldom(SENDERS)), sender(seldom(SENDERS))),
                            Character.toUpperCase(subject.charAt(0)) + subject.substring(1))
                    .body(i % 4 == 0 ? body.replace("ae", "ä").replace("ou", "ü") : body)
                    .headers(random.nextInt(5) == 0 ? Map.of("x-project", List.of(phrase(2))) : Map.of())
                    .replyTo(random.nextInt(10) == 0 ? List.of(new Address("", sender(seldom(SENDERS)))) : List.of())
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
        if (share < 40) {
            return Correspondent.sender(sender(random.nextInt(SENDERS)));
        }
        if (share < 55) {
            return Correspondent.sender("domain%d.example".formatted(random.nextInt(DOMAINS)));
        }
        if (share < 75) {
            return text(Text.Where.SUBJECT, "", share < 65 ? Text.Match.PHRASE : Text.Match.CONTAINS, 2);
        }
        if (share < 80) {
            return new SentTo(List.of(alias(random.nextInt(200))));
        }
        if (share < 85) {
            return new FromList(List.of(list(random.nextInt(500))));
        }
        if (share < 90) {
            return text(Text.Where.HEADER, "X-Project", Text.Match.WORDS, 1);
        }
        if (share < 95) {
            return text(Text.Where.BODY, "", share < 93 ? Text.Match.PHRASE : Text.Match.CONTAINS, 3);
        }
        return share < 98
                ? new Text(Text.Where.SENDER_NAME, "", Text.Match.WORDS, List.of(name(random.nextInt(SENDERS))))
                : new Correspondent(
                        Correspondent.Role.REPLY_TO, List.of("domain%d.example".formatted(random.nextInt(DOMAINS))));
    }

    private Text text(Text.Where where, String header, Text.Match match, int length) {
        return new Text(where, header, match, List.of(phrase(length)));
    }

    private String name(int number) {
        return words.get(number % WORDS) + " Writer";
    }
}
