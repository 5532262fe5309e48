package app.schublade.web.compose;

import app.schublade.core.filing.Effect;
import app.schublade.core.format.MailWriter;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.format.OutgoingMessage.AttachedFile;
import app.schublade.core.format.WrittenHtml;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.PlainCorrespondentStore;
import app.schublade.web.compose.OpenedMessages.OpenedMessage;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Passes a message on to somebody without opening it, as routines do. */
@Component
class PassingOn {
    private final Acts acts;
    private final OutgoingStore outgoing;
    private final OutgoingFileStore files;
    private final Writing writing;
    private final PlainCorrespondentStore plain;
    private final Dates dates;

    PassingOn(
            Acts acts,
            OutgoingStore outgoing,
            OutgoingFileStore files,
            Writing writing,
            PlainCorrespondentStore plain,
            Dates dates) {
        this.plain = plain;
        this.acts = acts;
        this.outgoing = outgoing;
        this.files = files;
        this.writing = writing;
        this.dates = dates;
    }

    /**
     * Puts it on its way; it leaves when the time to take that back is over.
     *
     * @param answeredBy the user is told if nobody has answered by the end of that day; null if not
     * @throws InputProblem with a sentence for the user if it cannot be sent
     */
    void send(CurrentUser person, OpenedMessage one, Effect.Forward step, @Nullable LocalDate answeredBy) {
        OutgoingMessage outline = OutgoingMessage.passingOn(
                one.mail(),
                one.account().ownAddresses(),
                person.name(),
                dates.exact(one.row().written()));
        List<AttachedFile> along =
                step.attached() ? List.of(OutgoingMessage.asItCame(one.mail(), one.source())) : outline.files();
        String said = step.text().strip();
        String formatting = outline.html() == null ? WrittenHtml.of(outline.text()) : outline.html();
        String html = plain.anyOf(person.id(), MailWriter.addresses(step.to()))
                ? null
                : WrittenHtml.of(said) + (step.attached() ? "" : formatting);
        DraftText text = new DraftText(
                one.account().id(),
                outline.from().email(),
                step.to(),
                "",
                "",
                outline.subject(),
                step.attached() ? said : said + outline.text(),
                html);
        long id = files.begin(
                () -> outgoing.passOn(person.id(), text, List.of(one.row().id())), along);
        writing.send(person, outgoing.byId(person.id(), id).orElseThrow(), text, null, answeredBy);
        acts.sent(id, step.to());
    }
}
