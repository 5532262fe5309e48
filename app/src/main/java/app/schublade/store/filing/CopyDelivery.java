package app.schublade.store.filing;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Gzip;
import app.schublade.store.base.MailChanged;
import app.schublade.store.filing.OrderStore.ServerOrder;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.PlaceStore;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What becomes of copies that {@link MessageCopier} ordered, as servers make and take them. */
@Repository
public class CopyDelivery {
    private final JdbcClient jdbc;
    private final FilingStore filing;
    private final ServerLocationStore copies;
    private final OrderStore orders;
    private final PlaceStore places;
    private final ApplicationEventPublisher events;

    CopyDelivery(
            JdbcClient jdbc,
            FilingStore filing,
            ServerLocationStore copies,
            OrderStore orders,
            PlaceStore places,
            ApplicationEventPublisher events) {
        this.jdbc = jdbc;
        this.filing = filing;
        this.copies = copies;
        this.orders = orders;
        this.places = places;
        this.events = events;
    }

    /** The server has made a copy in a folder of the same account. */
    @Transactional
    public void copied(ServerOrder order, long mailboxId, long uid) {
        if (order.otherId() != null) {
            copies.locate(order.otherId(), mailboxId, uid);
        }
        orders.done(List.of(order.id()));
    }

    /** All of a message that is to be carried over is here: the other account's server can have it. */
    @Transactional
    public void fetched(ServerOrder order, byte[] source) {
        Long copy = order.otherId();
        if (copy != null) {
            try (Gzip gzip = new Gzip()) {
                jdbc.sql("update message_source set whole = true, gzip = ? where message_id = ?")
                        .params(gzip.compress(source), copy)
                        .update();
            }
            MailChanged changed = jdbc.sql("""
                            with one as (insert into server_order (account_id, message_id, kind, folder_id, other_id, batch_id)
                                select account_id, id, 'BRING', :folder, :original, :batch from message where id = :copy
                                returning account_id)
                            select m.user_id, one.account_id from one, message m where m.id = :copy
                            """)
                    .param("folder", order.folderId())
                    .param("original", order.messageId())
                    .param("batch", order.batchId())
                    .param("copy", copy)
                    .query((row, number) -> new MailChanged(row.getLong(1), Set.of(row.getLong(2))))
                    .single();
            events.publishEvent(changed);
        }
        orders.done(List.of(order.id()));
    }

    /** The other account's server has the message: the original goes to the trash, unless the act was taken back since. */
    @Transactional
    public void brought(ServerOrder order, long mailboxId, long uid) {
        copies.locate(order.messageId(), mailboxId, uid);
        orders.done(List.of(order.id()));
        record CopyAct(long batch, long userId, String title) {}
        List<CopyAct> act = jdbc.sql(
                        "select id as batch, user_id, title from batch where id = ? and undone_at is null for update")
                .param(order.batchId())
                .query(CopyAct.class)
                .list();
        Long original = order.otherId();
        if (original != null && !act.isEmpty()) {
            long user = act.get(0).userId();
            long trash = places.special(user, SpecialUse.TRASH);
            filing.actFurther(
                    user,
                    Cause.HAND,
                    act.get(0).title(),
                    List.of(original),
                    state -> state.in(trash),
                    act.get(0).batch());
        }
    }

    /**
     * What stands in the source of a message that is brought to a server, and how it is to be marked there.
     *
     * @param marks flags and keywords
     */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    public record Parcel(byte[] source, Instant received, Set<String> marks) {}

    /** A message as its new server is to have it. */
    public Parcel parcel(long message) {
        return jdbc.sql("""
                        select s.gzip, m.received_at, m.unread, m.flagged,
                            array(select l.keyword from message_label ml join label l on l.id = ml.label_id
                                where ml.message_id = m.id
                                union all select c.keyword from category c
                                    where c.id = m.category_id or c.id = any(m.also_categories)) as keywords
                        from message m join message_source s on s.message_id = m.id where m.id = ?
                        """)
                .param(message)
                .query((row, number) -> {
                    Set<String> marks = new HashSet<>(
                            Arrays.asList((String[]) row.getArray("keywords").getArray()));
                    if (!row.getBoolean("unread")) {
                        marks.add("\\Seen");
                    }
                    if (row.getBoolean("flagged")) {
                        marks.add("\\Flagged");
                    }
                    return new Parcel(
                            MessageStore.unpack(row.getBytes("gzip")),
                            row.getTimestamp("received_at").toInstant(),
                            marks);
                })
                .single();
    }
}
