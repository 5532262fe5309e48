package app.schublade.web.frame;

import app.schublade.store.account.Account;
import app.schublade.store.base.Database;
import org.springframework.stereotype.Component;

/** What is said of accounts. */
@Component
public class AccountWords {
    private final Database database;
    private final Dates dates;

    AccountWords(Database database, Dates dates) {
        this.database = database;
        this.dates = dates;
    }

    /** How an account is doing, in a few words. */
    public String state(Account account) {
        Account.Status status = account.status();
        return switch (status.state()) {
            case NEW -> "Connecting";
            case IMPORTING -> "Importing, %,d of %,d messages".formatted(status.imported(), status.toImport());
            case CONNECTED -> status.served() ? "Connected" : unserved();
            case AWAY -> triedAgain("Away since ", status);
            case STUCK -> triedAgain("Nothing new since ", status);
            case LOGIN_REFUSED -> "Wants a password";
            case NEEDS_USER -> "Waits for your decision";
        };
    }

    private String triedAgain(String what, Account.Status status) {
        return what
                + dates.time(status.since())
                + (status.nextTry() == null ? "" : ", next try at " + dates.time(status.nextTry()));
    }

    private String unserved() {
        return database.isFull()
                ? "Its mail cannot be stored: the disk of the database is full"
                : "Nothing fetches its mail at the moment";
    }
}
