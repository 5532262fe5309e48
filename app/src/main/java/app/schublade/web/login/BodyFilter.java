package app.schublade.web.login;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.Collections;
import java.util.Enumeration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Semaphore;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.session.SessionRepository;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Reads what a request brings along before anybody waits for it: within a time, up to a size, and not more of them at once
 * than there are threads to spare. Whoever is not logged in has a small size and a part of the threads of their own, so that
 * strangers who send half of something stop nobody.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 2)
class BodyFilter extends OncePerRequestFilter {
    private static final Duration TIME = Duration.ofSeconds(20);
    private static final int MOST_OF_STRANGERS = 32 * 1024;
    private static final int MOST = 8 * 1024 * 1024;
    private static final int MOST_FIELDS = 20_000;
    private static final int STRANGERS_AT_ONCE = 60;
    private static final int AT_ONCE = 150;
    private static final String SESSION = "SESSION";

    private final SessionRepository<?> sessions;
    private final Semaphore strangers = new Semaphore(STRANGERS_AT_ONCE);
    private final Semaphore known = new Semaphore(AT_ONCE);

    BodyFilter(SessionRepository<?> sessions) {
        this.sessions = sessions;
    }

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return request.getContentLengthLong() <= 0 && request.getHeader(HttpHeaders.TRANSFER_ENCODING) == null;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        boolean isKnown = isKnown(request);
        Semaphore turns = isKnown ? known : strangers;
        int most = isKnown ? MOST : MOST_OF_STRANGERS;
        if (request.getContentLengthLong() > most) {
            refuse(response, HttpStatus.CONTENT_TOO_LARGE, "That is more than can be sent at once.");
            return;
        }
        if (!turns.tryAcquire()) {
            refuse(
                    response,
                    HttpStatus.SERVICE_UNAVAILABLE,
                    "Too many requests at once. Please try again in a moment.");
            return;
        }
        byte @Nullable [] body;
        try {
            body = read(request.getInputStream(), most);
        } catch (IOException e) {
            refuse(response, HttpStatus.REQUEST_TIMEOUT, "What was sent did not arrive in time.");
            return;
        } finally {
            turns.release();
        }
        if (body == null) {
            refuse(response, HttpStatus.CONTENT_TOO_LARGE, "That is more than can be sent at once.");
            return;
        }
        chain.doFilter(new Arrived(request, body), response);
    }

    /** Whether it comes with a session in which somebody is logged in. */
    private boolean isKnown(HttpServletRequest request) {
        Cookie[] cookies = request.getCookies();
        return cookies != null
                && Arrays.stream(cookies)
                        .filter(cookie -> cookie.getName().equals(SESSION))
                        .map(cookie -> id(cookie.getValue()))
                        .filter(id -> !id.isEmpty())
                        .anyMatch(id -> {
                            var session = sessions.findById(id);
                            return session != null && session.getAttribute("SPRING_SECURITY_CONTEXT") != null;
                        });
    }

    private static String id(String cookie) {
        try {
            return new String(Base64.getDecoder().decode(cookie), StandardCharsets.UTF_8);
        } catch (IllegalArgumentException e) {
            return "";
        }
    }

    /** Null if there is more of it than may be. */
    private static byte @Nullable [] read(InputStream in, int most) throws IOException {
        long end = System.nanoTime() + TIME.toNanos();
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        byte[] some = new byte[16 * 1024];
        for (int count = in.read(some); count >= 0; count = in.read(some)) {
            all.write(some, 0, count);
            if (all.size() > most) {
                return null;
            }
            if (System.nanoTime() - end > 0) {
                throw new IOException("The body takes too long.");
            }
        }
        return all.toByteArray();
    }

    private static void refuse(HttpServletResponse response, HttpStatus status, String sentence) throws IOException {
        response.setStatus(status.value());
        response.setHeader(HttpHeaders.CONNECTION, "close");
        response.setHeader(HttpHeaders.CONTENT_TYPE, "text/plain;charset=UTF-8");
        response.getOutputStream().write(sentence.getBytes(StandardCharsets.UTF_8));
    }

    /** A request whose body is here, with the fields of a form as parameters. */
    private static final class Arrived extends HttpServletRequestWrapper {
        private final byte[] body;
        private @Nullable Map<String, String[]> parameters;

        Arrived(HttpServletRequest request, byte[] body) {
            super(request);
            this.body = body;
        }

        private Map<String, String[]> parameters() {
            Map<String, String[]> known = parameters;
            if (known == null) {
                Map<String, List<String>> all = new LinkedHashMap<>();
                String query = getQueryString();
                add(all, query == null ? "" : query);
                String type = getContentType();
                if (type != null
                        && type.toLowerCase(java.util.Locale.ROOT).startsWith("application/x-www-form-urlencoded")) {
                    add(all, new String(body, StandardCharsets.ISO_8859_1));
                }
                known = new LinkedHashMap<>();
                for (Map.Entry<String, List<String>> one : all.entrySet()) {
                    known.put(one.getKey(), one.getValue().toArray(String[]::new));
                }
                parameters = known;
            }
            return known;
        }

        private static void add(Map<String, List<String>> all, String encoded) {
            int fields = 0;
            for (String field : encoded.split("&", MOST_FIELDS)) {
                int equals = field.indexOf('=');
                if (!field.isEmpty() && ++fields < MOST_FIELDS) {
                    all.computeIfAbsent(
                                    decoded(equals < 0 ? field : field.substring(0, equals)),
                                    name -> new ArrayList<>(1))
                            .add(equals < 0 ? "" : decoded(field.substring(equals + 1)));
                }
            }
        }

        private static String decoded(String text) {
            try {
                return URLDecoder.decode(text, StandardCharsets.UTF_8);
            } catch (IllegalArgumentException e) {
                return text; // A per cent sign that begins no code.
            }
        }

        @Override
        public @Nullable String getParameter(String name) {
            String[] values = parameters().get(name);
            return values == null ? null : values[0];
        }

        @Override
        public Map<String, String[]> getParameterMap() {
            return Collections.unmodifiableMap(parameters());
        }

        @Override
        public Enumeration<String> getParameterNames() {
            return Collections.enumeration(parameters().keySet());
        }

        @Override
        public String @Nullable [] getParameterValues(String name) {
            return parameters().get(name);
        }

        @Override
        public ServletInputStream getInputStream() {
            ByteArrayInputStream in = new ByteArrayInputStream(body);
            return new ServletInputStream() {
                @Override
                public int read() {
                    return in.read();
                }

                @Override
                public int read(byte[] some, int offset, int length) {
                    return in.read(some, offset, length);
                }

                @Override
                public boolean isFinished() {
                    return in.available() == 0;
                }

                @Override
                public boolean isReady() {
                    return true;
                }

                @Override
                public void setReadListener(ReadListener listener) {
                    throw new UnsupportedOperationException("The body is here already.");
                }
            };
        }
    }
}
