package app.schublade.standin.world;

import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.GradientPaint;
import java.awt.Graphics2D;
import java.awt.Polygon;
import java.awt.RenderingHints;
import java.awt.geom.Path2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Random;
import javax.imageio.ImageIO;

/** Pictures drawn by code: the same words give the same picture. The first word names the scene; 432 by 288 pixels. */
final class Picture {
    private static final int WIDTH = 720;
    private static final int HEIGHT = 480;
    private static final double SCALE = 0.6;

    private final Random random;
    private final BufferedImage image =
            new BufferedImage((int) (WIDTH * SCALE), (int) (HEIGHT * SCALE), BufferedImage.TYPE_3BYTE_BGR);
    private final Graphics2D pen = image.createGraphics();

    private Picture(String words) {
        random = new Random(words.hashCode());
        pen.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        pen.scale(SCALE, SCALE);
    }

    /** @param format {@code jpg} or {@code png} */
    static byte[] drawn(String words, String format) {
        Picture picture = new Picture(words);
        picture.draw(words.split("\\s+", 2)[0]);
        picture.pen.dispose();
        try (ByteArrayOutputStream out = new ByteArrayOutputStream()) {
            ImageIO.write(picture.image, format, out);
            return out.toByteArray();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void draw(String scene) {
        switch (scene) {
            case "crack" -> crack();
            case "room" -> room();
            case "plan" -> plan();
            case "cabin" -> cabin();
            case "goods" -> goods();
            case "poster" -> poster();
            case "boat" -> {
                sea(0.45);
                boat(WIDTH / 2, 330, 1.9);
            }
            case "harbour" -> {
                sea(0.55);
                for (int i = 0; i < 5; i++) {
                    boat(80 + i * 140 + random.nextInt(40), 300 + random.nextInt(90), 0.6 + random.nextDouble() * 0.5);
                }
            }
            default -> throw new IllegalArgumentException("There is no scene " + scene);
        }
    }

    private void sky(Color above, Color below) {
        pen.setPaint(new GradientPaint(0, 0, above, 0, HEIGHT, below));
        pen.fillRect(0, 0, WIDTH, HEIGHT);
    }

    private void sea(double horizon) {
        float hue = random.nextFloat();
        sky(Color.getHSBColor(0.5f + hue * 0.15f, 0.35f, 0.85f), Color.getHSBColor(0.08f + hue * 0.06f, 0.35f, 0.95f));
        int top = (int) (HEIGHT * horizon);
        pen.setPaint(new GradientPaint(0, top, new Color(0x4f7f8a), 0, HEIGHT, new Color(0x183a44)));
        pen.fillRect(0, top, WIDTH, HEIGHT - top);
        pen.setColor(new Color(255, 255, 255, 70));
        for (int i = 0; i < 90; i++) {
            int y = top + random.nextInt(HEIGHT - top);
            int x = random.nextInt(WIDTH);
            pen.drawLine(x, y, x + 12 + (y - top) / 5, y);
        }
    }

    private void boat(int x, int y, double size) {
        pen.setColor(Color.getHSBColor(random.nextFloat(), 0.55f, 0.45f));
        pen.fill(new Polygon(
                new int[] {x - (int) (70 * size), x + (int) (80 * size), x + (int) (55 * size), x - (int) (50 * size)},
                new int[] {y, y, y + (int) (28 * size), y + (int) (28 * size)},
                4));
        pen.setColor(new Color(0x3b2c20));
        pen.setStroke(new BasicStroke((float) (3 * size)));
        pen.drawLine(x, y, x, y - (int) (120 * size));
        pen.setColor(new Color(0xf3ead6));
        pen.fill(new Polygon(
                new int[] {x + 4, x + 4, x + (int) (62 * size)}, new int[] {y - (int) (115 * size), y - 8, y - 8}, 3));
        pen.setColor(new Color(0xe2d3b0));
        pen.fill(new Polygon(
                new int[] {x - 4, x - 4, x - (int) (48 * size)}, new int[] {y - (int) (100 * size), y - 8, y - 8}, 3));
    }

    /** Planks with a fine crack across them, and a scale beside it. */
    private void crack() {
        for (int i = 0; i < 8; i++) {
            pen.setColor(Color.getHSBColor(0.08f, 0.45f, 0.42f + random.nextFloat() * 0.16f));
            pen.fillRect(0, i * 60, WIDTH, 58);
            pen.setColor(new Color(0, 0, 0, 28));
            for (int grain = 0; grain < 14; grain++) {
                int y = i * 60 + random.nextInt(58);
                pen.drawLine(random.nextInt(300), y, 300 + random.nextInt(420), y + random.nextInt(4));
            }
        }
        Path2D path = new Path2D.Double();
        double x = 120 + random.nextInt(80);
        double y = 40;
        path.moveTo(x, y);
        while (y < 430) {
            x += random.nextInt(34) - 8;
            y += 12 + random.nextInt(18);
            path.lineTo(x, y);
        }
        pen.setColor(new Color(0x1c120a));
        pen.setStroke(new BasicStroke(2.4f));
        pen.draw(path);
        for (int i = 0; i < 10; i++) {
            pen.setColor(i % 2 == 0 ? Color.BLACK : Color.WHITE);
            pen.fillRect(440 + i * 24, 440, 24, 14);
        }
    }

    private void room() {
        sky(new Color(0xe9e4d8), new Color(0xcfc7b4));
        pen.setColor(new Color(0x9a8f7a));
        pen.fill(new Polygon(new int[] {0, WIDTH, WIDTH, 0}, new int[] {360, 360, HEIGHT, HEIGHT}, 4));
        for (int i = 0; i < 4; i++) {
            pen.setColor(Color.getHSBColor(0.5f + random.nextFloat() * 0.2f, 0.4f, 0.45f));
            pen.fillRect(50 + i * 170, 110 + random.nextInt(30), 110, 130 + random.nextInt(40));
            pen.setColor(new Color(0x5c5446));
            pen.fillRect(60 + i * 170, 330, 90, 70);
        }
    }

    private void plan() {
        sky(Color.WHITE, Color.WHITE);
        pen.setColor(new Color(0x23424a));
        pen.setStroke(new BasicStroke(6));
        pen.drawRect(60, 60, 600, 360);
        pen.drawLine(260 + random.nextInt(120), 60, 260 + random.nextInt(60), 300);
        pen.drawLine(60, 260 + random.nextInt(60), 300, 260);
        pen.setStroke(new BasicStroke(2));
        for (int i = 0; i < 7; i++) {
            pen.drawRect(90 + random.nextInt(480), 90 + random.nextInt(270), 46, 30);
        }
    }

    private void cabin() {
        sky(new Color(0x9fc3d6), new Color(0xf2f5f4));
        for (int i = 0; i < 4; i++) {
            int x = random.nextInt(WIDTH);
            pen.setColor(new Color(120 + i * 20, 140 + i * 20, 150 + i * 18));
            pen.fill(new Polygon(new int[] {x - 260, x, x + 260}, new int[] {340, 110 + i * 40, 340}, 3));
        }
        pen.setColor(new Color(0xf7f8f6));
        pen.fillRect(0, 340, WIDTH, 140);
        pen.setColor(new Color(0x7a3327));
        pen.fillRect(260, 270, 180, 100);
        pen.setColor(new Color(0x2e2a28));
        pen.fill(new Polygon(new int[] {240, 350, 460}, new int[] {270, 200, 270}, 3));
        pen.setColor(new Color(0xf3d27a));
        pen.fillRect(300, 300, 36, 32);
    }

    private void goods() {
        sky(new Color(0xf5f2ec), new Color(0xe6dfd2));
        pen.setColor(Color.getHSBColor(random.nextFloat(), 0.5f, 0.5f));
        pen.fillRoundRect(230, 120, 260, 280, 60, 60);
        pen.fill(new Polygon(new int[] {235, 130, 190, 260}, new int[] {140, 330, 350, 230}, 4));
        pen.fill(new Polygon(new int[] {485, 590, 530, 460}, new int[] {140, 330, 350, 230}, 4));
        pen.setColor(new Color(255, 255, 255, 60));
        for (int y = 150; y < 390; y += 22) {
            pen.fillRect(236, y, 248, 6);
        }
    }

    private void poster() {
        sky(new Color(0x10242e), new Color(0x2c5f63));
        for (int i = 0; i < 9; i++) {
            pen.setColor(Color.getHSBColor(0.38f + random.nextFloat() * 0.2f, 0.5f, 0.8f));
            pen.setStroke(new BasicStroke(3 + random.nextInt(9)));
            Path2D ribbon = new Path2D.Double();
            ribbon.moveTo(0, 60 + i * 22);
            ribbon.curveTo(200, random.nextInt(200), 460, 120 + random.nextInt(200), WIDTH, 40 + i * 24);
            pen.draw(ribbon);
        }
        boat(360, 400, 1.2);
    }
}
