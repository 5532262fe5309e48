package app.schublade.mail;

/**
 * A folder as the server opened it (RFC 3501, section 6.3.1).
 *
 * @param uidValidity if this differs from the last time, all UIDs are void
 * @param uidNext every later message gets at least this UID
 * @param keywords whether any keyword may be set and is kept
 */
public record Opened(String serverName, long uidValidity, long uidNext, int messages, boolean keywords) {}
