package app.schublade.mail;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import java.net.ConnectException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.net.ssl.SSLException;
import org.eclipse.angus.mail.iap.CommandFailedException;
import org.eclipse.angus.mail.iap.ConnectionException;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.smtp.SMTPAddressFailedException;
import org.eclipse.angus.mail.smtp.SMTPSendFailedException;
import org.eclipse.angus.mail.util.MailConnectException;
import org.eclipse.angus.mail.util.SocketConnectException;
import org.jspecify.annotations.Nullable;

/** Something that a mail server did or did not do; the message is a sentence for the user. */
public final class MailException extends Exception {
    private static final long serialVersionUID = 1L;

    /** What went wrong, as far as it decides what to do next. */
    public enum FailureKind {
        /** There is no server of that name. */
        NO_SUCH_HOST,
        /** The machine is there, but nothing of the kind answers on that port. */
        WRONG_PORT,
        /** The server cannot be reached: try again later. */
        AWAY,
        /** The connection broke or made no sense: connect anew. */
        LOST,
        /** The certificate is not vouched for: ask the user. {@link #certificate()} shows it. */
        CERTIFICATE,
        /** The connection would be readable by others, and nobody agreed to that. */
        NOT_ENCRYPTED,
        /** Login name or password are refused: ask the user, do not repeat. */
        LOGIN_REFUSED,
        /** The password may be right, but this way in is not permitted for the account. */
        NOT_PERMITTED,
        /** The account has no room left. */
        FULL,
        /** The server understood and said no: repeating it will not help. */
        REFUSED;

        /** Whether the user must do something before anybody knocks again. */
        public boolean needsUser() {
            return this == CERTIFICATE || this == NOT_ENCRYPTED || this == LOGIN_REFUSED || this == NOT_PERMITTED;
        }
    }

    /** The response code at the beginning of a server's answer (RFC 3501, section 7.1, and RFC 5530). */
    private static final Pattern CODE = Pattern.compile("^\\S+ (?:NO|BAD|BYE) \\[([A-Z-]+)[^\\]]*\\]\\s*");

    /** The response code of a POP3 server (RFC 2449, section 8). */
    private static final Pattern POP_CODE = Pattern.compile("^\\[([A-Za-z/-]+)\\]");
    /** What is wrong with none of the user's doing, and passes. */
    private static final Set<String> NOT_NOW = Set.of("IN-USE", "LOGIN-DELAY", "SYS/TEMP");

    /** An SMTP server that refuses for good answers with 5 (RFC 5321, section 4.2.1). */
    private static final Pattern SMTP_NOT_NOW = Pattern.compile("^[234]\\d\\d[ -]");

    /** What Java says of a connection that ended; the library passes it on as if the server had refused the password. */
    private static final Pattern CUT = Pattern.compile(
            "EOF|timed out|takes too long|Unexpected response|Connection reset|closed|Broken pipe|Connection abort",
            Pattern.CASE_INSENSITIVE);

    private static final int MAX_CAUSES = 20;
    private static final int PERMANENT = 500;

    private final FailureKind kind;
    private final String sentence;
    private final transient @Nullable ServerCertificate certificate;

    private MailException(
            FailureKind kind, String message, @Nullable Throwable cause, @Nullable ServerCertificate certificate) {
        super(message, cause);
        this.kind = kind;
        this.sentence = message;
        this.certificate = certificate;
    }

    MailException(FailureKind kind, String message, @Nullable Throwable cause) {
        this(kind, message, cause, null);
    }

    MailException(FailureKind kind, String message) {
        this(kind, message, null, null);
    }

    /** An authorisation server gives no token any more: the user must sign in again. */
    public static MailException signInAgain(String sentence) {
        return new MailException(FailureKind.LOGIN_REFUSED, sentence);
    }

    /** An authorisation server cannot be reached. */
    public static MailException signInAway(String sentence, @Nullable Throwable cause) {
        return new MailException(FailureKind.AWAY, sentence, cause);
    }

    /** An account has no server that mail could be handed in to. */
    public static MailException cannotSend(String account) {
        return new MailException(
                FailureKind.REFUSED,
                "%s has no server to send from yet. Please give it one on its page.".formatted(account));
    }

    /** A server took a message and does not show it. */
    public static MailException notShown() {
        return new MailException(FailureKind.LOST, "The server took a message and does not show it.");
    }

    /**
     * A folder takes no changes.
     *
     * @param what cannot be done for that
     */
    public static MailException readOnly(String folder, String what) {
        return new MailException(
                FailureKind.REFUSED, "The folder %s is read-only for you on its server: %s.".formatted(folder, what));
    }

    /** A message has more bytes than are fetched at once. */
    public static MailException tooLarge(int bytes, int most) {
        return new MailException(
                FailureKind.REFUSED,
                "It has %,d MB; %,d MB is the most that is carried over.".formatted(bytes >> 20, most >> 20));
    }

    static MailException notEncrypted(MailHost host) {
        return new MailException(
                FailureKind.NOT_ENCRYPTED,
                "A connection without encryption to " + host + " is not made: anybody on the way could read along.");
    }

    static MailException offersNoEncryption(MailHost host) {
        return new MailException(
                FailureKind.NOT_ENCRYPTED,
                host + " offers no encryption on that port: anybody on the way could read along.");
    }

    /** A server did not take a message: never, if its answer says so (RFC 5321, section 4.2.1), or not now. */
    static MailException notTaken(MailHost host, SendFailedException problem) {
        int code = 0;
        StringBuilder said = new StringBuilder();
        Exception next = problem;
        for (int i = 0; next instanceof MessagingException one && i < MAX_CAUSES; i++) {
            int own = one instanceof SMTPAddressFailedException address
                    ? address.getReturnCode()
                    : one instanceof SMTPSendFailedException send ? send.getReturnCode() : 0;
            if (own > 0) {
                code = Math.max(code, own);
                said = new StringBuilder(String.valueOf(one.getMessage()).strip());
            }
            next = one.getNextException();
        }
        boolean never = code >= PERMANENT;
        return new MailException(
                never ? FailureKind.REFUSED : FailureKind.AWAY,
                "%s %s: %s."
                        .formatted(
                                host,
                                never ? "refuses this message" : "does not take it now",
                                said.toString().replaceAll("\\.$", "")),
                problem);
    }

    /** Why no connection came about. What the library wraps is looked through to the bottom, the plainest cause first. */
    static MailException unreachable(MailHost host, Throwable problem) {
        ServerCertificate.NotTrusted untrusted = in(problem, ServerCertificate.NotTrusted.class);
        if (untrusted != null) {
            ServerCertificate shown = untrusted.certificate();
            return new MailException(
                    FailureKind.CERTIFICATE,
                    "Nobody vouches for the certificate of %s: it names %s and was issued by %s."
                            .formatted(host, String.join(", ", shown.names()), shown.issuer()),
                    problem,
                    shown);
        }
        if (in(problem, UnknownHostException.class) != null) {
            return unreachable(
                    FailureKind.NO_SUCH_HOST, host, "there is no server of that name. Please check the name.", problem);
        }
        if (in(problem, SocketTimeoutException.class) != null) {
            return unreachable(
                    FailureKind.AWAY,
                    host,
                    "it does not answer. Please check name and port, or try again later.",
                    problem);
        }
        if (in(problem, ConnectException.class) != null) {
            return unreachable(
                    FailureKind.WRONG_PORT,
                    host,
                    "nothing answers on that port. Please check it, or try again later.",
                    problem);
        }
        if (host.encryption() == MailHost.Encryption.STARTTLS
                && String.valueOf(problem.getMessage()).contains("STARTTLS is required")) {
            return offersNoEncryption(host);
        }
        if (in(problem, SSLException.class) != null) {
            return new MailException(
                    FailureKind.WRONG_PORT,
                    host + " does not speak TLS on that port. Please check port and encryption.",
                    problem);
        }
        if (problem instanceof ConnectionException greeted
                && greeted.getResponse() != null
                && !greeted.getResponse().isBYE()) {
            return unreachable(
                    FailureKind.WRONG_PORT,
                    host,
                    "what answers there is no such mail server. Please check the port. It says: " + said(problem),
                    problem);
        }
        return unreachable(FailureKind.AWAY, host, said(problem), problem);
    }

    private static MailException unreachable(FailureKind kind, MailHost host, String why, Throwable problem) {
        return new MailException(kind, host + " cannot be reached: " + why, problem);
    }

    private static <T extends Throwable> @Nullable T in(Throwable problem, Class<T> kind) {
        Throwable cause = problem;
        for (int depth = 0; cause != null && depth < MAX_CAUSES; depth++) {
            if (kind.isInstance(cause)) {
                return kind.cast(cause);
            }
            // The library keeps the cause of a failed connection in a field of its own.
            cause = cause instanceof SocketConnectException wrapped
                    ? wrapped.getException()
                    : cause instanceof MailConnectException wrapped && wrapped.getNextException() != null
                            ? wrapped.getNextException()
                            : cause.getCause();
        }
        return null;
    }

    /** Why a server did not let anybody in. */
    static MailException notIn(MailHost host, ProtocolException problem) {
        if (!(problem instanceof CommandFailedException)) {
            return new MailException(FailureKind.AWAY, host + " did not let anybody in: " + said(problem), problem);
        }
        return switch (code(problem)) {
            case "UNAVAILABLE", "INUSE", "SERVERBUG", "LIMIT" ->
                new MailException(FailureKind.AWAY, host + " is not available: " + said(problem), problem);
            case "AUTHORIZATIONFAILED", "PRIVACYREQUIRED", "CONTACTADMIN", "NOPERM" ->
                new MailException(
                        FailureKind.NOT_PERMITTED,
                        "%s does not permit %s to come in this way: %s".formatted(host, host.login(), said(problem)),
                        problem);
            default ->
                new MailException(
                        FailureKind.LOGIN_REFUSED, host + " refused the password of " + host.login() + ".", problem);
        };
    }

    /**
     * Why a POP3 or SMTP server did not let anybody in. A connection that ends, an error without an answer, or an answer
     * that says so itself is no judgement on the password (RFC 2449, section 8.1; RFC 3206; RFC 4954, section 6).
     */
    static MailException notIn(MailHost host, AuthenticationFailedException problem) {
        String said = problem.getMessage() == null ? "" : problem.getMessage().strip();
        Matcher code = POP_CODE.matcher(said);
        String why = code.find() ? code.group(1).toUpperCase(Locale.ROOT) : "";
        boolean answered = !said.isEmpty() && !CUT.matcher(said).find();
        if (why.equals("SYS/PERM")) {
            return new MailException(
                    FailureKind.NOT_PERMITTED,
                    "%s does not let %s in: %s".formatted(host, host.login(), said(problem)),
                    problem);
        }
        if (!answered || NOT_NOW.contains(why) || SMTP_NOT_NOW.matcher(said).find()) {
            return new MailException(
                    FailureKind.AWAY, "%s lets nobody in now: %s".formatted(host, said(problem)), problem);
        }
        return new MailException(
                FailureKind.LOGIN_REFUSED, host + " refused the password of " + host.login() + ".", problem);
    }

    /** Why a command came to nothing. */
    static MailException failed(String what, ProtocolException problem) {
        String sentence = "The server could not " + what + ": " + said(problem);
        if (!(problem instanceof CommandFailedException)) {
            return new MailException(FailureKind.LOST, sentence, problem);
        }
        return switch (code(problem)) {
            case "UNAVAILABLE", "INUSE", "SERVERBUG" -> new MailException(FailureKind.LOST, sentence, problem);
            case "OVERQUOTA" ->
                new MailException(
                        FailureKind.FULL,
                        "The account is full, so the server could not %s. Empty its trash or ask for more room."
                                .formatted(what),
                        problem);
            case "NOPERM", "READ-ONLY" ->
                new MailException(
                        FailureKind.REFUSED,
                        "The server does not permit to %s: you have no right to change that folder.".formatted(what),
                        problem);
            default -> new MailException(FailureKind.REFUSED, sentence, problem);
        };
    }

    private static String code(ProtocolException problem) {
        Response response = problem.getResponse();
        Matcher code = CODE.matcher(response == null ? "" : response.toString());
        return code.find() ? code.group(1).toUpperCase(Locale.ROOT) : "";
    }

    /** What the other side said, without tag and code, on one line of bounded length. */
    private static String said(Throwable problem) {
        String text = problem.getMessage();
        if (problem instanceof ProtocolException protocol && protocol.getResponse() != null) {
            text = protocol.getResponse().toString().replaceFirst("^\\S+ (?:OK|NO|BAD|BYE)( \\[[^\\]]*\\])?\\s*", "");
        }
        if (text == null || text.isBlank()) {
            return "it does not say why.";
        }
        String line = text.replaceAll("[\\s\\p{Cntrl}]+", " ").strip();
        return line.length() <= 200 ? line : line.substring(0, 200) + "…";
    }

    public FailureKind kind() {
        return kind;
    }

    /** The certificate that is not trusted, if that is what is wrong. */
    public @Nullable ServerCertificate certificate() {
        return certificate;
    }

    @Override
    public String getMessage() {
        return sentence;
    }
}
