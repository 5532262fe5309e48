package app.schublade.bench;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/**
 * Reading messages of the usual kinds, beside what any program does to each of their bytes: a hash of them (SHA-256). Told as a
 * ratio, so that two versions can be compared on different days.
 */
final class ReadingBench {
    private static final int ROUNDS = 12;
    private static final int WARM = 4;
    private static final int FILE_BYTES = 150_000;
    private static final List<String> WORDS = List.of(
            "crate",
            "ferry",
            "brig",
            "rigging",
            "Größe",
            "Überführung",
            "loan",
            "Monday",
            "council",
            "insurance",
            "hall",
            "rope");

    private ReadingBench() {}

    /** @param messages of each kind */
    static void run(int messages) throws NoSuchAlgorithmException {
        Random random = new Random(1);
        Map<String, byte[]> kinds = new LinkedHashMap<>();
        kinds.put("plain text of 2 kB", plain(random));
        kinds.put("plain text and HTML of 40 kB", newsletter(random, true));
        kinds.put("HTML alone, 40 kB", newsletter(random, false));
        kinds.put("text with a file of 200 kB", withFile(random));
        for (Map.Entry<String, byte[]> kind : kinds.entrySet()) {
            measure(kind.getKey(), kind.getValue(), messages);
        }
    }

    private static void measure(String name, byte[] source, int messages) throws NoSuchAlgorithmException {
        Times reading = new Times();
        Times hashing = new Times();
        long seen = 0;
        for (int round = 0; round < ROUNDS; round++) {
            long start = System.nanoTime();
            for (int i = 0; i < messages; i++) {
                ParsedMail mail = MimeReader.read(source);
                seen += mail.text().length()
                        + mail.attachments().size()
                        + mail.snippet(200).length();
            }
            long middle = System.nanoTime();
            for (int i = 0; i < messages; i++) {
                seen += MessageDigest.getInstance("SHA-256").digest(source)[0];
            }
            if (round >= WARM) {
                reading.add(middle - start);
                hashing.add(System.nanoTime() - middle);
            }
        }
        double ratio = reading.millis(0.5) / hashing.millis(0.5);
        double megabytes = (double) source.length * messages / 1e6;
        System.out.printf(
                "%-32s %6.1f MB/s, %5.2f times a hash of the same bytes (%d)%n",
                name, megabytes / reading.millis(0.5) * 1000, ratio, seen % 10);
    }

    private static String words(Random random, int count) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < count; i++) {
            text.append(WORDS.get(random.nextInt(WORDS.size()))).append(i % 12 == 11 ? "\n" : " ");
        }
        return text.toString();
    }

    private static String header(String type) {
        return """
                Received: from mx.quay.example by in.quay.example; Mon, 2 Mar 2026 10:30:02 +0100
                From: =?utf-8?Q?J=C3=BCrgen_M=C3=BCller?= <j.mueller@quay.example>
                To: Loans <loans@lanternquay.example>, "Voss, Anselm" <anselm@quay.example>
                Subject: =?utf-8?Q?=C3=9Cberf=C3=BChrung_der_Brigg?= next week
                Date: Mon, 2 Mar 2026 10:30:00 +0100
                Message-ID: <1@quay.example>
                MIME-Version: 1.0
                Content-Type: %s
                """.formatted(type);
    }

    private static byte[] bytes(String message) {
        return message.replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] plain(Random random) {
        return bytes(header("text/plain; charset=utf-8") + "Content-Transfer-Encoding: 8bit\n\n" + words(random, 220));
    }

    private static byte[] newsletter(Random random, boolean withPlain) {
        StringBuilder html = new StringBuilder("<html><body><table>");
        while (html.length() < 38_000) {
            html.append("<tr><td style=\"font-size:12px;color:#333\"><p>")
                    .append(words(random, 40))
                    .append("</p><a href=\"https://quay.example/more\">more</a></td></tr>\n");
        }
        html.append("</table></body></html>");
        String text = withPlain ? "--b\nContent-Type: text/plain; charset=utf-8\n\n" + words(random, 500) + "\n" : "";
        return bytes(header("multipart/alternative; boundary=b") + "\n" + text
                + "--b\nContent-Type: text/html; charset=utf-8\n\n" + html + "\n--b--\n");
    }

    private static byte[] withFile(Random random) {
        byte[] file = new byte[FILE_BYTES];
        random.nextBytes(file);
        return bytes(header("multipart/mixed; boundary=b") + "\n--b\nContent-Type: text/plain; charset=utf-8\n\n"
                + words(random, 100)
                + "\n--b\nContent-Type: application/pdf; name=\"report.pdf\"\nContent-Transfer-Encoding: base64\n\n"
                + Base64.getMimeEncoder().encodeToString(file).replace("\r\n", "\n")
                + "\n--b--\n");
    }
}
