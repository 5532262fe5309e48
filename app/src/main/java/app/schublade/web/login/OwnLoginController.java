package app.schublade.web.login;

import app.schublade.store.user.LoginStore;
import app.schublade.store.user.UserStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A user's own login: another password, and where it is in use. */
@Controller
class OwnLoginController {
    private final Frame frame;
    private final UserStore users;
    private final LoginStore logins;
    private final Sessions sessions;
    private final PasswordEncoder encoder;

    OwnLoginController(Frame frame, UserStore users, LoginStore logins, Sessions sessions, PasswordEncoder encoder) {
        this.frame = frame;
        this.users = users;
        this.logins = logins;
        this.sessions = sessions;
        this.encoder = encoder;
    }

    @GetMapping("/own-login")
    String page(@AuthenticationPrincipal CurrentUser person, HttpSession session, Model model) {
        return show(person, session, null, model);
    }

    private String show(CurrentUser person, HttpSession session, @Nullable String problem, Model model) {
        model.addAttribute("view", frame.view(person, "/own-login", null));
        model.addAttribute("person", person);
        model.addAttribute("problem", problem);
        model.addAttribute("sessions", sessions.of(person, session.getId()));
        return "login/own";
    }

    /** All other sessions end with the old password. */
    @PostMapping("/own-login/password")
    String changePassword(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String old,
            @RequestParam String password,
            HttpServletRequest request,
            HttpSession session,
            Model model,
            RedirectAttributes redirect) {
        LoginDetails details = LoginDetails.of(request);
        LoginStore.Try one = new LoginStore.Try(person.login(), details.address(), details.browser());
        if (!logins.begin(one).isZero()) {
            return show(person, session, "Too many wrong passwords. Please wait some minutes.", model);
        }
        boolean right = users.byLogin(person.login())
                .map(user -> encoder.matches(old, user.password()))
                .orElse(false);
        if (!right) {
            return show(person, session, "That is not your current password.", model);
        }
        logins.succeeded(one);
        String problem = PasswordRules.problem(password);
        if (problem != null) {
            return show(person, session, problem, model);
        }
        users.changePassword(person.id(), String.valueOf(encoder.encode(password)));
        sessions.endOthers(person, session.getId());
        logins.forgetOthers(person.id(), details.browser());
        redirect.addFlashAttribute("notice", Notice.told("Password changed. You are logged out everywhere else."));
        return "redirect:/own-login";
    }

    @PostMapping("/own-login/end")
    String end(@AuthenticationPrincipal CurrentUser person, @RequestParam String session, RedirectAttributes redirect) {
        sessions.end(person, session);
        redirect.addFlashAttribute("notice", Notice.told("Logged out there."));
        return "redirect:/own-login";
    }
}
