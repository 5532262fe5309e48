package app.schublade.core.filing;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FlagRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ChangeTest {
    private static final FolderPath PATH = FolderPath.parse("A/B");

    private static Effect effect(Random random) {
        long id = 1L + random.nextInt(3);
        return switch (random.nextInt(8)) {
            case 0 -> new Effect.FileInto(new FolderRef(id, PATH));
            case 1 -> new Effect.SetLabel(new LabelRef(id, PATH), random.nextBoolean());
            case 2 -> new Effect.Categorise(new CategoryRef(id, "Next"));
            case 4 -> new Effect.Tickle(new FolderRef(9, PATH), new DueDate.On(LocalDate.of(2026, 12, 1)));
            case 3 -> new Effect.MarkRead(random.nextBoolean());
            case 5 -> new Effect.FlagAs(new FlagRef(id, "To call"));
            case 6 -> new Effect.TickOff(LocalDate.of(2026, 11, 20 + random.nextInt(9)));
            default -> new Effect.Flag(random.nextBoolean());
        };
    }

    private static State state(Random random) {
        State plain = new State(
                1L + random.nextInt(3),
                random.nextBoolean(),
                random.nextBoolean(),
                null,
                random.nextBoolean() ? Set.of() : Set.of(1L + random.nextInt(3)));
        List<Long> categories = List.of(1L, 2L, 3L);
        return plain.categorised(categories.subList(random.nextInt(3), 3).subList(0, random.nextInt(2)));
    }

    @Test
    void undoIsTheInverseOfAnyEffects() {
        Random random = new Random(5);
        for (int i = 0; i < 2000; i++) {
            State before = state(random);
            State after = before;
            for (int j = random.nextInt(5); j >= 0; j--) {
                after = effect(random).on(after);
            }
            Change change = new Change(before, after);
            assertThat(change.undo(after)).isEqualTo(before);
            assertThat(change.isOvertaken(after)).isFalse();
            assertThat(change.isNothing()).isEqualTo(before.equals(after));
        }
    }

    @Test
    void whatIsFiledOutOfTheTicklerDoesNotComeBackAndOnItsDayTheRestDoes() {
        LocalDate day = LocalDate.of(2026, 12, 1);
        State away = new Effect.Tickle(new FolderRef(9, PATH), new DueDate.On(day))
                .on(new State(1, false, false, null, Set.of()));
        assertThat(away.in(9)).as("it is there already").isEqualTo(away);
        assertThat(away.in(3).until()).isNull();
        assertThat(away.in(3).back(9, 1, day.atStartOfDay())).isEqualTo(away.in(3));
        assertThat(away.back(9, 1, day.atStartOfDay().minusSeconds(1))).isEqualTo(away);
        assertThat(away.back(9, 1, day.plusDays(2).atStartOfDay()))
                .isEqualTo(new State(1, true, false, null, Set.of()).until(DayTime.on(day)));
        State until = away.until(DayTime.parse("2026-12-01 15:00"));
        assertThat(until.back(9, 1, day.atTime(14, 59, 59))).isEqualTo(until);
        assertThat(until.back(9, 1, day.atTime(15, 0)).folder()).isEqualTo(1);
    }

    @Test
    void doingAnEffectTwiceIsDoingItOnce() {
        Random random = new Random(6);
        for (int i = 0; i < 1000; i++) {
            Effect effect = effect(random);
            State once = effect.on(state(random));
            assertThat(effect.on(once)).isEqualTo(once);
            assertThat(effect.sentence()).isNotBlank();
        }
    }

    @Test
    void severalChangesAreTakenBackInAnyOrderThatKeepsWhatIsNewer() {
        Random random = new Random(7);
        for (int i = 0; i < 1000; i++) {
            State begin = state(random);
            List<Change> done = new ArrayList<>();
            State now = begin;
            for (int j = 0; j < 4; j++) {
                State next = effect(random).on(now);
                done.add(new Change(now, next));
                now = next;
            }
            for (int j = 3; j >= 0; j--) {
                now = done.get(j).undo(now);
            }
            assertThat(now).isEqualTo(begin);
        }
    }

    @Test
    void anAspectThatWasChangedAgainStaysAsItIs() {
        State before = new State(1, true, false, null, Set.of());
        State after = before.in(2).unread(false);
        State later = after.in(3);
        Change change = new Change(before, after);
        assertThat(change.isOvertaken(later)).isTrue();
        assertThat(change.undo(later)).isEqualTo(new State(3, true, false, null, Set.of()));
    }
}
