package app.schublade.bench;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.web.filter.OncePerRequestFilter;

/** Measures requests where they are answered: without the way there and back, which is the client's. */
@Order(Ordered.HIGHEST_PRECEDENCE)
final class ServerClock extends OncePerRequestFilter {
    private final BlockingQueue<Long> taken = new LinkedBlockingQueue<>();

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        long begin = System.nanoTime();
        try {
            chain.doFilter(request, response);
        } finally {
            taken.add(System.nanoTime() - begin);
        }
    }

    /** How many nanoseconds the request took that was answered first of those not asked about yet. */
    long nanos() throws InterruptedException {
        return taken.take();
    }

    void forget() {
        taken.clear();
    }
}
