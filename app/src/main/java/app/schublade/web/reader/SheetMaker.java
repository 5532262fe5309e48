package app.schublade.web.reader;

import app.schublade.core.format.ListExit;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.AliasStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.ChangeWords;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Puts together what the reading sheet says of a message. */
@Component
public class SheetMaker {
    private final MessageStore messages;
    private final PlaceStore places;
    private final AccountStore accounts;
    private final AliasStore aliases;
    private final Dates dates;
    private final PeopleStore people;

    public SheetMaker(
            MessageStore messages,
            PlaceStore places,
            AccountStore accounts,
            AliasStore aliases,
            Dates dates,
            PeopleStore people) {
        this.people = people;
        this.aliases = aliases;
        this.messages = messages;
        this.places = places;
        this.accounts = accounts;
        this.dates = dates;
    }

    public Optional<Sheet> make(CurrentUser person, long id) {
        Optional<ListRow> row = messages.row(person.id(), id);
        Optional<ParsedMail> mail = messages.source(person.id(), id).map(MimeReader::read);
        return row.flatMap(one -> mail.map(read -> make(person, one, read)));
    }

    private Sheet make(CurrentUser person, ListRow row, ParsedMail mail) {
        Places known = places.of(person.id(), null);
        List<Account> all = accounts.of(person.id());
        Account account = all.stream()
                .filter(one -> one.id() == row.accountId())
                .findFirst()
                .orElseThrow();
        Places.Folder folder = known.folderOf(row.folderId());
        MessageStore.SheetFacts besides = messages.sheetFacts(person.id(), row.id());
        return new Sheet(
                row,
                mail,
                account,
                row.alias() == null ? "" : aliases.note(account.id(), row.alias()),
                folder.path(),
                dates.spoken(row.received()),
                dates.exact(row.received()),
                known.categories(row.categories()),
                row.labels().stream()
                        .map(known::label)
                        .flatMap(Optional::stream)
                        .toList(),
                messages.filed(person.id(), row.id()).stream()
                        .map(filed -> filedBy(filed, known))
                        .toList(),
                people.of(person.id()),
                row.due() == null ? null : dates.due(row.due()),
                until(row, folder, besides.waits()),
                known.tray(row.tray()).map(Places.Tray::name).orElse(null),
                besides.trayReason(),
                messages.rest(person.id(), row.id()).orElse(null),
                others(person, row, all, besides.oldestFirst()),
                besides.muted(),
                // Who sends junk would learn that somebody reads it.
                folder.use() == SpecialUse.JUNK
                        ? null
                        : ListExit.of(mail.headers()).orElse(null),
                besides.draft(),
                besides.pictures());
    }

    private @Nullable String until(ListRow row, Places.Folder folder, boolean waits) {
        if (row.until() == null) {
            return null;
        }
        String day = dates.due(row.until());
        return waits && folder.use() == SpecialUse.TICKLER ? "when they write, or " + day : day;
    }

    private List<Sheet.OtherMessage> others(
            CurrentUser person, ListRow row, List<Account> accounts, boolean oldestFirst) {
        List<Sheet.OtherMessage> others = messages.conversation(person.id(), row, Sheet.MOST_OTHERS).stream()
                .map(other -> other(other, accounts))
                .collect(Collectors.toCollection(ArrayList::new));
        if (oldestFirst) {
            Collections.reverse(others);
        }
        return others;
    }

    private Sheet.OtherMessage other(ListRow row, List<Account> accounts) {
        boolean own = accounts.stream()
                .anyMatch(account ->
                        !account.ownAddresses().among(List.of(row.sender())).isEmpty());
        return new Sheet.OtherMessage(
                row.id(),
                own ? "You" : row.sender().shown(),
                row.snippet(),
                dates.brief(row.received()),
                dates.exact(row.received()));
    }

    private Sheet.FiledBy filedBy(MessageStore.Filed filed, Places known) {
        return new Sheet.FiledBy(
                filed.batch(),
                filed.rule(),
                filed.ruleName(),
                ChangeWords.sentence(filed.change(), filed.besides(), known),
                dates.spoken(filed.at()),
                filed.reasons());
    }
}
