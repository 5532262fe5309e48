package app.schublade.store.filing;

import app.schublade.core.filing.Effect;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.act.TakenBack;
import java.util.Collection;
import java.util.List;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Does to messages whatever somebody wants done: changes them, and makes the copies that are wanted of them. */
@Repository
public class EffectRunner {
    private final FilingStore filing;
    private final MessageCopier copier;
    private final ForGood forGood;

    EffectRunner(FilingStore filing, MessageCopier copier, ForGood forGood) {
        this.forGood = forGood;
        this.filing = filing;
        this.copier = copier;
    }

    /**
     * Does the same to all the messages, in the order of the effects.
     *
     * @param batch that of the parts before; 0 if there is none yet
     * @throws TakenBack if the user has taken those back meanwhile
     */
    @Transactional
    public ActOutcome carryOut(
            long userId, Cause cause, String title, Collection<Long> messages, List<Effect> effects, long batch) {
        List<Effect> changing = effects.stream()
                .filter(effect -> !(effect instanceof Effect.Copying) && !(effect instanceof Effect.DeleteForGood))
                .toList();
        ActOutcome outcome = changing.isEmpty()
                ? new ActOutcome(batch, title, List.of(), 0)
                : filing.actFurther(userId, cause, title, messages, state -> Effect.all(changing, state), batch);
        for (Effect effect : effects) {
            long soFar = Math.max(batch, outcome.batch());
            if (effect instanceof Effect.Copying copying) {
                outcome = outcome.and(copy(userId, title, messages, copying, soFar));
            } else if (effect instanceof Effect.DeleteForGood) {
                outcome = outcome.and(forGood.delete(userId, title, messages, soFar));
            }
        }
        return outcome;
    }

    private ActOutcome copy(long userId, String title, Collection<Long> messages, Effect.Copying effect, long batch) {
        return effect instanceof Effect.CopyInto copy
                ? copier.copyInto(userId, title, messages, copy.folder().id(), batch)
                : copier.carryOver(
                        userId,
                        title,
                        messages,
                        ((Effect.CarryTo) effect).account().id(),
                        batch);
    }
}
