package app.schublade.mail.discovery;

import java.io.Serializable;
import java.net.URI;

/**
 * Who lets a user allow Schublade to read their mail (RFC 6749).
 *
 * @param authorise where the user is asked
 * @param token where tokens are given out and renewed
 * @param scope what is asked for
 */
public record AuthorisationServer(String authorise, String token, String scope) implements Serializable {
    private static final long serialVersionUID = 1L;

    /** @throws IllegalArgumentException if somebody on the way could read along */
    public AuthorisationServer {
        check(authorise);
        check(token);
    }

    private static void check(String address) {
        URI uri = URI.create(address);
        boolean here = "http".equals(uri.getScheme()) && "127.0.0.1".equals(uri.getHost());
        if (uri.getHost() == null || !(here || "https".equals(uri.getScheme()))) {
            throw new IllegalArgumentException("An authorisation server is asked by https only, not at " + address);
        }
    }

    /** The host that asks the user. */
    public String host() {
        return URI.create(authorise).getHost();
    }
}
