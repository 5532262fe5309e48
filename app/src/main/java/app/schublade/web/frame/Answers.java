package app.schublade.web.frame;

import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;

/** Answers what was done without leaving the page: a notice in the strip, and the cabinet with its new counts. */
@Component
public class Answers {
    private final Frame frame;

    public Answers(Frame frame) {
        this.frame = frame;
    }

    /** @return the name of the fragment */
    public String told(Person person, Standing standing, @Nullable Notice notice, Model model) {
        String here = standing.here() == null ? "" : standing.here();
        model.addAttribute("view", frame.view(person, here, standing.account()));
        model.addAttribute("notice", notice);
        return "frame/parts :: noticeAndCabinet";
    }
}
