package app.schublade.mail;

/**
 * Where an account's mail lies and how to get in.
 *
 * @param login the name to log in with, mostly the address
 */
public record MailHost(String host, int port, Encryption encryption, String login) {
    /** How a connection is protected. */
    public enum Encryption {
        /** TLS from the first byte (RFC 8314). */
        TLS("TLS"),
        /** Plain at first, then turned into TLS; refused if the server cannot. */
        STARTTLS("STARTTLS"),
        /** None: for servers on this machine only. */
        NONE("no encryption, this machine only");

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

    /** Whether a connection without encryption never leaves this machine. */
    public boolean isThisMachine() {
        return host.equals("localhost") || host.equals("::1") || host.startsWith("127.");
    }

    @Override
    public String toString() {
        return host + ":" + port;
    }
}
