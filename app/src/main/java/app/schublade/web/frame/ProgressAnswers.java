package app.schublade.web.frame;

import app.schublade.store.filing.OrderStore;
import app.schublade.store.work.UnfinishedActStore;
import app.schublade.store.work.UnfinishedActStore.ActProgress;
import app.schublade.work.LongActs;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.web.util.UriComponentsBuilder;

/** Answers how far something is that takes a while; the page asks again until it is done. */
@Component
public class ProgressAnswers {
    private final LongActs longActs;
    private final UnfinishedActStore unfinished;
    private final OrderStore orders;
    private final Answers answers;

    ProgressAnswers(LongActs longActs, UnfinishedActStore unfinished, OrderStore orders, Answers answers) {
        this.longActs = longActs;
        this.unfinished = unfinished;
        this.orders = orders;
        this.answers = answers;
    }

    /** @return the name of the fragment */
    public String of(CurrentUser person, LongActs.LongAct act, ReturnTo standing, Model model) {
        LongActs.ActEnding said = act.said();
        return said == null
                ? going(Progress.of(act), standing, model)
                : answers.told(person, standing, Notice.of(said), model);
    }

    private static String going(Progress progress, ReturnTo standing, Model model) {
        model.addAttribute("progress", progress);
        model.addAttribute("standing", standing);
        return "frame/parts :: howFar";
    }

    /** @param id of an act that this process, another, or none does any more */
    public String of(CurrentUser person, String id, ReturnTo standing, Model model) {
        LongActs.LongAct here = longActs.progress(person.id(), id);
        return here != null ? of(person, here, standing, model) : elsewhere(person, id, standing, model);
    }

    /** Another process does it, or did until it ended. */
    private String elsewhere(CurrentUser person, String id, ReturnTo standing, Model model) {
        if (Progress.stop(id) == null) {
            return answers.told(
                    person,
                    standing,
                    Notice.told("The server was started anew meanwhile. H shows what was done."),
                    model);
        }
        Optional<ActProgress> known = unfinished.progress(person.id(), Long.parseLong(id));
        if (known.isEmpty()) {
            return answers.told(person, standing, Notice.told("That is finished, or was undone. H shows it."), model);
        }
        ActProgress act = known.get();
        return act.standsStill()
                ? answers.told(
                        person,
                        standing,
                        Notice.problem("%s: it was cut off after %,d of %,d. H goes on with it or takes it back."
                                .formatted(act.title(), act.done(), act.total())),
                        model)
                : going(
                        new Progress(act.title(), act.done(), act.total(), "/act/" + id, Progress.stop(id)),
                        standing,
                        model);
    }

    /**
     * What servers have to do of an act.
     *
     * @param of how many messages they are told of
     */
    public record OnServers(String title, int of, boolean undoable) {}

    /** How many messages the servers have carried over, or deleted, by now. */
    public String onServers(CurrentUser person, long batch, OnServers act, ReturnTo standing, Model model) {
        OrderStore.OrdersLeft left = orders.left(person.id(), batch);
        if (left.waiting() > 0) {
            String address = UriComponentsBuilder.fromPath("/carried/" + batch)
                    .queryParam("of", act.of())
                    .queryParam("title", "{title}")
                    .queryParam("undoable", act.undoable())
                    .encode()
                    .buildAndExpand(act.title())
                    .toUriString();
            int done = act.of() - left.waiting() - left.refused();
            return going(new Progress(act.title(), done, act.of(), address, null), standing, model);
        }
        return answers.told(
                person,
                standing,
                left.refused() == 0
                        ? new Notice(act.title(), act.undoable(), false)
                        : Notice.problem(
                                "%,d of %,d were refused. The account's page says why; they are still where they were."
                                        .formatted(left.refused(), act.of())),
                model);
    }
}
