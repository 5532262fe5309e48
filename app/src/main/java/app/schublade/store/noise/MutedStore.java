package app.schublade.store.noise;

import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Conversations that go on without the user: what comes further is read and archived, unless somebody writes to the user alone. */
@Repository
public class MutedStore {
    private final JdbcClient jdbc;

    MutedStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A conversation that is muted.
     *
     * @param message its last message, and what it is about
     * @param since how many messages came since it was muted
     */
    public record MutedConversation(long message, String subject, Instant at, int since) {}

    /** The last muted first; those of which no message is left are not among them. */
    public List<MutedConversation> list(long userId) {
        return jdbc.sql("""
                        select last.id as message, last.subject, u.at, (select count(*) from message s
                            where s.user_id = u.user_id and s.conversation_id = u.conversation_id and s.received_at > u.at) as since
                        from muted u join lateral (
                            select m.id, h.subject from message m join message_head h on h.message_id = m.id
                            where m.user_id = u.user_id and m.conversation_id = u.conversation_id
                            order by m.received_at desc, m.id desc limit 1) last on true
                        where u.user_id = ? order by u.at desc
                        """)
                .param(userId)
                .query((row, number) -> new MutedConversation(
                        row.getLong("message"),
                        row.getString("subject"),
                        row.getTimestamp("at").toInstant(),
                        row.getInt("since")))
                .list();
    }

    /** Those of some conversations that are muted. */
    public Set<Long> among(long userId, Collection<Long> conversations) {
        return new HashSet<>(
                jdbc.sql("select conversation_id from muted where user_id = ? and conversation_id = any(?)")
                        .params(userId, conversations.toArray(Long[]::new))
                        .query(Long.class)
                        .list());
    }

    /** The conversation of a message; empty if it is not known yet. */
    public Optional<Long> conversation(long userId, long message) {
        return jdbc.sql(
                        "select conversation_id from message where user_id = ? and id = ? and conversation_id is not null")
                .params(userId, message)
                .query(Long.class)
                .optional();
    }

    /** The messages of a conversation that lie in the Inbox. */
    public List<Long> inInbox(long userId, long conversation) {
        return jdbc.sql("""
                        select m.id from message m join folder f on f.id = m.folder_id and f.use = 'INBOX'
                        where m.user_id = ? and m.conversation_id = ? order by m.id
                        """).params(userId, conversation).query(Long.class).list();
    }

    public void mute(long userId, long conversation) {
        jdbc.sql("insert into muted (user_id, conversation_id) values (?, ?) on conflict do nothing")
                .params(userId, conversation)
                .update();
    }

    public void unmute(long userId, long conversation) {
        jdbc.sql("delete from muted where user_id = ? and conversation_id = ?")
                .params(userId, conversation)
                .update();
    }

    /** Conversations turned out to be one: it is muted if one of them was. */
    public void merge(long userId, Map<Long, Long> merged) {
        Set<Long> muted = among(userId, merged.keySet());
        for (Long old : muted) {
            Long one = merged.get(old);
            if (one != null) {
                mute(userId, one);
                unmute(userId, old);
            }
        }
    }
}
