package app.schublade.core.filing;

import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import app.schublade.core.words.Fold;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * An exception to a rule that would have spared a message which the rule should not have taken.
 *
 * @param sparedToo how many of the other messages it would have spared as well
 * @param others how many others the rule took
 */
public record Narrowing(Condition exception, int sparedToo, int others) {
    private static final int SHORTEST_WORD = 4;
    private static final int MAX_WORDS = 8;
    private static final State UNKNOWN = new State(0, false, false, null, java.util.Set.of());
    private static final List<Trait> TELLING =
            List.of(Trait.AUTOMATED, Trait.LIST, Trait.ONLY_COPIED, Trait.NOT_ADDRESSED, Trait.ATTACHMENT);

    /**
     * Finds the exception that spares as few others as possible; among equals the plainest one: who wrote, before what
     * the message is, before words of its subject.
     *
     * @param others messages that the rule took rightly
     * @return empty if whatever is true of the message is true of all the others
     */
    public static Optional<Narrowing> sparing(Message message, List<Message> others) {
        List<RuleInput> matters =
                others.stream().map(other -> new RuleInput(other, UNKNOWN)).toList();
        return candidates(message)
                .map(candidate -> new Narrowing(candidate, count(candidate, matters), others.size()))
                .filter(one -> others.isEmpty() || one.sparedToo < others.size())
                .min(Comparator.comparingInt(Narrowing::sparedToo));
    }

    private static int count(Condition exception, List<RuleInput> messages) {
        return (int) messages.stream()
                .filter(message -> exception.heldBy(message) != null)
                .count();
    }

    private static Stream<Condition> candidates(Message message) {
        List<Condition> all = new ArrayList<>();
        if (!message.from().key().isEmpty()) {
            all.add(Correspondent.sender(message.from().key()));
        }
        if (message.listId() != null) {
            all.add(new FromList(List.of(message.listId())));
        }
        message.sentTo().forEach(address -> all.add(new SentTo(List.of(address))));
        TELLING.stream().filter(message::is).forEach(trait -> all.add(new Traits(List.of(trait))));
        Fold.words(message.subject()).stream()
                .filter(word ->
                        word.length() >= SHORTEST_WORD && word.codePoints().anyMatch(Character::isLetter))
                .limit(MAX_WORDS)
                .forEach(word -> all.add(Text.subject(word)));
        if (!message.subject().isBlank()) {
            all.add(new Text(Text.Where.SUBJECT, "", Text.Match.IS, List.of(message.subject())));
        }
        return all.stream();
    }
}
