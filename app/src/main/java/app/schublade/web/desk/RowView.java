package app.schublade.web.desk;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.Account;
import app.schublade.store.ListRow;
import app.schublade.store.Places;
import app.schublade.web.frame.Dates;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A message as a row of the list.
 *
 * @param heading what stands above it where a new stretch of time begins, or null
 * @param who the sender; in Sent and Drafts the recipients
 * @param via the alias it came to, shortened: {@code loans@}; null if it came to the main address
 * @param place the folder it lies in, where the list is not of one folder; null otherwise
 */
public record RowView(
        ListRow row,
        Account account,
        @Nullable String heading,
        String who,
        String date,
        String exact,
        @Nullable String via,
        Places.@Nullable Category category,
        List<Places.Label> labels,
        @Nullable String place) {

    /** All that rows are made with. */
    record Maker(Dates dates, Map<Long, Account> accounts, Places places, boolean oneFolder) {
        RowView make(ListRow row, @Nullable String headingBefore) {
            String heading = dates.heading(row.received());
            Places.Folder folder = places.folder(row.folderId()).orElseThrow();
            return new RowView(
                    row,
                    account(row),
                    heading.equals(headingBefore) ? null : heading,
                    who(row, folder),
                    dates.brief(row.received()),
                    dates.exact(row.received()),
                    row.alias() == null
                            ? null
                            : row.alias().substring(0, row.alias().indexOf('@') + 1),
                    places.category(row.categoryId()).orElse(null),
                    row.labels().stream()
                            .map(places::label)
                            .flatMap(Optional::stream)
                            .toList(),
                    oneFolder ? null : folder.path().name());
        }

        private Account account(ListRow row) {
            Account account = accounts.get(row.accountId());
            if (account == null) {
                throw new IllegalStateException("The account of message %d is missing.".formatted(row.id()));
            }
            return account;
        }

        private static String who(ListRow row, Places.Folder folder) {
            boolean mine = folder.use() == SpecialUse.SENT || folder.use() == SpecialUse.DRAFTS;
            return mine && !row.recipients().isEmpty()
                    ? "To " + row.recipients()
                    : row.sender().shown();
        }
    }
}
