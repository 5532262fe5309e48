package app.schublade.web.places;

import app.schublade.core.place.FolderPath;
import app.schublade.core.problem.InputProblem;
import app.schublade.web.frame.Notice;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What the pages of places have in common. */
final class PlacePages {
    private PlacePages() {}

    /**
     * A name as it is kept: of one line, without slashes.
     *
     * @throws InputProblem with a sentence for the user
     */
    static String name(String typed, String kind) {
        try {
            return FolderPath.parse(typed.replace('/', ' ')).name();
        } catch (InputProblem e) {
            throw new InputProblem("“%s” cannot be the name of a %s.".formatted(typed.strip(), kind), e);
        }
    }

    /** Goes to a page and says what was done. */
    static String done(RedirectAttributes redirect, String text, String address) {
        redirect.addFlashAttribute("notice", Notice.done(text));
        return "redirect:" + address;
    }

    /** Goes to a page with a notice. */
    static String told(RedirectAttributes redirect, String text, String address) {
        redirect.addFlashAttribute("notice", Notice.told(text));
        return "redirect:" + address;
    }
}
