package app.schublade.store.intake;

import app.schublade.core.filing.BuiltIn;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.State;
import app.schublade.core.message.Trait;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.noise.MutedStore;
import app.schublade.store.place.PlaceStore;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * Keeps muted conversations quiet: what comes further is read, and archived unless a rule files it, and nobody is told of it.
 * Whoever writes to the user alone ends that.
 */
@Component
class Hush {
    private final MutedStore muted;
    private final PlaceStore places;

    Hush(MutedStore muted, PlaceStore places) {
        this.muted = muted;
        this.places = places;
    }

    /**
     * New messages as they are to be stored.
     *
     * @param conversations of the messages, by their ids
     */
    Map<Long, Incoming> of(long userId, Map<Long, Incoming> messages, Map<Long, Long> conversations) {
        Set<Long> quiet = muted.among(userId, Set.copyOf(conversations.values()));
        if (quiet.isEmpty()) {
            return messages;
        }
        Map<Long, Incoming> hushed = new LinkedHashMap<>(messages);
        messages.forEach((id, one) -> {
            Long conversation = conversations.get(id);
            if (conversation == null || !quiet.contains(conversation)) {
                return;
            }
            if (one.traits().contains(Trait.TO_ME_ALONE)) {
                muted.unmute(userId, conversation);
                quiet.remove(conversation);
            } else {
                hushed.put(id, hushed(userId, one));
            }
        });
        return hushed;
    }

    private Incoming hushed(long userId, Incoming one) {
        State filed = one.filed();
        List<Effect> effects = new ArrayList<>();
        if (filed.folder() == places.inbox(userId)) {
            effects.add(new Effect.FileInto(places.shared(userId, SpecialUse.ARCHIVE)));
        }
        if (filed.unread()) {
            effects.add(new Effect.MarkRead(true));
        }
        return effects.isEmpty()
                ? one
                : one.with(one.verdict().hushed(BuiltIn.MUTED_CONVERSATION.hit("you muted its conversation", effects)));
    }
}
