package app.schublade.testing;

import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Handled;
import app.schublade.core.message.People;
import app.schublade.core.message.Trait;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.core.place.TraySorter;
import app.schublade.mail.FolderStatus;
import app.schublade.mail.MailHost;
import app.schublade.mail.Opened;
import app.schublade.mail.RemoteFolder;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.Mailbox;
import app.schublade.store.base.Zones;
import app.schublade.store.cabinet.TicklerStore;
import app.schublade.store.cabinet.TrayStore;
import app.schublade.store.filing.CountStore;
import app.schublade.store.filing.FilingStore;
import app.schublade.store.filing.MessageCopier;
import app.schublade.store.filing.OrderStore;
import app.schublade.store.filing.ServerLocationStore;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.find.IndexStore;
import app.schublade.store.intake.ConversationStore;
import app.schublade.store.intake.Incoming;
import app.schublade.store.intake.IntakeStore;
import app.schublade.store.intake.MailboxStore;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.SendingStore;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RuleOrderStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.user.NotificationStore;
import app.schublade.store.user.PeopleStore;
import app.schublade.store.user.UserStore;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;
import org.springframework.context.ApplicationContext;
import org.springframework.context.annotation.AnnotationConfigApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

/** The stores, on a database of their own or the office's, and words for what tests do with them. */
public final class Cabinet implements AutoCloseable {
    private static final AtomicLong NUMBERS = new AtomicLong();
    public static final Instant MORNING = Instant.parse("2026-11-23T08:00:00Z");

    private final ApplicationContext context;
    public final JdbcClient jdbc;
    public final PlaceStore places;
    public final AccountStore accounts;
    public final MessageStore messages;
    public final ListStore lists;
    public final RuleInputStore subjects;
    public final FilingStore filing;
    public final UndoStore undo;
    public final IntakeStore intake;
    public final IndexStore index;
    public final ConversationStore conversations;
    public final RuleStore rules;
    public final RuleOrderStore ruleOrder;
    public final OrderStore orders;
    public final MailboxStore mailboxes;
    public final ServerLocationStore copies;
    public final MessageCopier copier;
    public final UserStore users;
    public final PeopleStore people;
    public final TrayStore trays;
    public final NotificationStore notifications;
    public final OutgoingStore outgoing;
    public final SendingStore sending;
    public final TicklerStore tickler;
    public final Zones zones;

    /** Hands a cabinet of its own to each test class that asks for one. */
    public static final class Extension implements ParameterResolver {
        @Override
        public boolean supportsParameter(ParameterContext parameter, ExtensionContext context) {
            return parameter.getParameter().getType() == Cabinet.class;
        }

        @Override
        public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
            return context.getStore(ExtensionContext.Namespace.GLOBAL)
                    .getOrComputeIfAbsent(context.getRequiredTestClass(), type -> Cabinet.alone(), Cabinet.class);
        }
    }

    /** Stores and nothing else, on a new database. */
    public static Cabinet alone() {
        return on(Databases.fresh());
    }

    /** Stores and nothing else, on a database. */
    public static Cabinet on(String database) {
        Path key;
        try {
            key = Files.createTempDirectory("schublade").resolve("key");
        } catch (IOException e) {
            throw new UncheckedIOException("No place for the key file", e);
        }
        return new Cabinet(Stores.on(Stores.database(database, Databases.USER, Databases.PASSWORD, 6), key));
    }

    /** The stores of a running application. */
    public static Cabinet of(Office office) {
        return new Cabinet(office.context());
    }

    private Cabinet(ApplicationContext context) {
        this.context = context;
        jdbc = context.getBean(JdbcClient.class);
        places = context.getBean(PlaceStore.class);
        accounts = context.getBean(AccountStore.class);
        messages = context.getBean(MessageStore.class);
        lists = context.getBean(ListStore.class);
        subjects = context.getBean(RuleInputStore.class);
        filing = context.getBean(FilingStore.class);
        undo = context.getBean(UndoStore.class);
        intake = context.getBean(IntakeStore.class);
        index = context.getBean(IndexStore.class);
        conversations = context.getBean(ConversationStore.class);
        rules = context.getBean(RuleStore.class);
        ruleOrder = context.getBean(RuleOrderStore.class);
        orders = context.getBean(OrderStore.class);
        mailboxes = context.getBean(MailboxStore.class);
        copies = context.getBean(ServerLocationStore.class);
        copier = context.getBean(MessageCopier.class);
        users = context.getBean(UserStore.class);
        people = context.getBean(PeopleStore.class);
        trays = context.getBean(TrayStore.class);
        notifications = context.getBean(NotificationStore.class);
        outgoing = context.getBean(OutgoingStore.class);
        sending = context.getBean(SendingStore.class);
        tickler = context.getBean(TicklerStore.class);
        zones = context.getBean(Zones.class);
    }

    /** A store that has no name here. */
    public <T> T bean(Class<T> type) {
        return context.getBean(type);
    }

    public long user() {
        return users.add("user" + NUMBERS.incrementAndGet(), "Somebody", "-").id();
    }

    public Account account(long user, String code, String... aliases) {
        Account added = accounts.add(
                user,
                new Account.Draft(
                        code,
                        "Account " + code,
                        Tone.MOSS,
                        code.toLowerCase(java.util.Locale.ROOT) + user + "@quay.example",
                        List.of(aliases),
                        Account.Hosts.imap(new MailHost("127.0.0.1", 143, MailHost.Encryption.NONE, code)),
                        Account.Settings.USUAL,
                        "secret of " + code));
        // Its server is made up: no application that runs on this database is to look for it.
        jdbc.sql("update account set lease_owner = 'a test', lease_until = now() + interval '1 day' where id = ?")
                .param(added.id())
                .update();
        return added;
    }

    /** The account's Inbox, as opened on its server. */
    public Mailbox inbox(Account account) {
        return mailbox(account, "INBOX");
    }

    public Mailbox mailbox(Account account, String name) {
        FolderPath path = FolderPath.parse(name);
        Mailbox mailbox =
                mailboxes.mailbox(account, new RemoteFolder(name, path, SpecialUse.of(path, List.of()), true));
        return mailbox.uidValidity() == null
                ? mailboxes.opened(mailbox, new Opened(name, new FolderStatus(7, 1, 0, 0), true), 1)
                : mailbox;
    }

    /** A message as it is written; every text may be left empty. */
    public record TestMail(
            String from,
            String to,
            String subject,
            String text,
            Instant received,
            boolean unread,
            String id,
            List<String> references) {
        public static TestMail from(String from, String subject) {
            return new TestMail(from, "me@quay.example", subject, "Some text.", MORNING, true, "", List.of());
        }

        public TestMail to(String other) {
            return new TestMail(from, other, subject, text, received, unread, id, references);
        }

        public TestMail saying(String other) {
            return new TestMail(from, to, subject, other, received, unread, id, references);
        }

        public TestMail at(Instant other) {
            return new TestMail(from, to, subject, text, other, unread, id, references);
        }

        public TestMail read() {
            return new TestMail(from, to, subject, text, received, false, id, references);
        }

        /** With a Message-ID of its own, as an answer to others. */
        public TestMail named(String name, String... answered) {
            return new TestMail(from, to, subject, text, received, unread, name, List.of(answered));
        }

        private String ids() {
            return references.stream().map(one -> "<" + one + "@quay.example>").collect(Collectors.joining(" "));
        }

        byte[] source(long uid) {
            return """
                    From: %s
                    To: %s
                    Subject: %s
                    Message-ID: <%s@quay.example>
                    %sContent-Type: text/plain; charset=utf-8
                    Content-Transfer-Encoding: 8bit

                    %s
                    """.formatted(
                            from,
                            to,
                            subject,
                            id.isEmpty() ? "m" + uid : id,
                            references.isEmpty() ? "" : "References: " + ids() + "\n",
                            text)
                    .replace("\n", "\r\n")
                    .getBytes(StandardCharsets.UTF_8);
        }
    }

    /** From now on messages can be put on their way from the account; nobody is there to take them. */
    public void canSend(long account) {
        jdbc.sql("""
                        update account set out_host = '127.0.0.1', out_port = 9, out_encryption = 'NONE', out_login = 'x'
                        where id = ?
                        """).param(account).update();
    }

    /** Stores a message as it arrives in an Inbox, filed by the rules that are there. Returns its id. */
    public long arrives(Account account, TestMail letter) {
        return arrives(account, inbox(account), letter);
    }

    public long arrives(Account account, Mailbox mailbox, TestMail letter) {
        long uid = NUMBERS.incrementAndGet();
        intake.store(account, mailbox, List.of(incoming(account, mailbox, letter, uid)));
        return messageAt(mailbox, uid).orElseThrow();
    }

    /** Stores a message as it arrives in an Inbox, whatever is in it. Returns its id. */
    public long arrives(Account account, byte[] source) {
        return arrives(account, inbox(account), source, MORNING);
    }

    public long arrives(Account account, Mailbox mailbox, byte[] source, Instant received) {
        long uid = NUMBERS.incrementAndGet();
        intake.store(account, mailbox, List.of(incoming(account, mailbox, source, received, true, uid)));
        return messageAt(mailbox, uid).orElseThrow();
    }

    public Incoming incoming(Account account, Mailbox mailbox, TestMail letter, long uid) {
        return incoming(account, mailbox, letter.source(uid), letter.received(), letter.unread(), uid);
    }

    private Incoming incoming(
            Account account, Mailbox mailbox, byte[] source, Instant received, boolean unread, long uid) {
        ParsedMail mail = MimeReader.read(source);
        List<String> sentTo = account.ownAddresses().among(mail.recipients());
        RuleBook book = rules.book(account.userId());
        Set<Trait> traits = Reading.traits(account.ownAddresses(), mail);
        TraySorter.Sorted tray = trays.sorter(account.userId())
                .sort(mail.from(), mail.subject(), traits, !mail.references().isEmpty());
        State state =
                new State(mailbox.folderId(), unread, false, null, Set.of()).sorted(tray == null ? null : tray.tray());
        People known = people.of(account.userId());
        Verdict verdict = book.file(
                Reading.of(account.id(), account.ownAddresses(), mail, source.length, known.with(traits, mail.from()))
                        .groups(known.groupsOf(mail.from()))
                        .received(LocalDateTime.ofInstant(received, ZoneOffset.UTC))
                        .build(),
                state);
        return new Incoming(
                uid,
                mail.messageId(),
                received,
                source.length,
                source,
                mail,
                sentTo,
                account.ownAddresses().aliasIn(sentTo),
                account.ownAddresses().candidates(mail.envelopeTo(), mail.to()),
                traits,
                tray == null ? null : tray.reason(),
                Handled.elsewhere(false, false),
                state,
                verdict,
                Set.of());
    }

    /** Leaves a message as it was stored before there were the columns that rules ask for. */
    public void age(long message) {
        jdbc.sql("""
                        update message_head set traits = null, addressed_to = null, reply_to = null, attached = null
                        where message_id = ?
                        """).param(message).update();
    }

    public Optional<Long> messageAt(Mailbox mailbox, long uid) {
        return jdbc.sql("select message_id from server_copy where mailbox_id = ? and uid = ?")
                .params(mailbox.id(), uid)
                .query(Long.class)
                .optional();
    }

    public FolderRef folder(long user, String path) {
        return places.folder(user, FolderPath.parse(path));
    }

    /** A rule that files what comes from a domain. */
    public Rule filing(long user, String domain, String folder) {
        return new Rule(
                0,
                "From " + domain,
                true,
                List.of(Correspondent.sender(domain)),
                List.of(),
                List.of(new Effect.FileInto(folder(user, folder))),
                false);
    }

    /** Where a message lies, in words. */
    public String lies(long user, long message) {
        ListRow row = messages.row(user, message).orElseThrow();
        return places.of(user, null).folder(row.folderId()).orElseThrow().path().shown();
    }

    /** How many messages of an account there are. */
    public int messages(Account account) {
        return jdbc.sql("select count(*) from message where account_id = ?")
                .param(account.id())
                .query(Integer.class)
                .single();
    }

    /** Total and unread of a folder as the cabinet shows them: {@code "3/1"}. */
    public String counts(long user, String path) {
        return places.of(user, null).folders().stream()
                .filter(folder -> folder.path().shown().equals(path))
                .map(folder -> folder.total() + "/" + folder.unread())
                .findFirst()
                .orElse("none");
    }

    /** The counts of folders and labels, of all users, that are not true. */
    public List<CountStore.Wrong> wrongCounts() {
        CountStore counts = bean(CountStore.class);
        return jdbc.sql("select id from app_user").query(Long.class).list().stream()
                .flatMap(user -> counts.wrong(user).stream())
                .toList();
    }

    /** Orders waiting for an account, in words: {@code "MOVE 12 Schools"}, {@code "MARK 12 +\Seen"}. */
    public List<String> waiting(Account account) {
        return orders.next(account.id(), 1000).stream()
                .map(order -> order.kind() == OrderStore.OrderKind.MARK
                        ? "MARK %d %s%s".formatted(order.messageId(), order.on() ? "+" : "-", order.flag())
                        : "%s %d %s"
                                .formatted(
                                        order.kind(),
                                        order.messageId(),
                                        order.folderId() == 0
                                                ? ""
                                                : mailboxes
                                                        .path(order.folderId())
                                                        .shown()))
                .toList();
    }

    @Override
    public void close() {
        if (context instanceof AnnotationConfigApplicationContext own) {
            own.close();
        }
    }
}
