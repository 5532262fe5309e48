package app.schublade.web.login;

import app.schublade.web.frame.CurrentUser;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.stereotype.Component;

/** Where somebody is logged in. */
@Component
class Sessions {
    /** What the browser said of itself when somebody logged in with it. */
    static final String BROWSER = "browser";

    /** The more telling ones first: the first also calls itself the last. */
    private static final List<String> SYSTEMS = List.of("Android", "iPhone", "iPad", "Windows", "Mac OS", "Linux");

    private final FindByIndexNameSessionRepository<? extends Session> sessions;

    Sessions(JdbcIndexedSessionRepository sessions) {
        this.sessions = sessions;
    }

    /**
     * A session.
     *
     * @param here whether it is the one that asks
     */
    record ShownSession(String id, String browser, Instant since, Instant used, boolean here) {}

    /** What it runs on, as far as it says so, and its address: what helps to tell one's own machines apart. */
    static String browser(HttpServletRequest request) {
        String said = String.valueOf(request.getHeader("User-Agent"));
        String system =
                SYSTEMS.stream().filter(said::contains).findFirst().orElse("A system that does not say its name");
        return system + ", from " + request.getRemoteAddr();
    }

    List<ShownSession> of(CurrentUser person, String here) {
        return sessions.findByPrincipalName(person.login()).values().stream()
                .map((Session one) -> {
                    String browser = one.getAttribute(BROWSER);
                    return new ShownSession(
                            one.getId(),
                            browser == null ? "" : browser,
                            one.getCreationTime(),
                            one.getLastAccessedTime(),
                            one.getId().equals(here));
                })
                .sorted(Comparator.comparing(ShownSession::used).reversed())
                .toList();
    }

    /** Ends one of the person's sessions; those of others are not touched. */
    void end(CurrentUser person, String id) {
        if (sessions.findByPrincipalName(person.login()).containsKey(id)) {
            sessions.deleteById(id);
        }
    }

    void endOthers(CurrentUser person, String here) {
        of(person, here).stream().filter(one -> !one.here()).forEach(one -> sessions.deleteById(one.id()));
    }
}
