package app.schublade.store.base;

import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.zone.ZoneOffsetTransition;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Where each user's days begin and end. Asked for at almost everything, so what was read is kept for a while. */
@Repository
public class Zones {
    private static final Duration KEPT = Duration.ofMinutes(1);

    private static final Pattern PLACE =
            Pattern.compile("(Africa|America|Antarctica|Arctic|Asia|Atlantic|Australia|Europe|Indian|Pacific)/.*|UTC");

    private final JdbcClient jdbc;
    private final Clock clock;
    private final Map<Long, Known> known = new ConcurrentHashMap<>();

    public Zones(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    private record Known(ZoneId zone, Instant until) {}

    /** The user's zone; that of this machine if none was ever chosen. */
    public ZoneId of(long userId) {
        Instant now = clock.instant();
        Known one = known.get(userId);
        if (one == null || one.until().isBefore(now)) {
            one = new Known(read(userId), now.plus(KEPT));
            known.put(userId, one);
        }
        return one.zone();
    }

    public LocalDate today(long userId) {
        return LocalDate.ofInstant(clock.instant(), of(userId));
    }

    /** Today, where the sun rises first: no user's day is later. */
    public LocalDate latestToday() {
        return LocalDate.ofInstant(clock.instant(), ZoneOffset.ofHours(14));
    }

    /** The latest time that the user's clock has shown: in autumn it shows one hour twice, and what had come then stays so. */
    public LocalDateTime reached(long userId) {
        Instant now = clock.instant();
        ZoneId zone = of(userId);
        LocalDateTime shown = LocalDateTime.ofInstant(now, zone);
        ZoneOffsetTransition last = zone.getRules().previousTransition(now.plusNanos(1));
        return last != null && last.isOverlap() && shown.isBefore(last.getDateTimeBefore())
                ? last.getDateTimeBefore()
                : shown;
    }

    private ZoneId read(long userId) {
        return jdbc.sql("select zone from app_user where id = ? and zone is not null")
                .param(userId)
                .query(String.class)
                .optional()
                .flatMap(Zones::parse)
                .orElse(clock.getZone());
    }

    /** The zone of a name of the IANA's time zone database; empty if there is none of this name. */
    public static Optional<ZoneId> parse(@Nullable String name) {
        try {
            return name != null && ZoneId.getAvailableZoneIds().contains(name)
                    ? Optional.of(ZoneId.of(name))
                    : Optional.empty();
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    /** The names that people choose from: places, by continents. */
    public static List<String> names() {
        return ZoneId.getAvailableZoneIds().stream()
                .filter(name -> PLACE.matcher(name).matches())
                .sorted()
                .toList();
    }

    public void choose(long userId, ZoneId zone) {
        jdbc.sql("update app_user set zone = ? where id = ?")
                .params(zone.getId(), userId)
                .update();
        known.remove(userId);
    }

    /** What a browser says at the login counts until the user chooses. */
    public void suppose(long userId, ZoneId zone) {
        int chosen = jdbc.sql("update app_user set zone = ? where id = ? and zone is null")
                .params(zone.getId(), userId)
                .update();
        if (chosen > 0) {
            known.remove(userId);
        }
    }
}
