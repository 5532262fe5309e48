package app.schublade.mail.discovery;

import app.schublade.mail.MailHost;
import app.schublade.mail.MailHost.Encryption;
import java.net.IDN;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Finds where the mail of an address may lie and be handed in. Three sources, the most telling first: what the domain
 * says by DNS (RFC 6186, RFC 8314), the document that it publishes, and the names that servers mostly have.
 *
 * <p>None of it is believed; {@link Probe} tries it.
 */
public final class Discovery {
    private static final String BY_DNS = "by DNS";
    private static final String BY_NAME = "by its usual name";

    private final Directory directory;

    public Discovery(Directory directory) {
        this.directory = directory;
    }

    /** The ports of a service: with TLS from the first byte, and plain at first. */
    private record Ports(Service service, int tls, int plain, List<String> names) {}

    private static final List<Ports> USUAL = List.of(
            new Ports(Service.IMAP, 993, 143, List.of("imap", "mail")),
            new Ports(Service.POP3, 995, 110, List.of("pop", "mail")),
            new Ports(Service.SUBMISSION, 465, 587, List.of("smtp", "mail")));

    /**
     * All servers that an address may have, those to be tried first first, each once.
     *
     * @throws IllegalArgumentException if this is no address
     */
    public List<Candidate> candidates(String address) {
        int at = address.lastIndexOf('@');
        if (at < 1 || at == address.length() - 1) {
            throw new IllegalArgumentException(
                    "“%s” is not an address; it needs a name, an @ and a domain.".formatted(address));
        }
        String domain = IDN.toASCII(address.substring(at + 1).toLowerCase(Locale.ROOT));
        List<Candidate> all = new ArrayList<>();
        all.addAll(byDns(address, domain));
        all.addAll(published(address, domain));
        all.addAll(usual(address, domain));
        Set<String> seen = new LinkedHashSet<>();
        all.removeIf(one -> !seen.add(
                one.service() + " " + one.host().shown() + " " + one.host().login()));
        return all;
    }

    private List<Candidate> byDns(String address, String domain) {
        List<Candidate> all = new ArrayList<>();
        all.addAll(records(address, domain, "_imaps", Service.IMAP, Encryption.TLS));
        all.addAll(records(address, domain, "_imap", Service.IMAP, Encryption.STARTTLS));
        all.addAll(records(address, domain, "_pop3s", Service.POP3, Encryption.TLS));
        all.addAll(records(address, domain, "_pop3", Service.POP3, Encryption.STARTTLS));
        all.addAll(records(address, domain, "_submissions", Service.SUBMISSION, Encryption.TLS));
        all.addAll(records(address, domain, "_submission", Service.SUBMISSION, Encryption.STARTTLS));
        return all;
    }

    private List<Candidate> records(
            String address, String domain, String name, Service service, Encryption encryption) {
        return directory.services(name + "._tcp." + domain).stream()
                .filter(record -> !record.isNone() && record.port() > 0 && record.port() <= 65_535)
                .sorted(Comparator.comparingInt(SrvRecord::priority)
                        .thenComparing(
                                Comparator.comparingInt(SrvRecord::weight).reversed()))
                .map(record -> candidate(service, record.target(), record.port(), encryption, address, BY_DNS))
                .toList();
    }

    private static Candidate candidate(
            Service service, String host, int port, Encryption encryption, String address, String source) {
        return new Candidate(service, new MailHost(host, port, encryption, address), source, null);
    }

    private List<Candidate> published(String address, String domain) {
        String query = "?emailaddress=" + URLEncoder.encode(address, StandardCharsets.UTF_8);
        return List.of(
                        "https://autoconfig." + domain + "/mail/config-v1.1.xml" + query,
                        "https://" + domain + "/.well-known/autoconfig/mail/config-v1.1.xml")
                .stream()
                .flatMap(url -> directory.document(url).stream())
                .map(document -> ConfigurationDocument.read(document, address))
                .filter(found -> !found.isEmpty())
                .findFirst()
                .orElse(List.of());
    }

    private static List<Candidate> usual(String address, String domain) {
        List<Candidate> all = new ArrayList<>();
        for (Ports ports : USUAL) {
            for (String name : ports.names()) {
                String host = name + "." + domain;
                all.add(candidate(ports.service(), host, ports.tls(), Encryption.TLS, address, BY_NAME));
                all.add(candidate(ports.service(), host, ports.plain(), Encryption.STARTTLS, address, BY_NAME));
            }
        }
        return all;
    }
}
