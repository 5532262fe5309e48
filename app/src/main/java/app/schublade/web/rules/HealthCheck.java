package app.schublade.web.rules;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.RuleHealth;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.PlaceStore;
import app.schublade.store.Places;
import app.schublade.store.RuleStore.History;
import app.schublade.web.frame.Dates;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Looks at a user's rules as they are now, with what they have done. */
@Component
class HealthCheck {
    private final PlaceStore places;
    private final Dates dates;

    HealthCheck(PlaceStore places, Dates dates) {
        this.places = places;
        this.dates = dates;
    }

    List<RuleHealth.Finding> of(long userId, RuleBook book, Map<Long, History> histories) {
        Places known = places.of(userId, null);
        Map<Long, RuleHealth.Past> pasts = histories.entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, entry -> past(entry.getValue())));
        return RuleHealth.of(
                book,
                new RuleHealth.Circumstances(
                        dates.today(),
                        pasts,
                        known.folders().stream().map(Places.Folder::id).collect(Collectors.toSet()),
                        known.special(SpecialUse.TRASH).id()));
    }

    private RuleHealth.Past past(History history) {
        return new RuleHealth.Past(
                dates.dayOf(history.since()), history.last() == null ? null : dates.dayOf(history.last()));
    }

    /** The rule with the archive wherever it says trash. */
    Rule archiving(long userId, Rule rule) {
        Places known = places.of(userId, null);
        long trash = known.special(SpecialUse.TRASH).id();
        Places.Folder archive = known.special(SpecialUse.ARCHIVE);
        Effect instead = new Effect.FileInto(new FolderRef(archive.id(), archive.path()));
        List<Effect> then = rule.then().stream()
                .map(effect ->
                        effect instanceof Effect.FileInto file && file.folder().id() == trash ? instead : effect)
                .toList();
        return new Rule(rule.id(), rule.name(), rule.on(), rule.when(), rule.unless(), then, rule.last());
    }
}
