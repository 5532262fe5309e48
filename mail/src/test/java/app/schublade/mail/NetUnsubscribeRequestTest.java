package app.schublade.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** One request to a server of another's making, and the hosts that are not asked. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@Timeout(60)
class NetUnsubscribeRequestTest {
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

    private void answer(HttpExchange exchange) throws IOException {
        String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        seen.add("%s %s %s %s cookie %s"
                .formatted(
                        exchange.getRequestMethod(),
                        exchange.getRequestURI(),
                        exchange.getRequestHeaders().getFirst("Content-Type"),
                        body,
                        exchange.getRequestHeaders().getFirst("Cookie")));
        String path = exchange.getRequestURI().getPath();
        exchange.getResponseHeaders().set("Location", server.address("/200"));
        exchange.sendResponseHeaders(Integer.parseInt(path.substring(1)), -1);
        exchange.close();
    }

    private UnsubscribeRequest anywhere() {
        return new NetUnsubscribeRequest(server.trusted(Duration.ofSeconds(5)));
    }

    @Test
    void theRequestIsThatOfTheStandardAndGoesNowhereElse() throws IOException {
        seen.clear();
        assertThat(anywhere().send(URI.create(server.address("/302?who=%C3%BC&list=a"))))
                .isEqualTo(302);
        assertThat(seen)
                .containsExactly(
                        "POST /302?who=%C3%BC&list=a application/x-www-form-urlencoded List-Unsubscribe=One-Click cookie null");
    }

    @ParameterizedTest
    @ValueSource(ints = {200, 202, 404, 500})
    void theStatusIsToldAsItIs(int status) throws IOException {
        assertThat(anywhere().send(URI.create(server.address("/" + status)))).isEqualTo(status);
    }

    @Test
    void aHostWithinIsNotAsked() {
        seen.clear();
        for (String host : List.of("127.0.0.1", "localhost", "[::1]", "10.1.2.3", "0.0.0.0")) {
            URI address = URI.create("https://%s:%d/200".formatted(host, server.port()));
            assertThatThrownBy(() -> new NetUnsubscribeRequest().send(address))
                    .as(host)
                    .isInstanceOf(IOException.class)
                    .hasMessageContaining("public internet");
        }
        assertThat(seen).isEmpty();
    }

    @Test
    void whoNobodyVouchesForIsNotAsked() {
        seen.clear();
        UnsubscribeRequest unpinned =
                new NetUnsubscribeRequest(new GuardedHosts(address -> true, null, Duration.ofSeconds(5)));
        assertThatThrownBy(() -> unpinned.send(URI.create(server.address("/200"))))
                .isInstanceOf(IOException.class);
        assertThatThrownBy(() -> anywhere().send(URI.create("http://127.0.0.1/200")))
                .hasMessageContaining("https");
        assertThat(seen).isEmpty();
    }

    @Test
    void whoNeverComesToAnEndIsGivenUp() throws Exception {
        try (ServerSocket silent = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
            UnsubscribeRequest request = new NetUnsubscribeRequest(server.trusted(Duration.ofSeconds(1)));
            assertThatThrownBy(() -> request.send(URI.create("https://127.0.0.1:" + silent.getLocalPort() + "/")))
                    .isInstanceOf(IOException.class);
        }
    }

    @ParameterizedTest
    @CsvSource({
        "8.8.8.8, true",
        "100.63.255.255, true",
        "100.64.0.1, false",
        "127.1.2.3, false",
        "10.0.0.1, false",
        "172.16.0.1, false",
        "172.32.0.1, true",
        "192.168.1.1, false",
        "169.254.169.254, false",
        "192.0.2.1, false",
        "192.0.0.1, false",
        "192.88.99.1, false",
        "198.18.0.1, false",
        "198.51.100.7, false",
        "203.0.113.9, false",
        "0.0.0.0, false",
        "224.0.0.1, false",
        "255.255.255.255, false",
        "2a00:1450::1, true",
        "::1, false",
        "::ffff:127.0.0.1, false",
        "fe80::1, false",
        "fd00::1, false",
        "fec0::1, false",
        "2001:db8::1, false",
        "2001::1, false",
        "2002:7f00:1::, false",
        "64:ff9b::7f00:1, false",
        "ff02::1, false",
    })
    void onlyPublicAddressesCount(String address, boolean expected) throws IOException {
        assertThat(GuardedHosts.isPublic(InetAddress.getByName(address))).isEqualTo(expected);
    }
}
