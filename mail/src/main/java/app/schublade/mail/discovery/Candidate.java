package app.schublade.mail.discovery;

import app.schublade.mail.MailHost;

/**
 * A server that an address may have.
 *
 * @param source where this was found, as a phrase: {@code "by DNS"}
 * @param wantsToken whether it says that it lets in with a token of an authorisation server rather than a password
 */
public record Candidate(Service service, MailHost host, String source, boolean wantsToken) {}
