package app.schublade.web.rules;

import app.schublade.core.filing.Contradictions;
import app.schublade.core.problem.InputProblem;
import app.schublade.web.frame.CurrentUser;
import app.schublade.work.Scan;
import app.schublade.work.Scans;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** The part of a rule's page that shows its trial run: at once if that is quick, else as far as it has come. */
@Component
class TrialPart {
    private static final int SHOWN = 100;
    private static final int ALL_SHOWN = 2000;
    private static final double THIRTY_DAYS_OF_YEAR = 30 / 365.0;
    private static final Duration PATIENCE = Duration.ofMillis(500);

    private final Trials trials;
    private final RuleMaker maker;
    private final Scans scans;

    TrialPart(Trials trials, RuleMaker maker, Scans scans) {
        this.trials = trials;
        this.maker = maker;
        this.scans = scans;
    }

    /** A trial run of a rule that is opened, over all that was received. */
    void add(CurrentUser person, RuleForm form, Model model) {
        add(person, form, ChosenMail.ALL_RECEIVED, model, rule(form, ChosenMail.ALL_RECEIVED, Set.of(), SHOWN, null));
    }

    /** A trial run of what stands in the form; or how far the one is that is running, if the page follows it. */
    void add(CurrentUser person, RuleFormData sent, RuleForm form, Model model) {
        Begin begin = rule(form, sent.over(), sent.unticked(), sent.has("all") ? ALL_SHOWN : SHOWN, sent.scan());
        add(person, form, sent.over(), model, sent.has("follow") ? id -> followed(id, sent, begin) : begin);
    }

    /** How much the rule of a form would have taken in 30 days of the last year; null if no trial run has told. */
    @Nullable
    Double expected(CurrentUser person, RuleFormData sent) {
        boolean all = List.of(ChosenMail.RECEIVED, ChosenMail.EVERYTHING)
                .contains(sent.over().what());
        return scans.find(person.id(), sent.scan())
                .filter(scan -> all && !scan.isRunning() && !scan.isCutShort())
                .map(Scan::found)
                .filter(Trials.Trial.class::isInstance)
                .map(found -> ((Trials.Trial) found).figures().inYear() * THIRTY_DAYS_OF_YEAR)
                .orElse(null);
    }

    /** Begins a run for a user. */
    @FunctionalInterface
    private interface Begin {
        Scan<?> of(long userId);
    }

    private Begin rule(RuleForm form, ChosenMail over, Set<Long> unticked, int most, @Nullable String instead) {
        return userId -> trials.look(userId, maker.forTrial(userId, form), over, unticked, most, instead);
    }

    private Scan<?> followed(long userId, RuleFormData sent, Begin anew) {
        Scan<?> scan = scans.find(userId, sent.scan()).orElse(null);
        if (scan == null) {
            return anew.of(userId);
        }
        if (sent.has("stop")) {
            scan.stop();
        }
        return scan;
    }

    /** What the rule asks for that no message can have; null if nothing of the kind is known. */
    private @Nullable String impossible(CurrentUser person, RuleForm form) {
        try {
            return Contradictions.in(maker.forTrial(person.id(), form)).orElse(null);
        } catch (InputProblem e) {
            return null; // Of that the run tells.
        }
    }

    private void add(CurrentUser person, RuleForm form, ChosenMail over, Model model, Begin begin) {
        model.addAttribute("over", over);
        model.addAttribute("everywhere", trials.folders(person.id()));
        model.addAttribute("missing", RuleMaker.missing(form));
        model.addAttribute("impossible", impossible(person, form));
        try {
            Scan<?> scan = begin.of(person.id()).await(PATIENCE);
            model.addAttribute("scan", scan);
            model.addAttribute("trial", scan.found());
        } catch (InputProblem e) {
            model.addAttribute("problem", e.getMessage());
        }
    }
}
