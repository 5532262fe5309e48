package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class OutsidePicturesTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<img src='https://a.example/x.png'> | https://a.example/x.png | 0",
                "<IMG SRC=\"http://a.example/x.png?a=1&amp;b=2\"> | https://a.example/x.png?a=1&b=2 | 0",
                "<img src='//a.example/x y.png'> | https://a.example/x%20y.png | 0",
                "<img src='https://a.example/x.png' width=1 height=1> | '' | 1",
                "<img src='https://a.example/x.png' width='2px'> | '' | 1",
                "<img src='https://a.example/x.png' style='display: none'> | '' | 1",
                "<img src='cid:x'><img src='data:image/png;base64,AA'><img src='x.png'><img src='file:///etc/passwd'> | '' | 0",
                "<img src='https:///x.png'><img src='https://a b/x'><img> | '' | 0",
                "<img src='https://a.example/x.png'><img src='https://a.example/x.png'> | https://a.example/x.png | 0",
            })
    void areFoundInTheHtml(String html, String address, int trackers) {
        OutsidePictures found = OutsidePictures.in(html);
        assertThat(found.addresses().values().stream().map(URI::toString))
                .containsExactlyElementsOf(address.isEmpty() ? java.util.List.of() : java.util.List.of(address));
        assertThat(found.trackers()).isEqualTo(trackers);
    }

    @Test
    @Timeout(20)
    void thereIsAnEndToThem() {
        StringBuilder html = new StringBuilder();
        for (int i = 0; i < 50_000; i++) {
            html.append("<img src='https://a.example/").append(i).append("'>");
        }
        assertThat(OutsidePictures.in(html.toString()).addresses()).hasSize(100);
        assertThat(OutsidePictures.in(null).addresses()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "\u0089PNG~\u001a^x, image/png",
        "\u00ff\u00d8\u00ffx, image/jpeg",
        "GIF89a, image/gif",
        "RIFFxxxxWEBPVP8, image/webp",
        "RIFFxxxxWAVE, ''",
        "<svg xmlns='x'>, ''",
        "<html>, ''",
        "G, ''",
        "'', ''",
    })
    void onlyPicturesAreTakenForPictures(String content, String type) {
        assertThat(PictureKind.of(
                                content.replace("~", "\r\n").replace('^', '\n').getBytes(StandardCharsets.ISO_8859_1))
                        .map(PictureKind::type)
                        .orElse(""))
                .isEqualTo(type);
    }
}
