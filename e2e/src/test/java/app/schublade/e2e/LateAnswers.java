package app.schublade.e2e;

import com.microsoft.playwright.APIResponse;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import java.util.ArrayDeque;
import java.util.Deque;

/** What the server does at once, and the browser hears of only later: as on a slow line, or when much is asked for. */
final class LateAnswers {
    private final Page page;
    private final Deque<Runnable> held = new ArrayDeque<>();
    private boolean isOver;

    /** @param addresses whose answers are late, as a pattern with stars */
    LateAnswers(Page page, String addresses) {
        this.page = page;
        page.route(addresses, this::hold);
    }

    private void hold(Route route) {
        if (isOver) {
            route.resume();
            return;
        }
        APIResponse answer = route.fetch();
        held.add(() -> route.fulfill(new Route.FulfillOptions().setResponse(answer)));
    }

    /** Waits until the server has done what it was asked for. */
    LateAnswers isDone() {
        page.waitForCondition(() -> !held.isEmpty());
        return this;
    }

    /** They arrive, and later ones are not late any more. */
    void arrive() {
        isOver = true;
        while (!held.isEmpty()) {
            held.remove().run();
        }
    }
}
