package app.schublade.store.rule;

import app.schublade.mail.MailHost;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The rules that accounts' servers carry out by themselves, as scripts. */
@Repository
public class ScriptStore {
    /** After so long what was put on the server is compared with the rules once more. */
    private static final Duration ROUND = Duration.ofSeconds(10);

    /** After so long the server is asked whether it is still there, and in force. */
    private static final Duration CHECKED = Duration.ofMinutes(2);

    private final JdbcClient jdbc;

    public ScriptStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * What an account's server has.
     *
     * @param port where scripts are put
     * @param former the name of the script that was active before; empty if there was none
     * @param extensions those of Sieve that the server knows
     * @param script as it is there; empty if none has been put there yet
     * @param rules the ids of those that are in it
     * @param at when it was put there
     * @param trouble why it could not be put there, a sentence for the user
     * @param watch whether it is still in force
     */
    public record ServerScript(
            long accountId,
            int port,
            MailHost.Encryption encryption,
            String former,
            List<String> extensions,
            String script,
            List<Long> rules,
            @Nullable Instant at,
            @Nullable String trouble,
            ScriptWatch watch) {
        public ServerScript {
            rules = List.copyOf(rules);
            extensions = List.copyOf(extensions);
        }

        /** One that is yet to be put there. */
        public static ServerScript wanted(long accountId, int port, MailHost.Encryption encryption) {
            return new ServerScript(
                    accountId, port, encryption, "", List.of(), "", List.of(), null, null, ScriptWatch.NONE);
        }

        /** Whether it is time to ask the server for it. */
        public boolean isToBeChecked() {
            return at != null && Instant.now().isAfter(watch.at().plus(CHECKED));
        }

        /** The account's own host, at the port for scripts. */
        public MailHost host(MailHost receiving) {
            return new MailHost(
                    receiving.host(), port, encryption, receiving.login(), receiving.pin(), receiving.plainAgreed());
        }
    }

    /**
     * What the server was last seen to do.
     *
     * @param at when it was asked
     * @param instead what it does in place of the script, a sentence for the user; null if the script is in force
     */
    public record ScriptWatch(Instant at, @Nullable String instead) {
        static final ScriptWatch NONE = new ScriptWatch(Instant.EPOCH, null);
    }

    public Optional<ServerScript> of(long accountId) {
        return jdbc.sql("select * from server_script where account_id = ?")
                .param(accountId)
                .query(ScriptStore::script)
                .optional();
    }

    /** The rules that the account's server has carried out on what bears its mark. */
    public Set<Long> served(long accountId) {
        return of(accountId).map(one -> Set.copyOf(one.rules())).orElse(Set.of());
    }

    public void turnOn(long accountId, int port, MailHost.Encryption encryption, String former) {
        jdbc.sql("""
                        insert into server_script (account_id, port, encryption, former) values (?, ?, ?, ?)
                        on conflict (account_id) do update set port = excluded.port, encryption = excluded.encryption,
                            former = excluded.former, script = '', rules = '{}', at = null, trouble = null, instead = null,
                            next_at = now()
                        """).params(accountId, port, encryption.name(), former).update();
    }

    public void turnOff(long accountId) {
        jdbc.sql("delete from server_script where account_id = ?")
                .param(accountId)
                .update();
    }

    /** The next one that is to be looked at, for this process alone for a while. */
    public Optional<ServerScript> claim() {
        return jdbc.sql("""
                        update server_script set next_at = now() + interval '1 minute' where account_id = (
                            select account_id from server_script where next_at <= now()
                            order by next_at limit 1 for update skip locked)
                        returning *
                        """).query(ScriptStore::script).optional();
    }

    /** The server has it now. */
    public void kept(long accountId, String script, List<Long> rules, Collection<String> extensions) {
        jdbc.sql("""
                        update server_script set script = ?, rules = ?, extensions = ?, at = now(), trouble = null,
                            instead = null, checked_at = now(), next_at = now() + make_interval(secs => ?)
                        where account_id = ?
                        """)
                .params(
                        script,
                        rules.toArray(Long[]::new),
                        extensions.toArray(String[]::new),
                        ROUND.toSeconds(),
                        accountId)
                .update();
    }

    /**
     * The server was asked.
     *
     * @param instead what it does in place of the script; null if the script is in force
     */
    public void checked(long accountId, @Nullable String instead) {
        jdbc.sql("""
                        update server_script set instead = :instead, checked_at = now(), trouble = null,
                            next_at = now() + make_interval(secs => :secs)
                        where account_id = :account
                        """)
                .param("instead", instead)
                .param("secs", ROUND.toSeconds())
                .param("account", accountId)
                .update();
    }

    /** The user's accounts whose servers do something else than they were told. */
    public Set<Long> thatDoSomethingElse(long userId) {
        return Set.copyOf(jdbc.sql("""
                        select s.account_id from server_script s join account a on a.id = s.account_id
                        where a.user_id = ? and s.instead is not null
                        """).param(userId).query(Long.class).list());
    }

    /** There is nothing to be done. */
    public void asBefore(long accountId) {
        later(accountId, null, ROUND);
    }

    public void later(long accountId, @Nullable String trouble, Duration pause) {
        jdbc.sql(
                        "update server_script set trouble = :trouble, next_at = now() + make_interval(secs => :secs) where account_id = :account")
                .param("trouble", trouble)
                .param("secs", pause.toSeconds())
                .param("account", accountId)
                .update();
    }

    private static ServerScript script(ResultSet row, int number) throws SQLException {
        return new ServerScript(
                row.getLong("account_id"),
                row.getInt("port"),
                MailHost.Encryption.valueOf(row.getString("encryption")),
                row.getString("former"),
                Arrays.asList((String[]) row.getArray("extensions").getArray()),
                row.getString("script"),
                Arrays.asList((Long[]) row.getArray("rules").getArray()),
                row.getTimestamp("at") == null ? null : row.getTimestamp("at").toInstant(),
                row.getString("trouble"),
                new ScriptWatch(row.getTimestamp("checked_at").toInstant(), row.getString("instead")));
    }
}
