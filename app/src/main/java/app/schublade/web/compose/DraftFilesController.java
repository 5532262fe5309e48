package app.schublade.web.compose;

import app.schublade.core.format.OutgoingMessage.AttachedFile;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.web.frame.CurrentUser;
import java.io.IOException;
import java.io.InputStream;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

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
        byte[] content = body.readNBytes(OutgoingFileStore.MAX_BYTES + 1);
        if (content.length > OutgoingFileStore.MAX_BYTES) {
            throw OutgoingFileStore.tooLarge(name);
        }
        files.add(person.id(), id, AttachedFile.of(name, type, content));
        return files(person, id, model);
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
