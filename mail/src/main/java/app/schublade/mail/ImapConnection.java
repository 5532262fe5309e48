package app.schublade.mail;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import jakarta.mail.Flags;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.protocol.ListInfo;
import org.eclipse.angus.mail.imap.protocol.MailboxInfo;
import org.eclipse.angus.mail.imap.protocol.Namespaces;
import org.eclipse.angus.mail.imap.protocol.Status;
import org.jspecify.annotations.Nullable;

/**
 * A connection to one account's IMAP server (RFC 3501), for one thread at a time.
 *
 * <p>Messages are named by UID only, so that nothing another mail program does can shift them. What the server offers
 * (MOVE, UIDPLUS, IDLE, CONDSTORE, QRESYNC, ESEARCH, LIST-STATUS, SPECIAL-USE, NAMESPACE, UTF8=ACCEPT) is used, and done
 * without where it is missing.
 */
public final class ImapConnection implements AutoCloseable {
    /** How many folders of an account are believed. */
    private static final int MAX_FOLDERS = 10_000;

    /** The library's number for a folder opened with READ-ONLY. */
    private static final int READ_ONLY = 1;

    private static final int PIECE = 512 * 1024;
    private static final String SEEN = "UID FLAGS INTERNALDATE RFC822.SIZE ";
    private static final String IDS = SEEN + "BODY.PEEK[HEADER.FIELDS (MESSAGE-ID)]";

    private static final DateTimeFormatter SEARCH_DATE = DateTimeFormatter.ofPattern("d-MMM-yyyy", Locale.ENGLISH);

    private final Wire wire;
    private volatile boolean closedHere;
    private final Resync resync;
    private final Queries queries;
    private final FlagCommands changes;
    private FolderNames names;
    private @Nullable Opened open;

    private ImapConnection(Wire wire, FolderNames names) {
        this.wire = wire;
        resync = new Resync(wire);
        queries = new Queries(wire);
        changes = new FlagCommands(wire, queries);
        this.names = names;
    }

    /**
     * Connects and logs in.
     *
     * @param patience how long to wait for any one answer
     * @throws MailException if there is no server, or it does not let Schublade in
     */
    public static ImapConnection open(MailHost host, Credentials credentials, Duration patience) throws MailException {
        Wire wire = Wire.connect(host, patience);
        try {
            wire.logIn(host, credentials);
            enable(wire, "UTF8=ACCEPT");
            enable(wire, "QRESYNC");
            return new ImapConnection(wire, names(wire));
        } catch (ProtocolException e) {
            wire.cut();
            throw MailException.notIn(host, e);
        }
    }

    /** Connects and logs in with a password. */
    public static ImapConnection open(MailHost host, String password, Duration patience) throws MailException {
        return open(host, Credentials.password(password), patience);
    }

    private static void enable(Wire wire, String extension) throws ProtocolException {
        if (wire.hasCapability("ENABLE") && wire.hasCapability(extension)) {
            wire.enable(extension);
        }
    }

    private static FolderNames names(Wire wire) throws ProtocolException {
        if (wire.hasCapability("NAMESPACE")) {
            Namespaces spaces = wire.namespace();
            if (spaces != null && spaces.personal != null && spaces.personal.length > 0) {
                Namespaces.Namespace own = spaces.personal[0];
                return new FolderNames(own.delimiter == 0 ? '/' : own.delimiter, own.prefix);
            }
        }
        return new FolderNames('/', "");
    }

    /**
     * All folders of the account. Names that cannot be a path here are left out. A list without an Inbox is not believed,
     * for every account has one (RFC 3501, section 5.1).
     */
    public List<RemoteFolder> folders() throws MailException {
        try {
            List<RemoteFolder> folders = new ArrayList<>();
            List<Wire.ListedFolder> all = wire.listed();
            names = names.asListed(all.stream().map(Wire.ListedFolder::info).toList(), wire.hasCapability("NAMESPACE"));
            for (Wire.ListedFolder listed : all) {
                if (folders.size() < MAX_FOLDERS) {
                    remote(listed).ifPresent(folders::add);
                }
            }
            if (folders.stream().noneMatch(one -> one.serverName().equalsIgnoreCase("INBOX"))) {
                throw new MailException(MailException.FailureKind.LOST, "The server lists no Inbox.");
            }
            return folders;
        } catch (ProtocolException e) {
            throw MailException.failed("list the folders", e);
        }
    }

    private Optional<RemoteFolder> remote(Wire.ListedFolder listed) {
        ListInfo info = listed.info();
        List<String> attributes = info.attrs == null ? List.of() : List.of(info.attrs);
        boolean exists = attributes.stream().noneMatch("\\NonExistent"::equalsIgnoreCase);
        return names.path(info.name)
                .map(path -> new RemoteFolder(
                        info.name,
                        path,
                        SpecialUse.of(path, attributes),
                        info.canOpen && exists,
                        status(listed.status())));
    }

    private static @Nullable FolderStatus status(@Nullable Status status) {
        return status == null
                ? null
                : new FolderStatus(status.uidvalidity, status.uidnext, status.total, Math.max(0, status.highestmodseq));
    }

    /** Opens a folder; the commands that name UIDs work on it. */
    public Opened open(String serverName) throws MailException {
        return openSince(serverName, null);
    }

    /**
     * Opens a folder and tells what has changed in it since it stood as given, if the server can (RFC 7162).
     *
     * @param before where it stood at the last look; null to be told nothing
     */
    public Opened openSince(String serverName, @Nullable FolderStatus before) throws MailException {
        try {
            MailboxInfo info = wire.select(serverName, resync.asked(before));
            FolderStatus status =
                    new FolderStatus(info.uidvalidity, info.uidnext, info.total, Math.max(0, info.highestmodseq));
            boolean keywords = info.permanentFlags != null && info.permanentFlags.contains(Flags.Flag.USER);
            Opened.MailboxChanges changes = before == null ? null : resync.changes(info, status, before);
            open = new Opened(serverName, status, keywords, info.mode == READ_ONLY, changes);
            return open;
        } catch (ProtocolException e) {
            open = null;
            throw MailException.failed("open the folder " + serverName, e);
        }
    }

    /** The open folder, if it is the one named; it is opened otherwise. */
    public Opened ensureOpen(String serverName) throws MailException {
        return open != null && open.serverName().equals(serverName) ? open : open(serverName);
    }

    /** UIDs of all messages in the open folder that are not marked as deleted, ascending. */
    public long[] uids() throws MailException {
        return queries.search("UNDELETED", null);
    }

    /** UIDs of the open folder's messages that the server received on this day or later, ascending. */
    public long[] uidsSince(LocalDate day) throws MailException {
        return queries.search("SINCE " + SEARCH_DATE.format(day), null);
    }

    /** UIDs of the open folder's messages with this Message-ID. */
    public List<Long> withMessageId(String messageId) throws MailException {
        return UidSets.boxed(queries.search("HEADER Message-ID", messageId));
    }

    /** UIDs of the open folder's messages of exactly so many bytes. */
    public List<Long> withSize(int bytes) throws MailException {
        return UidSets.boxed(queries.search("LARGER " + (bytes - 1) + " SMALLER " + (bytes + 1), null));
    }

    /**
     * Those of some messages that are in the open folder still and not marked as deleted. The server is given the chance
     * to tell of removals first (RFC 3501, section 6.1.2), for it may answer from how the folder was when it was opened.
     */
    public Set<Long> present(Collection<Long> uids) throws MailException {
        try {
            wire.noop();
        } catch (ProtocolException e) {
            throw MailException.failed("ask what is in the folder", e);
        }
        Set<Long> present = new HashSet<>();
        for (List<Long> some : UidSets.inSets(uids)) {
            present.addAll(UidSets.boxed(queries.search("UNDELETED UID " + UidSets.set(some), null)));
        }
        return present;
    }

    /** How the messages of the open folder are marked, from a UID on. */
    public List<Sighting> sightings(long fromUid) throws MailException {
        // "n:*" names the last message even if its UID is below n (RFC 3501, section 6.4.8).
        return queries.fetch(fromUid + ":*", "UID FLAGS", ResponseReader::sighting).stream()
                .filter(sighting -> sighting.uid() >= fromUid)
                .toList();
    }

    /** How the messages of the open folder are marked whose UIDs lie between two, both included. */
    public List<Sighting> sightings(long firstUid, long lastUid) throws MailException {
        return queries.fetch(firstUid + ":" + lastUid, "UID FLAGS", ResponseReader::sighting);
    }

    /**
     * Fetches messages of the open folder without marking them as read.
     *
     * @param maxBytes of a larger message only the beginning is fetched
     */
    public List<Fetched> fetch(Collection<Long> uids, int maxBytes) throws MailException {
        return queries.fetchAll(uids, messageItems(maxBytes));
    }

    /**
     * What came of asking for messages.
     *
     * @param messages those that arrived whole
     * @param problem why the others did not; null if the server came to the end of its answer
     */
    public record Given(List<Fetched> messages, @Nullable MailException problem) {}

    /** As {@link #fetch}, of at most 1000 messages; if the answer breaks off, what has arrived before is given. */
    public Given fetchSome(Collection<Long> uids, int maxBytes) {
        return queries.fetchSome(uids, messageItems(maxBytes));
    }

    /** Fetches what is needed to recognise messages that are known already: size and the Message-ID header. */
    public Given fetchSomeIds(Collection<Long> uids) {
        return queries.fetchSome(uids, IDS);
    }

    /** Fetches size and the whole header. */
    public Given fetchSomeHeaders(Collection<Long> uids) {
        return queries.fetchSome(uids, SEEN + "BODY.PEEK[HEADER]");
    }

    private static String messageItems(int maxBytes) {
        return SEEN + "BODY.PEEK[]<0." + maxBytes + ">";
    }

    /** As {@link #fetchSomeIds}, or nothing at all. */
    public List<Fetched> fetchIds(Collection<Long> uids) throws MailException {
        return queries.fetchAll(uids, IDS);
    }

    /** Fetches size and the whole header. */
    public List<Fetched> fetchHeaders(Collection<Long> uids) throws MailException {
        return queries.fetchAll(uids, SEEN + "BODY.PEEK[HEADER]");
    }

    /**
     * Hands a message of the open folder on, piece by piece, so that memory never holds more than one of them.
     *
     * @return how many bytes it had; 0 if there is no such message
     * @throws IOException if they cannot be written where they are to go
     */
    public long copyTo(long uid, OutputStream out) throws MailException, IOException {
        for (long at = 0; ; ) {
            String items = "UID BODY.PEEK[]<%d.%d>".formatted(at, PIECE);
            byte[] piece = queries.fetch(String.valueOf(uid), items, ResponseReader::piece).stream()
                    .findFirst()
                    .orElse(new byte[0]);
            out.write(piece);
            at += piece.length;
            if (piece.length < PIECE) {
                return at;
            }
        }
    }

    /** When each message of the open folder whose UID lies between two came, both included. */
    public Map<Long, Instant> received(long firstUid, long lastUid) throws MailException {
        Map<Long, Instant> received = new HashMap<>();
        queries.fetch(firstUid + ":" + lastUid, "UID INTERNALDATE", ResponseReader::arrival)
                .forEach(one -> received.put(one.getKey(), one.getValue()));
        return received;
    }

    /**
     * Moves messages from the open folder into another (by copy and removal where MOVE is missing). UIDs that are gone
     * are passed over.
     *
     * @return the new UID of each message that the server told it for (RFC 4315)
     */
    public Map<Long, Long> move(Collection<Long> uids, String targetServerName) throws MailException {
        return changes.move(uids, targetServerName);
    }

    /** Copies messages from the open folder into another. */
    public Map<Long, Long> copy(Collection<Long> uids, String targetServerName) throws MailException {
        return changes.copy(uids, targetServerName);
    }

    /**
     * Removes messages from the open folder for good. Messages that another program has only marked as deleted are left
     * alone: where the server cannot remove single ones (RFC 4315) and there are such, these stay marked too.
     */
    public void remove(Collection<Long> uids) throws MailException {
        changes.remove(uids);
    }

    /** Sets or clears a flag such as {@code \Seen}, or a keyword, on messages of the open folder. */
    public void mark(Collection<Long> uids, String flag, boolean on) throws MailException {
        changes.mark(uids, flag, on);
    }

    /**
     * Adds a message to a folder.
     *
     * @return its UID, if the server tells (RFC 4315)
     */
    public OptionalLong append(String serverName, byte[] source, Instant received) throws MailException {
        return changes.append(serverName, source, received, new Flags());
    }

    /**
     * As {@link #append}, with flags such as {@code \\Seen} and keywords.
     *
     * @return its UID, if the server tells (RFC 4315)
     */
    public OptionalLong append(String serverName, byte[] source, Instant received, Collection<String> marks)
            throws MailException {
        Flags flags = new Flags();
        for (String mark : marks) {
            switch (mark) {
                case "\\Seen" -> flags.add(Flags.Flag.SEEN);
                case "\\Flagged" -> flags.add(Flags.Flag.FLAGGED);
                case "\\Answered" -> flags.add(Flags.Flag.ANSWERED);
                default -> flags.add(mark);
            }
        }
        return changes.append(serverName, source, received, flags);
    }

    /** As {@link #append}, for a message that the user wrote: there is nothing unread about it. */
    public OptionalLong appendSent(String serverName, byte[] source, Instant sent) throws MailException {
        return changes.append(serverName, source, sent, new Flags(Flags.Flag.SEEN));
    }

    /** Makes the folder of a path, unless it is there, and returns its name on this server. */
    public String create(FolderPath path) throws MailException {
        List<RemoteFolder> all = folders();
        String name = names.serverName(path);
        for (RemoteFolder there : all) {
            // One that is listed only because of what lies in it does not take mail until it is made.
            if (there.selectable()
                    && (there.path().equals(path) || there.serverName().equals(name))) {
                return there.serverName();
            }
        }
        try {
            wire.create(name);
            return name;
        } catch (ProtocolException e) {
            throw MailException.failed("make the folder " + path, e);
        }
    }

    /** Gives a folder another path, with all folders below it. */
    public String rename(String serverName, FolderPath path) throws MailException {
        String name = names.serverName(path);
        try {
            wire.rename(serverName, name);
            return name;
        } catch (ProtocolException e) {
            throw MailException.failed("rename the folder " + serverName, e);
        }
    }

    /** What the folder of a path is called on this server. */
    public String serverName(FolderPath path) {
        return names.serverName(path);
    }

    /** Deletes a folder with all that lies in it. */
    public void delete(String serverName) throws MailException {
        try {
            wire.delete(serverName);
        } catch (ProtocolException e) {
            throw MailException.failed("delete the folder " + serverName, e);
        }
    }

    /** Whether the server tells of changes by itself (RFC 2177). */
    public boolean canWatch() {
        return wire.hasCapability("IDLE");
    }

    /** Whether a look at all folders with nothing changed is one command (RFC 5819, RFC 7162). */
    public boolean looksCheaply() {
        return wire.hasCapability("LIST-STATUS") && wire.hasCapability("CONDSTORE");
    }

    /**
     * Waits in the open folder and calls back whenever the server says that something changed, and once when it
     * begins to listen: what came before that, it would not be told of. Returns only by an error: when the connection
     * breaks, is closed, or its patience ends.
     */
    public void watch(Runnable changed) throws MailException {
        try {
            wire.idleStart();
            changed.run();
            while (true) {
                Response response = wire.readIdleResponse();
                if (response == null || !wire.processIdleResponse(response)) {
                    throw new MailException(MailException.FailureKind.LOST, "The server stopped telling of changes.");
                }
                changed.run();
            }
        } catch (ProtocolException e) {
            throw MailException.failed("watch", e);
        }
    }

    /** Cuts the connection; a {@link #watch} in another thread ends. */
    @Override
    public void close() {
        closedHere = true;
        wire.cut();
    }

    /** Whether it was cut from here, so that what fails on it says nothing of the server. */
    public boolean isClosedHere() {
        return closedHere;
    }
}
