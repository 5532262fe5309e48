package app.schublade.mail.discovery;

/**
 * Where a domain says that a service is (RFC 2782).
 *
 * @param target "." says that the domain does not offer the service
 */
public record SrvRecord(int priority, int weight, int port, String target) {
    /** Whether the domain says that it does not have the service (RFC 6186, section 3.4). */
    boolean isNone() {
        return target.isEmpty() || target.equals(".");
    }
}
