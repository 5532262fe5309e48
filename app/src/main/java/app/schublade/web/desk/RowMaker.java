package app.schublade.web.desk;

import app.schublade.core.place.Arrangement;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Excerpt;
import app.schublade.core.query.Words;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.Places;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Makes the rows of a list, and the headings that stand above them. */
@Component
class RowMaker {
    /** Signs of a text in which the words are looked for that a row shows. */
    private static final int MAX_SEARCHED = 20_000;

    private final Dates dates;
    private final MessageStore messages;

    RowMaker(Dates dates, MessageStore messages) {
        this.messages = messages;
        this.dates = dates;
    }

    /** @param under the heading that stands above the first row already, or null */
    List<RowView> rows(
            CurrentUser person, List<ListStore.ListLine> lines, MessageList listing, @Nullable String under) {
        Map<Long, String> excerpts = excerpts(person, lines, listing.wanted());
        List<Long> labelOrder = listing.known().places().labelOrder();
        List<RowView> rows = new ArrayList<>();
        String before = under;
        for (ListStore.ListLine line : lines) {
            String group = group(line, listing, labelOrder);
            String beginning = excerpts.getOrDefault(line.row().id(), line.row().snippet());
            rows.add(row(line, listing, labelOrder, group, group == null || group.equals(before), beginning, false));
            before = group;
        }
        return rows;
    }

    /** What stands around the words that were looked for, by message; where they stand in the text at all. */
    private Map<Long, String> excerpts(CurrentUser person, List<ListStore.ListLine> lines, List<Words> wanted) {
        if (wanted.isEmpty()) {
            return Map.of();
        }
        Map<Long, String> excerpts = new HashMap<>();
        messages.texts(person.id(), lines.stream().map(line -> line.row().id()).toList(), MAX_SEARCHED)
                .forEach((id, text) -> Excerpt.of(text, wanted).ifPresent(one -> excerpts.put(id, one)));
        return excerpts;
    }

    /** Rows below that of their conversation. */
    List<RowView> inner(List<ListStore.ListLine> lines, MessageList listing) {
        List<Long> labelOrder = listing.known().places().labelOrder();
        return lines.stream()
                .map(line ->
                        row(line, listing, labelOrder, null, true, line.row().snippet(), true))
                .toList();
    }

    private RowView row(
            ListStore.ListLine line,
            MessageList listing,
            List<Long> labelOrder,
            @Nullable String group,
            boolean grouped,
            String beginning,
            boolean inner) {
        ListRow row = line.row();
        Instant time = time(row, listing);
        Places places = listing.known().places();
        Places.Folder folder = places.folderOf(row.folderId());
        boolean elsewhere = listing.spot().isTickler()
                ? folder.use() != SpecialUse.TICKLER
                : !Long.valueOf(row.folderId()).equals(listing.spot().folder());
        return new RowView(
                row,
                listing.known().account(row.accountId()),
                group,
                !grouped,
                who(row, folder),
                line.messages(),
                line.unread(),
                dates.brief(time),
                dates.exact(time),
                places.flag(row.state().flag()).orElse(null),
                row.due() == null ? null : dates.due(row.due()),
                row.due() != null && dates.isOver(row.due()),
                until(row, folder),
                row.alias() == null
                        ? null
                        : row.alias().substring(0, row.alias().indexOf('@') + 1),
                places.categories(row.categories()),
                row.labels().isEmpty() ? List.of() : labels(row, places, labelOrder),
                folder.path().name(),
                elsewhere ? folder.path().name() : null,
                beginning,
                inner);
    }

    private static String flagged(ListRow row, Places places) {
        return row.flagged()
                ? places.flag(row.state().flag()).map(Places.OwnFlag::name).orElse("Flagged")
                : "Not flagged";
    }

    /** A time on the day that a list goes by. */
    private Instant day(ListRow row, MessageList listing) {
        LocalDate done = row.state().done();
        return listing.spot().days() == ListQuery.ListDays.DONE && done != null
                ? dates.instant(done.atStartOfDay())
                : time(row, listing);
    }

    /** The time that a list goes by. */
    private static Instant time(ListRow row, MessageList listing) {
        return listing.arrangement().order().key() == Arrangement.SortKey.WRITTEN ? row.written() : row.received();
    }

    /** Its labels, as they stand in their tree. */
    private static List<Places.Label> labels(ListRow row, Places places, List<Long> labelOrder) {
        return labelOrder.stream()
                .filter(row.labels()::contains)
                .map(places::label)
                .flatMap(Optional::stream)
                .toList();
    }

    private @Nullable String until(ListRow row, Places.Folder folder) {
        return row.until() == null
                ? null
                : folder.use() == SpecialUse.TICKLER ? "back " + dates.due(row.until()) : "from the tickler";
    }

    private static String who(ListRow row, Places.Folder folder) {
        boolean mine = folder.use() == SpecialUse.SENT || folder.use() == SpecialUse.DRAFTS;
        return mine && !row.recipients().isEmpty()
                ? "To " + row.recipients()
                : row.sender().shown();
    }

    private @Nullable String group(ListStore.ListLine line, MessageList listing, List<Long> labelOrder) {
        ListRow row = line.row();
        Places places = listing.known().places();
        Arrangement.Grouping grouping = listing.arrangement().grouping();
        return switch (grouping) {
            case NONE -> null;
            case DAY -> dates.heading(day(row, listing));
            case SENDER -> row.sender().shown();
            case ACCOUNT -> listing.known().account(row.accountId()).name();
            case CATEGORY ->
                places.category(row.state().category())
                        .map(category -> category.rank() + " · " + category.name())
                        .orElse("No category");
            case LABEL -> label(row, places, labelOrder);
            case TRAY -> places.tray(row.tray()).map(Places.Tray::name).orElse("No tray");
            case FLAG -> flagged(row, places);
            case DUE ->
                listing.spot().isTickler()
                        ? back(row)
                        : row.due() == null ? "No due date" : dates.dueHeading(row.due());
            case MATTERS ->
                switch (line.keys().get(0)) {
                    case "0" -> "Key people";
                    case "1" -> "Flagged";
                    default -> "Everything else";
                };
        };
    }

    private String back(ListRow row) {
        return row.until() == null ? "No day" : dates.backHeading(row.until());
    }

    /** The first of its labels, as they stand in their tree. */
    private static String label(ListRow row, Places places, List<Long> labelOrder) {
        return labels(row, places, labelOrder).stream()
                .findFirst()
                .map(label -> label.path().shown())
                .orElse("No label");
    }
}
