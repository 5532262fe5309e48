package app.schublade.mail;

import app.schublade.core.place.FolderPath;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.eclipse.angus.mail.imap.protocol.ListInfo;

/**
 * How one server names its folders: its delimiter, and the prefix that some put before all that is not the Inbox
 * (RFC 2342). Signs that are the delimiter on one side or the other are written with a similar sign there.
 *
 * @param prefix with the delimiter at its end, or empty
 */
record FolderNames(char delimiter, String prefix) {
    private static final String INBOX = "INBOX";
    private static final char SLASH_LIKE = '\u2215';
    private static final char DOT_LIKE = '\u2024';

    /** The delimiter as a server's list shows it; where the server does not tell its prefix, that too. */
    FolderNames asListed(List<ListInfo> folders, boolean prefixIsTold) {
        char shown = folders.stream()
                .map(folder -> folder.separator)
                .filter(separator -> separator != 0)
                .findFirst()
                .orElse(delimiter);
        String underInbox = INBOX + shown;
        boolean allUnderInbox = folders.size() > 1
                && folders.stream()
                        .map(folder -> folder.name.toUpperCase(Locale.ROOT))
                        .allMatch(name -> name.equals(INBOX) || name.startsWith(underInbox));
        return new FolderNames(shown, !prefixIsTold && allUnderInbox ? underInbox : prefix);
    }

    /** The path of a folder; empty for names that cannot be a path here. */
    Optional<FolderPath> path(String serverName) {
        if (serverName.equalsIgnoreCase(INBOX)) {
            return Optional.of(FolderPath.parse(INBOX));
        }
        String name = isUnderPrefix(serverName) ? serverName.substring(prefix.length()) : serverName;
        try {
            return Optional.of(FolderPath.of(Arrays.stream(name.split(Pattern.quote(String.valueOf(delimiter)), -1))
                    .map(part -> part.replace('/', SLASH_LIKE).strip())
                    .toList()));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private boolean isUnderPrefix(String serverName) {
        return serverName.length() > prefix.length()
                && serverName.toUpperCase(Locale.ROOT).startsWith(prefix.toUpperCase(Locale.ROOT));
    }

    /** The name of a path on this server; {@link #path} reads it back where the server permits all its signs. */
    String serverName(FolderPath path) {
        if (path.toString().equalsIgnoreCase(INBOX)) {
            return INBOX;
        }
        return prefix
                + path.names().stream().map(this::onServer).collect(Collectors.joining(String.valueOf(delimiter)));
    }

    private String onServer(String name) {
        String written = delimiter == '/' ? name : name.replace(SLASH_LIKE, '/');
        return written.replace(delimiter, delimiter == '.' ? DOT_LIKE : delimiter == '/' ? SLASH_LIKE : '-');
    }
}
