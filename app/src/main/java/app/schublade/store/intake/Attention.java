package app.schublade.store.intake;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.RuleInput;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.query.Query;
import app.schublade.store.account.Account;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.noise.QuietStore.Quiet;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.user.NotificationStore;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What a user sees and hears of new mail at once, and what waits in the Inbox for the next look. Key people get through. */
@Component
class Attention {
    /** What was under way for longer, or is imported, is told only if a rule wants it. */
    private static final Duration FRESH = Duration.ofHours(1);

    private final QuietStore quiet;
    private final NotificationStore notifications;
    private final PlaceStore places;
    private final SavedSearchStore saved;
    private final SearchWorlds worlds;
    private final RuleInputStore inputs;
    private final Clock clock;

    Attention(
            QuietStore quiet,
            NotificationStore notifications,
            PlaceStore places,
            SavedSearchStore saved,
            SearchWorlds worlds,
            RuleInputStore inputs,
            Clock clock) {
        this.quiet = quiet;
        this.notifications = notifications;
        this.places = places;
        this.saved = saved;
        this.worlds = worlds;
        this.inputs = inputs;
        this.clock = clock;
    }

    /** Of messages that are about to be stored those that are not shown before the next look; what one writes to oneself is. */
    Set<Long> waiting(Account account, Map<Long, Incoming> messages) {
        long userId = account.userId();
        Quiet wanted = quiet.of(userId);
        if (wanted.hours().isEmpty()) {
            return Set.of();
        }
        long inbox = places.inbox(userId);
        Map<Long, Incoming> held = kept(userId, wanted, messages);
        held.values()
                .removeIf(one -> one.filed().folder() != inbox
                        || !one.filed().unread()
                        || !account.ownAddresses()
                                .among(List.of(one.mail().from()))
                                .isEmpty());
        return held.keySet();
    }

    /** Those that have come since the last look, and not from a key person. */
    private Map<Long, Incoming> kept(long userId, Quiet wanted, Map<Long, Incoming> messages) {
        Map<Long, Incoming> news = new HashMap<>(wanted.hours().isEmpty() ? Map.of() : messages);
        news.values().removeIf(one -> !one.received().isAfter(wanted.lookedAt()));
        if (!news.isEmpty()) {
            Set<String> key = quiet.keyPeople(userId, senders(news));
            news.values().removeIf(one -> key.contains(one.mail().from().key()));
        }
        return news;
    }

    private static Set<String> senders(Map<Long, Incoming> messages) {
        return messages.values().stream().map(one -> one.mail().from().key()).collect(Collectors.toSet());
    }

    /** Notes what is to be told of messages that have been stored; nothing that waits is. */
    void tell(long userId, Map<Long, Incoming> messages) {
        Quiet wanted = quiet.of(userId);
        Map<Long, Incoming> told = new HashMap<>(messages);
        told.keySet().removeAll(kept(userId, wanted, told).keySet());
        Set<Long> own = wanted.tellsOfSome() ? wanted(userId, wanted, told) : Set.of();
        told.forEach((id, one) -> {
            List<Effect.Notify> byRule = notices(one);
            if (!byRule.isEmpty() || own.contains(id)) {
                notifications.note(userId, id, byRule.stream().anyMatch(Effect.Notify::sound));
            }
        });
    }

    private static List<Effect.Notify> notices(Incoming one) {
        return one.hits(false).stream()
                .flatMap(hit -> hit.besides().stream())
                .filter(Effect.Notify.class::isInstance)
                .map(Effect.Notify.class::cast)
                .toList();
    }

    /** Those of which the user is told without a rule. */
    private Set<Long> wanted(long userId, Quiet wanted, Map<Long, Incoming> messages) {
        Instant fresh = clock.instant().minus(FRESH);
        Map<Long, Incoming> news = new HashMap<>(messages);
        news.values()
                .removeIf(one -> one.received().isBefore(fresh) || !one.filed().unread());
        if (news.isEmpty()) {
            return Set.of();
        }
        Set<Long> unseen = EnumSet.complementOf(EnumSet.of(SpecialUse.INBOX, SpecialUse.ARCHIVE)).stream()
                .map(use -> places.special(userId, use))
                .collect(Collectors.toSet());
        news.values().removeIf(one -> unseen.contains(one.filed().folder()));
        if (news.isEmpty()) {
            return Set.of();
        }
        Set<Long> ids = new HashSet<>(found(userId, wanted, news.keySet()));
        Set<String> key = quiet.keyPeople(userId, senders(news));
        news.forEach((id, one) -> {
            String sender = one.mail().from().key();
            boolean told = switch (wanted.notices()) {
                case RULES -> false;
                case KEY_PEOPLE -> key.contains(sender);
                case KNOWN_PEOPLE -> key.contains(sender) || quiet.hasWrittenTo(userId, sender);
                case EVERYBODY -> true;
            };
            if (told || one.filed().labels().stream().anyMatch(wanted.labels()::contains)) {
                ids.add(id);
            }
        });
        return ids;
    }

    /** Those that are found by a saved search whose new mail is told. They are not among its words yet, so they are asked. */
    private Set<Long> found(long userId, Quiet wanted, Set<Long> messages) {
        List<Query> queries = saved.of(userId).stream()
                .filter(search -> wanted.searches().contains(search.id()))
                .map(search -> worlds.read(userId, search).query())
                .toList();
        if (queries.isEmpty()) {
            return Set.of();
        }
        Set<Need> needs = EnumSet.noneOf(Need.class);
        queries.forEach(query -> needs.addAll(query.needs()));
        return inputs.some(userId, messages, needs).stream()
                .filter(one -> {
                    RuleInput input = one.input();
                    return queries.stream().anyMatch(query -> query.holds(input));
                })
                .map(one -> one.row().id())
                .collect(Collectors.toSet());
    }
}
