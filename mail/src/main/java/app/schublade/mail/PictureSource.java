package app.schublade.mail;

import java.io.IOException;
import java.net.URI;

/** Where pictures are that a message only names. */
public interface PictureSource {
    /** A larger one is not taken; in bytes. */
    int MAX_BYTES = 5_000_000;

    /**
     * What lies at an address.
     *
     * @param address of https, from a message: hostile until shown otherwise
     * @throws IOException if nobody answers, if it is not there or too large, or if one must not ask there; its message is a
     *     sentence
     */
    byte[] fetch(URI address) throws IOException;
}
