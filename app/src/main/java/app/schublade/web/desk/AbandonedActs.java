package app.schublade.web.desk;

import app.schublade.core.problem.InputProblem;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.work.UnfinishedActStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Goes on with what a process that has ended was doing to very many messages, or taking back. */
@Component
class AbandonedActs extends ScheduledWork {
    private static final Logger LOG = LoggerFactory.getLogger(AbandonedActs.class);
    private static final Duration PAUSE = Duration.ofSeconds(10);

    private final UnfinishedActStore unfinished;
    private final RequestedActs acts;
    private final UndoStore undo;
    private final Undoing undoing;

    AbandonedActs(
            Background background, UnfinishedActStore unfinished, RequestedActs acts, UndoStore undo, Undoing undoing) {
        super(background, "abandoned-acts", PAUSE);
        this.unfinished = unfinished;
        this.acts = acts;
        this.undo = undo;
        this.undoing = undoing;
    }

    @Override
    protected void go() {
        for (UnfinishedActStore.Abandoned one : unfinished.abandoned()) {
            try {
                acts.goOn(one.userId(), one.batch())
                        .ifPresent(act -> LOG.info("“{}” was cut off; it goes on.", act.title()));
            } catch (InputProblem e) {
                LOG.info("An act that was cut off cannot be gone on with: {}", e.getMessage());
                unfinished.standsStill(one.batch());
            }
        }
        for (UndoStore.OpenAct act : undo.abandoned()) {
            LOG.info("Taking back “{}” was cut off; it goes on.", act.title());
            undoing.begin(act);
        }
    }
}
