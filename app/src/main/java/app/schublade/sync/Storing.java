package app.schublade.sync;

import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.intake.AsideStore;
import app.schublade.store.intake.Incoming;
import app.schublade.store.intake.IntakeStore;
import app.schublade.store.intake.KeptStore;
import io.micrometer.core.instrument.Counter;
import io.micrometer.core.instrument.MeterRegistry;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.dao.RecoverableDataAccessException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.CannotCreateTransactionException;

/**
 * Stores what was fetched, so that no message can stop the others: messages that cannot be stored together are stored one by
 * one, and one that cannot be stored at all as it was read is kept as it came.
 */
@Component
class Storing {
    private static final Logger LOG = LoggerFactory.getLogger(Storing.class);

    private final MessageReader opener;
    private final IntakeStore intake;
    private final KeptStore kept;
    private final AsideStore aside;
    private final Counter stored;
    private final Counter unreadable;

    Storing(MessageReader opener, IntakeStore intake, KeptStore kept, AsideStore aside, MeterRegistry metrics) {
        this.stored = metrics.counter("schublade.messages.stored");
        this.unreadable = metrics.counter("schublade.messages.unreadable");
        this.aside = aside;
        this.opener = opener;
        this.intake = intake;
        this.kept = kept;
    }

    /**
     * Stores letters of one folder.
     *
     * @param isCopy tells of a letter that looks new whether it is one that was there before, copied
     */
    void store(Account account, Mailbox mailbox, List<FetchedMessage> letters, Predicate<FetchedMessage> isCopy) {
        store(account, mailbox, letters, isCopy, opened -> intake.store(account, mailbox, opened));
    }

    /** As above, by another way into the store that is one transaction and can be repeated. */
    void store(
            Account account,
            Mailbox mailbox,
            List<FetchedMessage> letters,
            Predicate<FetchedMessage> isCopy,
            Consumer<List<Incoming>> into) {
        boolean allRead = letters.stream().allMatch(one -> one.problem() == null);
        if (allRead && tryTo(() -> into.accept(opener.open(account, mailbox, letters, isCopy))) == null) {
            stored.increment(letters.size());
            return;
        }
        opener.tryWithoutMessages(account);
        for (FetchedMessage letter : letters) {
            storeOne(account, mailbox, letter, isCopy);
        }
        into.accept(List.of());
    }

    private void storeOne(Account account, Mailbox mailbox, FetchedMessage letter, Predicate<FetchedMessage> isCopy) {
        String problem = letter.problem();
        if (problem == null) {
            Throwable failure =
                    tryTo(() -> intake.store(account, mailbox, opener.open(account, mailbox, List.of(letter), isCopy)));
            if (failure == null) {
                stored.increment();
                return;
            }
            LOG.error(
                    "Message {} in {} could not be stored as it was read",
                    letter.fetched().uid(),
                    mailbox,
                    failure);
            problem = "it could not be stored as it was read (%s)"
                    .formatted(failure.getClass().getSimpleName());
        }
        String reason = problem;
        FetchedMessage asItCame = letter.asItCame(reason);
        Throwable failure =
                tryTo(() -> kept.keep(account, mailbox, opener.withoutRules(account, mailbox, asItCame), reason));
        unreadable.increment();
        if (failure != null) {
            LOG.error(
                    "Message {} in {} could not even be kept as it came",
                    letter.fetched().uid(),
                    mailbox,
                    failure);
            aside.failed(mailbox, String.valueOf(letter.fetched().uid()), reason);
        }
    }

    /** What it failed with because of what is in the messages; null if it went well. That the database is away is thrown. */
    static @Nullable Throwable tryTo(Runnable work) {
        try {
            work.run();
            return null;
        } catch (TransientDataAccessException
                | RecoverableDataAccessException
                | DataAccessResourceFailureException
                | CannotCreateTransactionException e) {
            throw e;
        } catch (RuntimeException | StackOverflowError | AssertionError e) {
            return e;
        }
    }

    /** Reads again what an older version could not read, some at a time. Returns whether that is all. */
    boolean readAgain(Account account, Mailbox inbox, int most) {
        List<Long> unread = kept.toRead(account.id(), most);
        for (long id : unread) {
            Throwable failure = tryTo(() -> kept.source(id).ifPresent(source -> {
                FetchedMessage letter = FetchedMessage.again(source.source(), source.size());
                String problem = letter.problem();
                if (problem == null) {
                    kept.read(account, id, opener.withoutRules(account, inbox, letter));
                } else {
                    kept.stillUnread(id, problem);
                }
            }));
            if (failure != null) {
                kept.stillUnread(
                        id,
                        "it could not be stored as it was read (%s)"
                                .formatted(failure.getClass().getSimpleName()));
            }
        }
        return unread.size() < most;
    }
}
