package app.schublade.web.desk;

import app.schublade.core.message.Amount;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.message.MessageStore;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ProgressAnswers;
import app.schublade.web.frame.ReturnTo;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseBody;

/** What a user does to messages. Each answer is the strip's notice and the cabinet's new counts. */
@Controller
class ActController {
    private static final int MAX_NAMED = 10_000;

    private final RequestedActs acts;
    private final MessageLists listings;
    private final MessageStore messages;
    private final FolderStore folders;
    private final DeletionForGood forGood;
    private final ProgressAnswers progress;
    private final Answers answers;

    ActController(
            RequestedActs acts,
            MessageLists listings,
            MessageStore messages,
            FolderStore folders,
            DeletionForGood forGood,
            ProgressAnswers progress,
            Answers answers) {
        this.acts = acts;
        this.listings = listings;
        this.messages = messages;
        this.folders = folders;
        this.forGood = forGood;
        this.progress = progress;
        this.answers = answers;
    }

    /**
     * Which messages are meant.
     *
     * @param ids by name
     * @param all the address of a list: all that are in it
     * @param conversations the address of a list: with the named ones those of their conversations that are in it
     */
    record Meant(
            @Nullable List<Long> ids,
            @Nullable String all,
            @Nullable String conversations) {}

    @PostMapping("/act")
    String act(
            @AuthenticationPrincipal CurrentUser person,
            Meant meant,
            ActRequest request,
            ReturnTo standing,
            Model model) {
        List<Long> all = meant(person, meant);
        List<Long> ids =
                request.kind().files() && meant.all() != null ? listings.toFile(person, meant.all(), all) : all;
        if (request.kind() == ActRequest.ActKind.GLANCE) {
            acts.glance(person.id(), request, ids);
            return answers.told(person, standing, null, model);
        }
        if (request.kind() == ActRequest.ActKind.FOR_GOOD) {
            return forGood.answer(person, ids, standing, model);
        }
        RequestedActs.Begun begun = acts.carryOut(person, request, ids);
        if (begun.going() != null) {
            return progress.of(person, begun.going(), standing, model);
        }
        ActOutcome outcome = begun.outcome();
        if (request.kind() == ActRequest.ActKind.CARRY && !outcome.changed().isEmpty()) {
            ProgressAnswers.OnServers carried = new ProgressAnswers.OnServers(
                    outcome.title(), outcome.changed().size(), true);
            return progress.onServers(person, outcome.batch(), carried, standing, model);
        }
        if (request.kind() == ActRequest.ActKind.TRAY && outcome.changed().size() == 1) {
            model.addAttribute(
                    "always", always(person, request, outcome.changed().get(0)));
        }
        return answers.told(
                person,
                standing,
                outcome.changed().isEmpty() && !begun.sends()
                        ? Notice.told(asBefore(request))
                        : Notice.done(outcome.title() + staying(all.size() - ids.size())),
                model);
    }

    /** What is asked before the trash is emptied; nothing if nothing lies there. */
    @GetMapping(path = "/trash/empty", produces = MediaType.TEXT_PLAIN_VALUE)
    @ResponseBody
    String beforeEmptying(@AuthenticationPrincipal CurrentUser person) {
        int messages = folders.inTrash(person.id()).size();
        return messages == 0
                ? ""
                : messages == 1
                        ? "Delete the message in the trash for good?"
                        : "Delete all %,d messages in the trash for good?".formatted(messages);
    }

    /** All that lies in the trash. */
    @PostMapping("/trash/empty")
    String emptyTrash(@AuthenticationPrincipal CurrentUser person, ReturnTo standing, Model model) {
        List<Long> all = folders.inTrash(person.id());
        return all.isEmpty()
                ? answers.told(person, standing, Notice.told("The trash is empty already."), model)
                : forGood.answer(person, all, standing, model);
    }

    /** Goes on with an act that was cut off. */
    @PostMapping("/act/{batch}/rest")
    String goOn(@AuthenticationPrincipal CurrentUser person, @PathVariable long batch, ReturnTo standing, Model model) {
        return acts.goOn(person.id(), batch)
                .map(act -> progress.of(person, act, standing, model))
                .orElseGet(() -> progress.of(person, String.valueOf(batch), standing, model));
    }

    private static String staying(int messages) {
        return messages == 0
                ? ""
                : ". %s in Sent, Drafts, Junk or Trash %s there"
                        .formatted(Amount.messages(messages), messages == 1 ? "stays" : "stay");
    }

    /** An offer to put all mail of a message's sender into the tray. */
    public record Always(String sender, long tray) {}

    private @Nullable Always always(CurrentUser person, ActRequest request, long message) {
        Long tray = request.place();
        return messages.row(person.id(), message)
                .filter(row -> tray != null && row.sender().key().contains("@"))
                .map(row -> new Always(row.sender().key(), tray == null ? 0 : tray))
                .orElse(null);
    }

    private List<Long> meant(CurrentUser person, Meant meant) {
        if (meant.all() != null) {
            return listings.all(person, meant.all());
        }
        List<Long> ids = meant.ids() == null ? List.of() : meant.ids();
        if (ids.size() > MAX_NAMED) {
            throw new InputProblem(
                    "%,d messages are named; %,d at once is the limit.".formatted(ids.size(), MAX_NAMED));
        }
        return meant.conversations() == null ? ids : listings.withConversations(person, meant.conversations(), ids);
    }

    private static String asBefore(ActRequest request) {
        return request.kind().isMove() ? "No change: it is there already." : "No change: that is how it is already.";
    }
}
