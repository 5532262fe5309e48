package app.schublade.core.learn;

import java.io.DataInput;
import java.io.DataOutput;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Learns from every message that a user files, and forgets slowly: where it is likely to belong. Each {@link Trace} says, by
 * the messages that shared it, how much more often than usual such a message went to a place; what they say is added up, as
 * logarithms (naive Bayes, each kind with a weight of its own).
 *
 * <p>Not for several threads at once.
 */
public final class LikelyPlaces {
    /** After so many more messages, one counts half. */
    private static final double HALF = 3000;
    /** How much a place that is hardly used may still be meant. */
    private static final double UNUSED = 0.4;
    /** Of the words of a text, only those that say most are listened to. */
    private static final int BEST_WORDS = 10;

    private static final double PRIOR_WEIGHT = 0.55;
    /** How much must speak for a place before it is likelier than that the message belongs to none. */
    private static final double SURE = 2.5;
    /** The fewer places there are, the less can speak for one of them. */
    private static final double SURE_OF_FEW = 0.8;

    private static final double TOO_LARGE = 1e12;
    private static final int MAX_TRACES = 60_000;
    private static final int FORMAT = 1;

    private final Map<Long, Tally> traces = new HashMap<>();
    private Tally all = new Tally();
    private double increment = 1;

    /** How many messages went where: with what is forgotten taken off, and as they are. */
    private static final class Tally {
        private long[] places = new long[1];
        private double[] weights = new double[1];
        private int[] messages = new int[1];
        private int size;
        private double weight;
        private int count;

        private int find(long place) {
            for (int i = 0; i < size; i++) {
                if (places[i] == place) {
                    return i;
                }
            }
            return -1;
        }

        void add(long place, double amount) {
            int at = find(place);
            if (at < 0) {
                if (size == places.length) {
                    places = Arrays.copyOf(places, size * 2);
                    weights = Arrays.copyOf(weights, size * 2);
                    messages = Arrays.copyOf(messages, size * 2);
                }
                at = size++;
                places[at] = place;
                weights[at] = 0;
                messages[at] = 0;
            }
            weights[at] += amount;
            messages[at]++;
            weight += amount;
            count++;
        }

        void take(long place, double amount) {
            int at = find(place);
            if (at < 0) {
                return;
            }
            double less = Math.min(amount, weights[at]);
            weights[at] -= less;
            weight -= less;
            messages[at]--;
            count--;
            if (messages[at] <= 0) {
                weight -= weights[at];
                size--;
                places[at] = places[size];
                weights[at] = weights[size];
                messages[at] = messages[size];
            }
        }

        void divide(double by) {
            weight /= by;
            for (int i = 0; i < size; i++) {
                weights[i] /= by;
            }
        }

        int messagesOf(long place) {
            int at = find(place);
            return at < 0 ? 0 : messages[at];
        }

        void write(DataOutput out) throws IOException {
            out.writeDouble(weight);
            out.writeInt(size);
            for (int i = 0; i < size; i++) {
                out.writeLong(places[i]);
                out.writeDouble(weights[i]);
                out.writeInt(messages[i]);
            }
        }

        static Tally read(DataInput in) throws IOException {
            Tally tally = new Tally();
            tally.weight = in.readDouble();
            tally.size = in.readInt();
            tally.places = new long[Math.max(1, tally.size)];
            tally.weights = new double[tally.places.length];
            tally.messages = new int[tally.places.length];
            for (int i = 0; i < tally.size; i++) {
                tally.places[i] = in.readLong();
                tally.weights[i] = in.readDouble();
                tally.messages[i] = in.readInt();
                tally.count += tally.messages[i];
            }
            return tally;
        }
    }

    /** Whether nothing was learnt yet. */
    public boolean isEmpty() {
        return all.count == 0;
    }

    /** A message with these traces was filed there. */
    public void learn(Collection<Trace> message, long place) {
        increment *= Math.pow(2, 1 / HALF);
        all.add(place, increment);
        for (Trace trace : message) {
            traces.computeIfAbsent(trace.hash(), hash -> new Tally()).add(place, increment);
        }
        if (increment > TOO_LARGE) {
            all.divide(increment);
            traces.values().forEach(tally -> tally.divide(increment));
            increment = 1;
        }
        if (traces.size() > MAX_TRACES) {
            forgetRare();
        }
    }

    /** A message with these traces does not belong there after all. */
    public void unlearn(Collection<Trace> message, long place) {
        if (all.messagesOf(place) == 0) {
            return;
        }
        all.take(place, increment);
        for (Trace trace : message) {
            Tally tally = traces.get(trace.hash());
            if (tally != null) {
                tally.take(place, increment);
                if (tally.count == 0) {
                    traces.remove(trace.hash());
                }
            }
        }
    }

    /** What was seen once and long ago goes first. */
    private void forgetRare() {
        List<Double> weights =
                traces.values().stream().map(tally -> tally.weight).sorted().toList();
        double least = weights.get(weights.size() / 4);
        traces.values().removeIf(tally -> tally.weight <= least);
    }

    /** How much more often than usual one trace's messages went to each place. */
    private record Voice(Trace trace, Tally tally, double otherwise, Map<Long, Double> places) {
        /** How far apart it sees the places. */
        double spread() {
            return places.values().stream()
                            .mapToDouble(Double::doubleValue)
                            .max()
                            .orElse(0)
                    - otherwise;
        }

        double of(long place) {
            return places.getOrDefault(place, otherwise);
        }
    }

    private @Nullable Voice voice(Trace trace) {
        Tally tally = traces.get(trace.hash());
        if (tally == null) {
            return null;
        }
        double seen = tally.weight / increment;
        double weight = trace.kind().weight();
        double doubt = trace.kind().doubt();
        Map<Long, Double> places = new HashMap<>();
        for (int i = 0; i < tally.size; i++) {
            double share = share(tally.places[i]);
            double there = tally.weights[i] / increment;
            places.put(tally.places[i], weight * Math.log((there + doubt * share) / ((seen + doubt) * share)));
        }
        return new Voice(trace, tally, weight * Math.log(doubt / (seen + doubt)), places);
    }

    private double share(long place) {
        int at = all.find(place);
        double weight = at < 0 ? 0 : all.weights[at];
        return (weight + increment * UNUSED) / (all.weight + increment * UNUSED * (all.size + 1));
    }

    /**
     * The most likely places, the likeliest first.
     *
     * @param open those that a message can be filed to now
     */
    public List<Likely> of(Collection<Trace> message, Set<Long> open, int most) {
        List<Voice> voices = voices(message);
        Map<Long, Double> scores = new HashMap<>();
        double highest = Double.NEGATIVE_INFINITY;
        for (long place : open) {
            double score = PRIOR_WEIGHT * Math.log(share(place));
            for (Voice voice : voices) {
                score += voice.of(place);
            }
            scores.put(place, score);
            highest = Math.max(highest, score);
        }
        double best = highest;
        double choices = Math.log(open.size() + 1.0);
        double none = Math.min(SURE, SURE_OF_FEW * choices) - PRIOR_WEIGHT * choices;
        double total = Math.exp(none - best)
                + scores.values().stream()
                        .mapToDouble(score -> Math.exp(score - best))
                        .sum();
        return scores.entrySet().stream()
                .sorted(Map.Entry.<Long, Double>comparingByValue().reversed())
                .limit(most)
                .map(entry -> likely(entry.getKey(), Math.exp(entry.getValue() - best) / total, voices))
                .toList();
    }

    private List<Voice> voices(Collection<Trace> message) {
        List<Voice> voices = new ArrayList<>();
        List<Voice> words = new ArrayList<>();
        for (Trace trace : message) {
            Voice voice = voice(trace);
            if (voice != null) {
                (trace.kind() == Trace.TraceKind.WORD ? words : voices).add(voice);
            }
        }
        words.sort(Comparator.comparingDouble(Voice::spread).reversed());
        return Stream.concat(voices.stream(), words.stream().limit(BEST_WORDS)).toList();
    }

    private static Likely likely(long place, double share, List<Voice> voices) {
        return voices.stream()
                .filter(voice -> voice.tally.messagesOf(place) > 0 && voice.of(place) > 0)
                .max(Comparator.comparingDouble(voice -> voice.of(place)))
                .map(voice -> new Likely(place, share, voice.trace, voice.tally.messagesOf(place), voice.tally.count))
                .orElseGet(() -> new Likely(place, share, null, 0, 0));
    }

    /** Writes what was learnt, for {@link #read}. */
    public void write(DataOutput out) throws IOException {
        out.writeInt(FORMAT);
        out.writeDouble(increment);
        all.write(out);
        out.writeInt(traces.size());
        for (Map.Entry<Long, Tally> entry : traces.entrySet()) {
            out.writeLong(entry.getKey());
            entry.getValue().write(out);
        }
    }

    /** Reads what was written; null if it was written by another version. */
    public static @Nullable LikelyPlaces read(DataInput in) throws IOException {
        if (in.readInt() != FORMAT) {
            return null;
        }
        LikelyPlaces places = new LikelyPlaces();
        places.increment = in.readDouble();
        places.all = Tally.read(in);
        for (int left = in.readInt(); left > 0; left--) {
            long hash = in.readLong();
            places.traces.put(hash, Tally.read(in));
        }
        return places;
    }
}
