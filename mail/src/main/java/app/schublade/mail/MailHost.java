package app.schublade.mail;

import org.jspecify.annotations.Nullable;

/**
 * Where an account's mail lies, or is handed in, and how to get in.
 *
 * @param login the name to log in with, mostly the address
 * @param pin the fingerprint of the one certificate that the user trusts though nobody vouches for it; null if the usual
 *     authorities decide
 * @param plainAgreed whether the user has agreed to a connection that others can read along
 */
public record MailHost(
        String host,
        int port,
        Encryption encryption,
        String login,
        @Nullable String pin,
        boolean plainAgreed) {
    /** How a connection is protected. */
    public enum Encryption {
        /** TLS from the first byte (RFC 8314). */
        TLS("TLS"),
        /** Plain at first, then turned into TLS; refused if the server cannot. */
        STARTTLS("STARTTLS"),
        /** None: for servers on this machine, or where the user has agreed. */
        NONE("no encryption");

        private final String words;

        Encryption(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    public MailHost {
        if (host.isBlank() || port < 1 || port > 65_535) {
            throw new IllegalArgumentException(
                    "A mail host needs a name and a port from 1 to 65535, not \"%s\" and %d.".formatted(host, port));
        }
    }

    /** A host that is trusted only as the usual authorities say. */
    public MailHost(String host, int port, Encryption encryption, String login) {
        this(host, port, encryption, login, null, false);
    }

    /** The same host, with a certificate that the user trusts. */
    public MailHost pinned(@Nullable String fingerprint) {
        return new MailHost(host, port, encryption, login, fingerprint, plainAgreed);
    }

    /** Whether a connection without encryption never leaves this machine. */
    public boolean isThisMachine() {
        return host.equals("localhost") || host.equals("::1") || host.matches("127(\\.\\d{1,3}){3}");
    }

    /** Whether a connection may be made at all: encrypted, to this machine, or agreed to. */
    public boolean isPermitted() {
        return encryption != Encryption.NONE || isThisMachine() || plainAgreed;
    }

    /** As people read it: name, port and encryption. */
    public String shown() {
        return "%s, port %d, %s".formatted(host, port, encryption.words());
    }

    @Override
    public String toString() {
        return host + ":" + port;
    }
}
