package app.schublade.store;

import app.schublade.core.place.Tone;
import app.schublade.mail.MailHost;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The accounts, their aliases and how they are doing. Passwords leave it only for the connection to the server. */
@Repository
public class AccountStore {
    private static final String COLUMNS = """
            select a.*, coalesce((select string_agg(address, ' ' order by address) from alias where account_id = a.id), '')
                as aliases from account a\s""";

    private final JdbcClient jdbc;
    private final Secrets secrets;

    public AccountStore(JdbcClient jdbc, Secrets secrets) {
        this.jdbc = jdbc;
        this.secrets = secrets;
    }

    public List<Account> of(long userId) {
        return jdbc.sql(COLUMNS + "where a.user_id = ? order by a.position, a.id")
                .param(userId)
                .query(AccountStore::account)
                .list();
    }

    /** Every user's accounts: for the synchronisation, which serves all. */
    public List<Account> all() {
        return jdbc.sql(COLUMNS + "order by a.id").query(AccountStore::account).list();
    }

    /** An account by its id: for the synchronisation. */
    public Optional<Account> byId(long id) {
        return jdbc.sql(COLUMNS + "where a.id = ?")
                .param(id)
                .query(AccountStore::account)
                .optional();
    }

    @Transactional
    public Account add(long userId, Account.Draft draft) {
        long id = jdbc.sql("""
                        insert into account (user_id, position, code, name, tone, address, host, port, encryption, login, secret)
                        values (:user, (select count(*) from account where user_id = :user), :code, :name, :tone, :address,
                                :host, :port, :encryption, :login, :secret) returning id
                        """)
                .param("user", userId)
                .param("code", draft.code())
                .param("name", draft.name())
                .param("tone", draft.tone().name())
                .param("address", draft.address())
                .param("host", draft.host().host())
                .param("port", draft.host().port())
                .param("encryption", draft.host().encryption().name())
                .param("login", draft.host().login())
                .param("secret", secrets.seal(draft.password()))
                .query(Long.class)
                .single();
        for (String alias : draft.aliases()) {
            jdbc.sql("insert into alias (account_id, address) values (?, ?) on conflict do nothing")
                    .params(id, alias)
                    .update();
        }
        return byId(id).orElseThrow();
    }

    /** The host may have moved to another port since: the demo's hosts do. */
    public void moveHost(long userId, String address, String host, int port) {
        jdbc.sql("update account set host = ?, port = ? where user_id = ? and address = ?")
                .params(host, port, userId, address)
                .update();
    }

    /** Replaces a refused password; the account is tried again with it. */
    public boolean changePassword(long userId, long id, String password) {
        return jdbc.sql("update account set secret = ?, state = 'NEW', trouble = null where user_id = ? and id = ?")
                        .params(secrets.seal(password), userId, id)
                        .update()
                == 1;
    }

    public String password(long id) {
        byte[] sealed = jdbc.sql("select secret from account where id = ?")
                .param(id)
                .query(byte[].class)
                .single();
        return secrets.open(sealed);
    }

    public void report(long id, Account.State state, @Nullable String trouble) {
        jdbc.sql("update account set state = :state, trouble = :trouble where id = :id")
                .param("state", state.name())
                .param("trouble", trouble)
                .param("id", id)
                .update();
    }

    public void reportImport(long id, int imported, int toImport) {
        jdbc.sql("update account set imported = ?, to_import = ?, state = 'IMPORTING', trouble = null where id = ?")
                .params(imported, toImport, id)
                .update();
    }

    private static Account account(ResultSet row, int number) throws SQLException {
        MailHost host = new MailHost(
                row.getString("host"),
                row.getInt("port"),
                MailHost.Encryption.valueOf(row.getString("encryption")),
                row.getString("login"));
        return new Account(
                row.getLong("id"),
                row.getLong("user_id"),
                row.getString("code"),
                row.getString("name"),
                Tone.valueOf(row.getString("tone")),
                row.getString("address"),
                row.getTimestamp("added_at").toInstant(),
                Arrays.stream(row.getString("aliases").split(" ", -1))
                        .filter(alias -> !alias.isEmpty())
                        .toList(),
                host,
                Account.State.valueOf(row.getString("state")),
                row.getString("trouble"),
                row.getInt("imported"),
                row.getInt("to_import"));
    }
}
