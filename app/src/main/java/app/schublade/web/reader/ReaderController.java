package app.schublade.web.reader;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.OutsidePictures;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.message.MessageStore;
import app.schublade.sync.WholeMessages;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.ShownPicture;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** One message: the sheet, its HTML as a document of its own, its attachments. */
@Controller
class ReaderController {
    static final String SECURITY_POLICY = "Content-Security-Policy";

    private final SheetMaker sheets;
    private final StripMaker strips;
    private final MessageStore messages;
    private final WholeMessages wholes;

    ReaderController(SheetMaker sheets, StripMaker strips, MessageStore messages, WholeMessages wholes) {
        this.strips = strips;
        this.wholes = wholes;
        this.sheets = sheets;
        this.messages = messages;
    }

    @GetMapping("/message/{id}")
    String sheet(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestHeader(name = "HX-Request", required = false) String fromPage,
            @RequestHeader(name = "HX-Target", required = false) String target,
            Model model) {
        Sheet sheet = sheets.make(person, id).orElseThrow(ReaderController::gone);
        if (fromPage == null) {
            return "redirect:/mail/folder/" + sheet.row().folderId() + "?open=" + id;
        }
        model.addAttribute("sheet", sheet);
        model.addAttribute("slots", strips.slots(person, sheet, null));
        return "slots".equals(target) ? "reader/sheet :: slotsAlone" : "reader/sheet :: sheetAndStrip";
    }

    /** The sheet when no message is open. */
    @GetMapping("/message/none")
    String noSheet(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("sheet", null);
        model.addAttribute("slots", strips.slots(person, null, null));
        return "reader/sheet :: sheetAndStrip";
    }

    /** A message in a message, in the place of that one; acts are still about the outermost. */
    @GetMapping("/message/{id}/inside/{path}")
    String inside(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable String path,
            @RequestHeader(name = "HX-Request", required = false) String fromPage,
            Model model) {
        if (fromPage == null) {
            return "redirect:/message/" + id;
        }
        ParsedMail outermost = mail(person, id);
        model.addAttribute("outer", outermost.subject());
        model.addAttribute("contents", new Contents(id, path, inner(path, outermost), false));
        return "reader/sheet :: inside";
    }

    /** What another message of a conversation says, for its line. */
    @GetMapping("/message/{id}/contents")
    String contents(@AuthenticationPrincipal CurrentUser person, @PathVariable long id, Model model) {
        model.addAttribute("contents", new Contents(id, "", mail(person, id), false));
        return "reader/sheet :: unfolded";
    }

    @GetMapping("/message/{id}/html")
    ResponseEntity<byte[]> html(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam(defaultValue = "false") boolean pictures) {
        return document(mail(person, id), pictures ? "/message/%d/outside/".formatted(id) : null);
    }

    @GetMapping("/message/{id}/html/{path}")
    ResponseEntity<byte[]> innerHtml(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable String path,
            @RequestParam(defaultValue = "false") boolean pictures) {
        return document(inner(path, mail(person, id)), pictures ? "/message/%d/outside/%s/".formatted(id, path) : null);
    }

    /** @param pictures where those from outside are; null if they are not to be shown */
    private static ResponseEntity<byte[]> document(ParsedMail mail, @Nullable String pictures) {
        OutsidePictures outside = OutsidePictures.in(mail.html());
        String document = SafeHtml.document(mail, source -> {
            int number = pictures == null ? -1 : outside.number(source);
            return number < 0 ? null : pictures + number;
        });
        return ResponseEntity.ok()
                .header(SECURITY_POLICY, pictures == null ? SafeHtml.CONTENT_SECURITY_POLICY : SafeHtml.WITH_PICTURES)
                .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
                .body(document.getBytes(StandardCharsets.UTF_8));
    }

    /** An attachment, for saving only: shown in the browser it could do what its sender likes. */
    @GetMapping("/message/{id}/part/{path}")
    ResponseEntity<byte[]> part(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, @PathVariable String path) {
        InnerPath where = InnerPath.parse(path).orElseThrow(ReaderController::gone);
        ParsedMail mail = mail(person, id);
        Part part = where.part(mail).orElseThrow(ReaderController::gone);
        if (where.outermost() == mail.parts().size()
                && messages.rest(person.id(), id).isPresent()) {
            throw new InputProblem(
                    "This file is not here as a whole: the message is too large. Save the message as it came; that fetches all of it.");
        }
        return saved(part.name(), part.content());
    }

    /** The message itself as it came (RFC 5322); a very large one passes through from its server. */
    @GetMapping("/message/{id}/source")
    ResponseEntity<?> source(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        String name = "message-" + id + ".eml";
        Optional<MessageStore.MissingPart> rest = messages.rest(person.id(), id);
        if (rest.isPresent()) {
            WholeMessages.WholeMessage whole = wholes.open(rest.get());
            StreamingResponseBody body = out -> {
                try (whole) {
                    whole.copyTo(out);
                }
            };
            return headers(name).contentLength(whole.size()).body(body);
        }
        return saved(name, messages.source(person.id(), id).orElseThrow(ReaderController::gone));
    }

    private static ResponseEntity<byte[]> saved(String name, byte[] content) {
        return headers(name).body(content);
    }

    private static ResponseEntity.BodyBuilder headers(String name) {
        ContentDisposition disposition = ContentDisposition.attachment()
                .filename(name, StandardCharsets.UTF_8)
                .build();
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, disposition.toString())
                .header(SECURITY_POLICY, ShownPicture.HARMLESS)
                .cacheControl(CacheControl.noStore())
                .contentType(MediaType.APPLICATION_OCTET_STREAM);
    }

    private ParsedMail mail(CurrentUser person, long id) {
        return mail(messages, person, id);
    }

    /** A message as it reads; refused if the user has none of this id. */
    static ParsedMail mail(MessageStore messages, CurrentUser person, long id) {
        return messages.source(person.id(), id).map(MimeReader::read).orElseThrow(ReaderController::gone);
    }

    static ParsedMail inner(String path, ParsedMail outermost) {
        return InnerPath.parse(path).flatMap(where -> where.message(outermost)).orElseThrow(ReaderController::gone);
    }

    static ResponseStatusException gone() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "This message is gone; its server no longer has it.");
    }
}
