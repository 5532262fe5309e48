package app.schublade.web.frame;

import app.schublade.core.query.Query;
import app.schublade.core.query.SearchWorld;
import app.schublade.store.account.Account;
import app.schublade.store.base.MailChanged;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SavedSearchStore.SavedSearch;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.message.FacetStore;
import app.schublade.store.place.Places;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/** The saved searches in the cabinet, with what is unread in them. What was counted holds until mail changes. */
@Component
public class SearchCounts {
    /** More are not counted. */
    private static final int MOST = 1000;
    /** Another process may change mail without a word. */
    private static final Duration KEPT = Duration.ofSeconds(15);

    private final SavedSearchStore searches;
    private final SearchWorlds worlds;
    private final FacetStore messages;
    private final Map<Long, Known> known = new ConcurrentHashMap<>();

    SearchCounts(SavedSearchStore searches, SearchWorlds worlds, FacetStore messages) {
        this.searches = searches;
        this.worlds = worlds;
        this.messages = messages;
    }

    /** @param counts unread messages by search */
    private record Known(Map<SavedSearch, Integer> counts, Instant until) {}

    /** A search as the cabinet shows it. */
    public record Shown(SavedSearch search, int unread) {
        public String address() {
            return "/mail/search/" + search.id();
        }
    }

    @TransactionalEventListener(fallbackExecution = true)
    public void mailChanged(MailChanged changed) {
        known.remove(changed.userId());
    }

    /** All of a user's, in their order. */
    List<Shown> of(long userId, Places places, List<Account> accounts) {
        List<SavedSearch> all = searches.of(userId);
        if (all.isEmpty()) {
            return List.of();
        }
        Known before = known.get(userId);
        Map<SavedSearch, Integer> counts =
                before == null || before.until.isBefore(Instant.now()) ? new HashMap<>() : new HashMap<>(before.counts);
        if (!counts.keySet().containsAll(all)) {
            SearchWorld world = worlds.of(userId, places, accounts);
            all.forEach(one -> counts.computeIfAbsent(one, search -> unread(userId, search, world)));
            known.put(userId, new Known(counts, Instant.now().plus(KEPT)));
        }
        return all.stream()
                .map(one -> new Shown(one, counts.getOrDefault(one, 0)))
                .toList();
    }

    private int unread(long userId, SavedSearch search, SearchWorld world) {
        Query query = SearchWorlds.read(search, world).query();
        return messages.count(userId, new Query.Unread().and(query), MOST);
    }
}
