package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CharsetsTest {
    private static final String JAPANESE = "港の博物館より、展覧会のご案内を申し上げます。";
    private static final String CHINESE = "港口博物馆邀请您参加展览开幕式，敬请光临。";
    private static final String KOREAN = "항구 박물관에서 전시회에 초대합니다.";
    private static final String RUSSIAN = "Музей гавани приглашает вас на открытие выставки";

    private static String text(String name) {
        return switch (name) {
            case "JAPANESE" -> JAPANESE;
            case "CHINESE" -> CHINESE;
            case "KOREAN" -> KOREAN;
            case "RUSSIAN" -> RUSSIAN;
            default -> name;
        };
    }

    /** What mail calls a charset, and what Java encodes it with. */
    @ParameterizedTest
    @CsvSource({
        "cp932, windows-31j, JAPANESE",
        "x-sjis, Shift_JIS, JAPANESE",
        "Shift-JIS, Shift_JIS, JAPANESE",
        "iso-2022-jp, ISO-2022-JP, JAPANESE",
        "EUC-JP, EUC-JP, JAPANESE",
        "gb2312, GB2312, CHINESE",
        "x-gbk, GBK, CHINESE",
        "ks_c_5601-1987, EUC-KR, KOREAN",
        "macintosh, x-MacRoman, Grüße à la façade",
        "koi8-r, KOI8-R, RUSSIAN",
        "windows-1251, windows-1251, RUSSIAN",
        "iso-8859-8-i, ISO-8859-8, שלום",
        "iso-8859-1, windows-1252, “Grüße” – 5 €",
        "'\"utf-8\"', UTF-8, Grüße",
        "charset=utf-8, UTF-8, Grüße",
        "utf8, UTF-8, Grüße",
        "us-ascii, UTF-8, Grüße",
        "unknown-8bit, UTF-8, Grüße",
        "unknown-8bit, windows-1252, Grüße",
        "x-nobody-knows, windows-1252, Grüße",
    })
    void readsAsDeclared(String declared, String encoder, String name) {
        String text = text(name);
        assertThat(Charsets.decode(text.getBytes(Charset.forName(encoder)), declared))
                .isEqualTo(text);
    }

    @ParameterizedTest
    @CsvSource({
        "GB18030, CHINESE",
        "Big5, 港口博物館邀請您參加展覽開幕式敬請光臨",
        "Shift_JIS, JAPANESE",
        "EUC-JP, JAPANESE",
        "EUC-KR, KOREAN",
        "windows-1251, RUSSIAN",
        "KOI8-R, RUSSIAN",
    })
    void guessesWhatNobodyDeclaredOrDeclaredWrongly(String charset, String name) {
        String text = text(name);
        byte[] bytes = text.getBytes(Charset.forName(charset));
        assertThat(Charsets.decode(bytes, null)).isEqualTo(text);
        assertThat(Charsets.decode(bytes, "us-ascii")).isEqualTo(text);
        assertThat(Charsets.decode(bytes, "utf-8")).isEqualTo(text);
    }

    @ParameterizedTest
    @CsvSource({
        "Müller",
        "Café",
        "Ärger über Öl",
        "São Tomé",
        "Ænne Østergård",
        "à",
        "Ö",
        "naïve façade",
        "¿Qué tal? ¡Adiós!",
        "Ça va très bien là-bas où l’été est doux"
    })
    void westernTextThatNobodyDeclaredStaysWhatItIs(String text) {
        assertThat(Charsets.decode(text.getBytes(StandardCharsets.UTF_8), null)).isEqualTo(text);
        assertThat(Charsets.decode(text.getBytes(Charset.forName("windows-1252")), null))
                .isEqualTo(text);
        assertThat(Charsets.decode(text.getBytes(Charset.forName("windows-1252")), "utf-8"))
                .isEqualTo(text);
    }

    @Test
    void aTextInUtf8WithABrokenSignIsStillOne() {
        byte[] bytes = "Grüße aus Köln".getBytes(StandardCharsets.UTF_8);
        bytes[bytes.length - 3] = (byte) 0xff;
        assertThat(Charsets.decode(bytes, "utf-8")).startsWith("Grüße aus K");
    }

    /** RFC 2152, section 5, and RFC 1843. */
    @Test
    void readsWhatJavaDoesNotKnow() {
        assertThat(utf7("Hi Mom -+Jjo--!")).isEqualTo("Hi Mom -☺-!");
        assertThat(utf7("A+ImIDkQ.")).isEqualTo("A≢Α.");
        assertThat(utf7("+ZeVnLIqe-")).isEqualTo("日本語");
        assertThat(utf7("Item 3 is +AKM-1. 1 +- 1 = 2, a+")).isEqualTo("Item 3 is £1. 1 + 1 = 2, a+");
        assertThat(utf7("+2D3eAA-")).isEqualTo("😀");
        byte[] hz = "This sentence is in ASCII.\nThe next: ~{<:Ky2;S{#,NpJ)l6HK!#~}Bye ~~."
                .getBytes(StandardCharsets.US_ASCII);
        assertThat(Charsets.decode(hz, "HZ-GB-2312"))
                .isEqualTo("This sentence is in ASCII.\nThe next: 己所不欲，勿施於人。Bye ~.");
    }

    private static String utf7(String text) {
        return Charsets.decode(text.getBytes(StandardCharsets.US_ASCII), "utf-7");
    }

    @Test
    void whateverTheBytesAreTextComesOut() {
        Random random = new Random(5);
        for (String declared : new String[] {"", "utf-7", "hz-gb-2312", "utf-8", "gb2312", "iso-2022-jp", "a b", "*"}) {
            for (int i = 0; i < 200; i++) {
                byte[] bytes = new byte[random.nextInt(60)];
                random.nextBytes(bytes);
                assertThat(Charsets.decode(bytes, declared)).isNotNull();
            }
        }
    }
}
