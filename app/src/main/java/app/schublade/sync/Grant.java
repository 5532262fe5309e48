package app.schublade.sync;

import app.schublade.mail.discovery.AuthorisationServer;
import java.util.List;

/**
 * What a user has allowed: kept sealed in place of a password.
 *
 * @param refreshToken lets Schublade ask for access again and again, until the user takes it back
 */
public record Grant(AuthorisationServer server, String refreshToken) {
    /** As it is kept; {@link #parse} reads it back. */
    public String text() {
        return String.join("\n", server.authorise(), server.token(), server.scope(), refreshToken);
    }

    public static Grant parse(String text) {
        List<String> lines = List.of(text.split("\n", -1));
        if (lines.size() != 4) {
            throw new IllegalStateException("The stored permission for this account cannot be used. Sign in again.");
        }
        return new Grant(new AuthorisationServer(lines.get(0), lines.get(1), lines.get(2)), lines.get(3));
    }

    /** Never the token itself: this may end in a log. */
    @Override
    public String toString() {
        return "Grant[" + server.host() + "]";
    }
}
