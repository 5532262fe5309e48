package app.schublade.core.format;

/** Puts together the lines of a text that was sent as {@code format=flowed} (RFC 3676, section 4). */
final class FlowedText {
    private static final String SIGNATURE = "-- ";

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
}
