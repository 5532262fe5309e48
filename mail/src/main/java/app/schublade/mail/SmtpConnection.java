package app.schublade.mail;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.time.Duration;
import java.util.List;
import java.util.OptionalLong;
import java.util.Properties;
import org.eclipse.angus.mail.smtp.SMTPTransport;

/** Tries a server that mail is handed in to (RFC 6409). */
public final class SmtpConnection {
    private SmtpConnection() {}

    /** What is done with a connection. */
    private interface Use<T> {
        T of(SMTPTransport transport, Session session) throws MessagingException, MailException;
    }

    /**
     * Connects and logs in, and leaves again.
     *
     * @return how large a message the server takes, in bytes, if it says so (RFC 1870, section 3)
     * @throws MailException if there is no server, or it does not let Schublade in
     */
    public static OptionalLong check(MailHost host, Credentials credentials, Duration patience) throws MailException {
        return use(host, credentials, patience, (transport, session) -> limit(transport));
    }

    /**
     * Hands a message in, for all recipients or for none.
     *
     * @return how large a message the server takes, in bytes, if it says so (RFC 1870, section 3)
     * @throws MailException of the kind {@code REFUSED} if the server will never take it, with what it said
     */
    public static OptionalLong send(
            MailHost host, Credentials credentials, Duration patience, byte[] source, List<String> recipients)
            throws MailException {
        return use(host, credentials, patience, (transport, session) -> {
            InternetAddress[] addresses = new InternetAddress[recipients.size()];
            for (int i = 0; i < addresses.length; i++) {
                addresses[i] = new InternetAddress(recipients.get(i));
            }
            try {
                transport.sendMessage(new MimeMessage(session, new ByteArrayInputStream(source)), addresses);
            } catch (SendFailedException e) {
                throw MailException.notTaken(host, e);
            }
            return limit(transport);
        });
    }

    /** Nought stands for a server that has none to tell. */
    private static OptionalLong limit(SMTPTransport transport) {
        String said = transport.getExtensionParameter("SIZE");
        boolean known = said != null && said.matches("[1-9]\\d{0,17}");
        return known ? OptionalLong.of(Long.parseLong(said)) : OptionalLong.empty();
    }

    private static <T> T use(MailHost host, Credentials credentials, Duration patience, Use<T> use)
            throws MailException {
        if (!host.isPermitted()) {
            throw MailException.notEncrypted(host);
        }
        try (Trust trust = new Trust(host.pin(), patience)) {
            Session session = Session.getInstance(properties(host, credentials, trust, patience));
            try (SMTPTransport transport = new SMTPTransport(session, null)) {
                transport.connect(host.host(), host.port(), host.login(), credentials.secret());
                return use.of(transport, session);
            }
        } catch (AuthenticationFailedException e) {
            throw MailException.notIn(host, e);
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
        properties.put("mail.smtp.socketFactory", Drip.factory(patience));
        properties.setProperty("mail.smtp.socketFactory.fallback", "false");
        boolean startTls = host.encryption() == MailHost.Encryption.STARTTLS;
        properties.setProperty("mail.smtp.starttls.enable", String.valueOf(startTls));
        properties.setProperty("mail.smtp.starttls.required", String.valueOf(startTls));
        if (credentials.kind() == Credentials.CredentialKind.TOKEN) {
            properties.setProperty("mail.smtp.auth.mechanisms", "XOAUTH2");
        }
        return properties;
    }
}
