package app.schublade.web.triage;

import app.schublade.web.frame.Dates;
import app.schublade.web.triage.DaySheets.DaySheet;
import java.util.ArrayList;
import java.util.List;

/** A day sheet as the text of a message. */
final class DayLetter {
    private final List<String> lines = new ArrayList<>();

    private DayLetter() {}

    static String of(DaySheet sheet, Dates dates) {
        DayLetter letter = new DayLetter();
        letter.lines.add("What happened by itself since %s, and what is open.".formatted(dates.exact(sheet.since())));
        letter.part(
                "What rules could not do",
                sheet.paused().stream()
                        .map(one -> "%s is paused: %s".formatted(one.name(), one.why()))
                        .toList());
        List<String> due = new ArrayList<>();
        sheet.due()
                .forEach(one -> due.add("%s: %s (%s)"
                        .formatted(
                                one.due() == null ? "" : dates.due(one.due()),
                                subject(one.subject()),
                                one.sender().shown())));
        if (sheet.moreDue()) {
            due.add("and more");
        }
        letter.part("Due today, and overdue", due);
        letter.part(
                "Back from the tickler",
                sheet.back() == 0 ? List.of() : List.of(messages(sheet.back()) + " in the Inbox"));
        letter.part(
                "Nobody answered",
                sheet.open().stream()
                        .map(one -> "%s (%s, asked %s)"
                                .formatted(subject(one.subject()), one.to(), dates.spoken(one.sent())))
                        .toList());
        letter.part(
                "Proposals",
                sheet.proposals().stream().map(Proposals.DayProposal::text).toList());
        letter.part(
                "Done by rules",
                sheet.filed().stream()
                        .map(one -> "%s %s by %s".formatted(messages(one.messages()), one.did(), one.rule()))
                        .toList());
        letter.part(
                "New in your folders",
                sheet.arrived().stream()
                        .map(one -> "%s: %s, %,d unread".formatted(one.name(), messages(one.messages()), one.unread()))
                        .toList());
        return String.join("\n", letter.lines) + "\n";
    }

    private void part(String title, List<String> of) {
        if (!of.isEmpty()) {
            lines.add("");
            lines.add(title);
            of.forEach(line -> lines.add("- " + line.replaceAll("\\s+", " ")));
        }
    }

    private static String subject(String subject) {
        return subject.isBlank() ? "(no subject)" : subject;
    }

    private static String messages(int number) {
        return number == 1 ? "1 message" : "%,d messages".formatted(number);
    }
}
