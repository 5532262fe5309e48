package app.schublade.core.filing;

import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Several things that one key does to messages.
 *
 * @param id 0 for one that is not kept yet
 * @param gone places that it names and that are no more, in words; it cannot be carried out until it is changed
 */
public record Routine(long id, String name, List<Effect> steps, List<String> gone) {
    public Routine {
        steps = List.copyOf(steps);
        gone = List.copyOf(gone);
    }

    /** Whether messages lie elsewhere afterwards. */
    public boolean moves() {
        return steps.stream().anyMatch(Effect::moves);
    }

    /** What of it changes messages; the rest is written. */
    public List<Effect> changes() {
        return steps.stream().filter(step -> !(step instanceof Effect.Besides)).toList();
    }

    /** Whether it asks for a day first. */
    public boolean asksForDay() {
        return steps.stream().anyMatch(Effect::asksForDay);
    }

    /** By which day what it sends is to be answered, if it is used on that day; null if it does not say. */
    public @Nullable LocalDate answeredBy(LocalDate today) {
        return only(Effect.AwaitAnswer.class).stream()
                .map(step -> step.by().after(today).day())
                .findFirst()
                .orElse(null);
    }

    /** To whom it passes messages on. */
    public List<Effect.Forward> forwards() {
        return only(Effect.Forward.class);
    }

    /** What it answers without opening it. */
    public List<Effect.AnswerAtOnce> answersAtOnce() {
        return only(Effect.AnswerAtOnce.class);
    }

    /** Whether something leaves by it that nobody has opened. */
    public boolean sends() {
        return !forwards().isEmpty() || !answersAtOnce().isEmpty();
    }

    private <E extends Effect> List<E> only(Class<E> kind) {
        return steps.stream().filter(kind::isInstance).map(kind::cast).toList();
    }

    /** The text of the answer that it begins; empty if it begins none. */
    public String answer() {
        return only(Effect.Answer.class).stream().map(Effect.Answer::text).collect(Collectors.joining("\n"));
    }

    /** {@code "Mark as read, label Waiting, archive"}. */
    public String sentence() {
        String steps = this.steps.stream().map(Effect::sentence).collect(Collectors.joining(", "));
        return steps.isEmpty() ? "Nothing yet" : steps.substring(0, 1).toUpperCase(Locale.ROOT) + steps.substring(1);
    }
}
