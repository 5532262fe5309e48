package app.schublade.mail;

import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.security.cert.CertificateException;
import java.security.cert.X509Certificate;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;

/**
 * What a server's certificate says, for a person to compare.
 *
 * @param names the hosts that it is for
 * @param fingerprint SHA-256 of the whole certificate, in pairs of hexadecimal digits with colons
 */
public record ServerCertificate(List<String> names, String issuer, Instant from, Instant until, String fingerprint) {
    private static final int DNS_NAME = 2;
    private static final int NAMES_SHOWN = 10;

    /** A certificate that nobody vouches for, or that is for another host. */
    static final class NotTrusted extends CertificateException {
        private static final long serialVersionUID = 1L;
        private final transient ServerCertificate certificate;

        NotTrusted(ServerCertificate certificate, CertificateException reason) {
            super(reason.getMessage(), reason);
            this.certificate = certificate;
        }

        ServerCertificate certificate() {
            return certificate;
        }
    }

    static ServerCertificate of(X509Certificate certificate) throws CertificateException {
        List<String> names = new ArrayList<>();
        Collection<List<?>> alternatives = certificate.getSubjectAlternativeNames();
        if (alternatives != null) {
            for (List<?> alternative : alternatives) {
                if (Integer.valueOf(DNS_NAME).equals(alternative.get(0)) && names.size() < NAMES_SHOWN) {
                    names.add(String.valueOf(alternative.get(1)));
                }
            }
        }
        if (names.isEmpty()) {
            names.add(certificate.getSubjectX500Principal().getName());
        }
        return new ServerCertificate(
                List.copyOf(names),
                certificate.getIssuerX500Principal().getName(),
                certificate.getNotBefore().toInstant(),
                certificate.getNotAfter().toInstant(),
                fingerprint(certificate));
    }

    static String fingerprint(X509Certificate certificate) throws CertificateException {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(certificate.getEncoded());
            return HexFormat.ofDelimiter(":").formatHex(digest).toUpperCase(Locale.ROOT);
        } catch (GeneralSecurityException e) {
            throw new CertificateException(e);
        }
    }
}
