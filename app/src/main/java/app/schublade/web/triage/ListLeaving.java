package app.schublade.web.triage;

import app.schublade.core.format.ListExit;
import app.schublade.core.format.ListExit.ExitMail;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.core.problem.InputProblem;
import app.schublade.mail.UnsubscribeRequest;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.store.noise.ListsStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.web.compose.Writing;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Notice;
import java.io.IOException;
import java.net.URI;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Leaves mailing lists as their messages say: by one request, else by a mail to the list. */
@Component
class ListLeaving {
    private final MessageStore messages;
    private final AccountStore accounts;
    private final OutgoingStore outgoing;
    private final ListsStore lists;
    private final UnsubscribeRequest requests;
    private final Dates dates;
    private final Acts acts;

    ListLeaving(
            MessageStore messages,
            AccountStore accounts,
            OutgoingStore outgoing,
            ListsStore lists,
            UnsubscribeRequest requests,
            Dates dates,
            Acts acts) {
        this.acts = acts;
        this.messages = messages;
        this.accounts = accounts;
        this.outgoing = outgoing;
        this.lists = lists;
        this.requests = requests;
        this.dates = dates;
    }

    /** How the list of a message can be left; empty if it does not say. */
    Optional<ListExit> exit(long userId, long message) {
        return messages.source(userId, message)
                .flatMap(source -> ListExit.of(MimeReader.read(source).headers()));
    }

    /**
     * Leaves the list that a message came by.
     *
     * @return what came of it
     * @throws InputProblem if the list does not say how, or nothing can be sent
     */
    Notice leave(CurrentUser person, long message) {
        ListRow row = messages.row(person.id(), message)
                .orElseThrow(() -> new InputProblem("This message is gone; open another one of that list."));
        String list = lists.name(person.id(), message).orElse(row.sender().key());
        ListExit exit = exit(person.id(), message)
                .orElseThrow(
                        () -> new InputProblem("This list does not say how to leave it. Block its sender instead."));
        String problem = null;
        if (exit.request() != null) {
            problem = ask(exit.request());
            if (problem == null) {
                return told(person, list, "Its server agreed to take you off the list.", null);
            }
        }
        if (exit.mail() != null) {
            long id = write(person, row, exit.mail());
            return told(
                    person,
                    list,
                    "A mail to %s asks to take you off the list."
                            .formatted(exit.mail().to()),
                    "/write/%d/recall".formatted(id));
        }
        throw new InputProblem(
                problem == null
                        ? "This list can only be left on its own page; open the message for the link."
                        : "The list was not left: %s Try later, or block its sender.".formatted(problem));
    }

    /** Null if the server agrees, else what is wrong. */
    private @Nullable String ask(URI address) {
        try {
            int status = requests.send(address);
            boolean agrees = status >= 200 && status < 300;
            return agrees ? null : "its server refuses (%d).".formatted(status);
        } catch (IOException e) {
            return "%s did not answer properly.".formatted(address.getHost());
        }
    }

    private long write(CurrentUser person, ListRow row, ExitMail mail) {
        Account account = accounts.byId(person.id(), row.accountId())
                .filter(one -> one.hosts().sending() != null)
                .orElseThrow(
                        () -> new InputProblem("This account has no server to send from; the list asks for a mail."));
        String own = row.alias() == null ? account.address() : row.alias();
        OutgoingMessage outline = new OutgoingMessage(
                new Address("", own),
                List.of(new Address("", mail.to())),
                List.of(),
                mail.subject(),
                mail.text(),
                null,
                List.of());
        long id = outgoing.begin(person.id(), account.id(), outline, null);
        Instant now = dates.now();
        outgoing.send(person.id(), id, outline, now, now.plus(Writing.GRACE));
        return id;
    }

    private Notice told(CurrentUser person, String list, String told, @Nullable String recall) {
        lists.left(person.id(), list, told);
        acts.open(person.id(), Cause.FOR_GOOD, "Left the mailing list %s. %s".formatted(list, told));
        return recall == null ? Notice.told(told) : Notice.sent(told, recall);
    }
}
