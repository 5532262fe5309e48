package app.schublade.web.reader;

import app.schublade.core.format.Invitation;
import app.schublade.core.format.Invitation.EventTime;
import app.schublade.core.message.Address;
import app.schublade.web.frame.Dates;
import java.time.Instant;
import java.time.LocalDateTime;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Says what an invitation says, in the reader's time. */
@Component("invitations")
public class InvitationWords {
    private final Dates dates;

    public InvitationWords(Dates dates) {
        this.dates = dates;
    }

    /** What it is about the event: {@code "Invitation"}, {@code "Anna accepts"}. */
    public String title(Invitation invitation) {
        Address first =
                invitation.invited().isEmpty() ? null : invitation.invited().get(0);
        return switch (invitation.kind()) {
            case REQUEST -> "Invitation";
            case ANSWER -> (first == null ? "Somebody" : first.shown()) + " " + invitation.answer();
            case CANCELLATION -> "Called off";
            case OTHER_TIME_WANTED -> "Another time is wanted";
            case ENTRY -> "Event";
        };
    }

    /** When it is; empty where nothing is said. */
    public String when(Invitation invitation) {
        EventTime from = invitation.from();
        if (from == null) {
            return "";
        }
        EventTime to = invitation.to();
        String begins = said(from, null);
        String ends = to == null ? "" : said(to, from);
        return ends.isEmpty() ? begins : begins + " to " + ends;
    }

    /** Without the day, if it is that of another time already said; empty if it is the same in all. */
    private String said(EventTime time, @Nullable EventTime before) {
        LocalDateTime local = local(time);
        LocalDateTime other = before == null ? null : local(before);
        boolean sameDay = other != null && other.toLocalDate().equals(local.toLocalDate());
        if (time.wholeDay()) {
            return sameDay ? "" : dates.longDay(local.toLocalDate());
        }
        if (local.equals(other)) {
            return "";
        }
        return sameDay ? dates.clock(local) : dates.exact(local);
    }

    private LocalDateTime local(EventTime time) {
        Instant instant = time.instant();
        return instant == null ? time.local() : dates.local(instant);
    }
}
