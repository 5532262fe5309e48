package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.mail.Fetched;
import app.schublade.mail.FolderStatus;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Which folders an account has on its server. Follows what was made, renamed and deleted there. */
final class FolderList {
    /** So many messages must be the same for a folder to be taken for another one renamed. */
    private static final int SAMPLE = 5;

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;

    FolderList(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /**
     * A folder and where it stands now.
     *
     * @param status null if the server tells only when it opens the folder
     */
    record FolderEntry(Mailbox mailbox, @Nullable FolderStatus status) {
        boolean isUnchanged() {
            FolderStatus agreed = mailbox.agreed();
            return status != null && agreed != null && status.isUnchangedSince(agreed);
        }
    }

    /** All folders, the Inbox first: it is what people wait for. */
    List<FolderEntry> look() throws MailException {
        Map<String, Mailbox> known = new HashMap<>();
        tools.mailboxes().of(account.id()).forEach(mailbox -> known.put(mailbox.serverName(), mailbox));
        List<RemoteFolder> remotes =
                imap.folders().stream().filter(RemoteFolder::selectable).toList();
        List<Mailbox> missing = new ArrayList<>(known.values());
        missing.removeIf(
                mailbox -> remotes.stream().anyMatch(one -> one.serverName().equals(mailbox.serverName())));
        List<FolderEntry> listed = new ArrayList<>();
        for (RemoteFolder remote : remotes) {
            Mailbox mailbox = known.get(remote.serverName());
            listed.add(new FolderEntry(mailbox != null ? mailbox : found(remote, missing), remote.status()));
        }
        missing.forEach(this::gone);
        tools.mailboxes().forgetWishesOfDeleted(account.id());
        listed.sort(Comparator.comparing((FolderEntry one) -> !one.mailbox().inbox())
                .thenComparing(one -> one.mailbox().serverName()));
        return listed;
    }

    /** A folder that was not there at the last look: new, or one of the missing ones under another name. */
    private Mailbox found(RemoteFolder remote, List<Mailbox> missing) throws MailException {
        if (!missing.isEmpty()) {
            Optional<Opened> opened = opened(remote);
            for (Iterator<Mailbox> each = missing.iterator(); opened.isPresent() && each.hasNext(); ) {
                Mailbox mailbox = each.next();
                if (isSame(mailbox, opened.get())) {
                    each.remove();
                    tools.mailboxes().renamed(account, mailbox, remote);
                    tools.mailboxes().tidy(mailbox.folderId());
                    tell("The folder %s is called %s now.".formatted(mailbox.serverName(), remote.serverName()));
                    return tools.mailboxes().byId(mailbox.id()).orElseThrow();
                }
            }
        }
        return tools.mailboxes().mailbox(account, remote);
    }

    private Optional<Opened> opened(RemoteFolder remote) throws MailException {
        try {
            return Optional.of(imap.open(remote.serverName()));
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            return Optional.empty();
        }
    }

    /** A renamed folder keeps its UIDVALIDITY and its messages' UIDs; other folders may have the same by chance. */
    private boolean isSame(Mailbox mailbox, Opened opened) throws MailException {
        Long validity = mailbox.uidValidity();
        if (mailbox.inbox() || validity == null || validity != opened.uidValidity()) {
            return false;
        }
        Map<Long, String> sample = tools.copies().sample(mailbox.id(), SAMPLE);
        if (sample.isEmpty()) {
            return opened.messages() == 0;
        }
        int same = 0;
        for (Fetched glance : imap.fetchIds(sample.keySet())) {
            String identity = sample.getOrDefault(glance.uid(), "");
            if (!Identity.isDigest(identity) && !identity.equals(Identity.of(glance.source()))) {
                return false;
            }
            same++;
        }
        return same > 0;
    }

    private void gone(Mailbox mailbox) {
        tools.mailboxes().gone(mailbox);
        tools.mailboxes().tidy(mailbox.folderId());
        tell("The folder %s is no longer on the server.".formatted(mailbox.serverName()));
    }

    private void tell(String what) {
        tools.progress().tell(account, what);
    }
}
