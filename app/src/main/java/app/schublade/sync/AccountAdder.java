package app.schublade.sync;

import app.schublade.core.problem.InputProblem;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.SmtpConnection;
import app.schublade.mail.discovery.Directory;
import app.schublade.mail.discovery.Discovery;
import app.schublade.mail.discovery.Probe;
import app.schublade.mail.discovery.Service;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.work.Background;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Finds the servers of an address, tries them, and adds accounts whose servers have let Schublade in. */
@Component
public class AccountAdder {
    private static final Logger LOG = LoggerFactory.getLogger(AccountAdder.class);
    private static final Duration PATIENCE = Duration.ofSeconds(15);
    private static final Duration LONGEST_SEARCH = Duration.ofSeconds(30);

    private final AccountStore accounts;
    private final Synchroniser synchroniser;
    private final Keyring keyring;
    private final Background background;
    private final Discovery discovery;

    AccountAdder(
            AccountStore accounts,
            Synchroniser synchroniser,
            Keyring keyring,
            Background background,
            Directory directory) {
        this.background = background;
        this.keyring = keyring;
        this.accounts = accounts;
        this.synchroniser = synchroniser;
        discovery = new Discovery(directory);
    }

    /**
     * How the servers of an account answered.
     *
     * @param receiving what is wrong, or null if it lets Schublade in
     * @param sending what is wrong, or null if it lets Schublade in, or if there is none
     */
    public record ConnectionTrial(
            @Nullable MailException receiving, @Nullable MailException sending) {
        public boolean works() {
            return receiving == null && sending == null;
        }
    }

    /**
     * Looks for the servers of an address and tries them with its password. Nothing is kept.
     *
     * @throws InputProblem if this is no address
     */
    public Probe.ProbedHosts find(String address, String password) {
        return new Probe(PATIENCE, LONGEST_SEARCH).find(discovery.candidates(address), Credentials.password(password));
    }

    /** Tries the servers of an account. Nothing is kept. */
    public ConnectionTrial tryOut(Account.Hosts hosts, Credentials credentials) {
        Service receiving = hosts.protocol() == Account.Protocol.POP3 ? Service.POP3 : Service.IMAP;
        MailHost sending = hosts.sending();
        return new ConnectionTrial(
                problem(receiving, hosts.receiving(), credentials),
                sending == null ? null : problem(Service.SUBMISSION, sending, credentials));
    }

    /** Tries other servers for an account, with another password or, if that is empty, with what it has. */
    public ConnectionTrial tryOut(Account account, Account.Hosts hosts, String password) {
        try {
            return tryOut(hosts, password.isEmpty() ? keyring.of(account) : Credentials.password(password));
        } catch (MailException e) {
            return new ConnectionTrial(e, null);
        }
    }

    private static @Nullable MailException problem(Service service, MailHost host, Credentials credentials) {
        try {
            Probe.check(service, host, credentials, PATIENCE);
            return null;
        } catch (MailException e) {
            return e;
        }
    }

    /**
     * Adds an account and begins to serve it.
     *
     * @throws MailException if a server does not let Schublade in; nothing is kept then
     */
    public Account add(long userId, Account.Draft draft) throws MailException {
        check(draft.hosts(), draft.secret());
        return keep(userId, draft);
    }

    /** Adds an account whose servers were tried, and begins to serve it. */
    public Account keep(long userId, Account.Draft draft) {
        Account account = accounts.add(userId, draft);
        serve(account);
        return account;
    }

    /** Gives an account other servers or another password, once they have let Schublade in, and connects with them. */
    public void connect(Account account, Account.Hosts hosts, String secret) throws MailException {
        check(hosts, secret);
        keepServers(account, hosts, secret);
    }

    /** Gives an account servers that were tried, and connects with them. */
    public void keepServers(Account account, Account.Hosts hosts, String secret) {
        accounts.connect(account.userId(), account.id(), hosts, secret);
        accounts.byId(account.id()).ifPresent(this::serve);
    }

    private void serve(Account account) {
        synchroniser.serve(account);
        MailHost sending = account.hosts().sending();
        if (sending != null) {
            background.start("limits-" + account.id(), () -> askLimit(account, sending));
        }
    }

    /** Whoever writes is told beforehand what is too large for the server. */
    private void askLimit(Account account, MailHost sending) {
        try {
            accounts.sendsUpTo(account.id(), SmtpConnection.check(sending, keyring.of(account), PATIENCE));
        } catch (MailException e) {
            // It let Schublade in a moment ago. What it takes at most is told with the first message.
            LOG.info("What the server of account {} takes at most is not known: {}", account.id(), e.getMessage());
        }
    }

    private void check(Account.Hosts hosts, String secret) throws MailException {
        ConnectionTrial trial = tryOut(hosts, Credentials.password(secret));
        if (trial.receiving() != null) {
            throw trial.receiving();
        }
        if (trial.sending() != null) {
            throw trial.sending();
        }
    }
}
