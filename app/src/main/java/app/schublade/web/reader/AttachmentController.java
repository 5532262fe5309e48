package app.schublade.web.reader;

import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.message.MessageStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.ShownPicture;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.springframework.http.CacheControl;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** What lies in a message besides its text: all of its files at once, its pictures to look at, its header as it came. */
@Controller
class AttachmentController {
    /** So many bytes of a file are shown as text. */
    private static final int MAX_LOOK = 200_000;

    private static final int MAX_HEADER = 200_000;

    private final MessageStore messages;

    AttachmentController(MessageStore messages) {
        this.messages = messages;
    }

    /** All files of a message in one (ZIP), each under a name of its own. */
    @GetMapping("/message/{id}/files.zip")
    ResponseEntity<byte[]> all(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        List<Part> files = ReaderController.mail(messages, person, id).attachments();
        if (messages.rest(person.id(), id).isPresent()) {
            throw new InputProblem(
                    "These files are not all here: the message is too large. Save the message as it came; that fetches all of it.");
        }
        return ResponseEntity.ok()
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename("files-" + id + ".zip")
                                .build()
                                .toString())
                .cacheControl(CacheControl.noStore())
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .body(zip(files));
    }

    private static byte[] zip(List<Part> files) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Set<String> names = new HashSet<>();
        try (ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
            for (Part file : files) {
                zip.putNextEntry(new ZipEntry(unused(file.name(), names)));
                zip.write(file.content());
                zip.closeEntry();
            }
        } catch (IOException e) {
            throw new UncheckedIOException("Cannot happen in memory", e);
        }
        return out.toByteArray();
    }

    /** On some systems names are the same in whatever case. */
    private static String unused(String name, Set<String> names) {
        int dot = name.lastIndexOf('.');
        String stem = dot > 0 ? name.substring(0, dot) : name;
        String ending = dot > 0 ? name.substring(dot) : "";
        String free = name;
        for (int i = 2; !names.add(free.toLowerCase(Locale.ROOT)); i++) {
            free = stem + " (" + i + ")" + ending;
        }
        return free;
    }

    /** A picture that came with a message, if its bytes are those of one. */
    @GetMapping("/message/{id}/picture/{path}")
    ResponseEntity<byte[]> picture(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, @PathVariable String path) {
        ParsedMail mail = ReaderController.mail(messages, person, id);
        byte[] content = InnerPath.parse(path)
                .flatMap(where -> where.part(mail))
                .map(Part::content)
                .orElseThrow(ReaderController::gone);
        return ShownPicture.of(content).orElseThrow(ReaderController::gone);
    }

    /** The header as it came, to be read. */
    @GetMapping("/message/{id}/header")
    ResponseEntity<String> header(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        byte[] source = messages.source(person.id(), id).orElseThrow(ReaderController::gone);
        String beginning = new String(source, 0, Math.min(source.length, MAX_HEADER), StandardCharsets.UTF_8);
        String header = beginning.replace("\r\n", "\n").split("\n\n", 2)[0];
        return plain(header);
    }

    /** What a message says without its formatting. */
    @GetMapping("/message/{id}/text")
    ResponseEntity<String> text(@AuthenticationPrincipal CurrentUser person, @PathVariable long id) {
        return plain(ReaderController.mail(messages, person, id).text());
    }

    /** The beginning of a file that is a text. */
    @GetMapping("/message/{id}/look/{path}")
    ResponseEntity<String> look(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, @PathVariable String path) {
        ParsedMail mail = ReaderController.mail(messages, person, id);
        Part file = InnerPath.parse(path)
                .flatMap(where -> where.part(mail))
                .filter(Part::isText)
                .orElseThrow(ReaderController::gone);
        String more =
                file.size() > MAX_LOOK ? "\n\n… only the beginning is shown; save the file to see all of it." : "";
        return plain(file.beginning(MAX_LOOK) + more);
    }

    private static ResponseEntity<String> plain(String text) {
        return ResponseEntity.ok()
                .header(ReaderController.SECURITY_POLICY, ShownPicture.HARMLESS)
                .contentType(new MediaType(MediaType.TEXT_PLAIN, StandardCharsets.UTF_8))
                .body(text);
    }
}
