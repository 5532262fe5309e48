package app.schublade.preview;

import java.awt.image.BufferedImage;
import java.io.DataOutputStream;
import java.io.IOException;
import javax.imageio.ImageIO;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.rendering.ImageType;
import org.apache.pdfbox.rendering.PDFRenderer;

/**
 * A program of its own, which {@link PdfPreview} runs: reads a PDF (ISO 32000), and writes how many pages it has and, if one is
 * asked for, a picture of it. Whatever is in the PDF, it has only the memory and the time of this process.
 */
final class PdfPages {
    /** So wide a picture is, in pixels. */
    private static final float WIDTH = 900;
    /** So many pixels it has at most. */
    private static final float MOST = 4_000_000;

    private PdfPages() {}

    /** @param arguments the number of a page, from 1; 0 for none */
    public static void main(String[] arguments) throws IOException {
        int number = Integer.parseInt(arguments[0]);
        DataOutputStream out = new DataOutputStream(System.out);
        System.setOut(System.err); // What the library logs is no part of the answer.
        try (PDDocument document = Loader.loadPDF(System.in.readAllBytes())) {
            out.writeInt(document.getNumberOfPages());
            if (number > 0) {
                ImageIO.write(picture(document, number - 1), "png", out);
            }
        }
        out.flush();
    }

    private static BufferedImage picture(PDDocument document, int page) throws IOException {
        PDRectangle box = document.getPage(page).getCropBox();
        float wide = Math.max(1, box.getWidth());
        float high = Math.max(1, box.getHeight());
        float scale = (float) Math.min(WIDTH / wide, Math.sqrt(MOST / wide / high));
        return new PDFRenderer(document).renderImage(page, scale, ImageType.RGB);
    }
}
