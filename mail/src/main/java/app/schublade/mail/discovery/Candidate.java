package app.schublade.mail.discovery;

import app.schublade.mail.MailHost;
import org.jspecify.annotations.Nullable;

/**
 * A server that an address may have.
 *
 * @param source where this was found, as a phrase: {@code "by DNS"}
 * @param authorisation who gives out the tokens that it lets in with; null if it wants a password
 */
public record Candidate(
        Service service,
        MailHost host,
        String source,
        @Nullable AuthorisationServer authorisation) {}
