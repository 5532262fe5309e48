package app.schublade.demo;

import app.schublade.mail.PictureSource;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.URLConnection;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;

/** The pictures of the demo’s newsletters, which its stand-in draws. */
final class StandinPictureSource implements PictureSource {
    private static final int PATIENCE_MILLIS = 5_000;

    private final String base;

    /** @param base where the stand-in answers: {@code http://127.0.0.1:8757} */
    StandinPictureSource(String base) {
        this.base = base;
    }

    @Override
    public byte[] fetch(URI address) throws IOException {
        String asked = base + "/picture?url=" + URLEncoder.encode(address.toString(), StandardCharsets.UTF_8);
        URLConnection connection = URI.create(asked).toURL().openConnection();
        connection.setConnectTimeout(PATIENCE_MILLIS);
        connection.setReadTimeout(PATIENCE_MILLIS);
        try (InputStream in = connection.getInputStream()) {
            return in.readNBytes(MAX_BYTES);
        }
    }
}
