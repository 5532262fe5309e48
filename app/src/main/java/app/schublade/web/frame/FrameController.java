package app.schublade.web.frame;

import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** What stands around every page, anew, for a page that is open. */
@Controller
class FrameController {
    private final Frame frame;

    FrameController(Frame frame) {
        this.frame = frame;
    }

    @GetMapping("/cabinet")
    String cabinet(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "") String here,
            @RequestParam(required = false) @Nullable String account,
            Model model) {
        model.addAttribute("view", frame.view(person, here, account));
        return "frame/parts :: cabinetAndChips";
    }
}
