package app.schublade.demo;

import app.schublade.mail.UnsubscribeRequest;
import app.schublade.mail.discovery.NetDirectory;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;

/** The mailing lists of the demo, whose stand-in agrees to be left. */
final class StandinUnsubscribeRequest implements UnsubscribeRequest {
    private static final int AGREED = 200;
    private static final int UNKNOWN = 404;

    private final String base;
    private final NetDirectory net = new NetDirectory();

    /** @param base where the stand-in answers: {@code http://127.0.0.1:8757} */
    StandinUnsubscribeRequest(String base) {
        this.base = base;
    }

    @Override
    public int send(URI address) {
        String asked = base + "/leave?url=" + URLEncoder.encode(address.toString(), StandardCharsets.UTF_8);
        return net.document(asked).isPresent() ? AGREED : UNKNOWN;
    }
}
