package app.schublade.web.frame;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.http.HttpStatus;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.ControllerAdvice;
import org.springframework.web.bind.annotation.ExceptionHandler;

/** What a user typed and cannot be: said in the strip where there is a page, on a page of its own otherwise. */
@ControllerAdvice
class Problems {
    @ExceptionHandler(IllegalArgumentException.class)
    String cannotBe(
            IllegalArgumentException problem, HttpServletRequest request, HttpServletResponse response, Model model) {
        response.setStatus(HttpStatus.UNPROCESSABLE_CONTENT.value());
        model.addAttribute("notice", Notice.problem(problem.getMessage()));
        if (request.getHeader("HX-Request") == null) {
            model.addAttribute("message", problem.getMessage());
            return "error";
        }
        response.setHeader("HX-Reswap", "none"); // The notice finds its place by itself.
        response.setHeader("HX-Push-Url", "false");
        return "frame/parts :: noticeAlone";
    }
}
