package app.schublade.web.rules;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.RuleHealth;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore.History;
import app.schublade.web.frame.Dates;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Looks at a user's rules as they are now, with what they have done. */
@Component
class HealthCheck {
    private final PlaceStore places;
    private final AccountStore accounts;
    private final RecordStore records;
    private final Dates dates;

    HealthCheck(PlaceStore places, AccountStore accounts, RecordStore records, Dates dates) {
        this.accounts = accounts;
        this.records = records;
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
                        known.special(SpecialUse.TRASH).id(),
                        accounts.of(userId).stream().collect(Collectors.toMap(Account::id, Account::ownAddresses))));
    }

    private RuleHealth.Past past(History history) {
        return new RuleHealth.Past(
                dates.dayOf(history.since()),
                history.last() == null ? null : dates.dayOf(history.last()),
                history.lately(),
                history.expected());
    }

    /** Senders that a rule had better leave out. */
    public record LeaveOut(List<String> senders, String words) {}

    /** An exception that mends what was found, if there is one. */
    @Nullable
    LeaveOut leaveOut(long userId, RuleHealth.Finding finding) {
        if (finding.kind() == RuleHealth.FindingKind.CIRCLE) {
            return new LeaveOut(
                    accounts.of(userId).stream().map(Account::address).toList(),
                    "Leave out what comes from your own addresses");
        }
        if (finding.kind() == RuleHealth.FindingKind.TOO_BROAD) {
            return records.flood(userId, finding.rule().id())
                    .map(flood -> new LeaveOut(
                            List.of(flood.domain()),
                            "Leave out mail from %s, %,d of them".formatted(flood.domain(), flood.messages())))
                    .orElse(null);
        }
        return null;
    }

    /** The rule with the archive wherever it says trash. */
    Rule archiving(long userId, Rule rule) {
        Places known = places.of(userId, null);
        long trash = known.special(SpecialUse.TRASH).id();
        Effect instead = new Effect.FileInto(known.special(SpecialUse.ARCHIVE).ref());
        List<Effect> then = rule.then().stream()
                .map(effect ->
                        effect instanceof Effect.FileInto file && file.folder().id() == trash ? instead : effect)
                .toList();
        return new Rule(rule.id(), rule.name(), rule.on(), rule.when(), rule.unless(), then, rule.last());
    }
}
