package app.schublade.mail;

/** What proves to a server who one is. */
public record Credentials(CredentialKind kind, String secret) {
    /** What kind of proof. */
    public enum CredentialKind {
        PASSWORD,
        /** A token that an authorisation server gave for a while (RFC 6750). */
        TOKEN
    }

    public static Credentials password(String password) {
        return new Credentials(CredentialKind.PASSWORD, password);
    }

    public static Credentials token(String token) {
        return new Credentials(CredentialKind.TOKEN, token);
    }

    /** Never the secret itself: this may end in a log. */
    @Override
    public String toString() {
        return "Credentials[" + kind + "]";
    }
}
