package app.schublade.store.account;

import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.store.base.MailChanged;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The aliases of accounts: who writes to each, since when and how much, and which addresses may be one. */
@Repository
public class AliasStore {
    private static final int MAX_PROPOSALS = 30;
    private static final int MAX_WRITERS = 60;

    /** An alias as a pattern of SQL: * stands for any signs. */
    private static final String PATTERN =
            "replace(replace(replace(replace(l.address, '\\', '\\\\'), '%', '\\%'), '_', '\\_'), '*', '%')";

    private final JdbcClient jdbc;
    private final ApplicationEventPublisher events;

    public AliasStore(JdbcClient jdbc, ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.events = events;
    }

    /**
     * An alias and how it is used.
     *
     * @param note what it was given out for
     * @param signature what goes below messages from it; empty for that of its account
     * @param retiredTo where mail to it goes since it was retired; null while it is in use
     * @param messages how many came to it
     * @param domains how many domains write to it
     */
    public record Alias(
            String address,
            String note,
            String signature,
            @Nullable Instant retiredAt,
            @Nullable FolderRef retiredTo,
            int messages,
            int domains,
            @Nullable Instant firstAt,
            @Nullable Instant lastAt) {
        public boolean isRetired() {
            return retiredAt != null;
        }

        /** An alias that was given to somebody, and that others use too. */
        public boolean mayHaveLeaked() {
            return !note.isBlank() && domains > 1;
        }
    }

    /** An address that mail came to and that is not known as the account's own. */
    public record Proposal(String address, int messages, Instant firstAt, Instant lastAt) {}

    /** Somebody who writes to an alias. */
    public record Writer(String address, String name, int messages, Instant firstAt, Instant lastAt) {
        public String domain() {
            return address.substring(address.lastIndexOf('@') + 1);
        }
    }

    /** Where mail to a retired alias goes. */
    public record Retired(String alias, FolderRef folder) {
        public boolean takes(String address) {
            return OwnAddresses.fits(alias, address);
        }
    }

    public List<Alias> of(Account account) {
        return jdbc.sql("""
                        select l.*, f.path as retired_path, s.messages, s.domains, s.first_at, s.last_at
                        from alias l left join folder f on f.id = l.retired_to
                        left join lateral (
                            select count(*) as messages, count(distinct split_part(h.sender_address, '@', 2)) as domains,
                                min(m.received_at) as first_at, max(m.received_at) as last_at
                            from message_head h join message m on m.id = h.message_id
                            where h.account_id = l.account_id and h.alias like\s""" + PATTERN + """
                        ) s on true where l.account_id = :account order by l.retired_at is not null, l.address
                        """)
                .param("account", account.id())
                .query(AliasStore::alias)
                .list();
    }

    public Optional<Alias> of(Account account, String address) {
        return of(account).stream().filter(one -> one.address().equals(address)).findFirst();
    }

    private static Alias alias(ResultSet row, int number) throws SQLException {
        String path = row.getString("retired_path");
        return new Alias(
                row.getString("address"),
                row.getString("note"),
                row.getString("signature"),
                instant(row, "retired_at"),
                path == null ? null : new FolderRef(row.getLong("retired_to"), FolderPath.stored(path)),
                row.getInt("messages"),
                row.getInt("domains"),
                instant(row, "first_at"),
                instant(row, "last_at"));
    }

    private static @Nullable Instant instant(ResultSet row, String column) throws SQLException {
        Timestamp time = row.getTimestamp(column);
        return time == null ? null : time.toInstant();
    }

    /** What an alias was given out for; empty if that is not noted. A note on the address itself goes before a pattern's. */
    public String note(long accountId, String alias) {
        return jdbc.sql("""
                        select l.note from alias l where l.account_id = :account and l.note <> '' and :alias like\s""" + PATTERN + """
                         order by l.address = :alias desc limit 1
                        """)
                .param("account", accountId)
                .param("alias", alias)
                .query(String.class)
                .optional()
                .orElse("");
    }

    /**
     * What goes below the messages of an account.
     *
     * @param usual that of the account
     * @param own those of its aliases, by alias
     */
    public record Signatures(String usual, Map<String, String> own) {
        /** What goes below a message from an address; its own goes before that of a pattern. */
        public String of(String address) {
            String exact = own.get(address.toLowerCase(Locale.ROOT));
            return exact != null
                    ? exact
                    : own.entrySet().stream()
                            .filter(one -> OwnAddresses.fits(one.getKey(), address))
                            .map(Map.Entry::getValue)
                            .findFirst()
                            .orElse(usual);
        }
    }

    public Signatures signatures(Account account) {
        Map<String, String> own = new TreeMap<>();
        jdbc.sql("select address, signature from alias where account_id = ? and signature <> ''")
                .param(account.id())
                .query(row -> {
                    own.put(row.getString("address"), row.getString("signature"));
                });
        return new Signatures(account.settings().signature().strip(), own);
    }

    /** Addresses that mail came to and that may be aliases, those with most mail first. */
    public List<Proposal> proposals(Account account) {
        return jdbc.sql("""
                        select u.address, count(*) as messages, min(m.received_at) as first_at, max(m.received_at) as last_at
                        from message_head h join message m on m.id = h.message_id
                        cross join lateral unnest(h.unclaimed) as u (address)
                        where h.account_id = :account and h.unclaimed <> '{}'
                        and not exists (select from alias_declined d where d.account_id = :account and d.address = u.address)
                        group by u.address order by count(*) desc, u.address limit :most
                        """)
                .param("account", account.id())
                .param("most", MAX_PROPOSALS)
                .query((row, number) -> new Proposal(
                        row.getString("address"),
                        row.getInt("messages"),
                        row.getTimestamp("first_at").toInstant(),
                        row.getTimestamp("last_at").toInstant()))
                .list();
    }

    /** Who writes to an alias, those who began first first. */
    public List<Writer> writers(Account account, String alias) {
        return jdbc.sql("""
                        select h.sender_address, max(h.sender_name) as name, count(*) as messages,
                            min(m.received_at) as first_at, max(m.received_at) as last_at
                        from alias l join message_head h on h.account_id = l.account_id and h.alias like\s""" + PATTERN + """
                         join message m on m.id = h.message_id
                        where l.account_id = :account and l.address = :alias
                        group by h.sender_address order by min(m.received_at) limit :most
                        """)
                .param("account", account.id())
                .param("alias", alias)
                .param("most", MAX_WRITERS)
                .query((row, number) -> new Writer(
                        row.getString("sender_address"),
                        row.getString("name"),
                        row.getInt("messages"),
                        row.getTimestamp("first_at").toInstant(),
                        row.getTimestamp("last_at").toInstant()))
                .list();
    }

    /** Adds an alias, or writes another note to it; mail that is here already and was sent to it shows it from now on. */
    @Transactional
    public void add(Account account, String address, String note, String signature) {
        jdbc.sql("""
                        insert into alias (account_id, address, note, signature) values (:account, :address, :note, :signature)
                        on conflict (account_id, address) do update set note = excluded.note, signature = excluded.signature
                        """)
                .param("account", account.id())
                .param("address", address)
                .param("note", note)
                .param("signature", signature)
                .update();
        List<String> claimed = jdbc.sql("""
                        select distinct u.address from message_head h cross join lateral unnest(h.unclaimed) as u (address)
                        where h.account_id = ? and h.unclaimed <> '{}'
                        """).param(account.id()).query(String.class).list().stream()
                .filter(one -> OwnAddresses.fits(address, one))
                .toList();
        for (String one : claimed) {
            jdbc.sql("""
                            update message_head set sent_to = array_append(sent_to, :one), alias = coalesce(alias, :one),
                                unclaimed = array_remove(unclaimed, :one)
                            where account_id = :account and unclaimed @> array[:one]::text[]
                            """).param("one", one).param("account", account.id()).update();
        }
        changed(account);
    }

    /** Takes an alias out; mail to it keeps showing it. */
    @Transactional
    public void remove(Account account, String address) {
        jdbc.sql("delete from alias where account_id = ? and address = ?")
                .params(account.id(), address)
                .update();
        changed(account);
    }

    /** A proposed address is none of the user's, and is not proposed again. */
    public void decline(Account account, String address) {
        jdbc.sql("insert into alias_declined (account_id, address) values (?, ?) on conflict do nothing")
                .params(account.id(), address)
                .update();
    }

    /** Mail to an alias goes into a folder from now on; or, with null, where the rules say again. */
    @Transactional
    public void retire(Account account, String address, @Nullable Long folder) {
        jdbc.sql("""
                        update alias set retired_to = :folder, retired_at = case when :folder::bigint is null then null else now() end
                        where account_id = :account and address = :address
                        """)
                .param("folder", folder, java.sql.Types.BIGINT)
                .param("account", account.id())
                .param("address", address)
                .update();
        changed(account);
    }

    public List<Retired> retired(long accountId) {
        return jdbc.sql("""
                        select l.address, f.id, f.path from alias l join folder f on f.id = l.retired_to
                        where l.account_id = ? order by l.address
                        """)
                .param(accountId)
                .query((row, number) -> new Retired(
                        row.getString("address"),
                        new FolderRef(row.getLong("id"), FolderPath.stored(row.getString("path")))))
                .list();
    }

    private void changed(Account account) {
        jdbc.sql("update account set version = version + 1 where id = ?")
                .param(account.id())
                .update();
        events.publishEvent(new MailChanged(account.userId(), java.util.Set.of()));
    }
}
