package app.schublade.web.desk;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.Amount;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.act.Acts;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FolderStore;
import app.schublade.store.filing.EffectRunner;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.work.UnfinishedActStore;
import app.schublade.store.work.UnfinishedActStore.ActRest;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.LongActs;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.Progress;
import app.schublade.web.frame.ReturnTo;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.UriComponentsBuilder;
import tools.jackson.core.type.TypeReference;

/** What a user does to messages, and takes back. Each answer is the strip's notice and the cabinet's new counts. */
@Controller
class ActController {
    private static final int MAX_NAMED = 10_000;

    private final Acts acts;
    private final UndoStore undo;
    private final PlaceStore places;
    private final FolderStore folders;
    private final RequestedEffects requests;
    private final EffectRunner effects;
    private final MessageLists listings;
    private final LongActs longActs;
    private final UnfinishedActStore unfinished;
    private final MessageStore messages;
    private final OrderStore orders;
    private final Answers answers;

    ActController(
            Acts acts,
            UndoStore undo,
            PlaceStore places,
            FolderStore folders,
            RequestedEffects requests,
            EffectRunner effects,
            MessageLists listings,
            LongActs longActs,
            UnfinishedActStore unfinished,
            MessageStore messages,
            OrderStore orders,
            Answers answers) {
        this.acts = acts;
        this.orders = orders;
        this.unfinished = unfinished;
        this.undo = undo;
        this.places = places;
        this.folders = folders;
        this.requests = requests;
        this.effects = effects;
        this.listings = listings;
        this.longActs = longActs;
        this.messages = messages;
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
            List<Effect> read = List.of(requests.of(person.id(), request).effect());
            effects.carryOut(person.id(), Cause.GLANCE, "", ids, read, 0);
            return answers.told(person, standing, null, model);
        }
        if (request.kind() == ActRequest.ActKind.FOR_GOOD) {
            return deleteForGood(person, ids, standing, model);
        }
        boolean isLong = ids.size() > LongActs.CHUNK;
        ActOutcome outcome = acts.record(person.id(), act -> {
            RequestedEffects.Requested requested = requests.of(person.id(), request);
            String title = ids.size() == 1
                    ? requested.told()
                    : "%s: %s".formatted(requested.told(), Amount.messages(ids.size()));
            act.called(title);
            return isLong
                    ? new ActOutcome(
                            unfinished.begin(person.id(), Cause.HAND, title, request, ids),
                            title,
                            List.of(),
                            0,
                            List.of())
                    : effects.carryOut(person.id(), Cause.HAND, title, ids, List.of(requested.effect()), 0);
        });
        if (isLong) {
            ActRest<ActRequest> rest = new ActRest<>(outcome.title(), request, ids, 0);
            return goOn(person, outcome.batch(), rest, standing, model);
        }
        if (request.kind() == ActRequest.ActKind.CARRY && !outcome.changed().isEmpty()) {
            return carried(person, outcome.batch(), outcome.changed().size(), outcome.title(), true, standing, model);
        }
        if (request.kind() == ActRequest.ActKind.TRAY && outcome.changed().size() == 1) {
            model.addAttribute(
                    "always", always(person, request, outcome.changed().get(0)));
        }
        return answers.told(
                person,
                standing,
                outcome.changed().isEmpty()
                        ? Notice.told(asBefore(request))
                        : Notice.done(outcome.title() + staying(all.size() - ids.size())),
                model);
    }

    private String deleteForGood(CurrentUser person, List<Long> ids, ReturnTo standing, Model model) {
        String title = "Deleted for good: " + Amount.messages(ids.size());
        ActOutcome outcome = ActOutcome.NOTHING;
        for (int from = 0; from < ids.size(); from += LongActs.CHUNK) {
            List<Long> part = ids.subList(from, Math.min(ids.size(), from + LongActs.CHUNK));
            outcome = outcome.and(effects.carryOut(
                    person.id(), Cause.FOR_GOOD, title, part, List.of(new Effect.DeleteForGood()), outcome.batch()));
        }
        return outcome.changed().isEmpty()
                ? answers.told(person, standing, Notice.told("Only what lies in the trash is deleted for good."), model)
                : carried(person, outcome.batch(), outcome.changed().size(), title, false, standing, model);
    }

    /** All that lies in the trash. */
    @PostMapping("/trash/empty")
    String emptyTrash(@AuthenticationPrincipal CurrentUser person, ReturnTo standing, Model model) {
        long trash = places.special(person.id(), SpecialUse.TRASH);
        return deleteForGood(person, folders.messages(person.id(), trash, false), standing, model);
    }

    private static String staying(int messages) {
        return messages == 0
                ? ""
                : ". %s in Sent, Drafts, Junk or Trash %s there"
                        .formatted(Amount.messages(messages), messages == 1 ? "stays" : "stay");
    }

    private String goOn(CurrentUser person, long batch, ActRest<ActRequest> rest, ReturnTo standing, Model model) {
        List<Effect> wanted = List.of(requests.of(person.id(), rest.request()).effect());
        int total = rest.done() + rest.rest().size();
        LongActs.LongAct begun = longActs.begin(batch, person.id(), rest.title(), total, watch -> {
            longActs.inParts(
                    batch,
                    rest.rest(),
                    rest.done(),
                    watch,
                    part -> effects.carryOut(person.id(), Cause.HAND, rest.title(), part, wanted, batch));
            return Notice.done(rest.title());
        });
        return progress(person, begun.id(), standing, model);
    }

    /** Goes on with an act that was cut off. */
    @PostMapping("/act/{batch}/rest")
    String goOn(@AuthenticationPrincipal CurrentUser person, @PathVariable long batch, ReturnTo standing, Model model) {
        Optional<ActRest<ActRequest>> rest = unfinished.goOn(person.id(), batch, new TypeReference<>() {});
        return rest.isPresent()
                ? goOn(person, batch, rest.get(), standing, model)
                : progress(person, String.valueOf(batch), standing, model);
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
        return request.kind().isMove() ? "Nothing to do: it lies there already." : "Nothing to do: it is so already.";
    }

    /** How far an act on very many messages is; asked again and again until it is done. */
    @GetMapping("/act/{id}")
    String progress(
            @AuthenticationPrincipal CurrentUser person, @PathVariable String id, ReturnTo standing, Model model) {
        LongActs.LongAct progress = longActs.progress(person.id(), id);
        if (progress == null) {
            return progressElsewhere(person, id, standing, model);
        }
        Notice said = progress.said();
        if (said != null) {
            return answers.told(person, standing, said, model);
        }
        model.addAttribute("progress", progress);
        model.addAttribute("standing", standing);
        return "frame/parts :: howFar";
    }

    /** Another process does it, or did until it ended. */
    private String progressElsewhere(CurrentUser person, String id, ReturnTo standing, Model model) {
        if (!id.matches("\\d{1,18}")) {
            return answers.told(
                    person,
                    standing,
                    Notice.told("The server was started anew meanwhile. H shows what was done."),
                    model);
        }
        Optional<UnfinishedActStore.ActProgress> known = unfinished.progress(person.id(), Long.parseLong(id));
        if (known.isEmpty()) {
            return answers.told(person, standing, Notice.told("That is done, or was taken back. H shows it."), model);
        }
        UnfinishedActStore.ActProgress progress = known.get();
        if (progress.standsStill()) {
            return answers.told(
                    person,
                    standing,
                    Notice.problem("%s: it was cut off after %,d of %,d. H goes on with it or takes it back."
                            .formatted(progress.title(), progress.done(), progress.total())),
                    model);
        }
        model.addAttribute("progress", new Elsewhere(progress, "/act/" + id));
        model.addAttribute("standing", standing);
        return "frame/parts :: howFar";
    }

    private record Elsewhere(UnfinishedActStore.ActProgress known, String address) implements Progress {
        @Override
        public String title() {
            return known.title();
        }

        @Override
        public int done() {
            return known.done();
        }

        @Override
        public int total() {
            return known.total();
        }
    }

    /** How many messages the servers have carried over, or deleted, by now. */
    record Carrying(String title, int done, int total, String address) implements Progress {}

    @GetMapping("/carried/{batch}")
    String carried(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long batch,
            @RequestParam int of,
            @RequestParam String title,
            @RequestParam(defaultValue = "true") boolean undoable,
            ReturnTo standing,
            Model model) {
        OrderStore.OrdersLeft left = orders.left(person.id(), batch);
        if (left.waiting() > 0) {
            String address = UriComponentsBuilder.fromPath("/carried/" + batch)
                    .queryParam("of", of)
                    .queryParam("title", "{title}")
                    .queryParam("undoable", undoable)
                    .encode()
                    .buildAndExpand(title)
                    .toUriString();
            model.addAttribute("progress", new Carrying(title, of - left.waiting() - left.refused(), of, address));
            model.addAttribute("standing", standing);
            return "frame/parts :: howFar";
        }
        return answers.told(
                person,
                standing,
                left.refused() == 0
                        ? new Notice(title, undoable, false)
                        : Notice.problem(
                                "%,d of %,d were refused. The account's page says why; they are still where they were."
                                        .formatted(left.refused(), of)),
                model);
    }

    @PostMapping("/undo")
    String undo(
            @AuthenticationPrincipal CurrentUser person,
            ReturnTo standing,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        return undone(person, standing, undo.latest(person.id()), request, response, model);
    }

    @PostMapping("/undo/{batch}")
    String undoAll(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long batch,
            ReturnTo standing,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        return undone(person, standing, undo.act(person.id(), batch), request, response, model);
    }

    @PostMapping("/undo/{batch}/{message}")
    String undoFor(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long batch,
            @PathVariable long message,
            ReturnTo standing,
            Model model) {
        return answers.told(person, standing, told(undo.of(person.id(), message, batch)), model);
    }

    private String undone(
            CurrentUser person,
            ReturnTo standing,
            ActOutcome outcome,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        Notice notice = told(outcome);
        return outcome.title().isEmpty()
                ? answers.told(person, standing, notice, model)
                : answers.toldAnew(person, standing, notice, request, response, model);
    }

    private static Notice told(ActOutcome outcome) {
        if (outcome.title().isEmpty()) {
            return Notice.told("There is nothing left to take back.");
        }
        String leftOut = outcome.leftOut().stream().map(one -> " " + one).collect(Collectors.joining());
        if (outcome.changed().isEmpty() && outcome.kept() > 0) {
            return Notice.told("It was changed again since, and stays as it is." + leftOut);
        }
        String kept = outcome.kept() == 0 ? "" : " %,d changed again since stay as they are.".formatted(outcome.kept());
        return Notice.told("Taken back: " + outcome.title() + "." + kept + leftOut);
    }

    @PostMapping("/folders")
    String makeFolder(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String path, ReturnTo standing, Model model) {
        FolderPath wanted = FolderPath.parse(path);
        Optional<Places.Folder> known = places.of(person.id(), null).folder(wanted);
        if (known.isPresent()) {
            String shown = known.get().path().shown();
            return answers.told(person, standing, Notice.told("There is a folder %s already.".formatted(shown)), model);
        }
        String told = "Made the folder %s".formatted(wanted.shown());
        acts.record(person.id(), told, () -> places.folder(person.id(), wanted));
        return answers.told(person, standing, Notice.done(told), model);
    }
}
