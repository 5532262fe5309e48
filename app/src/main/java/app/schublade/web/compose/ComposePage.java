package app.schublade.web.compose;

import app.schublade.core.words.LanguageGuess;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.web.server.ResponseStatusException;

/**
 * What shows a message that is written: a page of its own, or a place below the message that it answers. A request whose target
 * is the element {@code answer} comes from below a message, and is answered there.
 */
@Component
class ComposePage {
    private static final String IN_PLACE = "answer";

    private final OutgoingStore outgoing;
    private final Frame frame;
    private final Writing writing;
    private final Dates dates;

    ComposePage(OutgoingStore outgoing, Frame frame, Writing writing, Dates dates) {
        this.outgoing = outgoing;
        this.frame = frame;
        this.writing = writing;
        this.dates = dates;
    }

    static boolean isInPlace(@Nullable String target) {
        return IN_PLACE.equals(target);
    }

    Outgoing one(CurrentUser person, long id) {
        return outgoing.byId(person.id(), id)
                .orElseThrow(() -> new ResponseStatusException(
                        HttpStatus.NOT_FOUND, "This message is gone; it may have been sent."));
    }

    /** The page of its own. */
    String whole(CurrentUser person, Outgoing one, Model model) {
        add(person, one, model);
        return "compose/page";
    }

    /**
     * Below the message that it answers.
     *
     * @param into the folder that the answered message will likely be filed into, or null
     */
    String below(CurrentUser person, Outgoing one, @Nullable Long into, HttpServletResponse response, Model model) {
        stay(response);
        Frame.View view = add(person, one, model);
        model.addAttribute(
                "into", into == null ? null : view.places().folder(into).orElse(null));
        return "compose/page :: inPlace";
    }

    private Frame.View add(CurrentUser person, Outgoing one, Model model) {
        Frame.View view = frame.view(person, "/write", null);
        model.addAttribute("view", view);
        model.addAttribute("one", one);
        model.addAttribute("senders", writing.senders(person, one.text().sender()));
        model.addAttribute("files", writing.files(one));
        model.addAttribute("times", dates.laterChoices());
        model.addAttribute(
                "language", LanguageGuess.of(one.text().body()).orElse(null)); // Browsers check the spelling by it.
        return view;
    }

    /** The place below a message is empty again. */
    String closed(HttpServletResponse response, String how, Notice notice, Model model) {
        stay(response);
        response.setHeader("HX-Trigger-After-Swap", "{\"answer-closed\":%s}".formatted(how));
        return closed(notice, null, model);
    }

    /** @param draft the id of the answer that is there still, or null */
    String closed(@Nullable Notice notice, @Nullable Long draft, Model model) {
        model.addAttribute("notice", notice);
        model.addAttribute("draft", draft);
        return "compose/page :: closed";
    }

    /** The address of the page stays. */
    private static void stay(HttpServletResponse response) {
        response.setHeader("HX-Push-Url", "false");
    }
}
