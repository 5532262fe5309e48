package app.schublade.core.place;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Address;
import app.schublade.core.message.Trait;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TraySorterTest {
    private static final TraySorter SORTER = new TraySorter(
            List.of(
                    new TraySorter.SortedTray(1, TrayKind.PEOPLE),
                    new TraySorter.SortedTray(2, TrayKind.ONGOING),
                    new TraySorter.SortedTray(3, TrayKind.NOTICES),
                    new TraySorter.SortedTray(4, TrayKind.RECORDS),
                    new TraySorter.SortedTray(5, null)),
            Map.of("halden.example", 5L, "o@halden.example", 1L));

    @ParameterizedTest
    @CsvSource({
        "Sunday lunch, '', false, 1, 'a person writes, of something new'",
        "Sunday lunch, '', true, 2, it goes on with a conversation",
        "Re: Sunday lunch, '', false, 2, it goes on with a conversation",
        "'[rowers] New blades', 'AUTOMATED LIST', false, 3, it comes by a mailing list",
        "Sensor 12, AUTOMATED, false, 3, a robot sent it",
        "Your Receipt no. 5, AUTOMATED, false, 4, 'a robot sent it, and its subject says “receipt”'",
        "Buchungsbestätigung Quittung, AUTOMATED, false, 4, 'a robot sent it, and its subject says “quittung”'",
        "Receipts of the summer, '', false, 1, 'a person writes, of something new'"
    })
    void mailIsSortedByWhatIsKnownOfIt(String subject, String traits, boolean answers, long tray, String reason) {
        Set<Trait> known = traits.isEmpty()
                ? Set.of()
                : java.util.Arrays.stream(traits.split(" "))
                        .map(Trait::valueOf)
                        .collect(java.util.stream.Collectors.toSet());
        assertThat(SORTER.sort(new Address("", "a@b.example"), subject, known, answers))
                .isEqualTo(new TraySorter.Sorted(tray, reason));
    }

    @Test
    void whatTheUserSaidOfASenderComesFirst() {
        Set<Trait> list = Set.of(Trait.LIST, Trait.AUTOMATED);
        assertThat(SORTER.sort(new Address("", "x@halden.example"), "Receipt", list, true))
                .isEqualTo(new TraySorter.Sorted(5, "you said so of halden.example"));
        assertThat(SORTER.sort(new Address("", "O@Halden.example"), "Receipt", list, true))
                .isEqualTo(new TraySorter.Sorted(1, "you said so of o@halden.example"));
    }

    @Test
    void withoutATrayForItMailLiesInNone() {
        TraySorter few = new TraySorter(List.of(new TraySorter.SortedTray(1, TrayKind.NOTICES)), Map.of());
        assertThat(few.sort(new Address("", "a@b.example"), "Lunch", Set.of(), false))
                .isNull();
    }
}
