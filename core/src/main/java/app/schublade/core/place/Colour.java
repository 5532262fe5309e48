package app.schublade.core.place;

import app.schublade.core.problem.InputProblem;
import java.util.regex.Pattern;

/**
 * A colour of the user's own.
 *
 * @param rgb red, green and blue, eight bits each
 */
public record Colour(int rgb) {
    /** Of a mark against white paper: as much as text needs (WCAG 2.2, success criterion 1.4.3). */
    public static final double LEAST_CONTRAST = 4.5;

    private static final double DARKER = 0.94;
    private static final Pattern WRITTEN = Pattern.compile("#[0-9a-fA-F]{6}");

    /**
     * Reads {@code #2d6a4f}.
     *
     * @throws InputProblem if it is something else
     */
    public static Colour parse(String text) {
        if (!WRITTEN.matcher(text).matches()) {
            throw new InputProblem(
                    "“%s” is not a colour. Write it like #2d6a4f: two digits each for red, green and blue."
                            .formatted(text.length() > 20 ? text.substring(0, 20) + "…" : text));
        }
        return new Colour(Integer.parseInt(text.substring(1), 16));
    }

    /** The contrast with white: 1 for white itself, 21 for black (WCAG 2.2, contrast ratio). */
    public double contrast() {
        double luminance = 0.2126 * linear(red()) + 0.7152 * linear(green()) + 0.0722 * linear(blue());
        return 1.05 / (luminance + 0.05);
    }

    private static double linear(int channel) {
        double share = channel / 255.0;
        return share <= 0.04045 ? share / 12.92 : Math.pow((share + 0.055) / 1.055, 2.4);
    }

    /** The colour, or as little darker as it must be to stand out from white paper. */
    public Colour readable() {
        Colour colour = this;
        while (colour.contrast() < LEAST_CONTRAST) {
            colour = new Colour(darker(colour.red()) << 16 | darker(colour.green()) << 8 | darker(colour.blue()));
        }
        return colour;
    }

    private static int darker(int channel) {
        return (int) (channel * DARKER);
    }

    private int red() {
        return rgb >> 16 & 0xff;
    }

    private int green() {
        return rgb >> 8 & 0xff;
    }

    private int blue() {
        return rgb & 0xff;
    }

    /** Its class in the style sheet. */
    public String css() {
        return "own-" + toString().substring(1);
    }

    /** {@code #2d6a4f} */
    @Override
    public String toString() {
        return String.format("#%06x", rgb & 0xffffff);
    }
}
