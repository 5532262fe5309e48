package app.schublade.store.user;

import app.schublade.store.place.PlaceStore;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The users and their logins. */
@Repository
public class UserStore {
    private final JdbcClient jdbc;
    private final PlaceStore places;

    public UserStore(JdbcClient jdbc, PlaceStore places) {
        this.jdbc = jdbc;
        this.places = places;
    }

    /** A user; the password is hashed. */
    public record User(long id, String login, String name, String password) {}

    public Optional<User> byLogin(String login) {
        return jdbc.sql("select id, login, name, password from app_user where login = ?")
                .param(login)
                .query(User.class)
                .optional();
    }

    public boolean isEmpty() {
        return jdbc.sql("select count(*) from app_user").query(Long.class).single() == 0;
    }

    /** Adds a user with the folders and categories that everybody starts with. */
    @Transactional
    public User add(String login, String name, String hashedPassword) {
        long id = jdbc.sql("insert into app_user (login, name, password) values (?, ?, ?) returning id")
                .params(login, name, hashedPassword)
                .query(Long.class)
                .single();
        places.furnish(id);
        return byLogin(login).orElseThrow();
    }

    /** Adds the first user, who owns the installation; false if somebody was there already. */
    @Transactional
    public boolean addOwner(String login, String name, String hashedPassword) {
        jdbc.sql("lock table app_user in exclusive mode").update();
        if (!isEmpty()) {
            return false;
        }
        add(login, name, hashedPassword);
        return true;
    }

    /** Gives a user another password. */
    public void changePassword(long userId, String hashedPassword) {
        jdbc.sql("update app_user set password = ? where id = ?")
                .params(hashedPassword, userId)
                .update();
    }
}
