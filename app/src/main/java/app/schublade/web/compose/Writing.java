package app.schublade.web.compose;

import app.schublade.core.filing.Sized;
import app.schublade.core.format.MailWriter;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.format.WrittenHtml;
import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.AliasStore;
import app.schublade.store.message.MessageStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.PlainCorrespondentStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Takes what is typed, and puts it on its way. */
@Component
public class Writing {
    /** So long a message that was sent can be taken back. */
    public static final Duration GRACE = Duration.ofSeconds(10);
    /** The hour of the day by which an answer is wanted. */
    private static final LocalTime AWAITED_FROM = LocalTime.of(17, 0);

    private static final Duration LATEST = Duration.ofDays(366);

    /** Of a message, in characters: what people write, and what they quote. */
    private static final int MAX_BODY = 500_000;

    private final OutgoingStore outgoing;
    private final OutgoingFileStore files;
    private final PlainCorrespondentStore plain;
    private final MessageStore messages;
    private final AccountStore accounts;
    private final AliasStore aliases;
    private final Dates dates;

    Writing(
            OutgoingStore outgoing,
            OutgoingFileStore files,
            PlainCorrespondentStore plain,
            MessageStore messages,
            AccountStore accounts,
            AliasStore aliases,
            Dates dates) {
        this.files = files;
        this.plain = plain;
        this.outgoing = outgoing;
        this.messages = messages;
        this.accounts = accounts;
        this.aliases = aliases;
        this.dates = dates;
    }

    /** An address that the user can write from, and what goes below what is written from it. */
    public record Sender(Account account, String address, String signature) {
        /** Whether an address for somebody alone can be made in its account. */
        public boolean makesAddresses() {
            return account.aliases().stream().anyMatch(OwnAddresses::makesAddresses);
        }

        /** As the form sends it. */
        public String value() {
            return account.id() + " " + address;
        }
    }

    /** All accounts' addresses; patterns are none, but one that was written to is offered for the answer. */
    List<Sender> senders(CurrentUser person, String chosen) {
        List<Sender> all = new ArrayList<>();
        for (Account account : accounts.of(person.id())) {
            AliasStore.Signatures signatures = aliases.signatures(account);
            all.add(sender(account, account.address(), signatures));
            account.aliases().stream()
                    .filter(alias -> !OwnAddresses.isPattern(alias))
                    .forEach(alias -> all.add(sender(account, alias, signatures)));
            boolean known = all.stream().anyMatch(one -> one.address().equalsIgnoreCase(chosen));
            if (!known
                    && !account.ownAddresses()
                            .among(List.of(new Address("", chosen)))
                            .isEmpty()) {
                all.add(sender(account, chosen, signatures));
            }
        }
        return all;
    }

    private static Sender sender(Account account, String address, AliasStore.Signatures signatures) {
        return new Sender(account, address, signatures.of(address));
    }

    /** The files that go along with it. */
    List<OutgoingFileStore.DraftFile> files(Outgoing one) {
        return files.of(one.id());
    }

    /**
     * What the form sends.
     *
     * @param from as {@link Sender#value} gives it
     * @param body as plain text
     * @param html the same with its formatting; empty where it has none
     */
    public record WritingFields(
            String from,
            String to,
            String cc,
            @Nullable String bcc,
            String subject,
            String body,
            @Nullable String html) {}

    /** What was typed, if it may be sent from this account. */
    DraftText text(CurrentUser person, WritingFields typed) {
        String formatted = typed.html() == null ? "" : typed.html();
        int length = Math.max(typed.body().length(), formatted.length());
        if (length > MAX_BODY) {
            throw new InputProblem("This message has %,d characters; %,d is the limit.".formatted(length, MAX_BODY));
        }
        Sender sender = sender(person, typed.from());
        String bcc = typed.bcc() == null ? "" : typed.bcc();
        String html = formatted.isBlank() ? null : WrittenHtml.clean(formatted);
        String body = html == null ? typed.body() : WrittenHtml.text(html);
        return new DraftText(
                sender.account().id(), sender.address(), typed.to(), typed.cc(), bcc, typed.subject(), body, html);
    }

    /** @param from as {@link Sender#value} gives it */
    Sender sender(CurrentUser person, String from) {
        String[] parts = from.split(" ", 2);
        long account = parts[0].matches("\\d{1,18}") ? Long.parseLong(parts[0]) : 0;
        String address = parts.length < 2 ? "" : parts[1];
        Account owner = accounts.byId(person.id(), account)
                .filter(one -> !one.ownAddresses()
                        .among(List.of(new Address("", address)))
                        .isEmpty())
                .orElseThrow(() -> new InputProblem("“%s” is not one of your addresses.".formatted(address)));
        return sender(owner, address, aliases.signatures(owner));
    }

    /**
     * Puts a message on its way as it was kept; it leaves when the time to take it back is over, or later.
     *
     * @param later what the user's clock shows then, or null
     * @param answeredBy the user is told if nobody has answered by the end of that day; null if not
     * @return when it leaves
     * @throws InputProblem with a sentence for the user if it cannot be sent as it is
     */
    Instant send(
            CurrentUser person,
            Outgoing one,
            DraftText text,
            @Nullable LocalDateTime later,
            @Nullable LocalDate answeredBy) {
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
        OutgoingMessage letter = new OutgoingMessage(
                        from, to, cc, text.subject(), text.body(), one.inReplyTo(), one.references())
                .formatted(text.html())
                .with(files.files(one.id()));
        OutgoingMessage outline = enclosed(person, one).map(letter::enclosing).orElse(letter);
        check(account, outline);
        Instant now = dates.now();
        Instant awaited = answeredBy == null ? null : dates.instant(answeredBy.atTime(AWAITED_FROM));
        Instant due = later == null ? now.plus(GRACE) : dates.instant(later);
        if (due.isBefore(now) || due.isAfter(now.plus(LATEST))) {
            throw new InputProblem("It can leave at any time from now on, up to a year from today.");
        }
        if (!outgoing.send(person.id(), one.id(), outline, later == null ? now : due, due, awaited)) {
            throw new InputProblem("It is on its way already.");
        }
        plain.wrote(person.id(), to, text.html() == null);
        return due;
    }

    /** A server refuses what is too large for it only when it has all of it; what it takes is known from the last time. */
    private void check(Account account, OutgoingMessage outline) {
        long limit = accounts.sendsUpTo(account.id()).orElse(Long.MAX_VALUE);
        long size = outline.estimatedSize();
        if (size > limit) {
            throw new InputProblem(
                    "The server of %s takes messages of up to %s; this one has about %s. Take out a file, or send it from another account."
                            .formatted(account.name(), Sized.inWords(limit), Sized.inWords(size)));
        }
    }

    private Optional<OutgoingMessage.EnclosedMessage> enclosed(CurrentUser person, Outgoing one) {
        return Optional.ofNullable(one.forwards())
                .flatMap(forwards -> messages.source(person.id(), forwards.message())
                        .map(source -> new OutgoingMessage.EnclosedMessage(source, forwards.attached(), List.of())));
    }
}
