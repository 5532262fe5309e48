package app.schublade.core.filing;

import app.schublade.core.message.Message;
import app.schublade.core.words.Fold;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Something of a name or of a kind is attached.
 *
 * @param values names, with {@code *} for any signs; or endings such as {@code pdf}, kinds such as {@code image}, or media
 *     types (RFC 2046)
 */
public record Attached(By by, List<String> values, List<WildcardPattern> patterns) implements Condition {
    private static final Pattern ENDING = Pattern.compile("\\.([\\p{L}\\p{N}]{1,10})$");

    /** What the values are about. */
    public enum By {
        NAME,
        KIND
    }

    public Attached(By by, List<String> values) {
        this(
                by,
                values,
                values.stream().map(Fold::line).map(WildcardPattern::of).toList());
    }

    public Attached {
        values = List.copyOf(values);
        patterns = List.copyOf(patterns);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        for (Message.Attachment attachment : matter.message().attachments()) {
            for (int i = 0; i < values.size(); i++) {
                if (by == By.NAME ? patterns.get(i).fits(Fold.line(attachment.name())) : isOfKind(attachment, i)) {
                    return "“%s” is attached".formatted(attachment.name());
                }
            }
        }
        return null;
    }

    private boolean isOfKind(Message.Attachment attachment, int number) {
        String kind = values.get(number).toLowerCase(Locale.ROOT);
        return kinds(attachment).contains(kind.startsWith(".") ? kind.substring(1) : kind);
    }

    private static List<String> kinds(Message.Attachment attachment) {
        List<String> kinds = new ArrayList<>();
        String type = attachment.type().toLowerCase(Locale.ROOT);
        kinds.add(type);
        kinds.add(type.substring(0, Math.max(0, type.indexOf('/'))));
        kinds.add(type.substring(type.indexOf('/') + 1));
        var ending = ENDING.matcher(attachment.name().toLowerCase(Locale.ROOT));
        if (ending.find()) {
            kinds.add(ending.group(1));
        }
        return kinds;
    }

    @Override
    public String sentence() {
        return (by == By.NAME ? "an attachment named " : "an attachment of the kind ") + Condition.either(values);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.attached(this);
    }
}
