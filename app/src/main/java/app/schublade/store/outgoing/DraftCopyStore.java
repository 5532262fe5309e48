package app.schublade.store.outgoing;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Where drafts lie on their account's server, so that other programs find them; of each the latest alone. */
@Repository
public class DraftCopyStore {
    /** Files of so many bytes are written again only when nothing has been changed for a while. */
    private static final int MUCH = 1_000_000;

    private static final int AT_ONCE = 20;

    private final JdbcClient jdbc;

    DraftCopyStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A draft that is to be written to the server.
     *
     * @param edition what of it is to be written
     */
    public record UnsavedDraft(long outgoing, String edition) {}

    /**
     * A draft on the server.
     *
     * @param folder where it lies, as the server calls it
     * @param identity see {@link app.schublade.core.format.Identity}
     * @param size in bytes; null if it is not certain that it lies there
     */
    public record DraftCopy(
            long id,
            String folder,
            String identity,
            @Nullable Integer size) {}

    /** Those that the server does not have as they are: in a pause of typing, and else every 45 seconds. */
    public List<UnsavedDraft> unsaved(long account) {
        return jdbc.sql("""
                        select o.id as outgoing, e.edition from outgoing o join draft_edition e on e.outgoing_id = o.id
                        where o.account_id = :account
                            and not exists (select from draft_copy c where c.outgoing_id = o.id
                                and c.account_id = o.account_id and c.edition = e.edition and c.size is not null)
                            and (o.changed_at < now() - interval '8 seconds'
                                or not exists (select from draft_copy c where c.outgoing_id = o.id
                                    and c.at > now() - interval '45 seconds'))
                            and (o.changed_at < now() - interval '40 seconds' or :much >
                                (select coalesce(sum(length(content)), 0) from outgoing_file f where f.outgoing_id = o.id))
                        order by o.id limit :some
                        """)
                .param("account", account)
                .param("much", MUCH)
                .param("some", AT_ONCE)
                .query(UnsavedDraft.class)
                .list();
    }

    /** A draft is about to be written there; one that was cut off in the middle of that is known by the same identity. */
    @Transactional
    public DraftCopy begin(long account, UnsavedDraft draft, String folder) {
        Optional<DraftCopy> begun = jdbc.sql("""
                        select id, folder, identity, size from draft_copy
                        where account_id = ? and outgoing_id = ? and edition = ?
                        """)
                .params(account, draft.outgoing(), draft.edition())
                .query(DraftCopy.class)
                .optional();
        return begun.orElseGet(() -> jdbc.sql("""
                        insert into draft_copy (account_id, outgoing_id, edition, folder, identity) values (?, ?, ?, ?, ?)
                        returning id, folder, identity, size
                        """)
                .params(account, draft.outgoing(), draft.edition(), folder, UUID.randomUUID() + "@draft")
                .query(DraftCopy.class)
                .single());
    }

    /** It lies there. */
    public void saved(DraftCopy copy, int size) {
        jdbc.sql("update draft_copy set size = ?, at = now() where id = ?")
                .params(size, copy.id())
                .update();
    }

    /** Those whose draft is sent, gone, or lies there as it is now. */
    public List<DraftCopy> outdated(long account) {
        return jdbc.sql("""
                        select c.id, c.folder, c.identity, c.size from draft_copy c where c.account_id = ? and not exists (
                            select from outgoing o left join draft_edition e on e.outgoing_id = o.id
                            where o.id = c.outgoing_id and o.account_id = c.account_id and o.state in ('DRAFT', 'REFUSED')
                                and (e.edition is null or c.edition = e.edition or not exists (
                                    select from draft_copy n where n.outgoing_id = o.id and n.account_id = c.account_id
                                        and n.edition = e.edition and n.size is not null)))
                        order by c.id
                        """).param(account).query(DraftCopy.class).list();
    }

    /** It is gone from there, or was never there. */
    public void removed(DraftCopy copy) {
        jdbc.sql("delete from draft_copy where id = ?").param(copy.id()).update();
    }

    /** A message here that another program has left as a draft is written on as this one; it is replaced by it. */
    public void replaces(long outgoing, long message) {
        jdbc.sql("""
                        insert into draft_copy (account_id, outgoing_id, edition, folder, identity, size)
                        select m.account_id, ?, '', b.server_name, h.internet_id, h.size
                        from message m join message_head h on h.message_id = m.id join server_copy l on l.message_id = m.id
                            join mailbox b on b.id = l.mailbox_id
                        where m.id = ?
                        """).params(outgoing, message).update();
    }

    /** The draft that a message here is a copy of, if it is still being written. */
    public Optional<Long> draftOf(long userId, long message) {
        return jdbc.sql("""
                        select o.id from message m join message_head h on h.message_id = m.id
                            join draft_copy c on c.account_id = m.account_id and c.identity = h.internet_id
                            join outgoing o on o.id = c.outgoing_id and o.user_id = m.user_id
                        where m.user_id = ? and m.id = ? and o.state in ('DRAFT', 'REFUSED') limit 1
                        """).params(userId, message).query(Long.class).optional();
    }
}
