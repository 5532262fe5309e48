package app.schublade.store.triage;

import app.schublade.core.triage.LookHours;
import app.schublade.store.base.Zones;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Who gets the day sheet by mail, and when. */
@Repository
public class DayMailStore {
    private final JdbcClient jdbc;
    private final Zones zones;
    private final Clock clock;

    DayMailStore(JdbcClient jdbc, Zones zones, Clock clock) {
        this.jdbc = jdbc;
        this.zones = zones;
        this.clock = clock;
    }

    /** At which hours it comes, and at which account. */
    public record DayMail(long userId, long account, LookHours hours, Instant sentAt) {}

    public Optional<DayMail> of(long userId) {
        return jdbc.sql("select * from day_mail where user_id = ?")
                .param(userId)
                .query(DayMailStore::dayMail)
                .optional();
    }

    /** From now on it comes at these hours; without any, no more. The account must be the user's. */
    public void keep(long userId, long account, LookHours hours) {
        if (hours.isEmpty()) {
            jdbc.sql("delete from day_mail where user_id = ?").param(userId).update();
            return;
        }
        jdbc.sql("""
                        insert into day_mail (user_id, account_id, minutes, sent_at)
                        select user_id, id, :minutes, :now from account where user_id = :user and id = :account
                        on conflict (user_id) do update set account_id = excluded.account_id, minutes = excluded.minutes,
                            sent_at = excluded.sent_at
                        """)
                .param("user", userId)
                .param("account", account)
                .param("minutes", hours.minutes().toArray(Integer[]::new))
                .param("now", Timestamp.from(clock.instant()))
                .update();
    }

    /** Those whose hour has come. */
    public List<DayMail> due() {
        return jdbc.sql("select * from day_mail").query(DayMailStore::dayMail).list().stream()
                .filter(one -> last(one).isAfter(one.sentAt()))
                .toList();
    }

    private Instant last(DayMail one) {
        return one.hours().last(clock.instant().atZone(zones.of(one.userId()))).toInstant();
    }

    /** Does it for an hour once, whoever else looks at the same time; what fails is done the next time. */
    @Transactional
    public void once(DayMail one, Runnable sending) {
        if (claim(one)) {
            sending.run();
        }
    }

    private boolean claim(DayMail one) {
        return jdbc.sql("update day_mail set sent_at = ? where user_id = ? and sent_at = ?")
                        .params(Timestamp.from(clock.instant()), one.userId(), Timestamp.from(one.sentAt()))
                        .update()
                > 0;
    }

    private static DayMail dayMail(ResultSet row, int number) throws SQLException {
        return new DayMail(
                row.getLong("user_id"),
                row.getLong("account_id"),
                LookHours.ofMinutes(
                        Arrays.asList((Integer[]) row.getArray("minutes").getArray())),
                row.getTimestamp("sent_at").toInstant());
    }
}
