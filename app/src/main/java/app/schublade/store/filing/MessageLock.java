package app.schublade.store.filing;

import app.schublade.store.base.UserLock;
import app.schublade.store.message.StateColumn;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** The second lock of every transaction that changes mail: messages, as they are from then on until it ends. */
@Component
class MessageLock {
    private final JdbcClient jdbc;
    private final UserLock users;

    MessageLock(JdbcClient jdbc, UserLock users) {
        this.jdbc = jdbc;
        this.users = users;
    }

    /**
     * Locks in the order of ids, so that two acts at once cannot stop each other. How the messages are is read after that, by
     * a statement of its own: one that had to wait for a lock sees the labels as they were before it waited.
     */
    Map<Long, Moving> lock(long userId, Collection<Long> messages) {
        users.shared(userId);
        Long[] ids = messages.toArray(Long[]::new);
        jdbc.sql("""
                        select count(*) from (select from message where user_id = ? and id = any(?)
                            order by id for no key update) locked
                        """).params(userId, ids).query(Integer.class).single();
        Map<Long, Moving> locked = new LinkedHashMap<>();
        jdbc.sql("""
                        select m.id, m.account_id, %s from message m where m.user_id = :user and m.id = any(:ids) order by m.id
                        """.formatted(StateColumn.SELECTED))
                .param("user", userId)
                .param("ids", ids)
                .query(MessageLock::moving)
                .list()
                .forEach(moving -> locked.put(moving.id(), moving));
        return locked;
    }

    private static Moving moving(ResultSet row, int number) throws SQLException {
        return new Moving(row.getLong("id"), row.getLong("account_id"), StateColumn.read(row));
    }
}
