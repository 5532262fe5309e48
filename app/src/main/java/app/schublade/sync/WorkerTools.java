package app.schublade.sync;

import app.schublade.store.AccountStore;
import app.schublade.store.AsideStore;
import app.schublade.store.ConversationStore;
import app.schublade.store.CopyDelivery;
import app.schublade.store.CopyStore;
import app.schublade.store.Database;
import app.schublade.store.IntakeStore;
import app.schublade.store.KeptStore;
import app.schublade.store.MailboxStore;
import app.schublade.store.OrderStore;
import app.schublade.store.PopStore;
import app.schublade.work.Background;
import org.springframework.stereotype.Component;

/** What every worker works with. */
@Component
record WorkerTools(
        AccountStore accounts,
        MailboxStore mailboxes,
        CopyStore copies,
        IntakeStore intake,
        ConversationStore conversations,
        OrderStore orders,
        CopyDelivery delivery,
        PopStore pop,
        AsideStore aside,
        KeptStore kept,
        MarkSync marks,
        LetterOpener opener,
        Storing storing,
        Keyring keyring,
        Progress progress,
        Database database,
        Background background) {
    private static final int JOINED = 2_000;
    private static final int INDEXED = 500;

    /** Does some of what follows behind new mail: conversations, and finding by words. Returns whether all is done. */
    boolean catchUp(long accountId) {
        boolean joined = conversations.join(accountId, JOINED) < JOINED;
        return intake.index(accountId, INDEXED) < INDEXED && joined;
    }
}
