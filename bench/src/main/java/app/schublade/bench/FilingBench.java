package app.schublade.bench;

import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.Verdict;
import app.schublade.core.message.Message;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;

/**
 * Messages filed in a second by one thread, all matches with their reasons: the compiled book beside a loop over the rules as
 * one would write it by hand, and beside nothing but a pass byte by byte over the same fields.
 */
@State(Scope.Thread)
@BenchmarkMode(Mode.Throughput)
@OutputTimeUnit(TimeUnit.SECONDS)
public class FilingBench {
    private static final int MESSAGES = 4000;
    private static final List<Integer> SIZES = List.of(10, 100, 1000, 10_000);

    /** How many rules there are. */
    @Param({"10", "100", "1000", "10000"})
    public int rules;

    private List<Message> messages = List.of();
    private RuleBook book = new RuleBook(List.of());
    private HandLoop hand = new HandLoop(List.of());
    private List<byte[][]> fields = List.of();
    private int at;

    /** Makes the same mail and rules every time. */
    @Setup
    public void prepare() {
        FilingMix mix = new FilingMix();
        messages = mix.messages(MESSAGES);
        book = new RuleBook(mix.rules(rules));
        hand = new HandLoop(book.rules());
        for (Message message : messages.subList(0, 400)) {
            if (hand.count(message) != book.file(message, FilingMix.NEW).hits().size()) {
                throw new IllegalStateException("The loop takes others than the book: " + message.subject());
            }
        }
        fields = new ArrayList<>();
        for (Message message : messages) {
            fields.add(new byte[][] {
                bytes(message.from().email()),
                bytes(message.sentTo().get(0)),
                bytes(message.subject()),
                bytes(message.body())
            });
        }
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private int next() {
        at = (at + 1) % MESSAGES;
        return at;
    }

    @Benchmark
    public Verdict compiled() {
        return book.file(messages.get(next()), FilingMix.NEW);
    }

    @Benchmark
    public int loop() {
        return hand.count(messages.get(next()));
    }

    /** The least that reading a message can cost. */
    @Benchmark
    public int bare() {
        int sum = 0;
        for (byte[] field : fields.get(next())) {
            for (byte one : field) {
                sum = 31 * sum + one;
            }
        }
        return sum;
    }

    static void run() throws RunnerException {
        Collection<RunResult> results = new Runner(new OptionsBuilder()
                        .include(FilingBench.class.getSimpleName())
                        .forks(1)
                        .warmupIterations(3)
                        .warmupTime(TimeValue.seconds(2))
                        .measurementIterations(5)
                        .measurementTime(TimeValue.seconds(2))
                        .build())
                .run();
        Map<String, Double> scores = new HashMap<>();
        for (RunResult result : results) {
            String name =
                    result.getPrimaryResult().getLabel() + result.getParams().getParam("rules");
            scores.put(name, result.getPrimaryResult().getScore());
        }
        System.out.printf(
                "%8s %12s %12s %12s %10s %10s%n", "rules", "compiled", "loop", "bare pass", "of loop", "of bare");
        for (int size : SIZES) {
            double compiled = scores.getOrDefault("compiled" + size, 0.0);
            double loop = scores.getOrDefault("loop" + size, 0.0);
            double bare = scores.getOrDefault("bare" + size, 0.0);
            System.out.printf(
                    "%,8d %,12.0f %,12.0f %,12.0f %10.1f %10.2f%n",
                    size, compiled, loop, bare, compiled / loop, compiled / bare);
        }
        compile();
    }

    /** How long compiling takes once it is warm, and what the compiled book holds. */
    private static void compile() {
        List<Rule> rules = new FilingMix().rules(SIZES.get(SIZES.size() - 1));
        List<RuleBook> kept = new ArrayList<>();
        double best = Double.MAX_VALUE;
        long before = held();
        for (int i = 0; i < 10; i++) {
            long begin = System.nanoTime();
            kept.add(new RuleBook(rules));
            best = Math.min(best, (System.nanoTime() - begin) / 1e6);
        }
        double bytes = (held() - before) / (double) kept.size();
        System.out.printf(
                "compiling %,d rules: %.0f ms (best of %d), %.1f MB held%n",
                rules.size(), best, kept.size(), bytes / 1e6);
    }

    private static long held() {
        for (int i = 0; i < 3; i++) {
            System.gc();
        }
        Runtime runtime = Runtime.getRuntime();
        return runtime.totalMemory() - runtime.freeMemory();
    }
}
