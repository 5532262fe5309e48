package app.schublade.web.login;

import app.schublade.store.user.UserStore;
import jakarta.servlet.http.HttpSession;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The login page, and the one that the first visitor of a new installation sees. */
@Controller
class LoginController {
    static final String PROBLEM = "login-problem";
    /** Who tried: kept for the next try. */
    static final String TRIED = "login-tried";

    private final UserStore users;
    private final PasswordEncoder encoder;

    LoginController(UserStore users, PasswordEncoder encoder) {
        this.users = users;
        this.encoder = encoder;
    }

    @GetMapping("/login")
    String login(HttpSession session, Model model) {
        if (users.isEmpty()) {
            return "redirect:/welcome";
        }
        model.addAttribute("problem", session.getAttribute(PROBLEM));
        model.addAttribute("login", session.getAttribute(TRIED));
        session.removeAttribute(PROBLEM);
        session.removeAttribute(TRIED);
        return "login/login";
    }

    @GetMapping("/welcome")
    String welcome() {
        return users.isEmpty() ? "login/welcome" : "redirect:/login";
    }

    @PostMapping("/welcome")
    String addOwner(@RequestParam String name, @RequestParam String login, @RequestParam String password, Model model) {
        String problem = problem(name, login, password);
        if (problem != null) {
            model.addAttribute("problem", problem);
            model.addAttribute("name", name);
            model.addAttribute("login", login);
            return "login/welcome";
        }
        users.addOwner(login.strip().toLowerCase(Locale.ROOT), name.strip(), String.valueOf(encoder.encode(password)));
        return "redirect:/login";
    }

    private static @Nullable String problem(String name, String login, String password) {
        if (name.isBlank() || name.length() > 100) {
            return "Please enter your name, up to 100 characters.";
        }
        if (!login.strip().matches("[\\p{L}\\p{N}._-]{2,50}")) {
            return "A login has 2 to 50 letters, digits, dots or dashes.";
        }
        return PasswordRules.problem(password);
    }
}
