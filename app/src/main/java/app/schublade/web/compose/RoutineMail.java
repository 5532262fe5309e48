package app.schublade.web.compose;

import app.schublade.core.filing.Routine;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.Acts;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.Outgoing;
import app.schublade.web.compose.OpenedMessages.OpenedMessage;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Sends what routines send without anybody opening it: passes messages on, and answers them, each by itself. */
@Component
public class RoutineMail {
    private static final int MOST = 50;

    private final Acts acts;
    private final OutgoingStore outgoing;
    private final OpenedMessages opened;
    private final PassingOn passingOn;
    private final DraftMaker drafts;
    private final Writing writing;
    private final Dates dates;

    RoutineMail(
            Acts acts,
            OutgoingStore outgoing,
            OpenedMessages opened,
            PassingOn passingOn,
            DraftMaker drafts,
            Writing writing,
            Dates dates) {
        this.passingOn = passingOn;
        this.drafts = drafts;
        this.acts = acts;
        this.outgoing = outgoing;
        this.opened = opened;
        this.writing = writing;
        this.dates = dates;
    }

    /**
     * Puts it on its way; it leaves when the time to take that back is over. Messages that are gone are passed over.
     *
     * @return whether it sends anything
     * @throws InputProblem with a sentence for the user if something cannot be sent, or is too much; nothing is on its way then
     */
    public boolean send(CurrentUser person, List<Long> messages, Routine routine) {
        if (!routine.sends()) {
            return false;
        }
        if (messages.size() > MOST) {
            throw new InputProblem(
                    "This would send something for each of %,d messages; %d at once is the limit. Select fewer."
                            .formatted(messages.size(), MOST));
        }
        LocalDate answeredBy = routine.answeredBy(dates.today());
        List<OpenedMessage> all = messages.stream()
                .map(message -> opened.of(person, message))
                .flatMap(Optional::stream)
                .toList();
        for (OpenedMessage one : all) {
            routine.forwards().forEach(step -> passingOn.send(person, one, step, answeredBy));
            routine.answersAtOnce().forEach(step -> answer(person, one, step.text(), answeredBy));
        }
        return true;
    }

    private void answer(CurrentUser person, OpenedMessage one, String said, @Nullable LocalDate answeredBy) {
        long message = one.row().id();
        if (outgoing.draftFor(person.id(), message).isPresent()) {
            throw new InputProblem("You are writing an answer to “%s” already. Send or discard that one first."
                    .formatted(one.mail().subject()));
        }
        Outgoing draft = drafts.answer(person, message, false, said, "")
                .flatMap(id -> outgoing.byId(person.id(), id))
                .orElseThrow();
        // From now on it is what somebody wrote: the message counts as answered by it.
        outgoing.keep(person.id(), draft.id(), draft.text(), draft.edition());
        writing.send(person, draft, draft.text(), null, answeredBy);
        acts.sent(draft.id(), draft.text().to());
    }
}
