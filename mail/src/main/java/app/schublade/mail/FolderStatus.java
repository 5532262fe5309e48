package app.schublade.mail;

/**
 * Where a folder stands. If this is the same as at the last look, nothing in it has changed.
 *
 * @param uidValidity if this differs from the last time, all UIDs are void
 * @param uidNext every later message gets at least this UID
 * @param modSeq grows with every change (RFC 7162, HIGHESTMODSEQ); 0 where the server does not count changes
 */
public record FolderStatus(long uidValidity, long uidNext, int messages, long modSeq) {
    /** Whether it is certain that nothing has changed since. */
    public boolean isUnchangedSince(FolderStatus before) {
        return modSeq > 0 && equals(before);
    }
}
