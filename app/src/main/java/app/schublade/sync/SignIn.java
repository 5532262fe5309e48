package app.schublade.sync;

import app.schublade.mail.MailException;
import app.schublade.mail.discovery.AuthorisationServer;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Signing in at an authorisation server: authorisation code with PKCE (RFC 6749, RFC 7636), and refresh. */
@Component
public class SignIn {
    private static final Duration PATIENCE = Duration.ofSeconds(15);
    private static final Set<String> NOT_NOW = Set.of("temporarily_unavailable", "server_error", "slow_down");
    private static final int MAX_ANSWER = 64 * 1024;
    private static final int VERIFIER_BYTES = 48;
    private static final long USUAL_SECONDS = 600;

    private final String client;
    private final SecureRandom random = new SecureRandom();
    private final JsonMapper json = new JsonMapper();
    private final HttpClient http = HttpClient.newBuilder()
            .connectTimeout(PATIENCE)
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();

    /** @param client the name under which this installation is known to authorisation servers */
    public SignIn(@Value("${schublade.sign-in-client:schublade}") String client) {
        this.client = client;
    }

    /**
     * Access for a while.
     *
     * @param refresh null if the one that was used stays good
     */
    public record Tokens(String access, @Nullable String refresh, Instant until) {
        /** Never the tokens themselves: this may end in a log. */
        @Override
        public String toString() {
            return "Tokens[until " + until + "]";
        }
    }

    /** A secret that nobody can guess: for the state of a request, and for what proves later that it was ours. */
    public String secret() {
        byte[] bytes = new byte[VERIFIER_BYTES];
        random.nextBytes(bytes);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }

    /** Where the user's browser goes to be asked. */
    public String address(AuthorisationServer server, String login, String back, String state, String verifier) {
        Map<String, String> asked = new LinkedHashMap<>();
        asked.put("response_type", "code");
        asked.put("client_id", client);
        asked.put("redirect_uri", back);
        asked.put("scope", server.scope());
        asked.put("state", state);
        asked.put("code_challenge", challenge(verifier));
        asked.put("code_challenge_method", "S256");
        asked.put("access_type", "offline");
        asked.put("login_hint", login);
        return server.authorise() + (server.authorise().contains("?") ? "&" : "?") + form(asked);
    }

    private static String challenge(String verifier) {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(verifier.getBytes(StandardCharsets.US_ASCII));
            return Base64.getUrlEncoder().withoutPadding().encodeToString(digest);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("Every Java has SHA-256", e);
        }
    }

    private static String form(Map<String, String> fields) {
        return fields.entrySet().stream()
                .map(field -> field.getKey() + "=" + URLEncoder.encode(field.getValue(), StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
    }

    /** Gives the code that the browser brought back for tokens. */
    public Tokens exchange(AuthorisationServer server, String code, String back, String verifier) throws MailException {
        return ask(
                server,
                Map.of(
                        "grant_type", "authorization_code",
                        "client_id", client,
                        "code", code,
                        "redirect_uri", back,
                        "code_verifier", verifier));
    }

    /** Asks for access again. */
    Tokens refresh(Grant grant) throws MailException {
        return ask(
                grant.server(),
                Map.of("grant_type", "refresh_token", "client_id", client, "refresh_token", grant.refreshToken()));
    }

    private Tokens ask(AuthorisationServer server, Map<String, String> fields) throws MailException {
        HttpRequest request = HttpRequest.newBuilder(URI.create(server.token()))
                .timeout(PATIENCE)
                .header("Content-Type", "application/x-www-form-urlencoded")
                .header("Accept", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(form(fields)))
                .build();
        try {
            HttpResponse<InputStream> answer = http.send(request, HttpResponse.BodyHandlers.ofInputStream());
            try (InputStream body = answer.body()) {
                return tokens(server, answer.statusCode(), json.readTree(body.readNBytes(MAX_ANSWER)));
            }
        } catch (IOException | JacksonException e) {
            throw MailException.signInAway(server.host() + " cannot be asked for access: " + e.getMessage(), e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw MailException.signInAway(server.host() + " was not asked to the end.", e);
        }
    }

    /** Whether the server has judged the grant itself (RFC 6749, section 5.2); all else may pass. */
    private static boolean isFinal(int status, String error) {
        return (status == 400 || status == 401) && !error.isEmpty() && !NOT_NOW.contains(error);
    }

    private static Tokens tokens(AuthorisationServer server, int status, JsonNode answer) throws MailException {
        String access = answer.path("access_token").asString("");
        String error = answer.path("error").asString("");
        if (status != 200 || access.isEmpty()) {
            throw isFinal(status, error)
                    ? MailException.signInAgain(
                            "%s gives no access any more (%s). Please sign in again.".formatted(server.host(), error))
                    : MailException.signInAway(
                            "%s gives no access now: it answers with status %d.".formatted(server.host(), status),
                            null);
        }
        String refresh = answer.path("refresh_token").asString("");
        long seconds = Math.max(0, answer.path("expires_in").asLong(USUAL_SECONDS));
        return new Tokens(
                access, refresh.isEmpty() ? null : refresh, Instant.now().plusSeconds(Math.min(seconds, 86_400)));
    }
}
