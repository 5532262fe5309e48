package app.schublade.standin;

import java.nio.charset.StandardCharsets;

/** Small files that open in an ordinary program. */
final class Samples {
    private Samples() {}

    static byte[] file(String ending, String name) {
        String content = ending.equals("pdf") ? pdf(name) : "Contents of " + name + "\n";
        return content.getBytes(StandardCharsets.ISO_8859_1);
    }

    /** One empty page (ISO 32000-1); readers rebuild the missing cross-reference table. */
    private static String pdf(String title) {
        return """
                %%PDF-1.4
                1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj
                2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj
                3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 595 842]>>endobj
                trailer<</Root 1 0 R/Info<</Title(%s)>>>>
                %%%%EOF
                """.formatted(title);
    }
}
