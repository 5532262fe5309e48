package app.schublade.web.reader;

import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import app.schublade.preview.PdfPreview;
import app.schublade.store.message.MessageStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.ShownPicture;
import java.util.stream.IntStream;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** PDFs that came with a message are looked into as pictures: the file itself never runs in a browser here. */
@Controller
class PdfController {
    private static final int MOST_PAGES = 30;

    private final MessageStore messages;
    private final PdfPreview preview;

    PdfController(MessageStore messages, PdfPreview preview) {
        this.messages = messages;
        this.preview = preview;
    }

    private byte[] pdf(CurrentUser person, long id, String path) {
        ParsedMail mail = ReaderController.mail(messages, person, id);
        return InnerPath.parse(path)
                .flatMap(where -> where.part(mail))
                .filter(Part::isPdf)
                .map(Part::content)
                .orElseThrow(ReaderController::gone);
    }

    /** Its pages, each to be fetched when it comes into sight. */
    @GetMapping("/message/{id}/pages/{path}")
    String pages(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable String path,
            Model model) {
        int pages = preview.page(pdf(person, id, path), 0)
                .map(PdfPreview.PdfPage::pages)
                .orElse(0);
        model.addAttribute("address", "/message/%d/page/%s/".formatted(id, path));
        model.addAttribute("pages", pages);
        model.addAttribute(
                "shown",
                IntStream.rangeClosed(1, Math.min(pages, MOST_PAGES)).boxed().toList());
        return "reader/pages :: pages";
    }

    @GetMapping("/message/{id}/page/{path}/{number}")
    ResponseEntity<byte[]> page(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable String path,
            @PathVariable int number) {
        return preview.page(pdf(person, id, path), Math.min(Math.max(1, number), MOST_PAGES))
                .flatMap(page -> ShownPicture.of(page.png()))
                .orElseGet(() -> ResponseEntity.notFound().build());
    }
}
