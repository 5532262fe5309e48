package app.schublade.sync;

import app.schublade.core.place.SpecialUse;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.intake.MailboxStore;
import java.util.Optional;

/** The folders on an account's server that have a use of their own (RFC 6154). */
final class OwnFolders {
    private OwnFolders() {}

    /** What the folder of this use is called there; it may not be known here yet. Made if there is none. */
    static String of(Account account, SpecialUse use, MailboxStore mailboxes, ImapConnection imap)
            throws MailException {
        Optional<Mailbox> known = mailboxes.ofUse(account, use);
        if (known.isPresent()) {
            return known.get().serverName();
        }
        Optional<RemoteFolder> there = imap.folders().stream()
                .filter(folder -> folder.use().equals(Optional.of(use)))
                .findFirst();
        return there.isPresent() ? there.get().serverName() : imap.create(use.path());
    }
}
