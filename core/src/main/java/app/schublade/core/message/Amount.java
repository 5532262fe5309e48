package app.schublade.core.message;

/** How many of something, in words. */
public final class Amount {
    private Amount() {}

    /** Such as {@code "1 message"} and {@code "4,312 messages"}. */
    public static String of(long count, String noun) {
        return count == 1 ? "1 " + noun : "%,d %ss".formatted(count, noun);
    }

    public static String messages(long count) {
        return of(count, "message");
    }
}
