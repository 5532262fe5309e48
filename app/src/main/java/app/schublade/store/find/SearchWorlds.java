package app.schublade.store.find;

import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.InGroup;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.SentTo;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Query;
import app.schublade.core.query.Search;
import app.schublade.core.query.SearchReader;
import app.schublade.core.query.SearchWorld;
import app.schublade.core.query.SearchWorld.NameKind;
import app.schublade.core.query.SearchWorld.Named;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.AliasStore;
import app.schublade.store.base.Zones;
import app.schublade.store.find.SavedSearchStore.SavedSearch;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.user.PeopleStore;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Repository;

/** What the searches of a user can name. */
@Repository
public class SearchWorlds {
    private static final Set<SpecialUse> OUT_OF_SIGHT = Set.of(SpecialUse.JUNK, SpecialUse.TRASH);

    private final PlaceStore places;
    private final AccountStore accounts;
    private final AliasStore aliases;
    private final PeopleStore people;
    private final Zones zones;

    SearchWorlds(PlaceStore places, AccountStore accounts, AliasStore aliases, PeopleStore people, Zones zones) {
        this.places = places;
        this.accounts = accounts;
        this.aliases = aliases;
        this.people = people;
        this.zones = zones;
    }

    /** What a user's words mean now. */
    public Search read(long userId, String typed) {
        return SearchReader.read(typed, of(userId));
    }

    /** What a saved search means now: whatever it names, by the name that it had then. */
    public Search read(long userId, SavedSearch saved) {
        return read(saved, of(userId));
    }

    public static Search read(SavedSearch saved, SearchWorld world) {
        return SearchReader.read(saved.words(), world.asOf(saved.places()));
    }

    public SearchWorld of(long userId) {
        return of(userId, places.of(userId, null), accounts.of(userId));
    }

    /** With the places and accounts that are known already. */
    public SearchWorld of(long userId, Places known, List<Account> all) {
        List<Named> named = new ArrayList<>();
        known.folders().forEach(folder -> named.add(folder(folder, known)));
        known.labels().forEach(label -> named.add(label(label, known)));
        known.categories()
                .forEach(one -> named.add(Named.of(
                        NameKind.CATEGORY,
                        String.valueOf(one.id()),
                        one.name(),
                        new Query.Meets(new Marked(List.of(), List.of(one.ref()), false)))));
        Query inbox = new Query.InFolder(known.special(SpecialUse.INBOX).ref());
        known.trays()
                .forEach(tray -> named.add(Named.of(
                        NameKind.TRAY,
                        String.valueOf(tray.id()),
                        tray.name(),
                        inbox.and(new Query.InTray(tray.ref())))));
        known.flags()
                .forEach(flag -> named.add(Named.of(
                        NameKind.FLAG, String.valueOf(flag.id()), flag.name(), new Query.FlaggedAs(flag.ref()))));
        for (Account account : all) {
            named.add(new Named(
                    NameKind.ACCOUNT,
                    String.valueOf(account.id()),
                    List.of(account.name(), account.code(), account.address()),
                    account.name(),
                    new Query.Meets(new InAccount(List.of(account.ref()))),
                    null,
                    false));
            aliases.of(account)
                    .forEach(alias -> named.add(Named.of(
                            NameKind.ALIAS,
                            alias.address(),
                            alias.address(),
                            new Query.Meets(new SentTo(List.of(alias.address()))))));
        }
        people.groups(userId)
                .keySet()
                .forEach(group -> named.add(
                        Named.of(NameKind.GROUP, group, group, new Query.Meets(new InGroup(List.of(group))))));
        return new SearchWorld(
                zones.today(userId),
                named,
                new Query.InFolder(known.special(SpecialUse.SENT).ref()));
    }

    private static Named folder(Places.Folder folder, Places known) {
        Query in = new Query.InFolder(folder.ref());
        List<Query> within = known.folders().stream()
                .filter(one -> one.path().equals(folder.path()) || one.path().isBelow(folder.path()))
                .<Query>map(one -> new Query.InFolder(one.ref()))
                .toList();
        return new Named(
                NameKind.FOLDER,
                String.valueOf(folder.id()),
                List.of(folder.path().shown(), folder.path().name()),
                folder.path().shown(),
                in,
                within.size() == 1 ? in : new Query.Any(within),
                folder.use() != null && OUT_OF_SIGHT.contains(folder.use()));
    }

    private static Named label(Places.Label label, Places known) {
        Query with = new Query.Meets(new Marked(known.withBelow(label), List.of(), false));
        return new Named(
                NameKind.LABEL,
                String.valueOf(label.id()),
                List.of(label.path().shown(), label.path().name()),
                label.path().shown(),
                with,
                with,
                false);
    }
}
