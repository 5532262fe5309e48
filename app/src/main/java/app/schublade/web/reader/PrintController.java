package app.schublade.web.reader;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.message.MessageStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;

/** A message, or its whole conversation from the first message on, as a document to be printed. */
@Controller
class PrintController {
    private static final int MOST_MESSAGES = 100;
    /** Characters of HTML in one document, and how long it may take to make; what comes after that is printed as text. */
    private static final int MOST_HTML = 20_000_000;

    private static final Duration MOST_TIME = Duration.ofSeconds(15);

    private final MessageStore messages;
    private final ListStore lists;
    private final Dates dates;

    PrintController(MessageStore messages, ListStore lists, Dates dates) {
        this.messages = messages;
        this.lists = lists;
        this.dates = dates;
    }

    /**
     * A message on paper.
     *
     * @param html what it says, sanitised; null if it is text alone
     * @param cut whether its HTML is left out because there is too much of it before
     */
    public record Printed(
            Contents contents, String when, @Nullable String html, boolean cut) {}

    /** How much one document still may hold. */
    private static final class Room {
        private final long end = System.nanoTime() + MOST_TIME.toNanos();
        private int html = MOST_HTML;

        boolean isLeft() {
            return html > 0 && System.nanoTime() < end;
        }

        String take(String body) {
            html -= body.length();
            return body;
        }
    }

    @GetMapping("/message/{id}/print")
    String print(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(defaultValue = "false") boolean conversation,
            HttpServletResponse response,
            Model model) {
        List<ListRow> rows = new ArrayList<>();
        messages.row(person.id(), id).ifPresent(rows::add);
        if (conversation) {
            lists.conversationOf(person.id(), id, MOST_MESSAGES).stream()
                    .map(ListStore.ListLine::row)
                    .filter(row -> row.id() != id)
                    .forEach(rows::add);
            rows.sort(Comparator.comparing(ListRow::received).thenComparing(ListRow::id));
        }
        Room room = new Room();
        List<Printed> printed = rows.stream()
                .map(row -> printed(person, row, room))
                .flatMap(Optional::stream)
                .toList();
        if (printed.isEmpty()) {
            throw ReaderController.gone();
        }
        response.setHeader("Content-Security-Policy", SafeHtml.PRINTED_POLICY);
        model.addAttribute("printed", printed);
        return "reader/print";
    }

    private Optional<Printed> printed(CurrentUser person, ListRow row, Room room) {
        return messages.source(person.id(), row.id()).map(source -> {
            ParsedMail mail = MimeReader.read(source);
            boolean cut = mail.html() != null && !room.isLeft();
            String html = mail.html() == null || cut ? null : room.take(SafeHtml.body(mail));
            return new Printed(new Contents(row.id(), "", mail, false), dates.exact(row.received()), html, cut);
        });
    }
}
