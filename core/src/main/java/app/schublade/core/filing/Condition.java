package app.schublade.core.filing;

import app.schublade.core.message.Address;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a rule asks of a message. Every kind that takes several values holds if any of them does. */
public sealed interface Condition
        permits Attached,
                Correspondent,
                FromList,
                Group,
                InAccount,
                InConversation,
                InGroup,
                Marked,
                Not,
                ReceivedAt,
                SentTo,
                Sized,
                Text,
                Traits {

    /** What held, in words for the user; null if the condition does not hold. */
    @Nullable
    String heldBy(RuleInput matter);

    /** As part of a sentence: {@code "sent to loans@lanternquay.example"}. */
    String sentence();

    <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X;

    /** What must be there for the condition to hold, if that can be looked up; null if everything must be tried. */
    default @Nullable Trigger trigger() {
        return null;
    }

    /** Does something for each kind of condition; a new kind does not compile until everybody who must know it does. */
    interface ConditionVisitor<T, X extends Exception> {
        T attached(Attached condition) throws X;

        T correspondent(Correspondent condition) throws X;

        T fromList(FromList condition) throws X;

        T group(Group condition) throws X;

        T inAccount(InAccount condition) throws X;

        T inConversation(InConversation condition) throws X;

        T inGroup(InGroup condition) throws X;

        T marked(Marked condition) throws X;

        T not(Not condition) throws X;

        T receivedAt(ReceivedAt condition) throws X;

        T sentTo(SentTo condition) throws X;

        T sized(Sized condition) throws X;

        T text(Text condition) throws X;

        T traits(Traits condition) throws X;
    }

    /** Something of a message that is not always at hand. */
    enum Need {
        BODY,
        HEADERS,
        /** Whether the sender is known, and whether the message answers one of the user's. */
        ACQUAINTANCE
    }

    /** What of a message must be at hand to tell. */
    default Set<Need> needs() {
        return Set.of();
    }

    static Set<Need> needs(Collection<Condition> conditions) {
        return conditions.stream()
                .flatMap(condition -> condition.needs().stream())
                .collect(Collectors.toSet());
    }

    static List<String> lower(List<String> values) {
        return values.stream().map(value -> Address.key(value.strip())).toList();
    }

    static String either(List<String> values) {
        return String.join(" or ", values);
    }

    static String quoted(List<String> values) {
        return values.stream().map("“%s”"::formatted).collect(Collectors.joining(" or "));
    }
}
