package app.schublade.store.intake;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.FolderStatus;
import app.schublade.mail.Opened;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.base.MailChanged;
import app.schublade.store.base.UserLock;
import app.schublade.store.filing.MessageWriter;
import app.schublade.store.place.PlaceStore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The folders on the servers, and which folder of the cabinet shows each. */
@Repository
public class MailboxStore {
    private static final String COLUMNS = """
            select b.*, coalesce(f.use, '') = 'INBOX' as inbox from mailbox b join folder f on f.id = b.folder_id\s""";

    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final MessageWriter writer;
    private final UserLock users;
    private final ApplicationEventPublisher events;

    public MailboxStore(
            JdbcClient jdbc,
            PlaceStore places,
            MessageWriter writer,
            UserLock users,
            ApplicationEventPublisher events) {
        this.writer = writer;
        this.users = users;
        this.jdbc = jdbc;
        this.places = places;
        this.events = events;
    }

    /** Takes note of a folder that a server lists; equal paths of several accounts become one folder. */
    @Transactional
    public Mailbox mailbox(Account account, RemoteFolder remote) {
        Optional<Mailbox> known = query("b.account_id = ? and b.server_name = ?", account.id(), remote.serverName());
        if (known.isPresent()) {
            return known.get();
        }
        Optional<Long> wished = wished(account.id(), remote.path());
        if (wished.isPresent()) {
            return made(account, wished.get(), remote.path(), remote);
        }
        jdbc.sql("insert into mailbox (account_id, folder_id, server_name, path) values (?, ?, ?, ?)")
                .params(
                        account.id(),
                        folderFor(account, remote),
                        remote.serverName(),
                        remote.path().toString())
                .update();
        return query("b.account_id = ? and b.server_name = ?", account.id(), remote.serverName())
                .orElseThrow();
    }

    /**
     * Takes note of a folder that was made on a server for one of the cabinet, whatever became of that one meanwhile: if it
     * was deleted it stays so, and if it was renamed the server is to follow.
     *
     * @param asked the folder's path when the server was asked
     */
    @Transactional
    public Mailbox made(Account account, long folderId, FolderPath asked, RemoteFolder remote) {
        users.alone(account.userId());
        isMade(account.id(), folderId);
        jdbc.sql("""
                        insert into mailbox (account_id, folder_id, server_name, path, wanted_path)
                        select :account, f.id, :name, :path, nullif(f.path, :asked) from folder f where f.id = :folder
                        on conflict do nothing
                        """)
                .param("account", account.id())
                .param("name", remote.serverName())
                .param("path", remote.path().toString())
                .param("asked", asked.toString())
                .param("folder", folderId)
                .update();
        return mailbox(account, remote);
    }

    /**
     * Lets a folder of the server be the account's folder of a use; the one that was it until now is shown by its own
     * path.
     */
    @Transactional
    public void assign(Account account, SpecialUse use, Mailbox chosen) {
        long special = places.special(account.userId(), use);
        if (chosen.folderId() == special || chosen.accountId() != account.id() || chosen.inbox()) {
            return;
        }
        mailboxOf(account.id(), special)
                .ifPresent(before -> showIn(account, before, byPath(account, FolderPath.stored(before.path()))));
        showIn(account, chosen, special);
        tidy(chosen.folderId());
    }

    private long folderFor(Account account, RemoteFolder remote) {
        Optional<SpecialUse> use = remote.use();
        if (use.isPresent()) {
            long special = places.special(account.userId(), use.get());
            if (mailboxOf(account.id(), special).isEmpty()) {
                return special;
            }
        }
        return byPath(account, remote.path());
    }

    private long byPath(Account account, FolderPath path) {
        FolderRef folder = places.folder(account.userId(), path);
        // Names that differ on the server may be one path here: "Loans" and "loans", "a.b" and "a/b".
        for (int i = 2; mailboxOf(account.id(), folder.id()).isPresent(); i++) {
            folder = places.folder(account.userId(), path.renamed(path.name() + " (" + i + ")"));
        }
        return folder.id();
    }

    /** Where an account keeps the mail of a folder, if it has a folder for it. */
    public Optional<Mailbox> mailboxOf(long accountId, long folderId) {
        return query("b.account_id = ? and b.folder_id = ?", accountId, folderId);
    }

    /** Where an account keeps the mail of a special folder, if it has a folder for it. */
    public Optional<Mailbox> ofUse(Account account, SpecialUse use) {
        return mailboxOf(account.id(), places.special(account.userId(), use));
    }

    /** The Inbox of an account, once it is known. */
    public Optional<Mailbox> inbox(long accountId) {
        return query("b.account_id = ? and f.use = 'INBOX'", accountId);
    }

    public Optional<Mailbox> byId(long id) {
        return query("b.id = ?", id);
    }

    /** The path of a folder of the cabinet. */
    public FolderPath path(long folderId) {
        return FolderPath.stored(jdbc.sql("select path from folder where id = ?")
                .param(folderId)
                .query(String.class)
                .single());
    }

    private Optional<Mailbox> query(String condition, Object... values) {
        return jdbc.sql(COLUMNS + "where " + condition)
                .params(values)
                .query(MailboxStore::mailbox)
                .optional();
    }

    private static Mailbox mailbox(ResultSet row, int number) throws SQLException {
        return new Mailbox(
                row.getLong("id"),
                row.getLong("account_id"),
                row.getLong("folder_id"),
                row.getString("server_name"),
                row.getString("path"),
                row.getBoolean("inbox"),
                row.getObject("uid_validity", Long.class),
                row.getLong("new_from_uid"),
                row.getBoolean("keywords"),
                row.getBoolean("read_only"),
                agreed(row));
    }

    private static @Nullable FolderStatus agreed(ResultSet row) throws SQLException {
        Long next = row.getObject("agreed_next", Long.class);
        return next == null
                ? null
                : new FolderStatus(
                        row.getLong("uid_validity"),
                        next,
                        row.getInt("agreed_messages"),
                        row.getLong("agreed_mod_seq"));
    }

    /** All that is known of the account's folders on its server. */
    public List<Mailbox> of(long accountId) {
        return jdbc.sql(COLUMNS + "where b.account_id = ? order by b.id")
                .param(accountId)
                .query(MailboxStore::mailbox)
                .list();
    }

    /**
     * Takes note that all of a folder, as it stood then, is known here.
     *
     * @param account as it was when the folder was looked at; what was chosen for it since may want more
     */
    public void agreed(Account account, long mailboxId, FolderStatus status) {
        jdbc.sql("""
                        update mailbox set agreed_next = ?, agreed_messages = ?, agreed_mod_seq = ?
                        where id = ? and uid_validity = ?
                        and exists (select from account a where a.id = account_id and a.version = ?)
                        """)
                .params(
                        status.uidNext(),
                        status.messages(),
                        status.modSeq(),
                        mailboxId,
                        status.uidValidity(),
                        account.version())
                .update();
    }

    /** Takes note of how the server opened a folder; all UIDs known for it are void if it was renumbered. */
    @Transactional
    public Mailbox opened(Mailbox mailbox, Opened opened, long newFromUid) {
        if (mailbox.uidValidity() != null && mailbox.uidValidity() != opened.uidValidity()) {
            jdbc.sql("update server_copy set mailbox_id = null where mailbox_id = ?")
                    .param(mailbox.id())
                    .update();
        }
        jdbc.sql("""
                        update mailbox set uid_validity = ?, new_from_uid = ?, keywords = ?, read_only = ?, agreed_next = null
                        where id = ?
                        """)
                .params(opened.uidValidity(), newFromUid, opened.keywords(), opened.readOnly(), mailbox.id())
                .update();
        return query("b.id = ?", mailbox.id()).orElseThrow();
    }

    /** A mailbox whose server numbers nothing was opened for the first time: its messages are numbered here, from 1. */
    @Transactional
    public Mailbox openedFirst(Mailbox mailbox, Opened opened) {
        jdbc.sql("update mailbox set next_number = 1 where id = ?")
                .param(mailbox.id())
                .update();
        return opened(mailbox, opened, opened.uidNext());
    }

    /** Takes note of what may be done in a folder. */
    public Mailbox permits(Mailbox mailbox, Opened opened) {
        if (mailbox.keywords() == opened.keywords() && mailbox.readOnly() == opened.readOnly()) {
            return mailbox;
        }
        jdbc.sql("update mailbox set keywords = ?, read_only = ? where id = ?")
                .params(opened.keywords(), opened.readOnly(), mailbox.id())
                .update();
        return query("b.id = ?", mailbox.id()).orElseThrow();
    }

    /** Whether a folder of this name on the account's server shows in some folder already. */
    public boolean isUsed(long accountId, String serverName) {
        return jdbc.sql("select exists (select from mailbox where account_id = ? and server_name = ?)")
                .params(accountId, serverName)
                .query(Boolean.class)
                .single();
    }

    /** Takes note that a server is about to be asked for a folder, should the answer be lost. */
    public void wish(long accountId, long folderId) {
        jdbc.sql("insert into folder_wish (account_id, folder_id) values (?, ?) on conflict do nothing")
                .params(accountId, folderId)
                .update();
    }

    /** The folder that a server was asked to make under this path, without having answered. */
    private Optional<Long> wished(long accountId, FolderPath path) {
        return jdbc.sql("""
                        select w.folder_id from folder_wish w join folder f on f.id = w.folder_id
                        where w.account_id = ? and lower(f.path) = lower(?) limit 1
                        """)
                .params(accountId, path.toString())
                .query(Long.class)
                .optional();
    }

    /** Whoever deleted a folder no longer wants it made. For after a look at all folders: it has found one that was made unheard. */
    public void forgetWishesOfDeleted(long accountId) {
        jdbc.sql("""
                        delete from folder_wish w using folder f
                        where w.account_id = ? and f.id = w.folder_id and f.deleted_at is not null
                        """).param(accountId).update();
    }

    /** Folders that are to be made on the account's server, though nothing lies in them. */
    public List<Long> toMake(long accountId) {
        return jdbc.sql("""
                        select w.folder_id from folder_wish w join folder f on f.id = w.folder_id
                        where w.account_id = ? and f.deleted_at is null order by f.path
                        """).param(accountId).query(Long.class).list();
    }

    /** The wish is fulfilled, or refused. */
    public void isMade(long accountId, long folderId) {
        jdbc.sql("delete from folder_wish where account_id = ? and folder_id = ?")
                .params(accountId, folderId)
                .update();
    }

    /** Folders whose name here the account's server has not been told yet; those further up first. */
    public List<Mailbox> toRename(long accountId) {
        return jdbc.sql(COLUMNS + """
                        where b.account_id = ? and b.wanted_path <> b.path
                        order by length(b.wanted_path) - length(replace(b.wanted_path, '/', '')), b.id
                        """)
                .param(accountId)
                .query(MailboxStore::mailbox)
                .list();
    }

    /** Folders that were deleted here and in which nothing lies on the account's server; those further down first. */
    public List<Mailbox> toDelete(long accountId) {
        return jdbc.sql(COLUMNS + """
                        where b.account_id = ? and f.deleted_at is not null
                        and not exists (select from server_copy c where c.mailbox_id = b.id)
                        and not exists (select from server_order o where o.account_id = b.account_id and o.folder_id = f.id)
                        order by length(b.path) desc
                        """)
                .param(accountId)
                .query(MailboxStore::mailbox)
                .list();
    }

    /** What a folder is to be called on the server. */
    public FolderPath wantedPath(long mailboxId) {
        return FolderPath.stored(jdbc.sql("select wanted_path from mailbox where id = ?")
                .param(mailboxId)
                .query(String.class)
                .single());
    }

    /** A folder is called so on its server for the time being, and is to be called as it is here. */
    public void moved(long mailboxId, String serverName, String path) {
        jdbc.sql("""
                        update mailbox b set server_name = :name, path = :path,
                            wanted_path = coalesce(b.wanted_path, case when f.use is null then nullif(f.path, :path) end)
                        from folder f where f.id = b.folder_id and b.id = :mailbox
                        """)
                .param("name", serverName)
                .param("path", path)
                .param("mailbox", mailboxId)
                .update();
    }

    /** The server has been told, or cannot be: the folder is called so there. */
    public void isCalled(long mailboxId, String serverName, String path) {
        jdbc.sql("update mailbox set server_name = ?, path = ?, wanted_path = null where id = ?")
                .params(serverName, path, mailboxId)
                .update();
    }

    /** A folder is no longer on its server. Its messages are strays, until they turn up elsewhere or are taken out. */
    @Transactional
    public void gone(Mailbox mailbox) {
        jdbc.sql("delete from mailbox where id = ?").param(mailbox.id()).update();
    }

    /**
     * Takes a folder out of the cabinet that lies on no server, holds nothing, and that nothing names. One that was
     * deleted here stays out of sight: undoing that brings it back, whoever took it off the server.
     */
    @Transactional
    public void tidy(long folderId) {
        Optional<Long> user = jdbc.sql("select user_id from folder where id = ? and use is null")
                .param(folderId)
                .query(Long.class)
                .optional();
        if (user.isEmpty()) {
            return;
        }
        users.alone(user.get());
        jdbc.sql("""
                        delete from folder f where f.id = ? and f.use is null and f.deleted_at is null
                        and not exists (select from mailbox where folder_id = f.id)
                        and not exists (select from message where folder_id = f.id)
                        and not exists (select from server_order where folder_id = f.id)
                        and not exists (select from rule_effect where folder_id = f.id)
                        and not exists (select from routine_step where folder_id = f.id)
                        and not exists (select from alias where retired_to = f.id)
                        and not exists (select from folder b where b.user_id = f.user_id and starts_with(b.path, f.path || '/'))
                        """).param(folderId).update();
    }

    /**
     * A folder was given another name on its server. The cabinet's folder follows if it shows no other account's folder
     * and the new path is free; otherwise the messages are shown in the folder of the new path. But if it was given
     * another name here too, that one counts: perhaps it was we who renamed it, and were cut off.
     */
    @Transactional
    public void renamed(Account account, Mailbox mailbox, RemoteFolder remote) {
        boolean wanted = jdbc.sql("""
                        update mailbox b set server_name = :name, path = :path, wanted_path = nullif(b.wanted_path, :path)
                        from mailbox before where b.id = :mailbox and before.id = b.id
                        returning before.wanted_path is not null
                        """)
                .param("name", remote.serverName())
                .param("path", remote.path().toString())
                .param("mailbox", mailbox.id())
                .query(Boolean.class)
                .single();
        if (wanted) {
            return;
        }
        int followed = jdbc.sql("""
                        update folder f set path = :path where f.id = :folder and f.use is null
                        and not exists (select from mailbox where folder_id = f.id and id <> :mailbox)
                        and not exists (select from folder o where o.user_id = f.user_id and lower(o.path) = lower(:path)
                            and o.id <> f.id)
                        """)
                .param("path", remote.path().toString())
                .param("folder", mailbox.folderId())
                .param("mailbox", mailbox.id())
                .update();
        if (followed == 0) {
            showIn(account, mailbox, folderFor(account, remote));
        } else if (remote.path().parent() != null) {
            places.folder(account.userId(), remote.path().parent());
        }
    }

    /** Shows what lies in a folder of the server in another folder of the cabinet. */
    @Transactional
    public void showIn(Account account, Mailbox mailbox, long folderId) {
        users.alone(account.userId());
        writer.showIn(mailbox, folderId);
        jdbc.sql("update mailbox set folder_id = ? where id = ?")
                .params(folderId, mailbox.id())
                .update();
        events.publishEvent(new MailChanged(account.userId(), Set.of()));
    }
}
