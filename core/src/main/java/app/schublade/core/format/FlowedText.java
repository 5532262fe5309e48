package app.schublade.core.format;

/** Puts together the lines of a text that was sent as {@code format=flowed}, and writes such a text (RFC 3676, section 4). */
final class FlowedText {
    private static final String SIGNATURE = "-- ";
    /** Longer lines are broken where words end (RFC 3676, section 4.2). */
    private static final int WIDTH = 76;

    private final boolean deletesSpace;
    private final StringBuilder text;
    /** How often the paragraph that is open is quoted; -1 if none is. */
    private int openDepth = -1;

    private FlowedText(int length, boolean deletesSpace) {
        this.deletesSpace = deletesSpace;
        text = new StringBuilder(length);
    }

    /** @param deletesSpace whether the blank that a line ends with only says that it goes on ({@code DelSp}) */
    static String read(String sent, boolean deletesSpace) {
        FlowedText flowed = new FlowedText(sent.length(), deletesSpace);
        for (int start = 0; start < sent.length(); ) {
            int end = sent.indexOf('\n', start);
            int stop = end < 0 ? sent.length() : end;
            boolean carriage = stop > start && sent.charAt(stop - 1) == '\r';
            flowed.take(sent.substring(start, carriage ? stop - 1 : stop));
            start = stop + 1;
        }
        return flowed.text.toString();
    }

    private void take(String line) {
        int depth = 0;
        while (depth < line.length() && line.charAt(depth) == '>') {
            depth++;
        }
        boolean stuffed = depth < line.length() && line.charAt(depth) == ' ';
        String content = line.substring(stuffed ? depth + 1 : depth);
        boolean signature = content.equals(SIGNATURE);
        boolean goesOn = openDepth == depth && !signature;
        if (!goesOn) {
            if (!text.isEmpty()) {
                text.append('\n');
            }
            text.append(">".repeat(depth)).append(depth > 0 && !content.isEmpty() ? " " : "");
        }
        boolean flows = content.endsWith(" ") && !signature;
        text.append(flows && deletesSpace ? content.substring(0, content.length() - 1) : content);
        openDepth = flows ? depth : -1;
    }

    /**
     * A text whose long lines go on in the next one. What was a line is one again for whoever reads it so; a blank at its end is
     * lost, as it would say that the line goes on.
     */
    static String write(String text) {
        StringBuilder out = new StringBuilder(text.length() + text.length() / WIDTH);
        text.lines().forEach(line -> {
            int depth = 0;
            while (depth < line.length() && line.charAt(depth) == '>') {
                depth++;
            }
            boolean spaced = depth > 0 && depth < line.length() && line.charAt(depth) == ' ';
            writeLine(line.substring(spaced ? depth + 1 : depth), depth, out);
        });
        return out.toString();
    }

    private static void writeLine(String typed, int depth, StringBuilder out) {
        String content = typed.equals(SIGNATURE) ? typed : typed.stripTrailing();
        String quote = ">".repeat(depth);
        int start = 0;
        do {
            int end = content.length();
            if (end - start > WIDTH - depth && !content.equals(SIGNATURE)) {
                int blank = content.lastIndexOf(' ', start + WIDTH - depth);
                int after = blank <= start ? content.indexOf(' ', start + 1) : blank;
                end = after < 0 ? end : after + 1;
            }
            String piece = content.substring(start, end);
            boolean stuffed = piece.startsWith(" ") || piece.startsWith(">") || piece.startsWith("From ");
            out.append(quote)
                    .append(stuffed || (depth > 0 && !piece.isEmpty()) ? " " : "")
                    .append(piece)
                    .append('\n');
            start = end;
        } while (start < content.length());
    }
}
