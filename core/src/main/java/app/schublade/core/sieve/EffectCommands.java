package app.schublade.core.sieve;

import app.schublade.core.filing.Effect;
import app.schublade.core.place.CategoryRef;
import java.util.List;

/** Says effects in commands of a script. */
abstract class EffectCommands implements Effect.EffectVisitor<List<Command>, Unsayable> {
    private final SieveWorld world;

    EffectCommands(SieveWorld world) {
        this.world = world;
    }

    @Override
    public List<Command> fileInto(Effect.FileInto file) throws Unsayable {
        Argument folder = Argument.text(SieveWriter.mailbox(file.folder(), world));
        return List.of(
                Command.when(SieveWriter.NOT_FILED, List.of(Command.of("set", Argument.text("folder"), folder))));
    }

    @Override
    public List<Command> label(Effect.SetLabel label) {
        return List.of(SieveWriter.flag(label.on(), world.keyword(label.label())));
    }

    @Override
    public List<Command> categorise(Effect.Categorise set) throws Unsayable {
        if (set.due() != null) {
            throw cannot(new Effect.Due(set.due()));
        }
        Command clear = Command.of("removeflag", Argument.text(world.categoryKeywords()));
        CategoryRef category = set.category();
        return category == null ? List.of(clear) : List.of(clear, SieveWriter.flag(true, world.keyword(category)));
    }

    @Override
    public List<Command> markRead(Effect.MarkRead mark) {
        return List.of(SieveWriter.flag(mark.read(), SieveWriter.SEEN));
    }

    @Override
    public List<Command> flag(Effect.Flag flag) {
        return List.of(SieveWriter.flag(flag.on(), SieveWriter.FLAGGED));
    }

    /** Redirect (RFC 5228, section 4.2) passes a message on as if its sender had. */
    @Override
    public List<Command> forward(Effect.Forward effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> tickle(Effect.Tickle effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> answerAtOnce(Effect.AnswerAtOnce effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> awaitAnswer(Effect.AwaitAnswer effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> notify(Effect.Notify effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> flagAs(Effect.FlagAs effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> due(Effect.Due effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> putInto(Effect.PutInto effect) throws Unsayable {
        throw cannot(effect);
    }

    @Override
    public List<Command> byHand(Effect.ByHand effect) throws Unsayable {
        throw cannot(effect);
    }

    static Unsayable cannot(Effect effect) {
        return new Unsayable("a server cannot " + effect.sentence());
    }
}
