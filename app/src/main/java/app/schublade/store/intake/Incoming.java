package app.schublade.store.intake;

import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Handled;
import app.schublade.core.message.Trait;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A message that was fetched and is to be stored.
 *
 * @param identity what the message is recognised by in another folder, see {@link app.schublade.core.format.Identity}
 * @param size of the whole source, in bytes
 * @param source the source, or its beginning if it is very large
 * @param sentTo the account's own addresses that it was sent to
 * @param alias the alias among them, or null
 * @param unclaimed addresses that it was sent to and that may be aliases nobody has told of
 * @param traits what is known of it
 * @param trayReason why it lies in its tray; null if it lies in none
 * @param handled whether it was answered or passed on before it was fetched
 * @param arrived as it lies on the server
 * @param verdict what the rules want; without hits for mail that was there before
 * @param served the ids of rules that the server has carried out already
 */
@SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
public record Incoming(
        long uid,
        String identity,
        Instant received,
        int size,
        byte[] source,
        ParsedMail mail,
        List<String> sentTo,
        @Nullable String alias,
        List<String> unclaimed,
        Set<Trait> traits,
        @Nullable String trayReason,
        Handled handled,
        State arrived,
        Verdict verdict,
        Set<Long> served) {

    /** The state once the rules have acted. */
    State filed() {
        State state = arrived;
        for (Verdict.Hit hit : hits(false)) {
            state = hit.on(state);
        }
        return state;
    }

    /** The parts of those rules that act here, or of those that the server has carried out already. */
    List<Verdict.Hit> hits(boolean byServer) {
        return verdict.hits().stream()
                .filter(hit -> served.contains(hit.rule().id()) == byServer)
                .toList();
    }

    /** The same with another verdict. */
    Incoming with(Verdict other) {
        return new Incoming(
                uid,
                identity,
                received,
                size,
                source,
                mail,
                sentTo,
                alias,
                unclaimed,
                traits,
                trayReason,
                handled,
                arrived,
                other,
                served);
    }

    boolean isWhole() {
        return source.length >= size;
    }
}
