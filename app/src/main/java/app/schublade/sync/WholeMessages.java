package app.schublade.sync;

import app.schublade.core.problem.InputProblem;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.message.MessageStore;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Fetches very large messages as a whole from their servers, when somebody wants them; they pass through piece by piece. */
@Component
public class WholeMessages {
    private static final Duration PATIENCE = Duration.ofSeconds(60);

    private final AccountStore accounts;
    private final Keyring keyring;

    WholeMessages(AccountStore accounts, Keyring keyring) {
        this.accounts = accounts;
        this.keyring = keyring;
    }

    /** A message on its server, ready to be handed on; to be closed. */
    public static final class WholeMessage implements AutoCloseable {
        private final ImapConnection imap;
        private final MessageStore.MissingPart rest;

        private WholeMessage(ImapConnection imap, MessageStore.MissingPart rest) {
            this.imap = imap;
            this.rest = rest;
        }

        /** In bytes. */
        public int size() {
            return rest.size();
        }

        /** @throws IOException if the server breaks off; what was written so far is not the whole */
        public void copyTo(OutputStream out) throws IOException {
            try {
                long bytes = imap.copyTo(rest.uid(), out);
                if (bytes != rest.size()) {
                    throw new IOException("The server gave %,d of %,d bytes.".formatted(bytes, rest.size()));
                }
            } catch (MailException e) {
                throw new IOException(e.getMessage(), e);
            }
        }

        @Override
        public void close() {
            imap.close();
        }
    }

    /** @throws InputProblem with a sentence if the server cannot be asked, or no longer has it where it was */
    public WholeMessage open(MessageStore.MissingPart rest) {
        Account account = accounts.byId(rest.accountId()).orElseThrow();
        String mailbox = rest.mailbox();
        if (mailbox == null || rest.uid() == 0) {
            throw new InputProblem("Only the beginning of this message is here, and its server gives no more of it.");
        }
        ImapConnection imap = null;
        try {
            imap = ImapConnection.open(account.host(), keyring.of(account), PATIENCE);
            Long known = rest.uidValidity();
            if (known == null || imap.open(mailbox).uidValidity() != known) {
                throw new InputProblem("Its server has renumbered the folder. Please try again in some minutes.");
            }
            return new WholeMessage(imap, rest);
        } catch (MailException | InputProblem e) {
            if (imap != null) {
                imap.close();
            }
            throw new InputProblem("The rest of this message cannot be fetched now. " + e.getMessage(), e);
        }
    }
}
