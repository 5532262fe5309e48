package app.schublade.store.account;

import app.schublade.core.format.MimeReader;
import app.schublade.core.place.Tone;
import app.schublade.mail.Credentials;
import app.schublade.mail.MailHost;
import app.schublade.store.base.Secrets;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The accounts, their aliases and how they are doing. Passwords leave it only for the connection to the server. */
@Repository
public class AccountStore {
    private static final String COLUMNS = """
            select a.*, coalesce((select string_agg(address, ' ' order by address) from alias where account_id = a.id), '')
                as aliases, a.lease_owner is null or a.lease_until < now() as unserved from account a\s""";

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

    /** How large a message the server takes that this account sends with, in bytes, as it said last; empty if it did not. */
    public OptionalLong sendsUpTo(long id) {
        return jdbc.sql("select sends_up_to from account where id = ? and sends_up_to is not null")
                .param(id)
                .query(Long.class)
                .optional()
                .map(OptionalLong::of)
                .orElseGet(OptionalLong::empty);
    }

    /** The server has said how large a message it takes, or nothing of it. */
    public void sendsUpTo(long id, OptionalLong bytes) {
        Long limit = bytes.isPresent() ? bytes.getAsLong() : null;
        jdbc.sql("update account set sends_up_to = :limit where id = :id and sends_up_to is distinct from :limit")
                .param("limit", limit, Types.BIGINT)
                .param("id", id)
                .update();
    }

    /** An account of this user. */
    public Optional<Account> byId(long userId, long id) {
        return byId(id).filter(account -> account.userId() == userId);
    }

    @Transactional
    public Account add(long userId, Account.Draft draft) {
        long id = jdbc.sql("""
                        insert into account (user_id, position, code, name, tone, address, host, port, encryption, login, secret, reader)
                        values (:user, (select coalesce(max(position) + 1, 0) from account where user_id = :user), :code,
                                :name, :tone, :address, '', 0, '', '', '', :reader) returning id
                        """)
                .param("user", userId)
                .param("code", draft.code())
                .param("name", draft.name())
                .param("tone", draft.tone().name())
                .param("address", draft.address())
                .param("reader", MimeReader.VERSION)
                .query(Long.class)
                .single();
        connect(userId, id, draft.hosts(), draft.secret());
        set(userId, id, draft.settings());
        for (String alias : draft.aliases()) {
            jdbc.sql("insert into alias (account_id, address) values (?, ?) on conflict do nothing")
                    .params(id, alias)
                    .update();
        }
        return byId(id).orElseThrow();
    }

    /** Gives an account other servers, or another password; it is tried again with them at once. */
    @Transactional
    public void connect(long userId, long id, Account.Hosts hosts, String secret) {
        MailHost in = hosts.receiving();
        jdbc.sql("""
                        update account set protocol = :protocol, proof = :proof, host = :host, port = :port,
                            encryption = :encryption, login = :login, pin = :pin, plain_agreed = :plain, secret = :secret,
                            state = 'NEW', state_since = now(), trouble = null, next_try_at = null, version = version + 1
                        where user_id = :user and id = :id
                        """)
                .param("user", userId)
                .param("id", id)
                .param("protocol", hosts.protocol().name())
                .param("proof", hosts.proof().name())
                .param("host", in.host())
                .param("port", in.port())
                .param("encryption", in.encryption().name())
                .param("login", in.login())
                .param("pin", in.pin())
                .param("plain", in.plainAgreed())
                .param("secret", secrets.seal(secret))
                .update();
        sendFrom(userId, id, hosts.sending());
    }

    private void sendFrom(long userId, long id, @Nullable MailHost out) {
        jdbc.sql("""
                        update account set out_host = :host, out_port = :port, out_encryption = :encryption,
                            out_login = :login, out_pin = :pin, out_plain_agreed = :plain
                        where user_id = :user and id = :id
                        """)
                .param("user", userId)
                .param("id", id)
                .param("host", out == null ? null : out.host())
                .param("port", out == null ? null : out.port(), java.sql.Types.INTEGER)
                .param("encryption", out == null ? null : out.encryption().name())
                .param("login", out == null ? null : out.login())
                .param("pin", out == null ? null : out.pin())
                .param("plain", out != null && out.plainAgreed())
                .update();
    }

    /** How an account is named here. */
    public void name(long userId, long id, String name, String code, Tone tone) {
        jdbc.sql("update account set name = ?, code = ?, tone = ? where user_id = ? and id = ?")
                .params(name, code, tone.name(), userId, id)
                .update();
    }

    /** Takes over what the user chose. Where more or less is to be imported, every folder is compared anew. */
    @Transactional
    public void set(long userId, long id, Account.Settings settings) {
        jdbc.sql("""
                        update mailbox b set agreed_next = null from account a where a.id = b.account_id
                        and a.user_id = :user and a.id = :id and a.import_since is distinct from :since::date
                        """)
                .param("user", userId)
                .param("id", id)
                .param("since", settings.importSince(), java.sql.Types.DATE)
                .update();
        jdbc.sql("""
                        update account set signature = :signature, import_since = :since, keep_on_server = :keep,
                            version = version + 1
                        where user_id = :user and id = :id
                        """)
                .param("user", userId)
                .param("id", id)
                .param("signature", settings.signature())
                .param("since", settings.importSince(), java.sql.Types.DATE)
                .param("keep", settings.keepOnServer())
                .update();
    }

    /** Puts an account before another, or after all. */
    @Transactional
    public void reorder(long userId, List<Long> ids) {
        for (int i = 0; i < ids.size(); i++) {
            jdbc.sql("update account set position = ? where user_id = ? and id = ?")
                    .params(i, userId, ids.get(i))
                    .update();
        }
    }

    /** What goes when an account is taken out, and what stays. */
    public record Farewell(int messages, int filedByHand, int aliases, int waitingOrders, int drafts) {}

    public Farewell farewell(long userId, long id) {
        return jdbc.sql("""
                        select (select count(*) from message where account_id = a.id) as messages,
                            (select count(distinct r.message_id) from filing_record r join batch b on b.id = r.batch_id
                                join message m on m.id = r.message_id where m.account_id = a.id and b.cause = 'HAND')
                                as filed_by_hand,
                            (select count(*) from alias where account_id = a.id) as aliases,
                            (select count(*) from server_order where account_id = a.id) as waiting_orders,
                            (select count(*) from outgoing where account_id = a.id and touched
                                and state in ('DRAFT', 'REFUSED', 'WAITING')) as drafts
                        from account a where a.user_id = ? and a.id = ?
                        """).params(userId, id).query(Farewell.class).single();
    }

    /** The account that takes over what is written for one that is taken out: the first other one that mail leaves from. */
    public Optional<Account> heir(long userId, long id) {
        return of(userId).stream()
                .filter(other -> other.id() != id && other.hosts().sending() != null)
                .findFirst();
    }

    /** Takes an account out with all that is kept of it here. Its server keeps its mail. */
    @Transactional
    public void remove(long userId, long id) {
        jdbc.sql("delete from account where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }

    /** The host may have moved to another port since: the demo's hosts do. */
    public void moveHosts(long userId, String address, MailHost receiving, MailHost sending) {
        jdbc.sql("""
                        update account set host = ?, port = ?, out_host = ?, out_port = ?,
                            out_encryption = coalesce(out_encryption, ?), out_login = coalesce(out_login, ?)
                        where user_id = ? and address = ?
                        """)
                .params(
                        receiving.host(),
                        receiving.port(),
                        sending.host(),
                        sending.port(),
                        sending.encryption().name(),
                        sending.login(),
                        userId,
                        address)
                .update();
    }

    /** The password, or what stands for it, in clear: for the connection only. */
    public String secret(long id) {
        byte[] sealed = jdbc.sql("select secret from account where id = ?")
                .param(id)
                .query(byte[].class)
                .single();
        return secrets.open(sealed);
    }

    /** Keeps a new secret that an authorisation server gave in place of the last one. */
    public void renewSecret(long id, String secret) {
        jdbc.sql("update account set secret = ? where id = ?")
                .params(secrets.seal(secret), id)
                .update();
    }

    /** The account is tried at once, by whichever process serves it, whatever was the matter. */
    public Account tryAgain(Account account) {
        jdbc.sql("""
                        update account set state = 'NEW', state_since = now(), trouble = null, next_try_at = null,
                            version = version + 1
                        where id = ? and user_id = ?
                        """).params(account.id(), account.userId()).update();
        return byId(account.id()).orElse(account);
    }

    /** Takes note of how an account is doing. The time is that of the change, not of every repetition. */
    public void report(long id, Account.AccountState state, @Nullable String trouble, @Nullable Instant nextTry) {
        jdbc.sql("""
                        update account set state_since = case when state = :state then state_since else now() end,
                            state = :state, trouble = :trouble, next_try_at = :next where id = :id
                        """)
                .param("state", state.name())
                .param("trouble", trouble)
                .param("next", nextTry == null ? null : Timestamp.from(nextTry), java.sql.Types.TIMESTAMP)
                .param("id", id)
                .update();
    }

    public void reportImport(long id, int imported, int toImport) {
        jdbc.sql("""
                        update account set imported = ?, to_import = ?, trouble = null, next_try_at = null,
                            state_since = case when state = 'IMPORTING' then state_since else now() end,
                            state = 'IMPORTING' where id = ?
                        """).params(imported, toImport, id).update();
    }

    private static Account account(ResultSet row, int number) throws SQLException {
        Timestamp nextTry = row.getTimestamp("next_try_at");
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
                hosts(row),
                new Account.Settings(
                        row.getString("signature"),
                        row.getObject("import_since", LocalDate.class),
                        row.getBoolean("keep_on_server")),
                new Account.Status(
                        Account.AccountState.valueOf(row.getString("state")),
                        row.getString("trouble"),
                        row.getTimestamp("state_since").toInstant(),
                        nextTry == null ? null : nextTry.toInstant(),
                        row.getInt("imported"),
                        row.getInt("to_import"),
                        !row.getBoolean("unserved")),
                row.getInt("version"));
    }

    private static Account.Hosts hosts(ResultSet row) throws SQLException {
        String out = row.getString("out_host");
        return new Account.Hosts(
                Account.Protocol.valueOf(row.getString("protocol")),
                host(row, ""),
                out == null ? null : host(row, "out_"),
                Credentials.CredentialKind.valueOf(row.getString("proof")));
    }

    private static MailHost host(ResultSet row, String prefix) throws SQLException {
        return new MailHost(
                row.getString(prefix + "host"),
                row.getInt(prefix + "port"),
                MailHost.Encryption.valueOf(row.getString(prefix + "encryption")),
                row.getString(prefix + "login"),
                row.getString(prefix + "pin"),
                row.getBoolean(prefix + "plain_agreed"));
    }
}
