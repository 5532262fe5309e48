package app.schublade.web.frame;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** Sends the style sheets and the scripts. */
@Controller
class BundleController {
    private static final CacheControl FOR_EVER =
            CacheControl.maxAge(Duration.ofDays(365)).cachePublic().immutable();

    private final Bundle bundle;

    BundleController(Bundle bundle) {
        this.bundle = bundle;
    }

    @GetMapping("/bundle/{name:[0-9a-f]+}.css")
    ResponseEntity<byte[]> styles(@PathVariable String name) {
        return send(bundle.asset(true), name + ".css", MediaType.valueOf("text/css"));
    }

    @GetMapping("/bundle/{name:[0-9a-f]+}.js")
    ResponseEntity<byte[]> scripts(@PathVariable String name) {
        return send(bundle.asset(false), name + ".js", MediaType.valueOf("text/javascript"));
    }

    private static ResponseEntity<byte[]> send(Bundle.Asset asset, String asked, MediaType type) {
        return ResponseEntity.ok()
                .cacheControl(asset.name().equals(asked) ? FOR_EVER : CacheControl.noStore())
                .contentType(new MediaType(type, StandardCharsets.UTF_8))
                .body(asset.content().getBytes(StandardCharsets.UTF_8));
    }
}
