package app.schublade.web.login;

import app.schublade.web.frame.Person;
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

    private static final int MAX_BROWSER = 120;

    private final FindByIndexNameSessionRepository<? extends Session> sessions;

    Sessions(JdbcIndexedSessionRepository sessions) {
        this.sessions = sessions;
    }

    /**
     * A session.
     *
     * @param here whether it is the one that asks
     */
    record Shown(String id, String browser, Instant since, Instant used, boolean here) {}

    static String browser(HttpServletRequest request) {
        String said = request.getHeader("User-Agent");
        String line = said == null ? "a program that says nothing of itself" : said.replaceAll("\\p{Cntrl}", " ");
        return line.substring(0, Math.min(line.length(), MAX_BROWSER)) + ", " + request.getRemoteAddr();
    }

    List<Shown> of(Person person, String here) {
        return sessions.findByPrincipalName(person.login()).values().stream()
                .map((Session one) -> {
                    String browser = one.getAttribute(BROWSER);
                    return new Shown(
                            one.getId(),
                            browser == null ? "" : browser,
                            one.getCreationTime(),
                            one.getLastAccessedTime(),
                            one.getId().equals(here));
                })
                .sorted(Comparator.comparing(Shown::used).reversed())
                .toList();
    }

    /** Ends one of the person's sessions; those of others are not touched. */
    void end(Person person, String id) {
        if (sessions.findByPrincipalName(person.login()).containsKey(id)) {
            sessions.deleteById(id);
        }
    }

    void endOthers(Person person, String here) {
        of(person, here).stream().filter(one -> !one.here()).forEach(one -> sessions.deleteById(one.id()));
    }
}
