package app.schublade.store.user;

import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Trait;
import java.util.EnumSet;
import java.util.Set;

/**
 * What other mail says about some new messages.
 *
 * @param known those of their senders that mail came from before, in lower case
 * @param sent those Message-IDs they refer to that are of mail which the user sent
 */
public record Acquaintance(Set<String> known, Set<String> sent) {
    /** The traits that a message has by itself, and those that it has because of other mail. */
    public Set<Trait> with(Set<Trait> own, ParsedMail mail) {
        return with(
                own,
                known.contains(mail.from().key()),
                mail.references().stream().anyMatch(sent::contains));
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
