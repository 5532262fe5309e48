package app.schublade.store;

import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.Opened;
import app.schublade.mail.RemoteFolder;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The folders on the servers, and which message lies where on them. */
@Repository
public class MailboxStore {
    private static final String COLUMNS = """
            select b.*, coalesce(f.use, '') = 'INBOX' as inbox from mailbox b join folder f on f.id = b.folder_id\s""";

    private final JdbcClient jdbc;
    private final PlaceStore places;

    public MailboxStore(JdbcClient jdbc, PlaceStore places) {
        this.jdbc = jdbc;
        this.places = places;
    }

    /** A message on a server: where it is known to lie and how it is marked here. */
    public record Copy(long messageId, long uid, State state) {}

    /** Takes note of a folder that a server lists; equal paths of several accounts become one folder. */
    @Transactional
    public Mailbox mailbox(Account account, RemoteFolder remote) {
        Optional<Mailbox> known = query("b.account_id = ? and b.server_name = ?", account.id(), remote.serverName());
        if (known.isPresent()) {
            return known.get();
        }
        jdbc.sql("insert into mailbox (account_id, folder_id, server_name) values (?, ?, ?) on conflict do nothing")
                .params(account.id(), folderFor(account, remote), remote.serverName())
                .update();
        return query("b.account_id = ? and b.server_name = ?", account.id(), remote.serverName())
                .orElseThrow(() -> new IllegalStateException("Two folders of %s have the path %s."
                        .formatted(account.address(), remote.path().shown())));
    }

    private long folderFor(Account account, RemoteFolder remote) {
        Optional<SpecialUse> use = remote.use();
        if (use.isPresent()) {
            long special = places.special(account.userId(), use.get());
            if (mailboxOf(account.id(), special).isEmpty()) {
                return special;
            }
        }
        FolderRef folder = places.folder(account.userId(), remote.path());
        return folder.id();
    }

    /** Where an account keeps the mail of a folder, if it has a folder for it. */
    public Optional<Mailbox> mailboxOf(long accountId, long folderId) {
        return query("b.account_id = ? and b.folder_id = ?", accountId, folderId);
    }

    public Optional<Mailbox> byId(long id) {
        return query("b.id = ?", id);
    }

    /** The path of a folder of the cabinet. */
    public FolderPath path(long folderId) {
        return FolderPath.parse(jdbc.sql("select path from folder where id = ?")
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
                row.getBoolean("inbox"),
                row.getObject("uid_validity", Long.class),
                row.getLong("new_from_uid"),
                row.getBoolean("keywords"));
    }

    /** Takes note of how the server opened a folder; all UIDs known for it are void if it was renumbered. */
    @Transactional
    public Mailbox opened(Mailbox mailbox, Opened opened, long newFromUid) {
        if (mailbox.uidValidity() != null && mailbox.uidValidity() != opened.uidValidity()) {
            jdbc.sql("delete from server_copy where mailbox_id = ?")
                    .param(mailbox.id())
                    .update();
        }
        jdbc.sql("update mailbox set uid_validity = ?, new_from_uid = ?, keywords = ? where id = ?")
                .params(opened.uidValidity(), newFromUid, opened.keywords(), mailbox.id())
                .update();
        return query("b.id = ?", mailbox.id()).orElseThrow();
    }

    /** The messages of a folder on the server, by UID. */
    public Map<Long, Copy> copies(long mailboxId) {
        Map<Long, Copy> copies = new HashMap<>();
        jdbc.sql("""
                        select c.uid, m.id, m.folder_id, m.unread, m.flagged, m.category_id,
                            array(select label_id from message_label where message_id = m.id) as labels
                        from server_copy c join message m on m.id = c.message_id where c.mailbox_id = ?
                        """)
                .param(mailboxId)
                .query((row, number) -> new Copy(row.getLong("id"), row.getLong("uid"), FilingStore.state(row, "")))
                .list()
                .forEach(copy -> copies.put(copy.uid(), copy));
        return copies;
    }

    /** Messages that are no longer where they were known to be; they may turn up in another folder. */
    public void vanished(Collection<Long> messages) {
        jdbc.sql("delete from server_copy where message_id = any(?)")
                .param(messages.toArray(Long[]::new))
                .update();
    }

    /** Messages of the account of which it is not known where they lie. */
    public List<Long> strays(long accountId) {
        return jdbc.sql("""
                        select m.id from message m where m.account_id = ?
                        and not exists (select from server_copy c where c.message_id = m.id)
                        """).param(accountId).query(Long.class).list();
    }

    /** Notes where a message lies now. A message that was known to have this UID before is a stray then. */
    @Transactional
    public void locate(long messageId, long mailboxId, long uid) {
        jdbc.sql("delete from server_copy where mailbox_id = ? and uid = ? and message_id <> ?")
                .params(mailboxId, uid, messageId)
                .update();
        jdbc.sql("""
                        insert into server_copy (message_id, mailbox_id, uid) values (?, ?, ?)
                        on conflict (message_id) do update set mailbox_id = excluded.mailbox_id, uid = excluded.uid
                        """).params(messageId, mailboxId, uid).update();
    }

    public boolean isKnown(long mailboxId, long uid) {
        return jdbc.sql("select exists (select from server_copy where mailbox_id = ? and uid = ?)")
                .params(mailboxId, uid)
                .query(Boolean.class)
                .single();
    }
}
