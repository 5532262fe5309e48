package app.schublade.standin;

import java.util.List;
import java.util.Optional;

/**
 * What the domains of the demo world publish of their servers: some by DNS (RFC 6186), some in a document
 * (draft-ietf-mailmaint-autoconfig).
 */
final class Published {
    private static final List<String> BY_DOCUMENT = List.of("TS", "PR");

    private final MailHosts hosts;

    Published(MailHosts hosts) {
        this.hosts = hosts;
    }

    /** SRV records of a name, one a line: {@code "0 1 8753 localhost."}. */
    String services(String name) {
        for (DemoAccount account : DemoAccount.ALL) {
            if (!BY_DOCUMENT.contains(account.code())) {
                if (name.equals("_imap._tcp." + domain(account))) {
                    return "0 1 %d localhost.%n"
                            .formatted(hosts.gate(account.code()).port());
                }
                if (name.equals("_submission._tcp." + domain(account))) {
                    return "0 1 %d localhost.%n".formatted(hosts.smtpPort());
                }
            }
        }
        return "";
    }

    /** The document at an address, if a domain publishes its servers there. */
    Optional<String> document(String url) {
        return DemoAccount.ALL.stream()
                .filter(account -> BY_DOCUMENT.contains(account.code()))
                .filter(account ->
                        url.equals("https://" + domain(account) + "/.well-known/autoconfig/mail/config-v1.1.xml"))
                .findFirst()
                .map(account -> """
                        <?xml version="1.0" encoding="UTF-8"?>
                        <clientConfig version="1.1">
                          <emailProvider id="%s">
                            <incomingServer type="imap">
                              <hostname>localhost</hostname><port>%d</port><socketType>plain</socketType>
                              <username>%%EMAILADDRESS%%</username><authentication>password-cleartext</authentication>
                            </incomingServer>
                            <outgoingServer type="smtp">
                              <hostname>localhost</hostname><port>%d</port><socketType>plain</socketType>
                              <username>%%EMAILADDRESS%%</username><authentication>password-cleartext</authentication>
                            </outgoingServer>
                          </emailProvider>
                        </clientConfig>
                        """.formatted(
                                domain(account), hosts.gate(account.code()).port(), hosts.smtpPort()));
    }

    private static String domain(DemoAccount account) {
        return account.address().substring(account.address().indexOf('@') + 1);
    }
}
