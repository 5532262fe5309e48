package app.schublade.web.reader;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.ListStore;
import app.schublade.store.message.MessageStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import jakarta.servlet.http.HttpServletResponse;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** A message, or its whole conversation from the first message on, as a document to be printed. */
@Controller
class PrintController {
    private static final int MOST_MESSAGES = 100;

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
     */
    public record Printed(
            Contents contents, String when, @Nullable String html) {}

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
        List<Printed> printed = rows.stream()
                .map(row -> printed(person, row))
                .flatMap(Optional::stream)
                .toList();
        if (printed.isEmpty()) {
            throw new ResponseStatusException(
                    HttpStatus.NOT_FOUND, "This message is gone; its server no longer has it.");
        }
        response.setHeader("Content-Security-Policy", SafeHtml.PRINTED_POLICY);
        model.addAttribute("printed", printed);
        return "reader/print";
    }

    private Optional<Printed> printed(CurrentUser person, ListRow row) {
        return messages.source(person.id(), row.id()).map(source -> {
            ParsedMail mail = MimeReader.read(source);
            return new Printed(
                    new Contents(row.id(), "", mail),
                    dates.exact(row.received()),
                    mail.html() == null ? null : SafeHtml.body(mail));
        });
    }
}
