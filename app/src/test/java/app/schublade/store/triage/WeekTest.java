package app.schublade.store.triage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.params.provider.Arguments.arguments;

import app.schublade.core.filing.DayTime;
import app.schublade.core.format.Identity;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.message.Address;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Zones;
import app.schublade.store.cabinet.TicklerStore;
import app.schublade.store.filing.HandledStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.SendingStore;
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
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

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

    /** Where and when clocks are put forward or back, and where the day begins first and last. */
    static Stream<Arguments> weeks() {
        return Stream.of(
                arguments("Europe/Berlin", LocalDate.of(2026, 3, 23)),
                arguments("Europe/Berlin", LocalDate.of(2026, 10, 19)),
                arguments("America/New_York", LocalDate.of(2026, 10, 26)),
                arguments("America/New_York", LocalDate.of(2026, 3, 2)),
                arguments("Pacific/Auckland", LocalDate.of(2026, 9, 21)),
                arguments("Pacific/Kiritimati", LocalDate.of(2026, 12, 28)),
                arguments("Pacific/Pago_Pago", LocalDate.of(2026, 12, 28)));
    }

    @ParameterizedTest
    @MethodSource("weeks")
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

    /** A message that is to leave later, and what becomes of it. */
    private static final class Later {
        private final long id;
        private final int to;
        private final Instant leaves;
        private final @Nullable Instant ticked;
        private final Instant answered;
        private String messageId = "";
        private Instant sent = Instant.MAX;
        private boolean hasAnswer;

        Later(long id, int to, Instant leaves, @Nullable Instant ticked, Instant answered) {
            this.id = id;
            this.to = to;
            this.leaves = leaves;
            this.ticked = ticked;
            this.answered = answered;
        }

        /** From then on it is told of, if there is no answer. */
        boolean isListed(Instant now) {
            return !hasAnswer
                    && !sent.isAfter(now)
                    && !(ticked == null ? sent.plus(Duration.ofDays(3)) : ticked).isAfter(now);
        }
    }

    @ParameterizedTest
    @MethodSource("weeks")
    void whatIsSentLaterLeavesOnceAndIsAwaited(String place, LocalDate monday) {
        Random random = new Random(monday.hashCode() + place.hashCode());
        ZoneId zone = ZoneId.of(place);
        SendingStore sending = new SendingStore(cabinet.jdbc, cabinet.bean(HandledStore.class), new Moving());
        AwaitingStore awaiting = new AwaitingStore(cabinet.jdbc, new Moving());
        now = monday.atStartOfDay(zone).toInstant().minusSeconds(1);
        List<Later> all = new ArrayList<>();
        for (int i = 0; i < MESSAGES / 2; i++) {
            all.add(later(i, any(monday, random), zone, random));
        }
        Instant end = monday.plusDays(14).atStartOfDay(zone).toInstant();
        while (now.isBefore(end)) {
            now = now.plus(Duration.ofMinutes(1 + random.nextInt(random.nextBoolean() ? 20 : 400)));
            Set<Long> left = leave(sending, all);
            assertThat(left)
                    .as("left at %s", now)
                    .isEqualTo(ids(all, one -> one.messageId.isEmpty() && !one.leaves.isAfter(now)));
            for (Later one : all) {
                if (left.contains(one.id)) {
                    one.messageId = sent(one.id);
                    one.sent = now;
                    sending.handedIn(one.id);
                    sending.done(one.id);
                }
                if (!one.hasAnswer && one.sent.isBefore(now) && !one.answered.isAfter(now)) {
                    one.hasAnswer = true;
                    cabinet.arrives(
                            account,
                            TestMail.from("p" + one.to + "@wharf.example", "Re: The boat")
                                    .named("answer" + one.id, one.messageId)
                                    .at(now));
                }
            }
            awaiting.look(user, 100);
            assertThat(awaiting.count(user))
                    .as("awaited at %s", now)
                    .isEqualTo(ids(all, one -> one.isListed(now)).size());
        }
        assertThat(all).noneMatch(one -> one.messageId.isEmpty()).anyMatch(one -> one.hasAnswer);
        assertThat(awaiting.count(user)).isPositive();
    }

    /** Half of them are to be told of by an hour that was chosen. */
    private Later later(int number, DayTime at, ZoneId zone, Random random) {
        Instant leaves = first(at, zone);
        // To somebody else each time, so that nothing is known of how long answers take.
        OutgoingMessage letter = new OutgoingMessage(
                new Address("Me", account.address()),
                List.of(new Address("", "p" + number + "@wharf.example")),
                List.of(),
                "The boat",
                "When does boat " + number + " come?",
                null,
                List.of());
        long id = cabinet.outgoing.begin(user, account.id(), letter, null);
        Instant ticked = number % 2 == 0 ? null : leaves.plus(Duration.ofHours(1 + random.nextInt(100)));
        assertThat(cabinet.outgoing.send(user, id, letter, leaves, leaves, ticked))
                .isTrue();
        return new Later(
                id,
                number,
                leaves,
                ticked,
                leaves.plus(Duration.ofHours(1 + random.nextInt(number % 3 == 0 ? 10_000 : 100))));
    }

    private Set<Long> leave(SendingStore sending, List<Later> all) {
        Set<Long> left = new TreeSet<>();
        for (Optional<Outgoing> one = sending.claim(List.of()); one.isPresent(); one = sending.claim(List.of())) {
            assertThat(left.add(one.get().id())).as("claimed once").isTrue();
        }
        left.retainAll(ids(all, one -> true));
        return left;
    }

    /** Its copy comes into Sent; returns the beginning of its Message-ID. */
    private String sent(long id) {
        byte[] source = cabinet.sending.source(id).orElseThrow();
        cabinet.arrives(account, cabinet.mailbox(account, "Sent"), source, now);
        return Identity.of(source).replaceFirst("@.*", "");
    }

    private static Set<Long> ids(List<Later> all, Predicate<Later> which) {
        return all.stream().filter(which).map(one -> one.id).collect(Collectors.toCollection(TreeSet::new));
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
