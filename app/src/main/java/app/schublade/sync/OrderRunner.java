package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.mail.Fetched;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.Account;
import app.schublade.store.Mailbox;
import app.schublade.store.OrderStore.Order;
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

    private final Account account;
    private final WorkerTools tools;
    private final ImapConnection imap;

    OrderRunner(Account account, WorkerTools tools, ImapConnection imap) {
        this.account = account;
        this.tools = tools;
        this.imap = imap;
    }

    /**
     * Carries out what is waiting; returns when nothing is.
     *
     * @return false if the server has renumbered a folder, so that its messages must be looked at first
     */
    boolean run() throws MailException {
        for (List<Order> orders = next(); !orders.isEmpty(); orders = next()) {
            if (!carryOut(together(orders))) {
                return false;
            }
        }
        return true;
    }

    private List<Order> next() {
        return tools.orders().next(account.id(), AT_ONCE);
    }

    /** The first order and all that go with it and are not behind another order for the same message. */
    private static List<Order> together(List<Order> orders) {
        Order first = orders.get(0);
        List<Order> group = new ArrayList<>();
        Set<Long> behind = new HashSet<>();
        for (Order order : orders) {
            if (order.goesWith(first) && !behind.contains(order.messageId())) {
                group.add(order);
            }
            behind.add(order.messageId());
        }
        return group;
    }

    private boolean carryOut(List<Order> group) throws MailException {
        List<Long> ids = group.stream().map(Order::id).toList();
        try {
            Optional<Mailbox> source = tools.mailboxes().byId(group.get(0).mailboxId());
            if (source.isPresent() && !isCurrent(source.get())) {
                return false;
            }
            switch (group.get(0).kind()) {
                case MARK -> mark(group, source);
                case MOVE -> move(group, source);
            }
            tools.orders().done(ids);
        } catch (MailException e) {
            if (e.kind() != MailException.Kind.REFUSED && e.kind() != MailException.Kind.FULL) {
                throw e;
            }
            if (isFolderGone(group.get(0))) {
                return false;
            }
            tools.orders().refused(ids, e.getMessage());
            tools.progress().tell(account, "Refused for %,d messages: %s".formatted(ids.size(), e.getMessage()));
        }
        return true;
    }

    /** Whether a folder that the order needs was renamed or deleted elsewhere; a look at everything finds out which. */
    private boolean isFolderGone(Order order) throws MailException {
        Set<String> there =
                imap.folders().stream().map(RemoteFolder::serverName).collect(Collectors.toSet());
        return Stream.of(
                        tools.mailboxes().byId(order.mailboxId()),
                        tools.mailboxes().mailboxOf(account.id(), order.folderId()))
                .flatMap(Optional::stream)
                .anyMatch(mailbox -> !there.contains(mailbox.serverName()));
    }

    /** Opens the folder; a UID of another UIDVALIDITY would name another message. */
    private boolean isCurrent(Mailbox mailbox) throws MailException {
        Long known = mailbox.uidValidity();
        return known != null && imap.ensureOpen(mailbox.serverName()).uidValidity() == known;
    }

    private void mark(List<Order> group, Optional<Mailbox> source) throws MailException {
        Order first = group.get(0);
        String flag = first.flag();
        if (source.isEmpty() || flag == null) {
            return; // The message is gone from the server; so is the need for a mark.
        }
        if (flag.startsWith("\\") || source.get().keywords()) {
            imap.mark(uids(group), flag, first.on());
        }
    }

    private static List<Long> uids(List<Order> group) {
        return group.stream().map(Order::uid).toList();
    }

    private void move(List<Order> group, Optional<Mailbox> source) throws MailException {
        Mailbox target = target(group.get(0).folderId());
        if (source.isPresent() && source.get().id() == target.id()) {
            return;
        }
        List<Order> left = new ArrayList<>(group);
        if (source.isPresent()) {
            left = finish(left, source.get(), target);
            tools.orders().begun(left.stream().map(Order::id).toList());
        }
        Map<Long, Long> moved = Map.of();
        if (source.isPresent() && !left.isEmpty()) {
            imap.ensureOpen(source.get().serverName());
            moved = imap.move(uids(left), target.serverName());
        }
        for (Order order : left) {
            Long uid = moved.get(order.uid());
            locate(order, target, uid == null ? find(order, target) : uid);
        }
    }

    /**
     * A move may have been cut off between copy and removal: where MOVE is missing, and on servers that die in the middle
     * of one. A copy is in the target already then; only the removal is made up for. Returns the orders that have still
     * to be begun.
     */
    private List<Order> finish(List<Order> group, Mailbox source, Mailbox target) throws MailException {
        List<Order> left = new ArrayList<>();
        for (Order order : group) {
            long copy = order.begun() ? find(order, target) : 0;
            if (copy > 0) {
                imap.ensureOpen(source.serverName());
                imap.remove(List.of(order.uid()));
                locate(order, target, copy);
            } else {
                left.add(order);
            }
        }
        return left;
    }

    private void locate(Order order, Mailbox target, long uid) {
        if (uid > 0) {
            tools.copies().locate(order.messageId(), target.id(), uid);
        } else {
            // Neither moved now nor found there: the next look at all folders finds it, or finds it gone.
            tools.copies().vanished(order.messageId());
        }
    }

    /** The UID of a message that an earlier try has moved; 0 if there is none. */
    private long find(Order order, Mailbox target) throws MailException {
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

    /** The account's folder for a folder of the cabinet; made on the server when first needed. */
    private Mailbox target(long folderId) throws MailException {
        Optional<Mailbox> known = tools.mailboxes().mailboxOf(account.id(), folderId);
        if (known.isPresent()) {
            return known.get();
        }
        FolderPath path = tools.mailboxes().path(folderId);
        String serverName = imap.create(path);
        RemoteFolder made = new RemoteFolder(serverName, path, SpecialUse.of(path, List.of()), true);
        Mailbox mailbox = tools.mailboxes().mailbox(account, made);
        return tools.mailboxes().opened(mailbox, imap.open(serverName), 0);
    }
}
