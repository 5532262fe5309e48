package app.schublade.standin;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;
import java.util.HashMap;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * A small authorisation server (RFC 6749) on loopback: authorisation code with PKCE (RFC 7636), refresh tokens that are
 * changed at each use, and introspection (RFC 7662) for the mail server. Whoever asks is let in as the user that the
 * {@code login_hint} names.
 */
public final class AuthorisationHost implements AutoCloseable {
    private static final String REFUSED = "{\"error\": \"invalid_grant\"}";

    private final HttpServer server;
    private final Map<String, Map<String, String>> codes = new ConcurrentHashMap<>();
    private final Map<String, String> accessTokens = new ConcurrentHashMap<>();
    private final Map<String, String> refreshTokens = new ConcurrentHashMap<>();
    private final AtomicInteger refreshed = new AtomicInteger();

    public AuthorisationHost() {
        try {
            server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 8);
        } catch (IOException e) {
            throw new UncheckedIOException("The authorisation server cannot start", e);
        }
        server.createContext("/authorise", this::authorise);
        server.createContext("/token", exchange -> answer(exchange, this::token));
        server.createContext("/introspect", exchange -> answer(exchange, this::introspect));
        server.start();
    }

    /** Without a slash at the end. */
    public String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    /** How often a token was renewed. */
    public int refreshed() {
        return refreshed.get();
    }

    /** All access tokens are void from now on, as if their time were over. */
    public void expireAccess() {
        accessTokens.clear();
    }

    /** The user has taken back what they allowed. */
    public void revoke() {
        accessTokens.clear();
        refreshTokens.clear();
    }

    /** The user says yes at once: back to where they came from, with a code. */
    private void authorise(HttpExchange exchange) throws IOException {
        Map<String, String> asked = read(exchange.getRequestURI().getRawQuery());
        String code = UUID.randomUUID().toString();
        codes.put(code, asked);
        String back = asked.get("redirect_uri") + "?code=" + code + "&state="
                + URLEncoder.encode(asked.getOrDefault("state", ""), StandardCharsets.UTF_8);
        exchange.getResponseHeaders().set("Location", back);
        exchange.sendResponseHeaders(302, -1);
        exchange.close();
    }

    private interface Endpoint {
        String answer(Map<String, String> asked);
    }

    private static void answer(HttpExchange exchange, Endpoint endpoint) throws IOException {
        String body = new String(exchange.getRequestBody().readNBytes(65_536), StandardCharsets.UTF_8);
        String answer = endpoint.answer(read(body));
        byte[] bytes = answer.getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().set("Content-Type", "application/json");
        exchange.sendResponseHeaders(answer.contains("\"error\"") ? 400 : 200, bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    private String token(Map<String, String> asked) {
        if ("refresh_token".equals(asked.get("grant_type"))) {
            String user = refreshTokens.remove(asked.getOrDefault("refresh_token", ""));
            refreshed.incrementAndGet();
            return user == null ? REFUSED : tokens(user);
        }
        Map<String, String> authorised = codes.remove(asked.getOrDefault("code", ""));
        if (authorised == null) {
            return REFUSED;
        }
        boolean proven = challenge(asked.getOrDefault("code_verifier", "")).equals(authorised.get("code_challenge"))
                && "S256".equals(authorised.get("code_challenge_method"))
                && authorised.getOrDefault("redirect_uri", "").equals(asked.get("redirect_uri"));
        return proven ? tokens(authorised.getOrDefault("login_hint", "")) : REFUSED;
    }

    private String tokens(String user) {
        String access = UUID.randomUUID().toString();
        String refresh = UUID.randomUUID().toString();
        accessTokens.put(access, user);
        refreshTokens.put(refresh, user);
        return "{\"access_token\": \"%s\", \"refresh_token\": \"%s\", \"token_type\": \"Bearer\", \"expires_in\": 3600}"
                .formatted(access, refresh);
    }

    private String introspect(Map<String, String> asked) {
        String user = accessTokens.get(asked.getOrDefault("token", ""));
        return user == null
                ? "{\"active\": false}"
                : "{\"active\": true, \"username\": \"%s\"}".formatted(user.replaceFirst("@.*", ""));
    }

    private static String challenge(String verifier) {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(verifier.getBytes(StandardCharsets.US_ASCII));
            return Base64.getUrlEncoder().withoutPadding().encodeToString(digest);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("Every Java has SHA-256", e);
        }
    }

    private static Map<String, String> read(String form) {
        Map<String, String> fields = new HashMap<>();
        for (String pair : form == null ? new String[0] : form.split("&", -1)) {
            String[] sides = pair.split("=", 2);
            fields.put(sides[0], sides.length < 2 ? "" : URLDecoder.decode(sides[1], StandardCharsets.UTF_8));
        }
        return fields;
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
