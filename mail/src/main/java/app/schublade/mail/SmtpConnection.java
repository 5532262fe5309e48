package app.schublade.mail;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import java.time.Duration;
import java.util.Properties;
import org.eclipse.angus.mail.smtp.SMTPTransport;

/** Tries a server that mail is handed in to (RFC 6409). */
public final class SmtpConnection {
    private SmtpConnection() {}

    /**
     * Connects and logs in, and leaves again.
     *
     * @throws MailException if there is no server, or it does not let Schublade in
     */
    public static void check(MailHost host, Credentials credentials, Duration patience) throws MailException {
        if (!host.isPermitted()) {
            throw MailException.notEncrypted(host);
        }
        try (Trust trust = new Trust(host.pin());
                SMTPTransport transport =
                        new SMTPTransport(Session.getInstance(properties(host, credentials, trust, patience)), null)) {
            transport.connect(host.host(), host.port(), host.login(), credentials.secret());
        } catch (AuthenticationFailedException e) {
            throw new MailException(
                    MailException.Kind.LOGIN_REFUSED, host + " refused the password of " + host.login() + ".", e);
        } catch (MessagingException e) {
            throw MailException.unreachable(host, e);
        }
    }

    private static Properties properties(MailHost host, Credentials credentials, Trust trust, Duration patience) {
        boolean tls = host.encryption() == MailHost.Encryption.TLS;
        Properties properties = new Properties();
        properties.setProperty("mail.smtp.connectiontimeout", "10000");
        properties.setProperty("mail.smtp.timeout", String.valueOf(patience.toMillis()));
        properties.setProperty("mail.smtp.writetimeout", "30000");
        properties.setProperty("mail.smtp.auth", "true");
        properties.setProperty("mail.smtp.localhost", "schublade.invalid");
        properties.setProperty("mail.smtp.ssl.enable", String.valueOf(tls));
        properties.setProperty("mail.smtp.ssl.checkserveridentity", "false"); // Trust does, and knows of pins.
        properties.put("mail.smtp.ssl.socketFactory", trust);
        boolean startTls = host.encryption() == MailHost.Encryption.STARTTLS;
        properties.setProperty("mail.smtp.starttls.enable", String.valueOf(startTls));
        properties.setProperty("mail.smtp.starttls.required", String.valueOf(startTls));
        if (credentials.kind() == Credentials.Kind.TOKEN) {
            properties.setProperty("mail.smtp.auth.mechanisms", "XOAUTH2");
        }
        return properties;
    }
}
