package app.schublade.web.compose;

import app.schublade.core.format.MailWriter;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.format.WrittenHtml;
import app.schublade.core.message.Address;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.account.AliasStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.store.outgoing.PlainCorrespondentStore;
import app.schublade.web.compose.OpenedMessages.OpenedMessage;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Begins messages: new ones, answers, and those that pass others on. */
@Component
public class DraftMaker {
    private static final String EMPTY_PARAGRAPH = "<p><br></p>";
    /** So many messages go along with one. */
    private static final int MAX_FORWARDED = 50;

    private final OutgoingStore outgoing;
    private final OutgoingFileStore files;
    private final PlainCorrespondentStore plain;
    private final OpenedMessages opened;
    private final AccountStore accounts;
    private final AliasStore aliases;
    private final Dates dates;

    DraftMaker(
            OutgoingStore outgoing,
            OutgoingFileStore files,
            PlainCorrespondentStore plain,
            OpenedMessages opened,
            AccountStore accounts,
            AliasStore aliases,
            Dates dates) {
        this.outgoing = outgoing;
        this.files = files;
        this.plain = plain;
        this.opened = opened;
        this.accounts = accounts;
        this.aliases = aliases;
        this.dates = dates;
    }

    /**
     * The id of a new, empty message from the user's first account.
     *
     * @param to as it may be typed; can be empty
     */
    long begin(CurrentUser person, String to) {
        Account first = accounts.of(person.id()).stream()
                .findFirst()
                .orElseThrow(() -> new InputProblem("Add an account first: mail is sent from one."));
        DraftText text = new DraftText(
                first.id(),
                first.address(),
                to,
                "",
                "",
                "",
                signed("", first, first.address()),
                signedHtml("", "", first, first.address()));
        return outgoing.begin(person.id(), text, null, null, List.of());
    }

    /**
     * The id of the answer to a message; the one that was begun already, if there is one: with the others, if all are meant.
     *
     * @param beginning what stands first in it; can be empty
     * @param marked what alone of the message is quoted; empty for all of it
     */
    Optional<Long> answer(CurrentUser person, long message, boolean all, String beginning, String marked) {
        return opened.of(person, message).map(one -> {
            Account account = one.account();
            OutgoingMessage outline = OutgoingMessage.answer(
                    one.mail(),
                    account.ownAddresses(),
                    person.name(),
                    all,
                    "On " + dates.exact(one.row().received()),
                    marked);
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
                    beginning + signed(outline.text(), account, outline.from().email()),
                    plain.anyOf(person.id(), outline.to())
                            ? null
                            : signedHtml(
                                    WrittenHtml.of(beginning),
                                    formatting(outline),
                                    account,
                                    outline.from().email()));
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
            outgoing.keep(person.id(), draft.id(), text.copiedTo(cc), draft.edition());
        }
    }

    /**
     * The id of a new message that passes others on: one in its text, with its files; several, or if they are to be so, as they
     * came. Empty if none of them is there.
     */
    Optional<Long> forward(CurrentUser person, List<Long> ids, boolean attached) {
        List<OpenedMessage> all = ids.stream()
                .distinct()
                .limit(MAX_FORWARDED)
                .map(id -> opened.of(person, id))
                .flatMap(Optional::stream)
                .toList();
        if (all.isEmpty()) {
            return Optional.empty();
        }
        OpenedMessage first = all.get(0);
        OutgoingMessage outline = OutgoingMessage.passingOn(
                first.mail(),
                first.account().ownAddresses(),
                person.name(),
                dates.exact(first.row().written()));
        boolean asTheyCame = attached || all.size() > 1;
        DraftText text = new DraftText(
                first.account().id(),
                outline.from().email(),
                "",
                "",
                "",
                all.size() > 1 ? "Fwd: %d messages".formatted(all.size()) : outline.subject(),
                signed(
                        asTheyCame ? "" : outline.text(),
                        first.account(),
                        outline.from().email()),
                signedHtml(
                        "",
                        asTheyCame ? "" : formatting(outline),
                        first.account(),
                        outline.from().email()));
        List<OutgoingMessage.AttachedFile> along = asTheyCame
                ? all.stream()
                        .map(one -> OutgoingMessage.asItCame(one.mail(), one.source()))
                        .toList()
                : outline.files();
        List<Long> passedOn = all.stream().map(one -> one.row().id()).toList();
        return Optional.of(files.begin(() -> outgoing.passOn(person.id(), text, passedOn), along));
    }

    /** The signature (RFC 3676, section 4.3) goes before what is quoted. */
    private String signed(String text, Account account, String address) {
        String signature = aliases.signatures(account).of(address);
        return signature.isEmpty() ? text : "\n\n-- \n" + signature + "\n" + text;
    }

    /** The same with formatting: a paragraph to begin in, the signature, and what is quoted. */
    private String signedHtml(String beginning, String quoted, Account account, String address) {
        String signature = aliases.signatures(account).of(address);
        String signed = signature.isEmpty() ? "" : WrittenHtml.of("-- \n" + signature);
        return beginning + EMPTY_PARAGRAPH + signed + quoted;
    }

    private static String formatting(OutgoingMessage outline) {
        return outline.html() == null ? WrittenHtml.of(outline.text()) : outline.html();
    }
}
