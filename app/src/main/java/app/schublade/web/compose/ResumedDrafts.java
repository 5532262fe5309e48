package app.schublade.web.compose;

import app.schublade.core.format.MailWriter;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.store.account.Account;
import app.schublade.store.outgoing.DraftCopyStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.web.frame.CurrentUser;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Drafts that lie on a server, written on here. */
@Component
public class ResumedDrafts {
    private final OutgoingStore outgoing;
    private final OutgoingFileStore files;
    private final DraftCopyStore copies;
    private final OpenedMessages opened;

    ResumedDrafts(OutgoingStore outgoing, OutgoingFileStore files, DraftCopyStore copies, OpenedMessages opened) {
        this.outgoing = outgoing;
        this.files = files;
        this.copies = copies;
        this.opened = opened;
    }

    /**
     * The id of the draft that a message here is: the one that was written here, or a new one that takes the place of what another
     * program has left.
     */
    public Optional<Long> of(CurrentUser person, long message) {
        Optional<Long> here = copies.draftOf(person.id(), message);
        return here.isPresent() ? here : opened.of(person, message).map(one -> begun(person, one));
    }

    private long begun(CurrentUser person, OpenedMessages.OpenedMessage one) {
        Account account = one.account();
        OutgoingMessage outline = OutgoingMessage.resumed(one.mail(), account.ownAddresses(), person.name());
        DraftText text = new DraftText(
                account.id(),
                outline.from().email(),
                MailWriter.typed(outline.to()),
                MailWriter.typed(outline.cc()),
                MailWriter.typed(OutgoingMessage.blindCopies(one.mail())),
                outline.subject(),
                outline.text(),
                outline.html());
        long id = files.begin(
                () -> outgoing.begin(person.id(), text, null, outline.inReplyTo(), outline.references()),
                outline.files());
        copies.replaces(id, one.row().id());
        return id;
    }
}
