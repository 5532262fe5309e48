package app.schublade.sync;

import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
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
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Carries out an account's orders on its server. Those for one message are done in their order; those for several
 * messages that one command can do are done together. Every order is safe to repeat: a message that was moved already
 * is found in its new folder by its Message-ID.
 */
final class OrderRunner {
    private static final Logger LOG = LoggerFactory.getLogger(OrderRunner.class);
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
            if (e.kind() != MailException.Kind.REFUSED) {
                throw e;
            }
            LOG.warn("{} refused {} orders: {}", account.address(), ids.size(), e.getMessage());
            tools.orders().refused(ids, e.getMessage());
        }
        return true;
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
        Map<Long, Long> moved = Map.of();
        if (source.isPresent()) {
            imap.ensureOpen(source.get().serverName());
            moved = imap.move(uids(group), target.serverName());
        }
        for (Order order : group) {
            Long uid = moved.get(order.uid());
            locate(order, target, uid == null ? find(order, target) : uid);
        }
    }

    private void locate(Order order, Mailbox target, long uid) {
        if (uid > 0) {
            tools.mailboxes().locate(order.messageId(), target.id(), uid);
        } else {
            // Neither moved now nor found there: the next look at all folders finds it, or finds it gone.
            tools.mailboxes().vanished(List.of(order.messageId()));
        }
    }

    /** The UID of a message that an earlier try has moved; 0 if there is none. */
    private long find(Order order, Mailbox target) throws MailException {
        if (order.internetId().isEmpty()) {
            return 0;
        }
        imap.ensureOpen(target.serverName());
        for (long uid : imap.withMessageId(order.internetId())) {
            if (!tools.mailboxes().isKnown(target.id(), uid)) {
                return uid;
            }
        }
        return 0;
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
