package app.schublade.web.frame;

import app.schublade.core.format.PictureKind;
import java.time.Duration;
import java.util.Optional;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;

/** A picture of somebody else's, as an answer that can do nothing but be looked at. */
public final class ShownPicture {
    /** For what somebody else has made: it must not act, even if a browser opens it as a page. */
    public static final String HARMLESS = "default-src 'none'; sandbox";

    private static final String SECURITY_POLICY = "Content-Security-Policy";
    private static final Duration KEPT = Duration.ofDays(1);

    private ShownPicture() {}

    /** Empty if it is none, whatever it says it is. */
    public static Optional<ResponseEntity<byte[]>> of(byte[] content) {
        return PictureKind.of(content)
                .map(kind -> ResponseEntity.ok()
                        .header(SECURITY_POLICY, HARMLESS)
                        .cacheControl(CacheControl.maxAge(KEPT).cachePrivate())
                        .contentType(MediaType.parseMediaType(kind.type()))
                        .body(content));
    }
}
