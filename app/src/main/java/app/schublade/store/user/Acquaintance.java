package app.schublade.store.user;

import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Trait;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * What other mail says about some new messages.
 *
 * @param known those of their senders that mail came from before, in lower case
 * @param sent those Message-IDs they refer to that are of mail which the user sent
 * @param answered the Message-IDs that messages here answer to which the new ones refer, by those messages' own
 */
public record Acquaintance(Set<String> known, Set<String> sent, Map<String, Set<String>> answered) {
    /** The traits that a message has by itself, and those that it has because of other mail. */
    public Set<Trait> with(Set<Trait> own, ParsedMail mail) {
        return with(
                own,
                known.contains(mail.from().key()),
                mail.references().stream().anyMatch(sent::contains));
    }

    /** The ids of a message and of those that it answers, also where it names only the last of them. */
    public Set<String> thread(Set<String> own) {
        Set<String> all = new HashSet<>(own);
        own.forEach(id -> all.addAll(answered.getOrDefault(id, Set.of())));
        return all;
    }

    public static Set<Trait> with(Set<Trait> own, boolean isKnown, boolean isAnswer) {
        Set<Trait> traits = EnumSet.noneOf(Trait.class);
        traits.addAll(own);
        traits.add(isKnown ? Trait.KNOWN_SENDER : Trait.NEW_SENDER);
        if (isAnswer) {
            traits.add(Trait.ANSWER);
        }
        return traits;
    }
}
