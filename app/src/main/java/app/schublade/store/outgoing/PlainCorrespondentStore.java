package app.schublade.store.outgoing;

import app.schublade.core.message.Address;
import java.util.Collection;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Who is written to in plain text, as each of them was the last time. */
@Repository
public class PlainCorrespondentStore {
    private final JdbcClient jdbc;

    PlainCorrespondentStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Whether one of them is written to in plain text. */
    public boolean anyOf(long userId, Collection<Address> people) {
        return jdbc.sql("select exists (select from plain_correspondent where user_id = ? and address = any(?))")
                .params(userId, keys(people))
                .query(Boolean.class)
                .single();
    }

    /** They were written to in plain text, or with formatting. */
    @Transactional
    public void wrote(long userId, Collection<Address> people, boolean plain) {
        String sql = plain
                ? "insert into plain_correspondent (user_id, address) select ?, unnest(?) on conflict do nothing"
                : "delete from plain_correspondent where user_id = ? and address = any(?)";
        jdbc.sql(sql).params(userId, keys(people)).update();
    }

    private static String[] keys(Collection<Address> people) {
        return people.stream().map(Address::key).distinct().sorted().toArray(String[]::new);
    }
}
