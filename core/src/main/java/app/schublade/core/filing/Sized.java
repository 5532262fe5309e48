package app.schublade.core.filing;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * How large the message is, or its largest attachment.
 *
 * @param larger whether it must be larger than the limit, or smaller
 * @param bytes the limit
 */
public record Sized(boolean attachment, boolean larger, long bytes) implements Condition {
    private static final int KILO = 1000;

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        long size = attachment
                ? matter.message().attachments().stream()
                        .mapToLong(one -> one.size())
                        .max()
                        .orElse(-1)
                : matter.message().size();
        boolean holds = size >= 0 && (larger ? size > bytes : size < bytes);
        return holds ? (attachment ? "an attachment of " : "size ") + inWords(size) : null;
    }

    @Override
    public @Nullable Trigger trigger() {
        return attachment ? Trigger.of(Trigger.TriggerKind.ATTACHED, List.of(Attached.ANY)) : null;
    }

    @Override
    public String sentence() {
        return (attachment ? "an attachment " : "") + (larger ? "larger than " : "smaller than ") + inWords(bytes);
    }

    /** Bytes as people say them: {@code 98 bytes}, {@code 12 KB}, {@code 1.3 MB}. */
    public static String inWords(long size) {
        if (size < KILO) {
            return size + " bytes";
        }
        return size < KILO * KILO
                ? "%d KB".formatted(size / KILO)
                : String.format(Locale.ROOT, "%.1f MB", size / (double) (KILO * KILO))
                        .replace(".0 ", " ");
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.sized(this);
    }
}
