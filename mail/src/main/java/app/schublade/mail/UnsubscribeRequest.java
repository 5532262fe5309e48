package app.schublade.mail;

import java.io.IOException;
import java.net.URI;

/** Asks a mailing list's server, by one request, to be taken off (RFC 8058, section 3.2). */
public interface UnsubscribeRequest {
    /**
     * The status that the server answers with; 200 to 299 if it agrees.
     *
     * @param address of https, from a message: hostile until shown otherwise
     * @throws IOException if nobody answers, or if one must not ask there; its message is a sentence
     */
    int send(URI address) throws IOException;
}
