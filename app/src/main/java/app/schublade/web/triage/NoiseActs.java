package app.schublade.web.triage;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.Address;
import app.schublade.core.message.Amount;
import app.schublade.core.message.People;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.AccountStore;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.noise.BlockStore;
import app.schublade.store.noise.BlockStore.BlockedSender;
import app.schublade.store.noise.MutedStore;
import app.schublade.store.noise.MutedStore.MutedConversation;
import app.schublade.store.place.PlaceStore;
import java.util.List;
import org.springframework.stereotype.Component;

/** Blocks senders and mutes conversations: each with what lies in the Inbox now, as one act. */
@Component
class NoiseActs {
    private final BlockStore blocks;
    private final MutedStore mutes;
    private final AccountStore accounts;
    private final PlaceStore places;
    private final EffectRunner effects;
    private final Acts acts;

    NoiseActs(
            BlockStore blocks,
            MutedStore mutes,
            AccountStore accounts,
            PlaceStore places,
            EffectRunner effects,
            Acts acts) {
        this.blocks = blocks;
        this.mutes = mutes;
        this.accounts = accounts;
        this.places = places;
        this.effects = effects;
        this.acts = acts;
    }

    List<BlockedSender> blocked(long userId) {
        return blocks.list(userId);
    }

    List<MutedConversation> muted(long userId) {
        return mutes.list(userId);
    }

    /** @return what was done */
    String block(long userId, String typed, boolean on) {
        String value = People.value(typed);
        if (on && isOwn(userId, value)) {
            throw new InputProblem(
                    "%s is your own: what you send and what is sent to you would go to the trash.".formatted(value));
        }
        return acts.record(userId, act -> {
            String told = "%s is no longer blocked".formatted(value);
            if (on) {
                blocks.block(userId, value);
                told = "Blocked " + value
                        + moved(userId, blocks.inInbox(userId, value), SpecialUse.TRASH, " in the trash");
            } else {
                blocks.unblock(userId, value);
            }
            act.called(told);
            return told;
        });
    }

    private boolean isOwn(long userId, String value) {
        Address typed = new Address("", value);
        return accounts.of(userId).stream()
                .anyMatch(
                        account -> !account.ownAddresses().among(List.of(typed)).isEmpty()
                                || new Address("", account.address()).domain().equals(value));
    }

    /** @return what was done */
    String mute(long userId, long message, boolean on) {
        long conversation = mutes.conversation(userId, message)
                .orElseThrow(() ->
                        new InputProblem("The conversation of this message is not known yet. Try again in a minute."));
        return acts.record(userId, act -> {
            String told = "The conversation is no longer muted";
            if (on) {
                mutes.mute(userId, conversation);
                told = "Muted the conversation"
                        + moved(userId, mutes.inInbox(userId, conversation), SpecialUse.ARCHIVE, " archived");
            } else {
                mutes.unmute(userId, conversation);
            }
            act.called(told);
            return told;
        });
    }

    private String moved(long userId, List<Long> messages, SpecialUse to, String where) {
        if (messages.isEmpty()) {
            return "";
        }
        List<Effect> wanted = List.of(new Effect.FileInto(places.shared(userId, to)), new Effect.MarkRead(true));
        effects.carryOut(userId, Cause.HAND, "", messages, wanted, 0);
        return ": " + Amount.messages(messages.size()) + where;
    }
}
