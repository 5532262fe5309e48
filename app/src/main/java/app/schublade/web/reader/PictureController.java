package app.schublade.web.reader;

import app.schublade.core.format.OutsidePictures;
import app.schublade.core.format.ParsedMail;
import app.schublade.mail.PictureSource;
import app.schublade.store.message.MessageStore;
import app.schublade.store.user.PictureSenderStore;
import app.schublade.web.frame.Answers;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Notice;
import app.schublade.web.frame.ReturnTo;
import app.schublade.web.frame.ShownPicture;
import java.io.IOException;
import java.net.URI;
import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/**
 * Pictures that messages only name: fetched when the user wants to see them, by this server, so that the browser speaks with
 * nobody; and only those that the message itself names.
 */
@Controller
class PictureController {
    private static final Logger LOG = LoggerFactory.getLogger(PictureController.class);
    /** So many are fetched at once; the others wait for their turn. */
    private static final int AT_ONCE = 12;

    private static final Duration PATIENCE = Duration.ofSeconds(20);

    private final MessageStore messages;
    private final PictureSource pictures;
    private final PictureSenderStore senders;
    private final Answers answers;
    private final Semaphore turns = new Semaphore(AT_ONCE);

    PictureController(MessageStore messages, PictureSource pictures, PictureSenderStore senders, Answers answers) {
        this.messages = messages;
        this.pictures = pictures;
        this.senders = senders;
        this.answers = answers;
    }

    @GetMapping("/message/{id}/outside/{number}")
    ResponseEntity<byte[]> picture(
            @AuthenticationPrincipal CurrentUser person, @PathVariable long id, @PathVariable int number) {
        return fetched(ReaderController.mail(messages, person, id), number);
    }

    @GetMapping("/message/{id}/outside/{path}/{number}")
    ResponseEntity<byte[]> innerPicture(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long id,
            @PathVariable String path,
            @PathVariable int number) {
        return fetched(ReaderController.inner(path, ReaderController.mail(messages, person, id)), number);
    }

    private ResponseEntity<byte[]> fetched(ParsedMail mail, int number) {
        URI address = OutsidePictures.in(mail.html()).address(number).orElseThrow(ReaderController::gone);
        if (!hasTurn()) {
            return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE).build();
        }
        try {
            byte[] content = pictures.fetch(address);
            return ShownPicture.of(content)
                    .orElseGet(() -> ResponseEntity.notFound().build());
        } catch (IOException e) {
            LOG.info("A picture from {} was not fetched: {}", address.getHost(), e.getMessage());
            return ResponseEntity.status(HttpStatus.NOT_FOUND).build();
        } finally {
            turns.release();
        }
    }

    private boolean hasTurn() {
        try {
            return turns.tryAcquire(PATIENCE.toSeconds(), TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    /** Pictures in all mail of a sender are fetched from now on, or no more. */
    @PostMapping("/message/pictures")
    String always(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String value,
            @RequestParam boolean on,
            ReturnTo standing,
            Model model) {
        senders.set(person.id(), value, on);
        String told = on ? "Pictures from %s are shown from now on" : "Pictures from %s are not shown any more";
        return answers.told(person, standing, Notice.told(told.formatted(value)), model);
    }
}
