package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a person sees of a message, in lines, as it stands beside each message of the collection. */
final class Portrait {
    private Portrait() {}

    static String of(ParsedMail mail) {
        List<String> lines = new ArrayList<>();
        lines.add("From: " + shown(mail.from()));
        lines.add("To: " + shown(mail.to()));
        if (!mail.cc().isEmpty()) {
            lines.add("Cc: " + shown(mail.cc()));
        }
        lines.add("Subject: " + mail.subject());
        lines.add("Written: " + (mail.sent() == null ? "nothing" : mail.sent()));
        mail.attachments().forEach(part -> lines.add("File: " + shown(part)));
        mail.otherParts()
                .forEach(part -> lines.add(
                        "Also: %s, %s".formatted(part.name(), part.role().words())));
        mail.notes().forEach(note -> lines.add("Note: " + note));
        mail.cuts().forEach(cut -> lines.add("Left out: " + cut));
        Invitation invitation = mail.invitation();
        if (invitation != null) {
            lines.add("Event: " + shown(invitation));
        }
        return String.join("\n", lines) + "\n\n" + tidy(mail.text()) + "\n";
    }

    /** Without blanks at the ends of lines, which nobody sees. */
    private static String tidy(String text) {
        return text.lines()
                .map(String::stripTrailing)
                .collect(Collectors.joining("\n"))
                .strip();
    }

    private static String shown(List<Address> addresses) {
        return addresses.stream()
                .map(one -> one.name().isEmpty() ? one.email() : shown(one))
                .collect(Collectors.joining("; "));
    }

    private static String shown(Address address) {
        return (address.name() + " <" + address.email() + ">").strip();
    }

    private static String shown(Part part) {
        return "%s, %s, %d".formatted(part.name(), part.type(), part.size());
    }

    private static String shown(Invitation event) {
        String said = "%s | %s | %s | %s | %s | %s | %s"
                .formatted(
                        event.kind(),
                        event.what(),
                        shown(event.from()),
                        shown(event.to()),
                        event.where(),
                        event.organizer() == null ? "" : shown(event.organizer()),
                        shown(event.invited()));
        return said
                + (event.answer().isEmpty() ? "" : " | " + event.answer())
                + (event.repeats().isEmpty() ? "" : " | " + event.repeats());
    }

    private static String shown(Invitation.@Nullable EventTime time) {
        if (time == null) {
            return "";
        }
        return time.wholeDay()
                ? time.local().toLocalDate().toString()
                : time.instant() == null
                        ? time.local().toString()
                        : time.instant().toString();
    }
}
