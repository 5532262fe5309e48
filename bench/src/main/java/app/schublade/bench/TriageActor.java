package app.schublade.bench;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Routine;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.core.triage.LookHours;
import app.schublade.store.account.Account;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.noise.MutedStore;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RoutineStore;
import app.schublade.store.triage.TidyStore;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Random;

/**
 * The user, who puts off, flags, mutes, tidies up and looks at mail at set hours: what comes back by itself does so within the
 * run, while something is killed.
 */
final class TriageActor {
    /** The subject of what is written and never sent. */
    static final String DRAFT = "Never to be sent";

    private static final int TIDIED = 5;

    private final ChaosWorld world;
    private final ChaosActors actors;
    private final PlaceStore places;
    private final FlagStore flags;
    private final EffectRunner effects;

    TriageActor(ChaosWorld world, ChaosActors actors) {
        this.world = world;
        this.actors = actors;
        places = world.bean(PlaceStore.class);
        flags = world.bean(FlagStore.class);
        effects = world.bean(EffectRunner.class);
    }

    void act(Random random) {
        LocalDateTime soon = LocalDateTime.now(ZoneId.systemDefault()).plusMinutes(1 + random.nextInt(2));
        DayTime at = new DayTime(soon.toLocalDate(), soon.toLocalTime());
        try {
            switch (random.nextInt(10)) {
                case 0 -> actors.actOnSome(random, state -> state.due(at));
                case 1 -> {
                    FolderRef tickler = places.shared(world.user, SpecialUse.TICKLER);
                    actors.actOnSome(random, state -> state.in(tickler.id()).until(at));
                }
                case 2 -> flags.add(world.user, "Flag " + random.nextInt(5));
                case 3, 4 -> flag(random);
                case 5 -> useRoutine(random, soon.toLocalDate());
                case 6 -> muteForAMoment();
                case 7 -> tidyUp(random);
                case 8 -> wantQuiet(random, soon);
                default -> writeOn(random);
            }
        } catch (InputProblem e) {
            // Said to the user: there is one of this name, or it is gone.
        }
    }

    private void flag(Random random) {
        List<Places.OwnFlag> own = places.of(world.user, null).flags();
        if (own.isEmpty()) {
            return;
        }
        if (random.nextBoolean()) {
            flags.remove(world.user, own.get(random.nextInt(own.size())));
        } else {
            actors.actOnSome(random, state -> state.flaggedAs(own.get(0).id()));
        }
    }

    private void useRoutine(Random random, LocalDate day) {
        List<Routine> all = world.bean(RoutineStore.class).of(world.user);
        Routine one = all.get(random.nextInt(all.size()));
        List<Effect> steps =
                one.changes().stream().map(step -> step.arriving(day)).toList();
        effects.carryOut(world.user, Cause.HAND, one.name(), actors.some(1 + random.nextInt(3)), steps, 0);
    }

    private void muteForAMoment() {
        MutedStore mutes = world.bean(MutedStore.class);
        actors.some(1).stream()
                .flatMap(message -> mutes.conversation(world.user, message).stream())
                .forEach(conversation -> {
                    mutes.mute(world.user, conversation);
                    mutes.unmute(world.user, conversation);
                });
    }

    private void tidyUp(Random random) {
        TidyStore tidy = world.bean(TidyStore.class);
        Instant now = Instant.now();
        List<Long> offered = tidy.newest(world.user, now, 1 + random.nextInt(TIDIED)).stream()
                .map(TidyStore.DoneMessage::id)
                .toList();
        FolderRef folder = places.folder(world.user, FolderPath.parse("Loans"));
        List<Long> still = tidy.still(world.user, now, offered);
        effects.carryOut(world.user, Cause.HAND, "Tidied up", still, List.of(new Effect.FileInto(folder)), 0);
    }

    /** New mail waits for an hour that comes soon, is looked at at once, or shows as it comes. */
    private void wantQuiet(Random random, LocalDateTime soon) {
        QuietStore quiet = world.bean(QuietStore.class);
        switch (random.nextInt(4)) {
            case 0 -> quiet.look(world.user);
            case 1 -> quiet.keep(world.user, LookHours.NONE, QuietStore.Notices.RULES, List.of(), List.of());
            default -> {
                int minute = soon.getHour() * 60 + soon.getMinute();
                LookHours hours = LookHours.ofMinutes(List.of(minute));
                quiet.keep(world.user, hours, QuietStore.Notices.RULES, List.of(), List.of());
            }
        }
    }

    /** A draft is kept twice, and thrown away: nothing of it is ever sent. */
    private void writeOn(Random random) {
        Account from = world.accounts.get(random.nextInt(2));
        OutgoingStore outgoing = world.bean(OutgoingStore.class);
        OutgoingStore.DraftText text = new OutgoingStore.DraftText(
                from.id(), from.address(), "anna@wharf.example", "", "", DRAFT, "Beginning", null);
        long id = outgoing.begin(world.user, text, null, null, List.of());
        outgoing.keep(world.user, id, text, new OutgoingStore.Edition(0, "chaos"));
        outgoing.discard(world.user, id);
    }
}
