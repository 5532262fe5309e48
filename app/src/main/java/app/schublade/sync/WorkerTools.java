package app.schublade.sync;

import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.Database;
import app.schublade.store.filing.CopyDelivery;
import app.schublade.store.filing.MessageRemoval;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.ServerLocationStore;
import app.schublade.store.find.IndexStore;
import app.schublade.store.intake.AsideStore;
import app.schublade.store.intake.ConversationStore;
import app.schublade.store.intake.IntakeStore;
import app.schublade.store.intake.KeptStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.intake.PopStore;
import app.schublade.store.outgoing.DraftCopyStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.work.Background;
import org.springframework.stereotype.Component;

/** What every worker works with. */
@Component
record WorkerTools(
        AccountStore accounts,
        MailboxStore mailboxes,
        ServerLocationStore copies,
        IntakeStore intake,
        IndexStore index,
        MessageRemoval removal,
        ConversationStore conversations,
        OrderStore orders,
        CopyDelivery delivery,
        PopStore pop,
        AsideStore aside,
        KeptStore kept,
        MarkSync marks,
        MessageReader opener,
        BetterReading better,
        Storing storing,
        DraftCopyStore drafts,
        OutgoingStore outgoing,
        OutgoingFileStore files,
        Keyring keyring,
        AccountReports progress,
        Database database,
        Background background) {
    private static final int JOINED = 2_000;
    private static final int INDEXED = 250;

    /** Does some of what follows behind new mail: conversations, and finding by words. Returns whether all is done. */
    boolean catchUp(Account account) {
        boolean joined = conversations.join(account.id(), JOINED) < JOINED;
        boolean indexed = index.index(account.id(), INDEXED) < INDEXED;
        return better.readSome(account) && indexed && joined;
    }
}
