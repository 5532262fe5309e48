package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.core.format.MailWriter;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.DraftCopyStore.DraftCopy;
import app.schublade.store.outgoing.DraftCopyStore.UnsavedDraft;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Keeps an account's drafts on its server, so that other programs find them: each once, as it is now, and gone when it is sent.
 * The new one is written before the old one is taken out, and only what was written here is, or what is written on here. That can
 * be cut off anywhere.
 */
final class DraftCopies {
    private static final Logger LOG = LoggerFactory.getLogger(DraftCopies.class);
    private static final Set<String> MARKS = Set.of("\\Draft", "\\Seen");
    /** After a server did not take one. */
    private static final Duration REST = Duration.ofMinutes(10);

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;
    private long refused;
    private boolean rests;

    DraftCopies(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /** Returns whether anything was written or taken out. */
    boolean save() throws MailException {
        rests = rests && !AccountWorker.isOver(refused, REST);
        if (rests) {
            return false;
        }
        List<UnsavedDraft> unsaved = tools.drafts().unsaved(account.id());
        try {
            for (UnsavedDraft draft : unsaved) {
                Optional<Outgoing> one = tools.outgoing().byId(account.userId(), draft.outgoing());
                if (one.isPresent()) {
                    write(draft, one.get());
                }
            }
        } catch (MailException e) {
            rest(e);
        } catch (RuntimeException e) {
            // Whatever is wrong with a draft, the account's mail comes and goes.
            LOG.error("A draft of account {} could not be written for its server", account.id(), e);
            rest();
        }
        List<DraftCopy> outdated = tools.drafts().outdated(account.id());
        for (DraftCopy old : outdated) {
            remove(old);
        }
        return !unsaved.isEmpty() || !outdated.isEmpty();
    }

    /** A server that says no to a draft serves its account all the same: the draft is here. */
    private void rest(MailException problem) throws MailException {
        if (problem.kind() != MailException.FailureKind.REFUSED && problem.kind() != MailException.FailureKind.FULL) {
            throw problem;
        }
        LOG.info("The server of account {} takes no draft: {}", account.id(), problem.getMessage());
        rest();
    }

    private void rest() {
        refused = System.nanoTime();
        rests = true;
    }

    private void write(UnsavedDraft draft, Outgoing one) throws MailException {
        String folder = OwnFolders.of(account, SpecialUse.DRAFTS, tools.mailboxes(), imap);
        DraftCopy copy = tools.drafts().begin(account.id(), draft, folder);
        DraftText text = one.text();
        OutgoingMessage outline = new OutgoingMessage(
                        new Address("", text.sender()),
                        MailWriter.likely(text.to()),
                        MailWriter.likely(text.cc()),
                        text.subject(),
                        text.body(),
                        one.inReplyTo(),
                        one.references())
                .formatted(text.html())
                .with(tools.files().files(one.id()));
        byte[] source = MailWriter.writeDraft(outline, text.bcc(), copy.identity(), one.changedAt());
        imap.ensureOpen(folder);
        List<Fetched> there = withIdentity(copy);
        if (there.isEmpty()) {
            imap.append(folder, source, Instant.now(), MARKS);
            imap.open(folder);
            there = withIdentity(copy);
        }
        // As the server counts: it may keep it in another form.
        int size = there.stream().mapToInt(Fetched::size).findFirst().orElse(source.length);
        tools.drafts().saved(copy, size);
    }

    private void remove(DraftCopy old) throws MailException {
        try {
            imap.ensureOpen(old.folder());
            imap.remove(there(old));
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            LOG.info("An old draft of account {} stays on its server: {}", account.id(), e.getMessage());
        }
        tools.drafts().removed(old);
    }

    /** What another program has changed meanwhile has another size, and is left to it. */
    private List<Long> there(DraftCopy old) throws MailException {
        Integer size = old.size();
        return withIdentity(old).stream()
                .filter(one -> size == null || one.size() == size)
                .map(Fetched::uid)
                .toList();
    }

    private List<Fetched> withIdentity(DraftCopy copy) throws MailException {
        if (!Identity.isDigest(copy.identity())) {
            return imap.fetchIds(imap.withMessageId(copy.identity()));
        }
        Integer size = copy.size();
        return size == null
                ? List.of()
                : imap.fetchHeaders(imap.withSize(size)).stream()
                        .filter(one -> Identity.of(one.source()).equals(copy.identity()))
                        .toList();
    }
}
