package app.schublade.mail.discovery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.mail.Credentials;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.MailHost.Encryption;
import app.schublade.standin.DovecotHost;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DiscoveryTest {
    private static final String ADDRESS = "tilda@quay.example";
    private static final Duration PATIENCE = Duration.ofSeconds(10);

    private final Map<String, List<SrvRecord>> dns = new HashMap<>();
    private final Map<String, String> web = new HashMap<>();

    private final Discovery discovery = new Discovery(new Directory() {
        @Override
        public List<SrvRecord> services(String name) {
            return dns.getOrDefault(name, List.of());
        }

        @Override
        public Optional<byte[]> document(String url) {
            return Optional.ofNullable(web.get(url)).map(text -> text.getBytes(StandardCharsets.UTF_8));
        }
    });

    private List<String> found(String address) {
        return discovery.candidates(address).stream()
                .map(one -> "%s %s as %s, %s"
                        .formatted(one.service(), one.host().shown(), one.host().login(), one.source()))
                .toList();
    }

    @Test
    void dnsComesFirstByPriorityAndWeightThenTheUsualNames() {
        dns.put(
                "_imaps._tcp.quay.example",
                List.of(
                        new SrvRecord(20, 1, 993, "spare.quay.example"),
                        new SrvRecord(10, 1, 993, "light.quay.example"),
                        new SrvRecord(10, 5, 1993, "heavy.quay.example")));
        dns.put("_imap._tcp.quay.example", List.of(new SrvRecord(0, 0, 0, ".")));
        dns.put("_submission._tcp.quay.example", List.of(new SrvRecord(0, 0, 587, "out.quay.example")));
        assertThat(found(ADDRESS))
                .startsWith(
                        "IMAP heavy.quay.example, port 1993, TLS as tilda@quay.example, by DNS",
                        "IMAP light.quay.example, port 993, TLS as tilda@quay.example, by DNS",
                        "IMAP spare.quay.example, port 993, TLS as tilda@quay.example, by DNS",
                        "SUBMISSION out.quay.example, port 587, STARTTLS as tilda@quay.example, by DNS")
                .contains(
                        "IMAP imap.quay.example, port 993, TLS as tilda@quay.example, by its usual name",
                        "POP3 pop.quay.example, port 995, TLS as tilda@quay.example, by its usual name",
                        "SUBMISSION smtp.quay.example, port 465, TLS as tilda@quay.example, by its usual name")
                .noneMatch(line -> line.contains(" .,"))
                .noneMatch(line -> line.contains("no encryption"));
    }

    @Test
    void thePublishedDocumentIsRead() {
        web.put("https://quay.example/.well-known/autoconfig/mail/config-v1.1.xml", """
                <?xml version="1.0"?>
                <clientConfig version="1.1"><emailProvider id="quay.example">
                  <oAuth2><authURL>https://sign-in.quay.example/authorise</authURL>
                    <tokenURL>https://sign-in.quay.example/token</tokenURL><scope>mail</scope></oAuth2>
                  <incomingServer type="imap"><hostname>in.%EMAILDOMAIN%</hostname><port>993</port>
                    <socketType>SSL</socketType><username>%EMAILLOCALPART%</username><authentication>OAuth2</authentication>
                  </incomingServer>
                  <incomingServer type="imap"><hostname>bad host</hostname><port>993</port></incomingServer>
                  <incomingServer type="news"><hostname>in.quay.example</hostname><port>993</port></incomingServer>
                  <incomingServer type="imap"><hostname>in.quay.example</hostname><port>99999</port></incomingServer>
                  <outgoingServer type="smtp"><hostname>out.quay.example</hostname><port>587</port>
                    <socketType>STARTTLS</socketType><username>%EMAILADDRESS%</username></outgoingServer>
                </emailProvider></clientConfig>
                """);
        assertThat(found(ADDRESS))
                .startsWith(
                        "IMAP in.quay.example, port 993, TLS as tilda, in what quay.example publishes",
                        "SUBMISSION out.quay.example, port 587, STARTTLS as tilda@quay.example, in what quay.example publishes");
        assertThat(discovery.candidates(ADDRESS).get(0).authorisation())
                .isEqualTo(new AuthorisationServer(
                        "https://sign-in.quay.example/authorise", "https://sign-in.quay.example/token", "mail"));
        assertThat(discovery.candidates(ADDRESS).get(1).authorisation()).isNull();
        assertThatThrownBy(() -> new AuthorisationServer("http://sign-in.quay.example", "https://x.example", "mail"))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("by https only");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "no xml",
                "<clientConfig><incomingServer type='imap'>",
                "<!DOCTYPE c [<!ENTITY x SYSTEM 'file:///etc/hostname'>]><clientConfig><incomingServer type='imap'>"
                        + "<hostname>&x;</hostname><port>1</port></incomingServer><incomingServer type='imap'>"
                        + "<hostname>imap.elsewhere.example</hostname><port>993</port></incomingServer></clientConfig>"
            })
    void aDocumentThatCannotBeReadIsPassedOver(String text) {
        web.put("https://quay.example/.well-known/autoconfig/mail/config-v1.1.xml", text);
        assertThat(found(ADDRESS)).isNotEmpty().allMatch(line -> line.endsWith("by its usual name"));
    }

    @Test
    void domainsOfAllScriptsAreAskedInTheirDnsForm() {
        dns.put("_imaps._tcp.xn--mnchen-3ya.example", List.of(new SrvRecord(0, 0, 993, "mail.quay.example")));
        assertThat(found("tilda@münchen.example").get(0)).startsWith("IMAP mail.quay.example");
        assertThatThrownBy(() -> discovery.candidates("tilda@"))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("needs a name, an @ and a domain");
    }

    @ParameterizedTest
    @ValueSource(strings = {"10 1 993", "a b c d", "-1 0 993 x", "", "1 2 3 4 5"})
    void recordsThatAreNoneAreNotRead(String record) {
        assertThat(NetDirectory.read(record)).isNull();
    }

    @Test
    void recordsAreReadAsDnsTellsThem() {
        assertThat(NetDirectory.read("10 1 993 imap.quay.example."))
                .isEqualTo(new SrvRecord(10, 1, 993, "imap.quay.example"));
        assertThat(Objects.requireNonNull(NetDirectory.read("0 0 0 .")).isNone())
                .isTrue();
    }

    private static Candidate at(Service service, int port, Encryption encryption, String login) {
        return new Candidate(service, new MailHost("127.0.0.1", port, encryption, login), "here", null);
    }

    @Test
    void whatLetsInIsFoundAmongWhatDoesNot() {
        try (DovecotHost server = DovecotHost.start(DovecotHost.Shape.SLASH)) {
            String user = server.user();
            Probe probe = new Probe(PATIENCE, PATIENCE);
            Probe.ProbedHosts found = probe.find(
                    List.of(
                            at(Service.IMAP, 1, Encryption.TLS, user),
                            at(Service.IMAP, server.pop3Port(), Encryption.STARTTLS, user),
                            at(Service.IMAP, server.imapPort(), Encryption.NONE, user + "@quay.example"),
                            at(Service.SUBMISSION, 1, Encryption.TLS, user)),
                    Credentials.password(DovecotHost.PASSWORD));
            Probe.ProbeOutcome receiving = Objects.requireNonNull(found.receiving());
            assertThat(receiving.works()).isTrue();
            assertThat(receiving.host().port()).isEqualTo(server.imapPort());
            assertThat(receiving.host().login()).as("what stands before the @").isEqualTo(user);
            assertThat(found.sending()).isNull();

            Probe.ProbeOutcome unknown = Objects.requireNonNull(probe.find(
                            List.of(at(Service.IMAP, server.imapTlsPort(), Encryption.TLS, user)),
                            Credentials.password(DovecotHost.PASSWORD))
                    .receiving());
            assertThat(Objects.requireNonNull(unknown.problem()).kind())
                    .isEqualTo(MailException.FailureKind.CERTIFICATE);
            Probe.ProbeOutcome wrong = Objects.requireNonNull(probe.find(
                            List.of(at(Service.IMAP, server.imapPort(), Encryption.NONE, user)),
                            Credentials.password("wrong"))
                    .receiving());
            assertThat(Objects.requireNonNull(wrong.problem()).kind())
                    .isEqualTo(MailException.FailureKind.LOGIN_REFUSED);
            Probe.ProbeOutcome pop = Objects.requireNonNull(probe.find(
                            List.of(
                                    at(Service.IMAP, 1, Encryption.NONE, user),
                                    at(Service.POP3, server.pop3Port(), Encryption.NONE, user)),
                            Credentials.password(DovecotHost.PASSWORD))
                    .receiving());
            assertThat(pop.works() && pop.service() == Service.POP3).isTrue();
        }
    }
}
