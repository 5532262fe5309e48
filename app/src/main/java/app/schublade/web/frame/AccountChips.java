package app.schublade.web.frame;

import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.ScriptStore;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Makes the chips of the accounts in the top bar. */
@Component
class AccountChips {
    private final PlaceStore places;
    private final ScriptStore scripts;
    private final AccountWords words;

    AccountChips(PlaceStore places, ScriptStore scripts, AccountWords words) {
        this.places = places;
        this.scripts = scripts;
        this.words = words;
    }

    List<Frame.Chip> of(CurrentUser person, Frame.FrameData known) {
        Map<Long, Integer> unread = places.unreadInInbox(person.id());
        Set<Long> unruly = scripts.thatDoSomethingElse(person.id());
        return known.accounts().stream()
                .map(one -> new Frame.Chip(
                        one,
                        unread.getOrDefault(one.id(), 0),
                        one.equals(known.account()),
                        words.state(one)
                                + (unruly.contains(one.id()) ? "; its server no longer files by your rules" : ""),
                        one.status().isTrouble() || unruly.contains(one.id())))
                .toList();
    }
}
