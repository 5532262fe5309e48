package app.schublade.mail.discovery;

import app.schublade.mail.MailHost;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.jspecify.annotations.Nullable;
import org.w3c.dom.Element;
import org.w3c.dom.NodeList;
import org.xml.sax.SAXException;

/**
 * Reads the document in which a domain publishes its mail servers (draft-ietf-mailmaint-autoconfig). It is taken for no
 * more than a hint: what it names is tried, and shown before anything is kept.
 */
final class ConfigurationDocument {
    private static final int MAX_SERVERS = 12;

    private ConfigurationDocument() {}

    /** The servers that the document names, in its order; none if it cannot be read. */
    static List<Candidate> read(byte[] xml, String address) {
        try {
            Element root = builder()
                    .newDocumentBuilder()
                    .parse(new ByteArrayInputStream(xml))
                    .getDocumentElement();
            AuthorisationServer authorisation = authorisation(root);
            List<Candidate> all = new ArrayList<>(servers(root, "incomingServer", address, authorisation));
            all.addAll(servers(root, "outgoingServer", address, authorisation));
            return all;
        } catch (ParserConfigurationException | SAXException | IOException | IllegalArgumentException e) {
            return List.of();
        }
    }

    /** Without entities and external parts: a document must not make this machine read files or other hosts. */
    private static DocumentBuilderFactory builder() throws ParserConfigurationException {
        DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
        factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
        factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
        factory.setXIncludeAware(false);
        factory.setExpandEntityReferences(false);
        return factory;
    }

    private static @Nullable AuthorisationServer authorisation(Element root) {
        NodeList found = root.getElementsByTagName("oAuth2");
        if (found.getLength() == 0) {
            return null;
        }
        Element server = (Element) found.item(0);
        return new AuthorisationServer(text(server, "authURL"), text(server, "tokenURL"), text(server, "scope"));
    }

    private static List<Candidate> servers(
            Element root, String name, String address, @Nullable AuthorisationServer authorisation) {
        List<Candidate> all = new ArrayList<>();
        NodeList servers = root.getElementsByTagName(name);
        for (int i = 0; i < servers.getLength() && all.size() < MAX_SERVERS; i++) {
            server((Element) servers.item(i), address, authorisation).ifPresent(all::add);
        }
        return all;
    }

    private static Optional<Candidate> server(
            Element server, String address, @Nullable AuthorisationServer authorisation) {
        Service service = switch (server.getAttribute("type").toLowerCase(Locale.ROOT)) {
            case "imap" -> Service.IMAP;
            case "pop3" -> Service.POP3;
            case "smtp" -> Service.SUBMISSION;
            default -> null;
        };
        String port = text(server, "port");
        String host = filled(text(server, "hostname"), address);
        if (service == null || !port.matches("\\d{1,5}") || !host.matches("[A-Za-z0-9.-]{1,253}")) {
            return Optional.empty();
        }
        MailHost.Encryption encryption = switch (text(server, "socketType").toUpperCase(Locale.ROOT)) {
            case "SSL", "TLS" -> MailHost.Encryption.TLS;
            case "STARTTLS" -> MailHost.Encryption.STARTTLS;
            default -> MailHost.Encryption.NONE;
        };
        String login = filled(text(server, "username"), address);
        try {
            return Optional.of(new Candidate(
                    service,
                    new MailHost(host, Integer.parseInt(port), encryption, login.isEmpty() ? address : login),
                    "in what " + domain(address) + " publishes",
                    text(server, "authentication").equalsIgnoreCase("OAuth2") ? authorisation : null));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private static String text(Element parent, String name) {
        NodeList found = parent.getElementsByTagName(name);
        return found.getLength() == 0 ? "" : found.item(0).getTextContent().strip();
    }

    private static String filled(String text, String address) {
        return text.replace("%EMAILADDRESS%", address)
                .replace("%EMAILLOCALPART%", address.substring(0, address.lastIndexOf('@')))
                .replace("%EMAILDOMAIN%", domain(address));
    }

    private static String domain(String address) {
        return address.substring(address.lastIndexOf('@') + 1);
    }
}
