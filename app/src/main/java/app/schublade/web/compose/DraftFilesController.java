package app.schublade.web.compose;

import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.format.OutgoingMessage.AttachedFile;
import app.schublade.core.format.PictureKind;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.ShownPicture;
import java.io.IOException;
import java.io.InputStream;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;

/** Files of a message that is being written. */
@Controller
class DraftFilesController {
    private final ComposePage page;
    private final OutgoingFileStore files;

    DraftFilesController(ComposePage page, OutgoingFileStore files) {
        this.page = page;
        this.files = files;
    }

    /** Takes a file, as its bytes alone. */
    @PostMapping(path = "/write/{id}/files", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    String addFile(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            @RequestParam(defaultValue = "") String type,
            InputStream body,
            Model model)
            throws IOException {
        page.one(person, id);
        files.add(person.id(), id, AttachedFile.of(name, type, bytes(name, body)));
        return files(person, id, model);
    }

    private static byte[] bytes(String name, InputStream body) throws IOException {
        byte[] content = body.readNBytes(OutgoingFileStore.MAX_BYTES + 1);
        if (content.length > OutgoingFileStore.MAX_BYTES) {
            throw OutgoingFileStore.tooLarge(name);
        }
        return content;
    }

    /** Takes a picture that is to stand in the text, and answers what it is called there. */
    @PostMapping(path = "/write/{id}/pictures", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    @ResponseBody
    String addPicture(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @RequestParam String name,
            InputStream body)
            throws IOException {
        page.one(person, id);
        byte[] content = bytes(name, body);
        PictureKind kind = PictureKind.of(content)
                .orElseThrow(() -> new InputProblem(
                        "“%s” is not a picture that every program can show: use PNG, JPEG, GIF or WebP, or attach it as a file."
                                .formatted(name)));
        AttachedFile picture = AttachedFile.of(name, kind.type(), content);
        String contentId = OutgoingMessage.pictureId();
        files.add(person.id(), id, new AttachedFile(picture.name(), picture.type(), content, contentId));
        return contentId;
    }

    @GetMapping("/write/{id}/pictures/{contentId}")
    ResponseEntity<byte[]> picture(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, @PathVariable String contentId) {
        return files.picture(person.id(), id, contentId)
                .flatMap(picture -> ShownPicture.of(picture.content()))
                .orElseGet(() -> ResponseEntity.notFound().build());
    }

    @PostMapping("/write/{id}/files/{file}/remove")
    String removeFile(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, @PathVariable long file, Model model) {
        files.remove(person.id(), id, file);
        return files(person, id, model);
    }

    private String files(CurrentUser person, long id, Model model) {
        model.addAttribute("one", page.one(person, id));
        model.addAttribute("files", files.of(id));
        return "compose/page :: files";
    }
}
