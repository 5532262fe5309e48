package app.schublade.core.filing;

import app.schublade.core.message.Message;
import app.schublade.core.words.Fold;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Something of a name or of a kind is attached.
 *
 * @param values names, with {@code *} for any signs; or endings such as {@code pdf}, kinds such as {@code image}, or media
 *     types (RFC 2046)
 */
public record Attached(By by, List<String> values, List<WildcardPattern> patterns) implements Condition {
    /** Stands for attachments of every kind where they are looked up. */
    static final String ANY = "*";

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
        return kinds(attachment).contains(kind(values.get(number)));
    }

    private static String kind(String typed) {
        String kind = typed.toLowerCase(Locale.ROOT);
        return kind.startsWith(".") ? kind.substring(1) : kind;
    }

    /** What of a message's attachments is looked up: their kinds, and that there are any. */
    static Set<String> keys(List<Message.Attachment> attachments) {
        Set<String> keys = new HashSet<>();
        for (Message.Attachment attachment : attachments) {
            keys.add(ANY);
            keys.addAll(kinds(attachment));
        }
        return keys;
    }

    @Override
    public Trigger trigger() {
        return Trigger.of(
                Trigger.TriggerKind.ATTACHED,
                by == By.NAME
                        ? List.of(ANY)
                        : values.stream().map(Attached::kind).toList());
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
