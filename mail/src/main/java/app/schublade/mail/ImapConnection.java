package app.schublade.mail;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import jakarta.mail.Flags;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.eclipse.angus.mail.iap.Argument;
import org.eclipse.angus.mail.iap.ByteArray;
import org.eclipse.angus.mail.iap.CommandFailedException;
import org.eclipse.angus.mail.iap.ConnectionException;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.CopyUID;
import org.eclipse.angus.mail.imap.protocol.BODY;
import org.eclipse.angus.mail.imap.protocol.FetchResponse;
import org.eclipse.angus.mail.imap.protocol.IMAPResponse;
import org.eclipse.angus.mail.imap.protocol.INTERNALDATE;
import org.eclipse.angus.mail.imap.protocol.ListInfo;
import org.eclipse.angus.mail.imap.protocol.MailboxInfo;
import org.eclipse.angus.mail.imap.protocol.RFC822SIZE;
import org.eclipse.angus.mail.imap.protocol.UID;
import org.eclipse.angus.mail.imap.protocol.UIDSet;
import org.jspecify.annotations.Nullable;

/**
 * A connection to one account's IMAP server (RFC 3501), for one thread at a time.
 *
 * <p>Messages are named by UID only, so that nothing another mail program does can shift them. What the server offers
 * (MOVE, UIDPLUS, IDLE) is used, and done without where it is missing.
 */
public final class ImapConnection implements AutoCloseable {
    /** How many messages one command names at the most. */
    private static final int MAX_SET = 1000;

    private final Wire wire;
    private char delimiter = '/';
    private @Nullable Opened open;

    private ImapConnection(Wire wire) {
        this.wire = wire;
    }

    /**
     * Connects and logs in.
     *
     * @param patience how long to wait for any one answer
     * @throws MailException of the kind AWAY or LOGIN_REFUSED
     */
    public static ImapConnection open(MailHost host, String password, Duration patience) throws MailException {
        Wire wire = Wire.connect(host, patience);
        try {
            wire.login(host.login(), password);
            wire.capability();
            return new ImapConnection(wire);
        } catch (CommandFailedException e) {
            wire.cut();
            throw new MailException(
                    MailException.Kind.LOGIN_REFUSED, host + " refused the password of " + host.login() + ".", e);
        } catch (ProtocolException e) {
            wire.cut();
            throw new MailException(MailException.Kind.AWAY, host + " did not let anybody in: " + e.getMessage(), e);
        }
    }

    /** All folders of the account. Names that cannot be a path here are left out. */
    public List<RemoteFolder> folders() throws MailException {
        try {
            List<RemoteFolder> folders = new ArrayList<>();
            for (ListInfo info : listed()) {
                delimiter = info.separator == 0 ? '/' : info.separator;
                remote(info).ifPresent(folders::add);
            }
            return folders;
        } catch (ProtocolException e) {
            throw failed("list the folders", e);
        }
    }

    private ListInfo[] listed() throws ProtocolException {
        ListInfo[] found = wire.list("", "*");
        return found == null ? new ListInfo[0] : found;
    }

    private java.util.Optional<RemoteFolder> remote(ListInfo info) {
        try {
            String[] names = info.name.split(java.util.regex.Pattern.quote(String.valueOf(delimiter)), -1);
            FolderPath path = new FolderPath(Arrays.stream(names)
                    .map(name -> name.replace('/', '\u2215').strip())
                    .toList());
            List<String> attributes = info.attrs == null ? List.of() : List.of(info.attrs);
            return java.util.Optional.of(
                    new RemoteFolder(info.name, path, SpecialUse.of(path, attributes), info.canOpen));
        } catch (IllegalArgumentException e) {
            return java.util.Optional.empty();
        }
    }

    /** Opens a folder; the commands that name UIDs work on it. */
    public Opened open(String serverName) throws MailException {
        try {
            MailboxInfo info = wire.select(serverName);
            boolean keywords = info.permanentFlags != null && info.permanentFlags.contains(Flags.Flag.USER);
            open = new Opened(serverName, info.uidvalidity, info.uidnext, info.total, keywords);
            return open;
        } catch (ProtocolException e) {
            open = null;
            throw failed("open the folder " + serverName, e);
        }
    }

    /** The open folder, if it is the one named; it is opened otherwise. */
    public Opened ensureOpen(String serverName) throws MailException {
        return open != null && open.serverName().equals(serverName) ? open : open(serverName);
    }

    /** Which messages lie in the open folder and how they are marked, from a UID on. */
    public List<Sighting> sightings(long fromUid) throws MailException {
        List<Sighting> sightings = new ArrayList<>();
        for (FetchResponse answer : fetch(fromUid + ":*", "UID FLAGS")) {
            // "n:*" names the last message even if its UID is below n (RFC 3501, section 6.4.8).
            Sighting sighting = sighting(answer);
            if (sighting != null && sighting.uid() >= fromUid) {
                sightings.add(sighting);
            }
        }
        return sightings;
    }

    /**
     * Fetches messages of the open folder without marking them as read.
     *
     * @param maxBytes of a larger message only the beginning is fetched
     */
    public List<Fetched> fetch(Collection<Long> uids, int maxBytes) throws MailException {
        return fetched(uids, "UID FLAGS INTERNALDATE RFC822.SIZE BODY.PEEK[]<0." + maxBytes + ">");
    }

    /** Fetches what is needed to recognise messages that are known already: size and the Message-ID header. */
    public List<Fetched> fetchIds(Collection<Long> uids) throws MailException {
        return fetched(uids, "UID FLAGS INTERNALDATE RFC822.SIZE BODY.PEEK[HEADER.FIELDS (MESSAGE-ID)]");
    }

    private List<Fetched> fetched(Collection<Long> uids, String items) throws MailException {
        List<Fetched> all = new ArrayList<>();
        for (List<Long> some : inSets(uids)) {
            for (FetchResponse answer : fetch(set(some), items)) {
                Sighting sighting = sighting(answer);
                BODY body = answer.getItem(BODY.class);
                RFC822SIZE size = answer.getItem(RFC822SIZE.class);
                if (sighting != null && body != null && size != null) {
                    all.add(new Fetched(
                            sighting, received(answer), (int) Math.min(size.size, Integer.MAX_VALUE), bytes(body)));
                }
            }
        }
        return all;
    }

    private static Instant received(FetchResponse answer) {
        INTERNALDATE date = answer.getItem(INTERNALDATE.class);
        return date == null || date.getDate() == null
                ? Instant.now()
                : date.getDate().toInstant();
    }

    private static byte[] bytes(BODY body) {
        ByteArray content = body.getByteArray();
        return content == null
                ? new byte[0]
                : Arrays.copyOfRange(content.getBytes(), content.getStart(), content.getStart() + content.getCount());
    }

    private List<FetchResponse> fetch(String set, String items) throws MailException {
        try {
            Argument arguments = new Argument();
            arguments.writeAtom(set);
            arguments.writeAtom("(" + items + ")");
            List<FetchResponse> fetched = new ArrayList<>();
            for (Response answer : wire.ask("UID FETCH", arguments)) {
                if (answer instanceof FetchResponse response) {
                    fetched.add(response);
                }
            }
            return fetched;
        } catch (ProtocolException e) {
            throw failed("fetch messages", e);
        }
    }

    private static @Nullable Sighting sighting(FetchResponse answer) {
        UID uid = answer.getItem(UID.class);
        Flags flags = answer.getItem(org.eclipse.angus.mail.imap.protocol.FLAGS.class);
        if (uid == null || flags == null) {
            return null;
        }
        Set<String> keywords = new TreeSet<>();
        for (String keyword : flags.getUserFlags()) {
            keywords.add(keyword.toLowerCase(Locale.ROOT));
        }
        return new Sighting(
                uid.uid,
                flags.contains(Flags.Flag.SEEN),
                flags.contains(Flags.Flag.FLAGGED),
                flags.contains(Flags.Flag.DELETED),
                keywords);
    }

    /**
     * Moves messages from the open folder into another (RFC 6851; by copy and removal where MOVE is missing). UIDs that
     * are gone are passed over.
     *
     * @return the new UID of each message that the server told it for (RFC 4315)
     */
    public Map<Long, Long> move(Collection<Long> uids, String targetServerName) throws MailException {
        try {
            Map<Long, Long> moved = new HashMap<>();
            for (List<Long> some : inSets(uids)) {
                moved.putAll(moveSet(some, targetServerName));
            }
            return moved;
        } catch (ProtocolException e) {
            throw failed("move messages into " + targetServerName, e);
        }
    }

    private Map<Long, Long> moveSet(List<Long> uids, String target) throws ProtocolException, MailException {
        Argument arguments = new Argument();
        arguments.writeAtom(set(uids));
        wire.writeMailbox(arguments, target);
        if (wire.hasCapability("MOVE")) {
            return pairs(wire.copied(wire.ask("UID MOVE", arguments)));
        }
        Map<Long, Long> moved = pairs(wire.copied(wire.ask("UID COPY", arguments)));
        mark(uids, "\\Deleted", true);
        if (wire.hasCapability("UIDPLUS")) {
            wire.uidexpunge(UIDSet.createUIDSets(
                    uids.stream().mapToLong(Long::longValue).toArray()));
        } else {
            wire.expunge();
        }
        return moved;
    }

    private static Map<Long, Long> pairs(@Nullable CopyUID copied) {
        Map<Long, Long> pairs = new HashMap<>();
        if (copied != null) {
            long[] from = UIDSet.toArray(copied.src);
            long[] to = UIDSet.toArray(copied.dst);
            for (int i = 0; i < Math.min(from.length, to.length); i++) {
                pairs.put(from[i], to[i]);
            }
        }
        return pairs;
    }

    /** Sets or clears a flag such as {@code \Seen}, or a keyword, on messages of the open folder. */
    public void mark(Collection<Long> uids, String flag, boolean on) throws MailException {
        try {
            for (List<Long> some : inSets(uids)) {
                Argument arguments = new Argument();
                arguments.writeAtom(set(some));
                arguments.writeAtom(on ? "+FLAGS.SILENT" : "-FLAGS.SILENT");
                arguments.writeAtom("(" + flag + ")");
                wire.ask("UID STORE", arguments);
            }
        } catch (ProtocolException e) {
            throw failed("set " + flag, e);
        }
    }

    /** UIDs of the open folder's messages with this Message-ID. */
    public List<Long> withMessageId(String messageId) throws MailException {
        try {
            Argument arguments = new Argument();
            arguments.writeAtom("HEADER Message-ID");
            arguments.writeString(messageId);
            List<Long> uids = new ArrayList<>();
            for (Response answer : wire.ask("UID SEARCH", arguments)) {
                if (answer instanceof IMAPResponse found && found.keyEquals("SEARCH")) {
                    for (long uid = answer.readLong(); uid > 0; uid = answer.readLong()) {
                        uids.add(uid);
                    }
                }
            }
            return uids;
        } catch (ProtocolException e) {
            throw failed("search", e);
        }
    }

    /**
     * Makes the folder of a path, unless it is there, and returns its name on this server. A name that contains the
     * server's delimiter gets a similar sign instead.
     */
    public String create(FolderPath path) throws MailException {
        List<RemoteFolder> there = folders();
        String name = path.names().stream()
                .map(part -> part.replace(delimiter, delimiter == '.' ? '\u2024' : '-'))
                .collect(Collectors.joining(String.valueOf(delimiter)));
        if (there.stream().anyMatch(folder -> folder.serverName().equals(name))) {
            return name;
        }
        try {
            wire.create(name);
            return name;
        } catch (ProtocolException e) {
            throw failed("make the folder " + path, e);
        }
    }

    /** Whether the server tells of changes by itself (RFC 2177). */
    public boolean canWatch() {
        return wire.hasCapability("IDLE");
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
                    throw new MailException(MailException.Kind.LOST, "The server stopped telling of changes.");
                }
                changed.run();
            }
        } catch (ProtocolException e) {
            throw failed("watch", e);
        }
    }

    private MailException failed(String what, ProtocolException e) {
        boolean lost = e instanceof ConnectionException || !(e instanceof CommandFailedException);
        return new MailException(
                lost ? MailException.Kind.LOST : MailException.Kind.REFUSED,
                "The server could not " + what + ": " + e.getMessage(),
                e);
    }

    private static List<List<Long>> inSets(Collection<Long> uids) {
        List<Long> sorted = uids.stream().sorted().toList();
        List<List<Long>> sets = new ArrayList<>();
        for (int i = 0; i < sorted.size(); i += MAX_SET) {
            sets.add(sorted.subList(i, Math.min(sorted.size(), i + MAX_SET)));
        }
        return sets;
    }

    private static String set(List<Long> uids) {
        return UIDSet.toString(
                UIDSet.createUIDSets(uids.stream().mapToLong(Long::longValue).toArray()));
    }

    /** Cuts the connection; a {@link #watch} in another thread ends. */
    @Override
    public void close() {
        wire.cut();
    }
}
