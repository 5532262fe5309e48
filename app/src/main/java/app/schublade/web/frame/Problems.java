package app.schublade.web.frame;

import app.schublade.core.problem.InputProblem;
import app.schublade.store.base.Database;
import io.micrometer.core.instrument.Counter;
import io.micrometer.core.instrument.MeterRegistry;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.concurrent.ThreadLocalRandom;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.BeansException;
import org.springframework.beans.TypeMismatchException;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.converter.HttpMessageConversionException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.core.AuthenticationException;
import org.springframework.ui.Model;
import org.springframework.validation.BindException;
import org.springframework.web.ErrorResponse;
import org.springframework.web.bind.WebDataBinder;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.InitBinder;
import org.springframework.web.server.ResponseStatusException;

/**
 * What goes wrong while a page is made: in the strip where there is a page, on a page of its own otherwise. What a user typed
 * and cannot be is said ({@link InputProblem}); a request that no page of ours sends is refused in plain words; whatever else
 * is thrown is a mistake here, stands in the log under a number, and the page shows that number and nothing of the rest.
 */
@ControllerAdvice
class Problems {
    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);
    private static final int NUMBERS = 1_000_000;
    private static final int THOUSAND = 1000;

    private final Counter shown;

    Problems(MeterRegistry metrics) {
        shown = metrics.counter("schublade.problems");
    }

    /** A field with an index or a path in its name is none of ours. */
    @InitBinder
    void bind(WebDataBinder binder) {
        binder.setAutoGrowNestedPaths(false);
        binder.setAutoGrowCollectionLimit(1);
    }

    @ExceptionHandler(InputProblem.class)
    @Nullable
    String cannotBe(InputProblem problem, HttpServletRequest request, HttpServletResponse response, Model model) {
        return say(HttpStatus.UNPROCESSABLE_CONTENT, String.valueOf(problem.getMessage()), request, response, model);
    }

    @ExceptionHandler(Exception.class)
    @Nullable
    String failed(Exception problem, HttpServletRequest request, HttpServletResponse response, Model model)
            throws Exception {
        if (problem instanceof AccessDeniedException || problem instanceof AuthenticationException) {
            throw problem; // Security answers.
        }
        if (Database.isAway(problem) || Database.isBroken(problem) || Database.hasNoRoom(problem)) {
            throw problem; // Its filter answers.
        }
        if (problem instanceof IOException || response.isCommitted()) {
            return null; // The browser has gone.
        }
        HttpStatusCode refused = refused(problem);
        if (refused != null) {
            return say(refused, sentence(problem, refused), request, response, model);
        }
        shown.increment();
        int number = ThreadLocalRandom.current().nextInt(NUMBERS);
        String shownAs = "%03d-%03d".formatted(number / THOUSAND, number % THOUSAND);
        LOG.error("Problem {}: {} {}", shownAs, request.getMethod(), request.getRequestURI(), problem);
        return say(
                HttpStatus.INTERNAL_SERVER_ERROR,
                "Something failed here. Your mail is as it was. In the log it has the number %s.".formatted(shownAs),
                request,
                response,
                model);
    }

    /** The status for what no page of ours sends; null if the mistake is here. */
    private static @Nullable HttpStatusCode refused(Exception problem) {
        if (problem instanceof ErrorResponse known) {
            return known.getStatusCode();
        }
        boolean misshapen = problem instanceof TypeMismatchException
                || problem instanceof BindException
                || problem instanceof HttpMessageConversionException
                || problem instanceof BeansException;
        return misshapen ? HttpStatus.BAD_REQUEST : null;
    }

    private static String sentence(Exception problem, HttpStatusCode status) {
        if (problem instanceof ResponseStatusException own && own.getReason() != null) {
            return own.getReason();
        }
        return switch (status.value()) {
            case 404 -> "The address leads to no page; what it named may have been moved or deleted.";
            case 405 -> "That cannot be done at this address.";
            default -> "The server was asked for something that no page asks for. Please load the page anew.";
        };
    }

    private static String say(
            HttpStatusCode status,
            String sentence,
            HttpServletRequest request,
            HttpServletResponse response,
            Model model) {
        response.setStatus(status.value());
        model.addAttribute("notice", Notice.problem(sentence));
        model.addAttribute("status", status.value());
        model.addAttribute("message", sentence);
        if (request.getHeader("HX-Request") == null) {
            return "error";
        }
        response.setHeader("HX-Reswap", "none"); // The notice finds its place by itself.
        response.setHeader("HX-Push-Url", "false");
        return "frame/parts :: noticeAlone";
    }
}
