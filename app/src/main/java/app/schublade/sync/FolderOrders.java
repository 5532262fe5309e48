package app.schublade.sync;

import app.schublade.core.place.FolderPath;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * Makes, renames and deletes folders on the server as the user did here. All of it is safe to repeat: a folder that was renamed
 * already is recognised under its new name by the next {@link FolderList}, one that was deleted is missed there.
 */
final class FolderOrders {
    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;

    FolderOrders(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    void run() throws MailException {
        rename();
        for (long folder : tools.mailboxes().toMake(account.id())) {
            make(folder);
        }
        List<Mailbox> toDelete = tools.mailboxes().toDelete(account.id());
        if (!toDelete.isEmpty()) {
            prepare();
        }
        for (Mailbox mailbox : toDelete) {
            delete(mailbox);
        }
    }

    /** Asks for the names that are taken, and with them the delimiter; a folder that is open cannot always be renamed. */
    private Set<String> prepare() throws MailException {
        Set<String> names = imap.folders().stream()
                .filter(RemoteFolder::selectable)
                .map(RemoteFolder::serverName)
                .collect(Collectors.toSet());
        imap.open("INBOX");
        return names;
    }

    /**
     * Renames what is to be renamed. Some may be in each other's way, such as two that change their names: one of them
     * steps aside first. Each is renamed once or refused, and steps aside once at most, so that this ends.
     */
    void rename() throws MailException {
        Set<Long> steppedAside = new HashSet<>();
        for (List<Mailbox> all = toRename(); !all.isEmpty(); all = toRename()) {
            List<Mailbox> left = all;
            Set<String> taken = prepare();
            Optional<Mailbox> free = first(left, one -> isFree(one, taken));
            Set<String> wanted = left.stream().map(this::wanted).collect(Collectors.toSet());
            Optional<Mailbox> inTheWay = first(
                    left,
                    one -> !steppedAside.contains(one.id())
                            && (wanted.contains(one.serverName()) || isWantedInItself(one)));
            if (free.isEmpty() && inTheWay.isPresent()) {
                steppedAside.add(inTheWay.get().id());
                stepAside(inTheWay.get());
            } else {
                rename(free.orElse(left.get(0)));
            }
        }
    }

    private List<Mailbox> toRename() {
        return tools.mailboxes().toRename(account.id());
    }

    private static Optional<Mailbox> first(List<Mailbox> all, Predicate<Mailbox> condition) {
        return all.stream().filter(condition).findFirst();
    }

    private String wanted(Mailbox mailbox) {
        return imap.serverName(tools.mailboxes().wantedPath(mailbox.id()));
    }

    private boolean isFree(Mailbox mailbox, Set<String> taken) {
        String name = wanted(mailbox);
        return name.equals(mailbox.serverName()) || !(taken.contains(name) || isWantedInItself(mailbox));
    }

    private boolean isWantedInItself(Mailbox mailbox) {
        return tools.mailboxes().wantedPath(mailbox.id()).isBelow(FolderPath.stored(mailbox.path()));
    }

    private void stepAside(Mailbox mailbox) throws MailException {
        FolderPath aside = FolderPath.parse("renaming-" + mailbox.id());
        try {
            moved(mailbox, imap.rename(mailbox.serverName(), aside), aside);
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            tools.progress().tell(account, e.getMessage());
        }
    }

    private void rename(Mailbox mailbox) throws MailException {
        FolderPath wanted = tools.mailboxes().wantedPath(mailbox.id());
        if (mailbox.serverName().equals(imap.serverName(wanted))) {
            tools.mailboxes().isCalled(mailbox.id(), mailbox.serverName(), wanted.toString()); // With its parent.
            return;
        }
        try {
            String name = imap.rename(mailbox.serverName(), wanted);
            moved(mailbox, name, wanted);
            tools.mailboxes().isCalled(mailbox.id(), name, wanted.toString());
            tools.progress().tell(account, "The folder %s is called %s now.".formatted(mailbox.serverName(), name));
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            tools.mailboxes().isCalled(mailbox.id(), mailbox.serverName(), mailbox.path());
            tools.progress().tell(account, e.getMessage() + " It keeps that name there.");
        }
    }

    /** A server renames all below a folder with it (RFC 3501, section 6.3.5). */
    private void moved(Mailbox mailbox, String name, FolderPath path) {
        String below = mailbox.path() + "/";
        for (Mailbox one : tools.mailboxes().of(account.id())) {
            if (one.path().startsWith(below)) {
                FolderPath moved = FolderPath.stored(path + "/" + one.path().substring(below.length()));
                tools.mailboxes().moved(one.id(), imap.serverName(moved), moved.toString());
            }
        }
        tools.mailboxes().moved(mailbox.id(), name, path.toString());
    }

    private void make(long folder) throws MailException {
        try {
            Mailbox made = new ServerFolders(account, tools, imap).folder(folder);
            tools.progress().tell(account, "Created the folder %s.".formatted(made.serverName()));
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            tools.progress().tell(account, e.getMessage());
        }
        tools.mailboxes().isMade(account.id(), folder);
    }

    private void delete(Mailbox mailbox) throws MailException {
        try {
            // Something may have come that is not known here yet; it must not go with the folder.
            if (imap.open(mailbox.serverName()).messages() == 0) {
                imap.open("INBOX");
                imap.delete(mailbox.serverName());
                tools.mailboxes().gone(mailbox);
                tools.progress().tell(account, "Deleted the folder %s.".formatted(mailbox.serverName()));
            }
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            tools.progress().tell(account, e.getMessage());
        }
    }
}
