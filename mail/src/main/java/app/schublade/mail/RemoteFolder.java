package app.schublade.mail;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A folder as a server lists it.
 *
 * @param serverName the name to call it by on that server, decoded
 * @param path the same without the server's delimiter and prefix
 * @param use what it is for, if it is one of the folders every account has
 * @param selectable whether messages can lie in it
 * @param status where it stands, if the server tells that in its list (RFC 5819)
 */
public record RemoteFolder(
        String serverName,
        FolderPath path,
        Optional<SpecialUse> use,
        boolean selectable,
        @Nullable FolderStatus status) {

    /** A folder of which it is not known where it stands. */
    public RemoteFolder(String serverName, FolderPath path, Optional<SpecialUse> use, boolean selectable) {
        this(serverName, path, use, selectable, null);
    }
}
