package app.schublade.store.act;

import java.util.List;
import java.util.stream.Stream;

/**
 * What an act did.
 *
 * @param batch to undo it by; 0 if nothing changed
 * @param kept messages that an undo left as they were changed since
 * @param leftOut sentences about places that are gone
 */
public record ActOutcome(long batch, String title, List<Long> changed, int kept, List<String> leftOut) {
    public static final ActOutcome NOTHING = new ActOutcome(0, "", List.of(), 0);

    public ActOutcome(long batch, String title, List<Long> changed, int kept) {
        this(batch, title, changed, kept, List.of());
    }

    public ActOutcome and(ActOutcome further) {
        return new ActOutcome(
                Math.max(batch, further.batch),
                title,
                Stream.concat(changed.stream(), further.changed.stream()).toList(),
                kept + further.kept,
                Stream.concat(leftOut.stream(), further.leftOut.stream())
                        .distinct()
                        .toList());
    }
}
