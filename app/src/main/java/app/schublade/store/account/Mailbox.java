package app.schublade.store.account;

import app.schublade.mail.FolderStatus;
import org.jspecify.annotations.Nullable;

/**
 * A folder on one account's server, and the folder of the cabinet that shows its mail.
 *
 * @param path the server's name without its delimiter and prefix, as the cabinet would show it
 * @param uidValidity null before it was opened for the first time
 * @param newFromUid mail with a UID from here on arrived after the account was added, so that rules act on it
 * @param keywords whether the server keeps keywords in it
 * @param readOnly whether the server lets nobody change it
 * @param agreed how it stood when all of it was known here; null if it never was, or was renumbered since
 */
public record Mailbox(
        long id,
        long accountId,
        long folderId,
        String serverName,
        String path,
        boolean inbox,
        @Nullable Long uidValidity,
        long newFromUid,
        boolean keywords,
        boolean readOnly,
        @Nullable FolderStatus agreed) {}
