package app.schublade.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StandinTest {
    @ParameterizedTest
    @CsvSource({
        "schools@lanternquay.example, MU",
        "TILDA+boats@marwick-post.example, PR",
        "nobody@lanternquay.example, ",
        "desk@northlights-tour.example, TS"
    })
    void mailGoesToWhoeverTheAddressBelongsTo(String address, String code) {
        assertThat(DemoAccount.receiving(address).map(DemoAccount::code).orElse(null))
                .isEqualTo(code);
    }

    @Test
    void mailIsKeptBetweenTwoStarts(@TempDir Path directory) throws Exception {
        Standin.Options options = new Standin.Options(0, directory, 120, 1, false);
        String before;
        try (Standin standin = new Standin(options)) {
            standin.deliver("a@b.example", "press@lanternquay.example", "Late news", "text");
            standin.deliver("a@b.example", "press@lanternquay.example", "Later news", "text");
            before = messages(standin);
        }
        try (Standin standin = new Standin(options)) {
            assertThat(messages(standin)).isEqualTo(before);
            standin.deliver("a@b.example", "press@lanternquay.example", "Latest news", "text");
            before = messages(standin);
        }
        try (Standin standin = new Standin(options)) {
            assertThat(messages(standin)).isEqualTo(before);
        }
    }

    private static String messages(Standin standin) {
        return standin.status().replaceAll("port \\d+", "port");
    }

    @Test
    void mailForNobodyIsRefusedAndMailForOthersLeaves() throws Exception {
        try (Standin standin = new Standin(Standin.Options.forTests(10))) {
            assertThatThrownBy(() -> standin.deliver("a@b.example", "nobody@lanternquay.example", "x", "x"))
                    .isInstanceOf(jakarta.mail.MessagingException.class);
            standin.deliver("a@b.example", "somebody@grebe.example", "Away", "x");
            assertThat(standin.sentElsewhere()).hasSize(1);
            assertThat(standin.sentElsewhere().get(0).getSubject()).isEqualTo("Away");
        }
    }

    @Test
    void takesCommandsOverHttp() throws Exception {
        try (Standin standin = new Standin(Standin.Options.forTests(10));
                Controls controls = new Controls(standin, 0)) {
            assertThat(post(controls, "/offline?account=MU&on=true")).contains("MU offline");
            assertThat(post(controls, "/delay?account=TS&millis=70")).contains("delay 70 ms");
            assertThat(post(controls, "/life?on=true")).startsWith("life on");
            assertThat(post(controls, "/deliver?from=a@b.example&to=press@lanternquay.example&subject=a%20b&text=c"))
                    .contains("@standin.example");
            assertThat(post(controls, "/offline?account=XX&on=true"))
                    .isEqualTo("No account has the code XX; there are [MU, TS, RC, PR]\n");
            assertThat(post(controls, "/cut")).isEqualTo("The parameter account is missing.\n");
            assertThat(post(controls, "/explode")).startsWith("Unknown command /explode");
        }
    }

    private static String post(Controls controls, String path) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + controls.port() + path))
                .POST(HttpRequest.BodyPublishers.noBody())
                .build();
        return HttpClient.newHttpClient()
                .send(request, HttpResponse.BodyHandlers.ofString())
                .body();
    }
}
