package app.schublade.mail;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.function.Function;
import org.eclipse.angus.mail.iap.Argument;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.protocol.FetchResponse;
import org.jspecify.annotations.Nullable;

/** The commands that ask about messages of the folder that is open, by UID only (RFC 3501, section 6.4.8). */
record Queries(Wire wire) {
    /** UIDs of what fits, ascending; as one set where the server can (RFC 4731). */
    long[] search(String criterion, @Nullable String value) throws MailException {
        try {
            Argument arguments = new Argument();
            if (wire.hasCapability("ESEARCH")) {
                arguments.writeAtom("RETURN (ALL)");
            }
            arguments.writeAtom(criterion);
            if (value != null) {
                arguments.writeString(value);
            }
            return ResponseReader.found(wire.ask("UID SEARCH", arguments));
        } catch (ProtocolException e) {
            throw MailException.failed("search", e);
        }
    }

    /** Fetches items of messages, so many in one command. */
    List<Fetched> fetchAll(Collection<Long> uids, String items) throws MailException {
        List<Fetched> all = new ArrayList<>();
        for (List<Long> some : UidSets.inSets(uids)) {
            all.addAll(fetch(UidSets.set(some), items, ResponseReader::fetched));
        }
        return all;
    }

    /** Fetches items of messages as one command; what came before the answer broke off counts. */
    ImapConnection.Given fetchSome(Collection<Long> uids, String items) {
        Argument arguments = new Argument();
        arguments.writeAtom(UidSets.set(uids.stream().sorted().toList()));
        arguments.writeAtom("(" + items + ")");
        Response[] answers = wire.command("UID FETCH", arguments);
        List<Fetched> messages = ResponseReader.collect(answers, ResponseReader::fetched);
        try {
            wire.notifyResponseHandlers(answers);
            wire.handleResult(answers[answers.length - 1]);
            return new ImapConnection.Given(messages, null);
        } catch (ProtocolException e) {
            return new ImapConnection.Given(
                    messages, MailException.failed("give all the messages that were asked for", e));
        }
    }

    /** Fetches items of a set of messages. */
    <T> List<T> fetch(String set, String items, Function<FetchResponse, @Nullable T> reader) throws MailException {
        try {
            Argument arguments = new Argument();
            arguments.writeAtom(set);
            arguments.writeAtom("(" + items + ")");
            return ResponseReader.collect(wire.ask("UID FETCH", arguments), reader);
        } catch (ProtocolException e) {
            throw MailException.failed("fetch messages", e);
        }
    }
}
