package app.schublade.mail.discovery;

import java.util.List;
import java.util.Optional;

/** What the world tells of a domain. The network is behind it, so that it can be replaced. */
public interface Directory {
    /** The SRV records of a name such as {@code _imaps._tcp.quay.example}; none if there is no answer. */
    List<SrvRecord> services(String name);

    /** The document at an address of the web, if there is one and it is not too large. */
    Optional<byte[]> document(String url);
}
