package app.schublade.bench;

/** Runs one benchmark: {@code import}, {@code arrival}, {@code list}, {@code find}, {@code learn}, {@code trial}, {@code resync}, {@code filing} or {@code reading}, with a number of messages if wanted; or {@code chaos}, with
 * a number of kills and a seed. */
public final class Bench {
    private Bench() {}

    public static void main(String[] arguments) throws Exception {
        Thread.setDefaultUncaughtExceptionHandler(Bench::report);
        String name = arguments.length == 0 ? "" : arguments[0];
        int messages = arguments.length > 1 ? Integer.parseInt(arguments[1]) : 0;
        switch (name) {
            case "import" -> ImportBench.run(messages == 0 ? 10_000 : messages);
            case "arrival" -> ArrivalBench.run(messages == 0 ? 60 : messages);
            case "list" -> ListBench.run(messages == 0 ? 1_000_000 : messages);
            case "find" -> FindBench.run(messages == 0 ? 200_000 : messages);
            case "learn" -> LearnBench.run(messages == 0 ? 5000 : messages);
            case "resync" -> ResyncBench.run(messages == 0 ? 100_000 : messages);
            case "trial" -> TrialBench.run(messages == 0 ? 100_000 : messages);
            case "filing" -> FilingBench.run();
            case "reading" -> ReadingBench.run(messages == 0 ? 300 : messages);
            case "chaos" ->
                Chaos.run(messages == 0 ? 200 : messages, arguments.length > 2 ? Long.parseLong(arguments[2]) : 1);
            default ->
                throw new IllegalArgumentException(
                        "There are import, arrival, list, find, learn, trial, resync, filing, reading and chaos, not “"
                                + name + "”.");
        }
        System.exit(0);
    }

    /** The stand-in's threads end with an exception whenever a client hangs up; that is no news. */
    private static void report(Thread thread, Throwable problem) {
        if (!thread.getName().startsWith("imap:")) {
            System.err.println(thread.getName() + ": " + problem);
        }
    }
}
