package app.schublade.standin;

import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.util.Properties;

/** Hands a message to the SMTP host of the demo world (RFC 5321). */
final class SmtpOut {
    private SmtpOut() {}

    static void send(int port, MimeMessage message, String from, String to) throws MessagingException {
        Properties properties = new Properties();
        properties.setProperty("mail.smtp.host", "127.0.0.1");
        properties.setProperty("mail.smtp.port", String.valueOf(port));
        properties.setProperty("mail.smtp.from", from);
        properties.setProperty("mail.smtp.localhost", "localhost");
        properties.setProperty("mail.smtp.connectiontimeout", "10000");
        properties.setProperty("mail.smtp.timeout", "30000");
        try (var transport = Session.getInstance(properties).getTransport("smtp")) {
            transport.connect();
            transport.sendMessage(message, InternetAddress.parse(to));
        }
    }
}
