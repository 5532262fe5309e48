package app.schublade.web.desk;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.Amount;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.TicklerStore;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.work.UnfinishedActStore;
import app.schublade.store.work.UnfinishedActStore.ActRest;
import app.schublade.web.compose.RoutineMail;
import app.schublade.web.frame.CurrentUser;
import app.schublade.work.LongActs;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;

/** Does to messages what a page asks for: at once, or in parts if there are very many. */
@Component
class RequestedActs {
    private final Acts acts;
    private final RequestedEffects requests;
    private final EffectRunner effects;
    private final UnfinishedActStore unfinished;
    private final LongActs longActs;
    private final TicklerStore tickler;
    private final RoutineMail mailing;

    RequestedActs(
            Acts acts,
            RequestedEffects requests,
            EffectRunner effects,
            UnfinishedActStore unfinished,
            LongActs longActs,
            TicklerStore tickler,
            RoutineMail mailing) {
        this.mailing = mailing;
        this.tickler = tickler;
        this.acts = acts;
        this.requests = requests;
        this.effects = effects;
        this.unfinished = unfinished;
        this.longActs = longActs;
    }

    /**
     * What was done, or begun.
     *
     * @param outcome empty as long as it is going on
     * @param going null if it is done
     * @param sends whether messages were passed on or answered
     */
    record Begun(ActOutcome outcome, LongActs.@Nullable LongAct going, boolean sends) {}

    Begun carryOut(CurrentUser person, ActRequest request, List<Long> messages) {
        long userId = person.id();
        AtomicBoolean sends = new AtomicBoolean();
        boolean isLong = messages.size() > LongActs.CHUNK;
        ActOutcome outcome = acts.record(userId, act -> {
            RequestedEffects.Requested requested = requests.of(userId, request);
            String title = messages.size() == 1
                    ? requested.told()
                    : "%s: %s".formatted(requested.told(), Amount.messages(messages.size()));
            act.called(title);
            sends.set(requested.routine() != null && mailing.send(person, messages, requested.routine()));
            return isLong
                    ? new ActOutcome(
                            unfinished.begin(userId, Cause.HAND, title, request, messages), title, List.of(), 0)
                    : carryOut(userId, request, title, messages, requested.effects(), 0);
        });
        return isLong
                ? new Begun(
                        ActOutcome.NOTHING,
                        goOn(userId, outcome.batch(), new ActRest<>(outcome.title(), request, messages, 0)),
                        sends.get())
                : new Begun(outcome, null, sends.get());
    }

    private ActOutcome carryOut(
            long userId, ActRequest request, String title, List<Long> messages, List<Effect> wanted, long batch) {
        ActOutcome outcome = effects.carryOut(userId, Cause.HAND, title, messages, wanted, batch);
        if (request.kind() == ActRequest.ActKind.TICKLER) {
            tickler.waitForSenders(userId, messages, Boolean.TRUE.equals(request.on()));
        }
        return outcome;
    }

    /** Messages were looked at: no act that one would want to take back. */
    void glance(long userId, ActRequest request, List<Long> messages) {
        effects.carryOut(
                userId, Cause.GLANCE, "", messages, requests.of(userId, request).effects(), 0);
    }

    /** Goes on with an act that was cut off; empty if it was not, or somebody else does. */
    Optional<LongActs.LongAct> goOn(long userId, long batch) {
        return unfinished
                .<ActRequest>goOn(userId, batch, new TypeReference<>() {})
                .map(rest -> goOn(userId, batch, rest));
    }

    private LongActs.LongAct goOn(long userId, long batch, ActRest<ActRequest> rest) {
        List<Effect> wanted = requests.of(userId, rest.request()).effects();
        return longActs.begin(
                batch, userId, rest.title(), rest.done() + rest.rest().size(), watch -> {
                    longActs.inParts(
                            batch,
                            rest.rest(),
                            rest.done(),
                            watch,
                            part -> carryOut(userId, rest.request(), rest.title(), part, wanted, batch));
                    return LongActs.ActEnding.done(rest.title());
                });
    }
}
