package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Pictures from a server of another's making, and what is not taken from it. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@Timeout(60)
class NetPictureSourceTest {
    private final List<String> seen = new CopyOnWriteArrayList<>();
    private HttpsHost server;

    @BeforeAll
    void begin(@TempDir Path directory) throws Exception {
        server = new HttpsHost(directory, this::answer);
    }

    @AfterAll
    void end() {
        server.close();
    }

    private static byte[] bytes(int size) {
        byte[] bytes = new byte[size];
        for (int i = 0; i < size; i++) {
            bytes[i] = (byte) (i * 31);
        }
        return bytes;
    }

    private void answer(HttpExchange exchange) throws IOException {
        seen.add(exchange.getRequestMethod() + " " + exchange.getRequestURI() + " "
                + exchange.getRequestHeaders().keySet().stream().sorted().toList());
        String path = exchange.getRequestURI().getPath();
        String[] parts = path.substring(1).split("/", -1);
        try (OutputStream out = exchange.getResponseBody()) {
            switch (parts[0]) {
                case "size" -> {
                    int size = Integer.parseInt(parts[1]);
                    exchange.sendResponseHeaders(200, size);
                    out.write(bytes(size));
                }
                case "chunked" -> {
                    exchange.sendResponseHeaders(200, 0);
                    int size = Integer.parseInt(parts[1]);
                    byte[] content = bytes(size);
                    int step = Math.max(1_000, size / 50);
                    for (int i = 0; i < size; i += step) {
                        out.write(content, i, Math.min(step, size - i));
                        out.flush();
                    }
                }
                case "to" -> {
                    exchange.getResponseHeaders()
                            .set(
                                    "Location",
                                    Map.of(
                                                    "here", "/size/10",
                                                    "round", "/to/round",
                                                    "plain", "http://127.0.0.1/x",
                                                    "broken", "https://[")
                                            .getOrDefault(parts[1], ""));
                    exchange.sendResponseHeaders(302, -1);
                }
                case "drip" -> {
                    exchange.sendResponseHeaders(200, 0);
                    for (int i = 0; i < 100; i++) {
                        out.write(1);
                        out.flush();
                        Thread.sleep(100);
                    }
                }
                default -> exchange.sendResponseHeaders(404, -1);
            }
        } catch (InterruptedException e) {
            throw new IOException(e);
        }
    }

    private byte[] fetched(String path) throws IOException {
        return new NetPictureSource(server.trusted(Duration.ofSeconds(5)), Duration.ofSeconds(3))
                .fetch(URI.create(server.address(path)));
    }

    @ParameterizedTest
    @CsvSource({"/size/1, 1", "/size/5000000, 5000000", "/chunked/1, 1", "/chunked/123456, 123456", "/to/here, 10"})
    void areFetchedWhole(String path, int size) throws IOException {
        assertThat(fetched(path)).isEqualTo(bytes(size));
    }

    @Test
    void nothingIsSaidOfWhoAsks() throws IOException {
        seen.clear();
        fetched("/size/3?who=%C3%BC");
        assertThat(seen).containsExactly("GET /size/3?who=%C3%BC [Accept, Connection, Host]");
    }

    @ParameterizedTest
    @CsvSource({
        "/size/5000001, larger than 5 MB",
        "/chunked/6000000, larger than 5 MB",
        "/gone, answers 404",
        "/to/round, from one place to the next",
        "/to/plain, not one of https",
        "/to/broken, a place that is none",
        "/drip/x, takes too long",
    })
    void whatIsNotTaken(String path, String why) {
        assertThatThrownBy(() -> fetched(path)).isInstanceOf(IOException.class).hasMessageContaining(why);
    }

    /** Whoever is asked may send one on to a host within: that is looked at too. */
    @Test
    void isNotSentOnToAHostWithin() {
        for (String host : List.of("127.0.0.1", "localhost", "[::1]", "169.254.169.254")) {
            assertThatThrownBy(() -> new NetPictureSource()
                            .fetch(URI.create("https://%s:%d/size/1".formatted(host, server.port()))))
                    .hasMessageContaining("public internet");
        }
    }
}
