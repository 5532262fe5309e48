package app.schublade.web.desk;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.Amount;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Cause;
import app.schublade.store.base.Transactions;
import app.schublade.store.filing.EffectRunner;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ProgressAnswers;
import app.schublade.web.frame.ReturnTo;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** Deletes for good what lies in the trash, and follows it until the servers have done so too. */
@Component
class DeletionForGood {
    private final EffectRunner effects;
    private final ProgressAnswers progress;
    private final Answers answers;

    DeletionForGood(EffectRunner effects, ProgressAnswers progress, Answers answers) {
        this.effects = effects;
        this.progress = progress;
        this.answers = answers;
    }

    String answer(CurrentUser person, List<Long> messages, ReturnTo standing, Model model) {
        String title = "Deleted for good: " + Amount.messages(messages.size());
        ActOutcome outcome = ActOutcome.NOTHING;
        for (List<Long> part : Transactions.parts(messages)) {
            outcome = outcome.and(effects.carryOut(
                    person.id(), Cause.FOR_GOOD, title, part, List.of(new Effect.DeleteForGood()), outcome.batch()));
        }
        return outcome.changed().isEmpty()
                ? answers.told(person, standing, Notice.told("Only what lies in the trash is deleted for good."), model)
                : progress.onServers(
                        person,
                        outcome.batch(),
                        new ProgressAnswers.OnServers(title, outcome.changed().size(), false),
                        standing,
                        model);
    }
}
