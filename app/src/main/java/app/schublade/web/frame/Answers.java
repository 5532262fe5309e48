package app.schublade.web.frame;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.web.servlet.support.RequestContextUtils;

/** Answers what was done without leaving the page: a notice in the strip, and the cabinet with its new counts. */
@Component
public class Answers {
    private static final Pattern STAYS_AS_IT_IS =
            Pattern.compile("/(?:rules|labels|categories|trays|people|accounts|outgoing|folders)\\b[\\w/?=&.@%+*-]*");

    private final Frame frame;

    public Answers(Frame frame) {
        this.frame = frame;
    }

    /** @return the name of the fragment */
    public String told(CurrentUser person, ReturnTo standing, @Nullable Notice notice, Model model) {
        String here = standing.here() == null ? "" : standing.here();
        model.addAttribute("view", frame.view(person, here, standing.account()));
        model.addAttribute("notice", notice);
        return "frame/parts :: noticeAndCabinet";
    }

    /** As {@link #told}, after anything may be otherwise: a page that does not fetch anew what it shows is loaded again. */
    public String toldAnew(
            CurrentUser person,
            ReturnTo standing,
            Notice notice,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        String told = told(person, standing, notice, model);
        String page = request.getParameter("page");
        if (page != null && isGone(page, model)) {
            goTo("/mail/inbox", notice, request, response);
        } else if (page != null && STAYS_AS_IT_IS.matcher(page).matches()) {
            // The rule that is shown may be gone by now.
            goTo(page.startsWith("/rules/") ? "/rules" : page, notice, request, response);
        }
        return told;
    }

    /** Whether a page is that of a saved search which is not there any more. */
    private static boolean isGone(String page, Model model) {
        return page.startsWith("/mail/search/")
                && model.getAttribute("view") instanceof Frame.View view
                && view.searches().stream()
                        .noneMatch(one -> page.replaceFirst("[?].*", "").equals(one.address()));
    }

    private static void goTo(String address, Notice notice, HttpServletRequest request, HttpServletResponse response) {
        RequestContextUtils.getOutputFlashMap(request).put("notice", notice);
        RequestContextUtils.saveOutputFlashMap(address, request, response);
        response.setHeader("HX-Redirect", address);
    }
}
