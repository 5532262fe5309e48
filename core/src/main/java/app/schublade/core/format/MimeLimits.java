package app.schublade.core.format;

/**
 * How much of a message is read. What goes beyond is left out, said in {@link ParsedMail#cuts}, and in nobody's way: the rest
 * is read as if there were no more.
 *
 * @param depth how deep parts may lie in each other; what lies deeper is one file
 * @param parts how many parts there may be
 * @param fields how many fields a header may have, besides those that everybody needs ({@code From}, {@code Subject}, ...)
 * @param fieldBytes how long a field may be
 * @param textChars how long the text may be, plain and HTML each
 */
record MimeLimits(int depth, int parts, int fields, int fieldBytes, int textChars) {
    static final MimeLimits USUAL = new MimeLimits(30, 1000, 1000, 256 * 1024, 2_000_000);

    MimeLimits {
        if (depth < 1 || parts < 1 || fields < 1 || fieldBytes < 1 || textChars < 1) {
            throw new IllegalArgumentException("A limit of reading must be at least 1.");
        }
    }
}
