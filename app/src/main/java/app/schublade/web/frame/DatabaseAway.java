package app.schublade.web.frame;

import app.schublade.store.base.Database;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/**
 * While the database is away, or has no room, every request is answered soon, with what is wrong; pages ask again by themselves. Stands
 * before whatever asks the database, the session's login included.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 1)
class DatabaseAway extends OncePerRequestFilter implements WebMvcConfigurer, HandlerInterceptor {
    /** On an answer: nothing of what was asked for has been begun, so that it can be asked for again. */
    static final String NOT_BEGUN = "Schublade-Not-Begun";

    /** What is the matter with the database. */
    private enum Trouble {
        AWAY(
                "The database does not answer",
                "Nothing is lost. This page asks again by itself every few seconds. If it stays like this, whoever runs"
                        + " Schublade finds the reason with: ./schublade doctor"),
        FULL(
                "The disk of the database is full",
                "What you did last was not kept; nothing else is lost. Whoever runs Schublade must make room on the"
                        + " disk; this page asks again by itself.");

        private final String title;
        private final String explained;

        Trouble(String title, String explained) {
            this.title = title;
            this.explained = explained;
        }
    }

    /** On a request: it has come as far as to whoever does what it asks for. */
    private static final String BEGUN = DatabaseAway.class.getName();

    private static final Logger LOG = LoggerFactory.getLogger(DatabaseAway.class);
    /** So long after a request that waited in vain the others do not wait. */
    private static final Duration KNOWN_FOR = Duration.ofSeconds(1);

    private static final int SECONDS_TO_WAIT = 3;

    private final Bundle bundle;
    private final Database database;
    private volatile long seen = System.nanoTime() - KNOWN_FOR.toNanos();

    DatabaseAway(Bundle bundle, Database database) {
        this.bundle = bundle;
        this.database = database;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        if (System.nanoTime() - seen < KNOWN_FOR.toNanos() && !isHarmless(request)) {
            answer(request, response, Trouble.AWAY, false);
            return;
        }
        try {
            chain.doFilter(request, response);
        } catch (ServletException | RuntimeException e) {
            boolean away = Database.isAway(e);
            boolean full = database.noteWhetherFull(e);
            if (!away && !full && !Database.isBroken(e)) {
                throw e;
            }
            LOG.warn("The database {}: {}", full ? "has no room" : "does not answer", e.getMessage());
            if (away) {
                seen = System.nanoTime();
            }
            if (!response.isCommitted()) {
                boolean begun = !away && request.getAttribute(BEGUN) != null;
                answer(request, response, full ? Trouble.FULL : Trouble.AWAY, begun);
            }
        }
    }

    @Override
    public void addInterceptors(InterceptorRegistry registry) {
        registry.addInterceptor(this);
    }

    @Override
    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
        request.setAttribute(BEGUN, true);
        return true;
    }

    /** What does without the database. */
    private static boolean isHarmless(HttpServletRequest request) {
        String path = request.getServletPath();
        return path.startsWith("/bundle/")
                || path.startsWith("/fonts/")
                || path.equals("/favicon.svg")
                || path.equals("/health");
    }

    /** @param begun whether some of what was asked for may have been done */
    private void answer(HttpServletRequest request, HttpServletResponse response, Trouble matter, boolean begun)
            throws IOException {
        boolean asks = request.getMethod().equals("GET");
        boolean again = matter == Trouble.AWAY && (asks || !begun);
        response.resetBuffer();
        response.setStatus(HttpStatus.SERVICE_UNAVAILABLE.value());
        response.setHeader(HttpHeaders.RETRY_AFTER, String.valueOf(SECONDS_TO_WAIT));
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        if (again) {
            response.setHeader(NOT_BEGUN, "yes");
        }
        boolean part = request.getHeader("HX-Request") != null;
        response.setContentType(part ? "text/plain;charset=UTF-8" : "text/html;charset=UTF-8");
        String told = part ? sentence(matter, asks, again) : page(request, matter, asks);
        write(response, told);
    }

    /** Whoever failed may have begun to write, in either way. */
    private static void write(HttpServletResponse response, String text) throws IOException {
        try {
            response.getOutputStream().write(text.getBytes(StandardCharsets.UTF_8));
        } catch (IllegalStateException e) {
            response.getWriter().write(text);
        }
    }

    private static String sentence(Trouble matter, boolean asks, boolean again) {
        String rest;
        if (matter == Trouble.FULL) {
            rest = asks
                    ? "Whoever runs Schublade must make room."
                    : "What you did last was not kept; nothing else is lost.";
        } else if (again) {
            rest = asks ? "It is being asked again." : "What you do waits here, and is done when it is back.";
        } else {
            rest = "It is not certain whether what you did last was done; the page shows it when it is back.";
        }
        return matter.title + ". " + rest;
    }

    /** Not made by the template engine: what is said when nothing works should need as little as can be. */
    private String page(HttpServletRequest request, Trouble matter, boolean asks) {
        String path = request.getContextPath();
        String again = asks ? "<meta http-equiv=\"refresh\" content=\"%d\">".formatted(SECONDS_TO_WAIT) : "";
        return """
                <!doctype html>
                <html lang="en">
                <head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">%s
                <title>%s · Schublade</title>
                <link rel="icon" type="image/svg+xml" href="%s/favicon.svg"><link rel="stylesheet" href="%s%s"></head>
                <body class="door"><main class="door-sheet"><div class="door-mark"><h1>%s</h1></div>
                <p class="lead">%s</p></main></body>
                </html>
                """.formatted(again, matter.title, path, path, bundle.styles(), matter.title, matter.explained);
    }
}
