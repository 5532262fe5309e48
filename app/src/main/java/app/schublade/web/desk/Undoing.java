package app.schublade.web.desk;

import app.schublade.store.act.ActOutcome;
import app.schublade.store.filing.UndoStore;
import app.schublade.work.LongActs;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Takes acts on very many messages back, in the background. */
@Component
class Undoing {
    private final UndoStore undo;
    private final LongActs longActs;

    Undoing(UndoStore undo, LongActs longActs) {
        this.undo = undo;
        this.longActs = longActs;
    }

    LongActs.LongAct begin(UndoStore.OpenAct act) {
        return longActs.begin(act.userId(), "Taking back: " + act.title(), act.messages(), watch -> {
            AtomicInteger done = new AtomicInteger();
            return told(undo.act(act.userId(), act.batch(), some -> watch.at(done.addAndGet(some), act.messages())));
        });
    }

    static LongActs.ActEnding told(ActOutcome outcome) {
        if (outcome.title().isEmpty()) {
            return LongActs.ActEnding.told("Nothing left to undo.");
        }
        String leftOut = outcome.leftOut().stream().map(one -> " " + one).collect(Collectors.joining());
        if (outcome.changed().isEmpty() && outcome.kept() > 0) {
            return LongActs.ActEnding.told("It was changed again since, and stays as it is." + leftOut);
        }
        String kept = outcome.kept() == 0 ? "" : " %,d changed again since stay as they are.".formatted(outcome.kept());
        return LongActs.ActEnding.told("Undone: " + outcome.title() + "." + kept + leftOut);
    }
}
