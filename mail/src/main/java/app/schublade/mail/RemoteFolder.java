package app.schublade.mail;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import java.util.Optional;

/**
 * A folder as a server lists it.
 *
 * @param serverName the name to call it by on that server, decoded
 * @param path the same without the server's delimiter
 * @param use what it is for, if it is one of the folders every account has
 * @param selectable whether messages can lie in it
 */
public record RemoteFolder(String serverName, FolderPath path, Optional<SpecialUse> use, boolean selectable) {}
