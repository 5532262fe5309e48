package app.schublade.web.record;

import app.schublade.store.account.Account;
import app.schublade.store.filing.RecordStore.RecordLine;
import app.schublade.store.place.Places;
import app.schublade.web.frame.ChangeWords;
import app.schublade.web.frame.Dates;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The lines of one day, the latest first. */
record RecordDay(String heading, List<RecordRow> rows) {

    /**
     * One line as it is shown.
     *
     * @param begins whether it is the first one here of an act on several messages
     * @param moved {@code "Inbox → Schools"}, or null if it stayed where it was
     * @param marks what else changed
     */
    record RecordRow(
            RecordLine line,
            @Nullable Account account,
            String time,
            String exact,
            boolean begins,
            @Nullable String moved,
            String marks) {}

    static List<RecordDay> of(List<RecordLine> lines, Places places, Map<Long, Account> accounts, Dates dates) {
        List<RecordDay> days = new ArrayList<>();
        long batch = 0;
        for (RecordLine line : lines) {
            String heading = dates.day(line.at());
            if (days.isEmpty() || !days.get(days.size() - 1).heading.equals(heading)) {
                days.add(new RecordDay(heading, new ArrayList<>()));
            }
            boolean moved =
                    line.change().before().folder() != line.change().after().folder();
            days.get(days.size() - 1)
                    .rows
                    .add(new RecordRow(
                            line,
                            accounts.get(line.account()),
                            dates.clock(line.at()),
                            dates.exact(line.at()),
                            line.inBatch() > 1 && line.batch() != batch,
                            moved ? moved(line, places) : null,
                            marks(line, places)));
            batch = line.batch();
        }
        return days;
    }

    private static String marks(RecordLine line, Places places) {
        return Stream.concat(ChangeWords.marks(line.change(), places).stream(), line.besides().stream())
                .collect(Collectors.joining(", "));
    }

    private static String moved(RecordLine line, Places places) {
        return ChangeWords.folder(line.change().before(), places) + " → "
                + ChangeWords.folder(line.change().after(), places);
    }
}
