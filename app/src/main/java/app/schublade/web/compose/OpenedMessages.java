package app.schublade.web.compose;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.web.frame.CurrentUser;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Messages here, read from their source: to be answered, passed on or written on. */
@Component
class OpenedMessages {
    private final MessageStore messages;
    private final AccountStore accounts;

    OpenedMessages(MessageStore messages, AccountStore accounts) {
        this.messages = messages;
        this.accounts = accounts;
    }

    /** One of them. */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    record OpenedMessage(ListRow row, byte[] source, ParsedMail mail, Account account) {}

    Optional<OpenedMessage> of(CurrentUser person, long id) {
        return messages.row(person.id(), id)
                .flatMap(row -> messages.source(person.id(), id)
                        .map(source -> new OpenedMessage(
                                row,
                                source,
                                MimeReader.read(source),
                                accounts.byId(person.id(), row.accountId()).orElseThrow())));
    }
}
