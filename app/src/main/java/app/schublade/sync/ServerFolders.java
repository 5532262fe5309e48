package app.schublade.sync;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import java.util.List;
import java.util.Optional;

/** An account's folders for those of the cabinet; one that is not there is made on the server. */
final class ServerFolders {
    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;

    ServerFolders(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    Mailbox folder(long folderId) throws MailException {
        Optional<Mailbox> known = tools.mailboxes().mailboxOf(account.id(), folderId);
        if (known.isPresent()) {
            return known.get();
        }
        FolderPath asked = tools.mailboxes().path(folderId);
        FolderPath path = freePath(asked);
        tools.mailboxes().wish(account.id(), folderId);
        String serverName = imap.create(path);
        RemoteFolder made = new RemoteFolder(serverName, path, SpecialUse.of(path, List.of()), true);
        Mailbox mailbox = tools.mailboxes().made(account, folderId, asked, made);
        return tools.mailboxes().opened(mailbox, imap.open(serverName), 0);
    }

    /** A folder that its server did not rename may have the name there. */
    private FolderPath freePath(FolderPath wanted) {
        FolderPath path = wanted;
        for (int i = 2; tools.mailboxes().isUsed(account.id(), imap.serverName(path)); i++) {
            path = FolderPath.parse("%s (%d)".formatted(wanted, i));
        }
        return path;
    }
}
