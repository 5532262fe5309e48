package app.schublade.web.compose;

import app.schublade.core.format.MailWriter;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.Transactions;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Begins messages and answers, and puts them on their way. */
@Component
public class Writing {
    /** So long a message that was sent can be taken back. */
    public static final Duration GRACE = Duration.ofSeconds(10);

    private static final Duration LATEST = Duration.ofDays(366);

    private static final int MAX_BODY = 500_000;
    /** So many messages go along with one. */
    private static final int MAX_FORWARDED = 50;

    private final OutgoingStore outgoing;
    private final OutgoingFileStore files;
    private final Transactions transactions;
    private final MessageStore messages;
    private final AccountStore accounts;
    private final Dates dates;
    private final Clock clock;

    Writing(
            OutgoingStore outgoing,
            OutgoingFileStore files,
            Transactions transactions,
            MessageStore messages,
            AccountStore accounts,
            Dates dates,
            Clock clock) {
        this.files = files;
        this.transactions = transactions;
        this.outgoing = outgoing;
        this.messages = messages;
        this.accounts = accounts;
        this.dates = dates;
        this.clock = clock;
    }

    /** An address that the user can write from. */
    public record Sender(Account account, String address) {
        /** As the form sends it. */
        public String value() {
            return account.id() + " " + address;
        }
    }

    /** All accounts' addresses; patterns are none, but one that was written to is offered for the answer. */
    List<Sender> senders(CurrentUser person, String chosen) {
        List<Sender> all = new ArrayList<>();
        for (Account account : accounts.of(person.id())) {
            all.add(new Sender(account, account.address()));
            account.aliases().stream()
                    .filter(alias -> !OwnAddresses.isPattern(alias))
                    .forEach(alias -> all.add(new Sender(account, alias)));
            boolean known = all.stream().anyMatch(one -> one.address().equalsIgnoreCase(chosen));
            if (!known
                    && !account.ownAddresses()
                            .among(List.of(new Address("", chosen)))
                            .isEmpty()) {
                all.add(new Sender(account, chosen));
            }
        }
        return all;
    }

    /** The id of a new, empty message from the user's first account. */
    long begin(CurrentUser person) {
        Account first = accounts.of(person.id()).stream()
                .findFirst()
                .orElseThrow(() -> new InputProblem("Add an account first: mail is sent from one."));
        DraftText text = new DraftText(first.id(), first.address(), "", "", "", "", signed("", first));
        return outgoing.begin(person.id(), text, null, null, List.of());
    }

    /** A message here, read from its source. */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    private record Opened(ListRow row, byte[] source, ParsedMail mail, Account account) {}

    private Optional<Opened> open(CurrentUser person, long message) {
        return messages.row(person.id(), message)
                .flatMap(row -> messages.source(person.id(), message)
                        .map(source -> new Opened(
                                row,
                                source,
                                MimeReader.read(source),
                                accounts.byId(person.id(), row.accountId()).orElseThrow())));
    }

    /**
     * The id of the answer to a message; the one that was begun already, if there is one: with the others, if all are meant.
     *
     * @param beginning what stands first in it; can be empty
     */
    Optional<Long> answer(CurrentUser person, long message, boolean all, String beginning) {
        return open(person, message).map(opened -> {
            Account account = opened.account;
            OutgoingMessage outline = OutgoingMessage.answer(
                    opened.mail,
                    account.ownAddresses(),
                    person.name(),
                    all,
                    "On " + dates.exact(opened.row.received()));
            Optional<Outgoing> begun = outgoing.draftFor(person.id(), message);
            if (begun.isPresent()) {
                addOthers(person, begun.get(), outline.cc());
                return begun.get().id();
            }
            DraftText text = new DraftText(
                    account.id(),
                    outline.from().email(),
                    MailWriter.typed(outline.to()),
                    MailWriter.typed(outline.cc()),
                    "",
                    outline.subject(),
                    beginning + signed(outline.text(), account));
            return outgoing.beginAnswer(person.id(), text, message, outline.inReplyTo(), outline.references());
        });
    }

    /** Those that the draft does not go to yet. */
    private void addOthers(CurrentUser person, Outgoing draft, List<Address> others) {
        DraftText text = draft.text();
        String known = (text.to() + " " + text.cc() + " " + text.bcc()).toLowerCase(Locale.ROOT);
        String missing = MailWriter.typed(
                others.stream().filter(one -> !known.contains(one.key())).toList());
        if (!missing.isEmpty()) {
            String cc = text.cc().isBlank() ? missing : text.cc() + ", " + missing;
            outgoing.keep(
                    person.id(),
                    draft.id(),
                    new DraftText(
                            text.accountId(), text.sender(), text.to(), cc, text.bcc(), text.subject(), text.body()));
        }
    }

    /**
     * The id of a new message that passes others on: one in its text, with its files; several, or if they are to be so, as they
     * came. Empty if none of them is there.
     */
    Optional<Long> forward(CurrentUser person, List<Long> ids, boolean attached) {
        List<Opened> all = ids.stream()
                .distinct()
                .limit(MAX_FORWARDED)
                .map(id -> open(person, id))
                .flatMap(Optional::stream)
                .toList();
        if (all.isEmpty()) {
            return Optional.empty();
        }
        Opened first = all.get(0);
        OutgoingMessage outline = OutgoingMessage.passingOn(
                first.mail, first.account.ownAddresses(), person.name(), dates.exact(first.row.written()));
        boolean asTheyCame = attached || all.size() > 1;
        DraftText text = new DraftText(
                first.account.id(),
                outline.from().email(),
                "",
                "",
                "",
                all.size() > 1 ? "Fwd: %d messages".formatted(all.size()) : outline.subject(),
                signed(asTheyCame ? "" : outline.text(), first.account));
        return Optional.of(transactions.in(() -> {
            long id = outgoing.begin(person.id(), text, null, null, List.of());
            List<OutgoingMessage.AttachedFile> along = asTheyCame
                    ? all.stream()
                            .map(one -> OutgoingMessage.asItCame(one.mail, one.source))
                            .toList()
                    : outline.files();
            along.forEach(file -> files.add(person.id(), id, file));
            return id;
        }));
    }

    /** The signature (RFC 3676, section 4.3) goes before what is quoted. */
    private static String signed(String text, Account account) {
        String signature = account.settings().signature().strip();
        return signature.isEmpty() ? text : "\n\n-- \n" + signature + "\n" + text;
    }

    /**
     * What the form sends.
     *
     * @param from as {@link Sender#value} gives it
     */
    public record WritingFields(
            String from, String to, String cc, @Nullable String bcc, String subject, String body) {}

    /** What was typed, if it may be sent from this account. */
    DraftText text(CurrentUser person, WritingFields typed) {
        if (typed.body().length() > MAX_BODY) {
            throw new InputProblem("This message has %,d characters; %,d is the limit."
                    .formatted(typed.body().length(), MAX_BODY));
        }
        String[] parts = typed.from().split(" ", 2);
        long account = parts[0].matches("\\d{1,18}") ? Long.parseLong(parts[0]) : 0;
        String address = parts.length < 2 ? "" : parts[1];
        Account owner = accounts.byId(person.id(), account)
                .filter(one -> !one.ownAddresses()
                        .among(List.of(new Address("", address)))
                        .isEmpty())
                .orElseThrow(() -> new InputProblem("“%s” is not one of your addresses.".formatted(address)));
        String bcc = typed.bcc() == null ? "" : typed.bcc();
        return new DraftText(owner.id(), address, typed.to(), typed.cc(), bcc, typed.subject(), typed.body());
    }

    /**
     * Puts a message on its way; it leaves when the time to take it back is over, or later.
     *
     * @param later what the user's clock shows then, or null
     * @return when it leaves
     * @throws InputProblem with a sentence for the user if it cannot be sent as it is
     */
    Instant send(
            CurrentUser person,
            Outgoing one,
            DraftText text,
            @Nullable LocalDateTime later,
            @Nullable Instant awaited) {
        List<Address> to = MailWriter.addresses(text.to());
        List<Address> cc = MailWriter.addresses(text.cc());
        MailWriter.addresses(text.bcc()); // They stand in no header.
        if (to.isEmpty()) {
            throw new InputProblem("To whom? Enter an address.");
        }
        Account account = accounts.byId(person.id(), text.accountId()).orElseThrow();
        if (account.hosts().sending() == null) {
            throw new InputProblem(
                    "%s has no server to send from yet. Enter one on its page.".formatted(account.name()));
        }
        Address from = new Address(person.name(), text.sender());
        OutgoingMessage plain = new OutgoingMessage(
                        from, to, cc, text.subject(), text.body(), one.inReplyTo(), one.references())
                .with(files.files(one.id()));
        OutgoingMessage outline = enclosed(person, one).map(plain::enclosing).orElse(plain);
        outgoing.keep(person.id(), one.id(), text);
        Instant now = clock.instant();
        Instant due = later == null ? now.plus(GRACE) : dates.instant(later);
        if (due.isBefore(now) || due.isAfter(now.plus(LATEST))) {
            throw new InputProblem("It can leave at any time from now on, up to a year from today.");
        }
        if (!outgoing.send(person.id(), one.id(), outline, later == null ? now : due, due, awaited)) {
            throw new InputProblem("It is on its way already.");
        }
        return due;
    }

    private Optional<OutgoingMessage.EnclosedMessage> enclosed(CurrentUser person, Outgoing one) {
        return Optional.ofNullable(one.forwards())
                .flatMap(forwards -> messages.source(person.id(), forwards.message())
                        .map(source -> new OutgoingMessage.EnclosedMessage(source, forwards.attached(), List.of())));
    }
}
