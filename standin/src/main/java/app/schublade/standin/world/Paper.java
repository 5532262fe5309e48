package app.schublade.standin.world;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.pdmodel.font.PDType1Font;
import org.apache.pdfbox.pdmodel.font.Standard14Fonts.FontName;
import org.apache.pdfbox.pdmodel.graphics.image.JPEGFactory;
import org.apache.pdfbox.pdmodel.graphics.image.PDImageXObject;

/**
 * A document on the letterhead of whoever sends it. The first line is its title; {@code Name: value} is a row of facts,
 * {@code | a | b |} a row of a table, {@code ! scene} a picture, {@code # } a heading; everything else is text, broken into
 * lines and pages.
 */
final class Paper implements AutoCloseable {
    private static final float MARGIN = 64;
    private static final float WIDTH = PDRectangle.A4.getWidth() - 2 * MARGIN;
    private static final float LEADING = 15;

    static {
        // The standard fonts need no files; PDFBox would search the machine's, and keep a list of them in the home.
        System.setProperty("pdfbox.fontcache", System.getProperty("java.io.tmpdir"));
    }

    private final PDFont text = new PDType1Font(FontName.HELVETICA);
    private final PDFont bold = new PDType1Font(FontName.HELVETICA_BOLD);
    private final PDDocument document = new PDDocument();
    private PDPageContentStream content;
    private float y;

    private Paper() throws IOException {
        content = turn();
    }

    static byte[] pdf(String lines, Person from) {
        try (Paper paper = new Paper();
                ByteArrayOutputStream out = new ByteArrayOutputStream()) {
            paper.write(lines, from);
            paper.content.close();
            paper.document.save(out);
            return out.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void write(String lines, Person from) throws IOException {
        String[] all = lines.split("\n", -1);
        document.getDocumentInformation().setTitle(all[0]);
        line(from.said("org"), MARGIN, bold, 10);
        line(from.address(), MARGIN, text, 8);
        y -= 24;
        paragraph(all[0], bold, 16);
        y -= 10;
        for (String line : Arrays.asList(all).subList(1, all.length)) {
            if (line.isBlank()) {
                y -= 8;
            } else if (line.startsWith("! ")) {
                picture(line.substring(2));
            } else if (line.startsWith("# ")) {
                y -= 6;
                paragraph(line.substring(2), bold, 12);
            } else if (line.startsWith("| ")) {
                row(line.substring(2).split("\\s*\\|\\s*", -1));
            } else if (line.matches("[^.:]{2,28}: .*")) {
                row(line.split(": ", 2));
            } else {
                paragraph(line, text, 10);
            }
        }
    }

    private void row(String[] cells) throws IOException {
        float column = WIDTH / cells.length;
        float first = cells.length == 2 ? WIDTH / 3 : column;
        float top = y;
        float lowest = y;
        for (int i = 0; i < cells.length; i++) {
            float left = i == 0 ? 0 : first + (i - 1) * (WIDTH - first) / Math.max(1, cells.length - 1);
            float room = (i == 0 ? first : (WIDTH - first) / Math.max(1, cells.length - 1)) - 8;
            y = top;
            for (String part : broken(cells[i].strip(), i == 0 && cells.length == 2 ? bold : text, 10, room)) {
                line(part, MARGIN + left, i == 0 && cells.length == 2 ? bold : text, 10);
            }
            lowest = Math.min(lowest, y);
        }
        y = lowest;
        content.setLineWidth(0.4f);
        content.moveTo(MARGIN, y + 10);
        content.lineTo(MARGIN + WIDTH, y + 10);
        content.stroke();
        y -= 4;
        room(LEADING * 2);
    }

    private void paragraph(String words, PDFont font, float size) throws IOException {
        for (String part : broken(words, font, size, WIDTH)) {
            room(LEADING);
            line(part, MARGIN, font, size);
        }
    }

    private void line(String words, float x, PDFont font, float size) throws IOException {
        content.beginText();
        content.setFont(font, size);
        content.newLineAtOffset(x, y);
        content.showText(words);
        content.endText();
        y -= Math.max(LEADING, size * 1.3f);
    }

    private static List<String> broken(String words, PDFont font, float size, float room) throws IOException {
        List<String> lines = new ArrayList<>();
        StringBuilder line = new StringBuilder();
        for (String word : writable(words, font).split(" ", -1)) {
            String longer = line.isEmpty() ? word : line + " " + word;
            if (!line.isEmpty() && font.getStringWidth(longer) / 1000 * size > room) {
                lines.add(line.toString());
                line.setLength(0);
                line.append(word);
            } else {
                line.setLength(0);
                line.append(longer);
            }
        }
        lines.add(line.toString());
        return lines;
    }

    /** The standard fonts have the letters of Western Europe alone (ISO 32000-1, annex D.2). */
    private static String writable(String words, PDFont font) {
        StringBuilder text = new StringBuilder();
        words.codePoints().forEach(point -> {
            String letter = Character.toString(point);
            try {
                font.encode(letter);
                text.append(letter);
            } catch (IOException | IllegalArgumentException e) {
                text.append(Character.isWhitespace(point) || Character.isSpaceChar(point) ? ' ' : '?');
            }
        });
        return text.toString();
    }

    private void picture(String scene) throws IOException {
        room(230);
        PDImageXObject image = JPEGFactory.createFromByteArray(document, Picture.drawn(scene, "jpg"));
        y -= 205;
        content.drawImage(image, MARGIN, y, 320, 213);
        y -= 22;
    }

    private void room(float wanted) throws IOException {
        if (y < MARGIN + wanted) {
            content.close();
            content = turn();
        }
    }

    private PDPageContentStream turn() throws IOException {
        PDPage page = new PDPage(PDRectangle.A4);
        document.addPage(page);
        y = PDRectangle.A4.getHeight() - MARGIN;
        return new PDPageContentStream(document, page);
    }

    @Override
    public void close() throws IOException {
        document.close();
    }
}
