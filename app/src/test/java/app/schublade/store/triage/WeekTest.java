package app.schublade.store.triage;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Zones;
import app.schublade.store.cabinet.TicklerStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.user.NotificationStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A week goes by, with a night in it in which clocks are put forward or back: all comes back, and is told of, when it should. */
@ExtendWith(Cabinet.Extension.class)
class WeekTest {
    private static final int MESSAGES = 40;

    private final Cabinet cabinet;
    private final long user;
    private final Account account;
    private Instant now = Instant.EPOCH;

    WeekTest(Cabinet cabinet) {
        this.cabinet = cabinet;
        user = cabinet.user();
        account = cabinet.account(user, "MU");
    }

    private final class Moving extends Clock {
        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return now;
        }
    }

    /** The first moment at which the clocks there show that time, or a later one. */
    private static Instant first(DayTime at, ZoneId zone) {
        LocalTime time = at.time();
        LocalDateTime shown = at.day().atTime(time == null ? LocalTime.MIDNIGHT : time);
        List<ZoneOffset> offsets = zone.getRules().getValidOffsets(shown);
        return offsets.isEmpty() ? zone.getRules().getTransition(shown).getInstant() : shown.toInstant(offsets.get(0));
    }

    private static DayTime any(LocalDate monday, Random random) {
        LocalDate day = monday.plusDays(random.nextInt(7));
        return switch (random.nextInt(4)) {
            case 0 -> DayTime.on(day);
            case 1 -> new DayTime(monday.plusDays(6), LocalTime.of(random.nextInt(4), random.nextInt(60)));
            default -> new DayTime(day, LocalTime.of(random.nextInt(24), random.nextInt(60)));
        };
    }

    @ParameterizedTest
    @CsvSource({
        "Europe/Berlin, 2026-03-23",
        "Europe/Berlin, 2026-10-19",
        "America/New_York, 2026-10-26",
        "America/New_York, 2026-03-02",
        "Pacific/Auckland, 2026-09-21",
        "Pacific/Kiritimati, 2026-12-28",
        "Pacific/Pago_Pago, 2026-12-28"
    })
    void allComesWhenItShould(String place, LocalDate monday) {
        Random random = new Random(monday.hashCode() + place.hashCode());
        ZoneId zone = ZoneId.of(place);
        Zones zones = new Zones(cabinet.jdbc, new Moving());
        zones.choose(user, zone);
        TicklerStore tickler = new TicklerStore(cabinet.jdbc, cabinet.bean(PlaceStore.class), cabinet.filing, zones);
        ReminderStore reminders =
                new ReminderStore(cabinet.jdbc, cabinet.bean(NotificationStore.class), zones, event -> {});
        long away = cabinet.places.special(user, SpecialUse.TICKLER);
        now = monday.atStartOfDay(zone).toInstant().minusSeconds(1);

        Map<Long, DayTime> back = new TreeMap<>();
        Map<Long, DayTime> due = new TreeMap<>();
        for (int i = 0; i < MESSAGES; i++) {
            long message = cabinet.arrives(
                    account,
                    TestMail.from("Anna <anna@wharf.example>", "Letter " + i).read());
            DayTime at = any(monday, random);
            (i % 2 == 0 ? back : due).put(message, at);
            boolean puts = i % 2 == 0;
            cabinet.filing.act(
                    user,
                    Cause.HAND,
                    "x",
                    List.of(message),
                    state -> puts ? state.in(away).until(at) : state.due(at));
        }
        Instant end = monday.plusDays(8).atStartOfDay(zone).toInstant();
        while (now.isBefore(end)) {
            now = now.plus(Duration.ofMinutes(1 + random.nextInt(random.nextBoolean() ? 20 : 400)));
            if (tickler.users().contains(user)) {
                tickler.bringBack(user);
            }
            if (reminders.users().contains(user)) {
                reminders.remind(user);
            }
            assertThat(unread()).as("back in the Inbox at %s", now).isEqualTo(come(back, zone, false));
            assertThat(reminders.open(user, 1000).stream()
                            .map(ReminderStore.Reminder::message)
                            .sorted()
                            .toList())
                    .as("told of at %s", now)
                    .isEqualTo(come(due, zone, true));
        }
        assertThat(come(back, zone, false)).hasSize(MESSAGES / 2);
        assertThat(cabinet.jdbc
                        .sql("select count(*) from notification where user_id = ? and due")
                        .param(user)
                        .query(Integer.class)
                        .single())
                .as("each once")
                .isEqualTo(come(due, zone, true).size())
                .isGreaterThan(5);
    }

    /** @param timed whether those that name a day alone are left out */
    private List<Long> come(Map<Long, DayTime> all, ZoneId zone, boolean timed) {
        return all.entrySet().stream()
                .filter(one -> !timed || one.getValue().time() != null)
                .filter(one -> !first(one.getValue(), zone).isAfter(now))
                .map(Map.Entry::getKey)
                .collect(Collectors.toList());
    }

    private List<Long> unread() {
        return cabinet.jdbc
                .sql("select m.id from message m join folder f on f.id = m.folder_id and f.use = 'INBOX'"
                        + " where m.user_id = ? and m.unread order by m.id")
                .param(user)
                .query(Long.class)
                .list();
    }
}
