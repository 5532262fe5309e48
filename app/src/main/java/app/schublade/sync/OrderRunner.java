package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.core.message.Amount;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.Opened;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.filing.CopyDelivery;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.OrderStore.ServerOrder;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Carries out an account's orders on its server. Those for one message are done in their order; those for several
 * messages that one command can do are done together. Every order is safe to repeat: a message that was moved already
 * is found in its new folder by its Message-ID.
 */
final class OrderRunner {
    private static final int AT_ONCE = 1000;
    /** Bytes of the largest message that is carried over to another account. */
    private static final int MOST_CARRIED = 60 * 1024 * 1024;

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;
    private final FolderDoors doors;

    private final ServerFolders serverFolders;

    OrderRunner(Account account, WorkerTools tools, ImapConnection imap) {
        doors = new FolderDoors(account, tools, imap);
        serverFolders = new ServerFolders(account, tools, imap);
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /**
     * Carries out what is waiting; returns when nothing is. While folders are to be renamed everything waits: one that is
     * needed may still have the name of another one. They cannot be renamed here, for a look at them may be going on.
     *
     * @return false if the server has renumbered a folder, so that its messages must be looked at first
     */
    boolean run() throws MailException {
        for (List<ServerOrder> orders = next(); !orders.isEmpty() && !waitForNames(); orders = next()) {
            if (!carryOut(together(orders))) {
                return false;
            }
        }
        return true;
    }

    /** Whether folders are to be renamed first. */
    boolean waitForNames() {
        return !tools.mailboxes().toRename(account.id()).isEmpty();
    }

    private List<ServerOrder> next() {
        return tools.orders().next(account.id(), AT_ONCE);
    }

    /**
     * The first order and all that go with it and are not behind another order for the same message. What takes a whole
     * message along goes alone: memory holds one, and one that is refused leaves the others alone.
     */
    private static List<ServerOrder> together(List<ServerOrder> orders) {
        ServerOrder first = orders.get(0);
        if (first.kind() == OrderStore.OrderKind.FETCH || first.kind() == OrderStore.OrderKind.BRING) {
            return List.of(first);
        }
        List<ServerOrder> group = new ArrayList<>();
        Set<Long> behind = new HashSet<>();
        for (ServerOrder order : orders) {
            if (order.goesWith(first) && !behind.contains(order.messageId())) {
                group.add(order);
            }
            behind.add(order.messageId());
        }
        return group;
    }

    private boolean carryOut(List<ServerOrder> group) throws MailException {
        Optional<Mailbox> source = tools.mailboxes().byId(group.get(0).mailboxId());
        try {
            if (source.isPresent()) {
                source = current(source.get());
                if (source.isEmpty()) {
                    return false;
                }
            }
            return settle(
                    group,
                    switch (group.get(0).kind()) {
                        case MARK -> source.isPresent() ? mark(group, source.get()) : List.of();
                        case MOVE -> move(group, source);
                        case COPY -> source.isPresent() ? copy(group, source.get()) : List.of();
                        case FETCH -> source.isPresent() ? fetch(group.get(0), source.get()) : List.of();
                        case BRING -> bring(group.get(0));
                        case DELETE -> source.isPresent() ? delete(group, source.get()) : List.of();
                    });
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED && e.kind() != MailException.FailureKind.FULL) {
                throw e;
            }
            if (isFolderGone(group.get(0))) {
                return false;
            }
            List<ServerOrder> there = stillPresent(group, source);
            if (there.size() < group.size()) {
                return lose(group, there);
            }
            List<Long> ids = ids(group);
            tools.orders().refused(ids, e.getMessage());
            tools.progress().tell(account, "Refused for %s: %s".formatted(Amount.messages(ids.size()), e.getMessage()));
            return true;
        }
    }

    private static List<Long> ids(List<ServerOrder> orders) {
        return orders.stream().map(ServerOrder::id).toList();
    }

    private boolean settle(List<ServerOrder> group, List<ServerOrder> done) {
        tools.orders().done(ids(done));
        return done.size() == group.size() || lose(group, done);
    }

    /** The others are not where they were known to be: the next look at all folders finds them, or finds them gone. */
    private boolean lose(List<ServerOrder> group, List<ServerOrder> others) {
        List<ServerOrder> lost =
                group.stream().filter(order -> !others.contains(order)).toList();
        lost.forEach(order -> tools.copies().vanished(order.messageId()));
        tools.orders().hold(ids(lost));
        return false;
    }

    /** As far as can be told: nobody can look into a folder that the server does not open. */
    private List<ServerOrder> stillPresent(List<ServerOrder> group, Optional<Mailbox> source) throws MailException {
        try {
            return source.isPresent() ? present(group, source.get()) : group;
        } catch (MailException e) {
            if (e.kind() != MailException.FailureKind.REFUSED) {
                throw e;
            }
            return group;
        }
    }

    private List<ServerOrder> present(List<ServerOrder> group, Mailbox source) throws MailException {
        imap.ensureOpen(source.serverName());
        Set<Long> there = imap.present(uids(group));
        return group.stream().filter(order -> there.contains(order.uid())).toList();
    }

    /** Whether a folder that the order needs was renamed or deleted elsewhere; a look at everything finds out which. */
    private boolean isFolderGone(ServerOrder order) throws MailException {
        Set<String> there =
                imap.folders().stream().map(RemoteFolder::serverName).collect(Collectors.toSet());
        return Stream.of(
                        tools.mailboxes().byId(order.mailboxId()),
                        tools.mailboxes().mailboxOf(account.id(), order.folderId()))
                .flatMap(Optional::stream)
                .anyMatch(mailbox -> !there.contains(mailbox.serverName()));
    }

    /** Opens the folder; empty if it was renumbered: a UID of another UIDVALIDITY would name another message. */
    private Optional<Mailbox> current(Mailbox mailbox) throws MailException {
        Long known = mailbox.uidValidity();
        Opened opened = doors.open(mailbox);
        return known != null && opened.uidValidity() == known
                ? Optional.of(tools.mailboxes().permits(mailbox, opened))
                : Optional.empty();
    }

    /** Returns those that are done. */
    private List<ServerOrder> mark(List<ServerOrder> group, Mailbox source) throws MailException {
        ServerOrder first = group.get(0);
        String flag = first.flag();
        if (source.readOnly()) {
            throw MailException.readOnly(
                    source.serverName(), "what you marked is marked here, and cannot be told to the server");
        }
        if (flag == null || !(flag.startsWith("\\") || source.keywords())) {
            return group; // The server has no place for it.
        }
        imap.mark(uids(group), flag, first.on());
        return present(group, source);
    }

    /** What is certainly gone on the server goes from here. */
    private List<ServerOrder> delete(List<ServerOrder> group, Mailbox source) throws MailException {
        if (source.readOnly()) {
            throw MailException.readOnly(source.serverName(), "nothing can be deleted in it");
        }
        tools.orders().begun(ids(group));
        imap.ensureOpen(source.serverName());
        imap.remove(uids(group));
        Set<Long> left = imap.present(uids(group));
        tools.removal()
                .remove(
                        account.userId(),
                        group.stream()
                                .filter(order -> !left.contains(order.uid()))
                                .map(ServerOrder::messageId)
                                .toList());
        return group;
    }

    private static List<Long> uids(List<ServerOrder> group) {
        return group.stream().map(ServerOrder::uid).toList();
    }

    /** Returns those that are done. */
    private List<ServerOrder> move(List<ServerOrder> group, Optional<Mailbox> source) throws MailException {
        Mailbox target = serverFolders.folder(group.get(0).folderId());
        if (source.isPresent() && source.get().id() == target.id()) {
            return group;
        }
        if (source.isPresent() && source.get().readOnly()) {
            throw MailException.readOnly(
                    source.get().serverName(), "nothing can be moved out of it, to %s".formatted(target.serverName()));
        }
        List<ServerOrder> left = new ArrayList<>(group);
        if (source.isPresent()) {
            left = finish(left, source.get(), target);
            tools.orders().begun(ids(left));
        }
        Map<Long, Long> moved = Map.of();
        if (source.isPresent() && !left.isEmpty()) {
            imap.ensureOpen(source.get().serverName());
            moved = imap.move(uids(left), target.serverName());
        }
        List<ServerOrder> done = new ArrayList<>(group);
        done.removeAll(left);
        for (ServerOrder order : left) {
            long found = found(moved.getOrDefault(order.uid(), 0L), order, target);
            if (found > 0) {
                tools.copies().locate(order.messageId(), target.id(), found);
                done.add(order);
            }
        }
        return done;
    }

    /**
     * A move may have been cut off between copy and removal: where MOVE is missing, and on servers that die in the middle
     * of one. A copy is in the target already then; only the removal is made up for. Returns the orders that have still
     * to be begun.
     */
    private List<ServerOrder> finish(List<ServerOrder> group, Mailbox source, Mailbox target) throws MailException {
        List<ServerOrder> left = new ArrayList<>();
        for (ServerOrder order : group) {
            long copy = order.begun() ? find(order, target) : 0;
            if (copy > 0) {
                imap.ensureOpen(source.serverName());
                imap.remove(List.of(order.uid()));
                tools.copies().locate(order.messageId(), target.id(), copy);
            } else {
                left.add(order);
            }
        }
        return left;
    }

    /**
     * Returns those that are done. What lies in the target without a UID that the server told is the copy only if the
     * original is still where it was: else another program may have moved that one there.
     */
    private List<ServerOrder> copy(List<ServerOrder> group, Mailbox source) throws MailException {
        Mailbox target = serverFolders.folder(group.get(0).folderId());
        List<ServerOrder> done = new ArrayList<>();
        List<ServerOrder> left = new ArrayList<>();
        for (ServerOrder order : present(group, source)) {
            long made = order.begun() ? find(order, target) : 0;
            if (made > 0) {
                tools.delivery().copied(order, target.id(), made);
                done.add(order);
            } else {
                left.add(order);
            }
        }
        if (left.isEmpty()) {
            return done;
        }
        tools.orders().begun(ids(left));
        imap.ensureOpen(source.serverName());
        Map<Long, Long> made = imap.copy(uids(left), target.serverName());
        List<ServerOrder> there = made.size() == left.size() ? left : present(left, source);
        for (ServerOrder order : left) {
            long told = made.getOrDefault(order.uid(), 0L);
            long found = told > 0 || !there.contains(order) ? told : find(order, target);
            if (found > 0) {
                tools.delivery().copied(order, target.id(), found);
                done.add(order);
            }
        }
        return done;
    }

    /** Returns the order if it is done. */
    private List<ServerOrder> fetch(ServerOrder order, Mailbox source) throws MailException {
        imap.ensureOpen(source.serverName());
        for (Fetched one : imap.fetch(List.of(order.uid()), MOST_CARRIED)) {
            if (!one.isWhole()) {
                throw MailException.tooLarge(one.size(), MOST_CARRIED);
            }
            tools.delivery().fetched(order, one.source());
            return List.of(order);
        }
        return List.of();
    }

    private List<ServerOrder> bring(ServerOrder order) throws MailException {
        Mailbox target = serverFolders.folder(order.folderId());
        long uid = order.begun() ? find(order, target) : 0;
        if (uid == 0) {
            tools.orders().begun(List.of(order.id()));
            uid = append(order, target);
        }
        tools.delivery().brought(order, target.id(), uid);
        return List.of(order);
    }

    private long append(ServerOrder order, Mailbox target) throws MailException {
        CopyDelivery.Parcel parcel = tools.delivery().parcel(order.messageId());
        Set<String> marks = parcel.marks().stream()
                .filter(mark -> mark.startsWith("\\") || target.keywords())
                .collect(Collectors.toSet());
        long told = imap.append(target.serverName(), parcel.source(), parcel.received(), marks)
                .orElse(0);
        long found = found(told, order, target);
        if (found == 0) {
            throw MailException.notShown();
        }
        return found;
    }

    /** The UID that the server told, or else that of the message where it must be; 0 if it is not there. */
    private long found(long told, ServerOrder order, Mailbox target) throws MailException {
        return told > 0 ? told : find(order, target);
    }

    /** The UID of a message that an earlier try has put there; 0 if there is none. */
    private long find(ServerOrder order, Mailbox target) throws MailException {
        imap.ensureOpen(target.serverName());
        boolean byHeader = Identity.isDigest(order.identity());
        List<Long> candidates = byHeader ? imap.withSize(order.size()) : imap.withMessageId(order.identity());
        List<Long> unknown = new ArrayList<>(candidates);
        unknown.removeIf(uid -> tools.copies().isKnown(target.id(), uid));
        if (!byHeader) {
            return unknown.isEmpty() ? 0 : unknown.get(0);
        }
        return imap.fetchHeaders(unknown).stream()
                .filter(one -> Identity.of(one.source()).equals(order.identity()))
                .mapToLong(Fetched::uid)
                .findFirst()
                .orElse(0);
    }
}
