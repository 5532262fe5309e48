package app.schublade.core.filing;

import app.schublade.core.place.FolderRef;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** What the rules want done with one message: one entry for each rule that took it, in the order of the rules. */
public record Verdict(List<Hit> hits) {
    public Verdict {
        hits = List.copyOf(hits);
    }

    /**
     * One rule's part.
     *
     * @param number the rule's place in the book, from 1
     * @param reasons the conditions that held, in words
     * @param effects what it does
     * @param outranked what it would have done, had not an earlier rule filed the message already
     */
    public record Hit(Rule rule, int number, List<String> reasons, List<Effect> effects, List<Effect> outranked) {
        /** Whether it puts the message somewhere else. */
        public boolean moves() {
            return effects.stream().anyMatch(Effect::moves);
        }

        /** The same for a message that arrived on that day. */
        Hit arriving(LocalDate day) {
            return new Hit(
                    rule,
                    number,
                    reasons,
                    effects.stream().map(effect -> effect.arriving(day)).toList(),
                    outranked);
        }

        private Hit hushed() {
            List<Effect> quiet = effects.stream()
                    .filter(effect -> !(effect instanceof Effect.Notify))
                    .toList();
            return new Hit(rule, number, reasons, quiet, outranked);
        }

        /** The folders that it copies the message into. */
        public List<FolderRef> copies() {
            return effects.stream()
                    .filter(Effect.CopyInto.class::isInstance)
                    .map(effect -> ((Effect.CopyInto) effect).folder())
                    .toList();
        }

        /** What is to be done besides, if the message is new: all that changes nothing at the message itself. */
        public List<Effect.Besides> besides() {
            return effects.stream()
                    .filter(Effect.Besides.class::isInstance)
                    .map(Effect.Besides.class::cast)
                    .toList();
        }

        /** Whether anything would be otherwise; of a copy it is not known whether it is there already. */
        public boolean changes(State state) {
            return !on(state).equals(state) || !copies().isEmpty();
        }

        public State on(State state) {
            return Effect.all(effects, state);
        }
    }

    /** The same without telling anybody of the message, and with one more part. */
    public Verdict hushed(Hit more) {
        return new Verdict(
                Stream.concat(hits.stream().map(Hit::hushed), Stream.of(more)).toList());
    }

    /** The part of one rule, if it took the message. */
    public Optional<Hit> of(long ruleId) {
        return hits.stream().filter(hit -> hit.rule().id() == ruleId).findFirst();
    }
}
