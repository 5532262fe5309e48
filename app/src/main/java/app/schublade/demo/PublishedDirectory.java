package app.schublade.demo;

import app.schublade.mail.discovery.Directory;
import app.schublade.mail.discovery.NetDirectory;
import app.schublade.mail.discovery.SrvRecord;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/** What the stand-in hosts of the demo publish of their domains, in place of DNS and the web. */
final class PublishedDirectory implements Directory {
    private final String base;
    private final NetDirectory net = new NetDirectory();

    /** @param base where the stand-in answers: {@code http://127.0.0.1:8757} */
    PublishedDirectory(String base) {
        this.base = base;
    }

    @Override
    public List<SrvRecord> services(String name) {
        return ask("/srv?name=", name).stream()
                .flatMap(bytes -> new String(bytes, StandardCharsets.UTF_8).lines())
                .map(NetDirectory::read)
                .filter(Objects::nonNull)
                .toList();
    }

    @Override
    public Optional<byte[]> document(String url) {
        return ask("/document?url=", url);
    }

    private Optional<byte[]> ask(String path, String value) {
        return net.document(base + path + URLEncoder.encode(value, StandardCharsets.UTF_8));
    }
}
