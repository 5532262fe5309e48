package app.schublade.sync;

import app.schublade.store.AccountStore;
import app.schublade.store.CopyStore;
import app.schublade.store.IntakeStore;
import app.schublade.store.MailboxStore;
import app.schublade.store.OrderStore;
import app.schublade.store.PopStore;
import org.springframework.stereotype.Component;

/** What every worker works with. */
@Component
record WorkerTools(
        AccountStore accounts,
        MailboxStore mailboxes,
        CopyStore copies,
        IntakeStore intake,
        OrderStore orders,
        PopStore pop,
        MarkSync marks,
        LetterOpener opener,
        Keyring keyring,
        Progress progress) {}
