package app.schublade.sync;

import app.schublade.core.filing.Rule;
import app.schublade.core.problem.InputProblem;
import app.schublade.core.sieve.SieveWriter;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.ScriptConnection;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.rule.ScriptStore;
import app.schublade.store.rule.ScriptStore.ServerScript;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.util.HexFormat;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Keeps the rules on the servers of those accounts that the user wants it for, so that mail is filed while Schublade is not
 * running. What a server has filed bears a mark, and the rules that are in its script do not act on it once more.
 */
@Component
public class ScriptKeeper extends ScheduledWork {
    /** The keyword of messages that have gone through the script. */
    public static final String MARK = "SchubladeFiled";

    /** The name of the script on the server. */
    public static final String NAME = "schublade";

    /** Under this name what somebody else made of the script is kept on the server. */
    private static final String CHANGED = NAME + "-changed";

    private static final String SEAL = "# Schublade ";

    private static final Duration PATIENCE = Duration.ofSeconds(20);
    private static final Duration PAUSE = Duration.ofMinutes(2);
    private static final int AT_ONCE = 10;

    private final Set<Long> busy = ConcurrentHashMap.newKeySet();
    private final ScriptStore scripts;
    private final AccountStore accounts;
    private final ScriptMaker maker;
    private final Keyring keyring;
    private final AccountReports progress;
    private final Background background;

    ScriptKeeper(
            ScriptStore scripts,
            AccountStore accounts,
            ScriptMaker maker,
            Keyring keyring,
            AccountReports progress,
            Background background) {
        super(background, "script keeper", Duration.ofSeconds(2));
        this.scripts = scripts;
        this.accounts = accounts;
        this.maker = maker;
        this.keyring = keyring;
        this.progress = progress;
        this.background = background;
    }

    @Override
    protected void go() {
        for (Optional<ServerScript> next = claim(); next.isPresent(); next = claim()) {
            ServerScript one = next.get();
            busy.add(one.accountId());
            background.start("script-keeper-" + one.accountId(), () -> {
                try {
                    keep(one);
                } finally {
                    busy.remove(one.accountId());
                }
            });
        }
    }

    private Optional<ServerScript> claim() {
        return busy.size() >= AT_ONCE ? Optional.empty() : scripts.claim();
    }

    private void keep(ServerScript there) {
        Account account = accounts.byId(there.accountId()).orElse(null);
        if (account == null) {
            return;
        }
        boolean same = there.at() != null
                && maker.write(account, Set.copyOf(there.extensions())).script().equals(there.script());
        boolean rests = there.watch().instead() != null; // What somebody else did there is not put over.
        if ((same || rests) && !there.isToBeChecked()) {
            scripts.asBefore(account.id());
            return;
        }
        try (ScriptConnection connection = open(account, there.host(account.host()))) {
            Map<String, Boolean> known = connection.scripts();
            String text = text(connection, known);
            String instead = there.at() == null ? null : instead(there, known, text);
            if (instead != null || (same && sealed(there.script()).equals(text))) {
                note(account, there.watch().instead(), instead);
            } else {
                put(account, connection);
            }
        } catch (MailException | RuntimeException e) {
            scripts.later(account.id(), e.getMessage(), PAUSE);
        }
    }

    /** What the server does in place of the script that was put there; null if that is in force. */
    private static @Nullable String instead(ServerScript there, Map<String, Boolean> known, @Nullable String text) {
        String active = active(known);
        if (active == null) {
            return "no script is active there";
        }
        if (!active.equals(NAME)) {
            return "another script is active there, “%s”".formatted(active);
        }
        return isOurs(there, text) ? null : "somebody has changed the script there";
    }

    private static @Nullable String active(Map<String, Boolean> known) {
        return known.entrySet().stream()
                .filter(Map.Entry::getValue)
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(null);
    }

    /** The script as it stands on the server; null if there is none. */
    private static @Nullable String text(ScriptConnection connection, Map<String, Boolean> known) throws MailException {
        return known.containsKey(NAME) ? connection.get(NAME) : null;
    }

    /**
     * With a line before it by which it is known that nobody has changed it since; whichever version it is, for one that was put
     * there just before a crash is not written down here.
     */
    private static String sealed(String script) {
        return SEAL + digest(script) + "\n" + script;
    }

    private static boolean isOurs(ServerScript there, @Nullable String text) {
        if (text == null) {
            return false;
        }
        int end = text.indexOf('\n');
        boolean intact = text.startsWith(SEAL)
                && end > 0
                && text.substring(SEAL.length(), end).equals(digest(text.substring(end + 1)));
        return intact || text.strip().equals(there.script().strip()); // One of an earlier version has no seal.
    }

    /** Servers may end the last line in their own way. */
    private static String digest(String script) {
        try {
            byte[] digest =
                    MessageDigest.getInstance("SHA-256").digest(script.strip().getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(digest);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e); // Every Java has it.
        }
    }

    private void note(Account account, @Nullable String before, @Nullable String instead) {
        scripts.checked(account.id(), instead);
        if (!Objects.equals(before, instead)) {
            progress.tell(
                    account,
                    instead == null
                            ? "The server files by the rules again."
                            : "The server no longer files by the rules: %s.".formatted(instead));
            progress.changed(account);
        }
    }

    private ScriptConnection open(Account account, MailHost host) throws MailException {
        return ScriptConnection.open(host, keyring.of(account), PATIENCE);
    }

    private void put(Account account, ScriptConnection connection) throws MailException {
        SieveWriter.Written written = maker.write(account, connection.extensions());
        connection.put(NAME, sealed(written.script()));
        connection.activate(NAME);
        scripts.kept(
                account.id(),
                written.script(),
                written.rules().stream().map(Rule::id).toList(),
                connection.extensions());
    }

    /**
     * From now on the account's server carries the rules out by itself.
     *
     * @param replace whether a script of somebody else's that is active there may rest for as long
     * @throws MailException if the server cannot be asked
     * @throws InputProblem with a sentence for the user if it does what the user may not want to lose, or
     *     cannot do what is needed
     */
    public void turnOn(Account account, int port, MailHost.Encryption encryption, boolean replace)
            throws MailException {
        ServerScript wanted = ServerScript.wanted(account.id(), port, encryption);
        try (ScriptConnection connection = open(account, wanted.host(account.host()))) {
            if (!connection.extensions().contains("imap4flags")) {
                throw new InputProblem("This server cannot mark what it has filed (imap4flags), so that all of"
                        + " it would be filed twice. Its rules stay here.");
            }
            String former = former(connection.scripts());
            if (!former.isEmpty() && !replace) {
                throw new InputProblem("The server files mail by a script of its own already, “%s”.".formatted(former)
                        + " Tick that it may rest; it comes back when you switch this off.");
            }
            scripts.turnOn(account.id(), port, encryption, former);
            put(account, connection);
        }
    }

    private static String former(Map<String, Boolean> known) {
        String active = active(known);
        return active == null || active.equals(NAME) ? "" : active;
    }

    /**
     * The script is put there again, although somebody else did something there meanwhile: what is active rests for as long,
     * and a changed text is kept under another name.
     *
     * @throws MailException if the server cannot be asked
     */
    public void putAgain(Account account) throws MailException {
        ServerScript there = scripts.of(account.id()).orElse(null);
        if (there == null) {
            return;
        }
        try (ScriptConnection connection = open(account, there.host(account.host()))) {
            Map<String, Boolean> known = connection.scripts();
            String text = text(connection, known);
            if (text != null && !isOurs(there, text)) {
                connection.put(CHANGED, text);
            }
            String former = former(known);
            scripts.turnOn(account.id(), there.port(), there.encryption(), former.isEmpty() ? there.former() : former);
            put(account, connection);
        }
    }

    /** The server does as it did before, or goes on with what somebody else made active there since. */
    public void turnOff(Account account) throws MailException {
        ServerScript there = scripts.of(account.id()).orElse(null);
        if (there == null) {
            return;
        }
        try (ScriptConnection connection = open(account, there.host(account.host()))) {
            Map<String, Boolean> known = connection.scripts();
            if (NAME.equals(active(known))) {
                connection.activate(known.containsKey(there.former()) ? there.former() : "");
            }
            if (isOurs(there, text(connection, known))) {
                connection.delete(NAME);
            }
        }
        scripts.turnOff(account.id());
    }
}
