package app.schublade.web.login;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Before everything else: puts the security policy on every answer, and answers only to names that the server has. Links that
 * are made from the name in a request would else lead wherever a stranger likes.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class HostFilter extends OncePerRequestFilter {
    private static final Set<String> THIS_MACHINE = Set.of("localhost", "127.0.0.1", "[::1]", "::1");

    private final Set<String> names;

    HostFilter(@Value("${schublade.public-host:}") String publicHosts) {
        names = Arrays.stream(publicHosts.split(",", -1))
                .map(name -> name.strip().toLowerCase(Locale.ROOT))
                .filter(name -> !name.isEmpty())
                .collect(Collectors.toSet());
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        response.setHeader("Content-Security-Policy", SecurityConfiguration.CONTENT_SECURITY_POLICY);
        response.setHeader("X-Content-Type-Options", "nosniff");
        String name = String.valueOf(request.getServerName()).toLowerCase(Locale.ROOT);
        if (THIS_MACHINE.contains(name) || names.contains(name)) {
            chain.doFilter(request, response);
            return;
        }
        response.setStatus(HttpStatus.MISDIRECTED_REQUEST.value());
        response.setHeader(HttpHeaders.CONTENT_TYPE, "text/plain;charset=UTF-8");
        response.getOutputStream()
                .write(
                        "This server does not answer to that name. Whoever runs it can set schublade.public-host (SCHUBLADE_PUBLIC_HOST)."
                                .getBytes(StandardCharsets.UTF_8));
    }

    @Override
    protected boolean shouldNotFilterErrorDispatch() {
        return false;
    }
}
