package app.schublade.store.user;

import java.util.Locale;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Whose pictures are fetched from outside, whenever their mail is read. */
@Repository
public class PictureSenderStore {
    private final JdbcClient jdbc;

    PictureSenderStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** @param address of a sender */
    public void set(long userId, String address, boolean on) {
        String sql = on
                ? "insert into pictures_from (user_id, address) values (?, ?) on conflict do nothing"
                : "delete from pictures_from where user_id = ? and address = ?";
        jdbc.sql(sql).params(userId, address.toLowerCase(Locale.ROOT)).update();
    }
}
