package app.schublade.bench;

import app.schublade.core.learn.Likely;
import app.schublade.core.learn.LikelyPlaces;
import app.schublade.core.learn.Trace;
import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;

/**
 * How often the likely folder is right, in order of time: each message of a generated mailbox is asked about, and then learnt
 * from; beside what counting the sender's messages says. The mailboxes differ in what their owners file by.
 */
final class LearnBench {
    private static final int SLOTS = 3;
    private static final int WARM = 500;
    private static final int WORDS = 6000;
    private static final int BODY = 60;
    private static final int STRANGERS = 3000;

    /** What somebody files by. */
    private enum Habit {
        SENDER,
        MATTER,
        KIND,
        ACCOUNT,
        MIXED,
        CHANGING
    }

    /** A message and the folder that it belongs to. */
    private record Filed(Message message, long conversation, long folder) {}

    /** Some people, who write about a matter in words of its own. */
    private record Matter(List<Integer> people, List<Integer> words, Habit habit, int account) {}

    private final Random random;
    private final int folders;
    private final Habit habit;
    private final List<Matter> matters = new ArrayList<>();
    private final int people;

    private LearnBench(Habit habit, int folders, long seed) {
        random = new Random(seed);
        this.habit = habit;
        this.folders = folders;
        people = folders * 2;
        for (int i = 0; i < folders; i++) {
            matters.add(matter(i, habit == Habit.MIXED || habit == Habit.CHANGING ? kinds(i) : habit));
        }
    }

    private static Habit kinds(int number) {
        return List.of(Habit.MATTER, Habit.SENDER, Habit.KIND, Habit.MATTER, Habit.ACCOUNT)
                .get(number % 5);
    }

    /** In a matter half of the people write about other things too; whoever is filed by sender has people of one's own. */
    private Matter matter(int number, Habit by) {
        List<Integer> who = IntStream.range(0, 4)
                .map(i -> by == Habit.MATTER || by == Habit.ACCOUNT ? random.nextInt(people) : number * 4 + i + people)
                .boxed()
                .toList();
        List<Integer> words =
                IntStream.range(0, 25).map(i -> random.nextInt(WORDS)).boxed().toList();
        return new Matter(who, words, by, number % 3);
    }

    private List<Filed> mailbox(int messages) {
        List<Filed> mail = new ArrayList<>();
        Map<Long, Filed> open = new HashMap<>();
        for (int i = 0; i < messages; i++) {
            if (habit == Habit.CHANGING && i == messages / 2) {
                for (int j = 0; j < folders; j += 2) {
                    matters.set(j, matter(j, kinds(j + 1)));
                }
            }
            Filed next = random.nextInt(3) == 0 && !open.isEmpty() ? answer(open) : fresh(i + 1);
            mail.add(next);
            open.put(next.conversation, next);
            if (open.size() > 200) {
                open.remove(open.keySet().iterator().next());
            }
        }
        return mail;
    }

    private Filed answer(Map<Long, Filed> open) {
        Filed to = new ArrayList<>(open.values()).get(random.nextInt(open.size()));
        Matter matter = matters.get((int) to.folder - 1);
        return letter(
                matter,
                to.folder,
                to.conversation,
                "Re: " + to.message.subject().replaceFirst("^Re: ", ""));
    }

    private Filed fresh(long conversation) {
        int folder = (int) (Math.pow(random.nextDouble(), 1.6) * folders);
        Matter matter = matters.get(folder);
        String subject = IntStream.range(0, 4)
                .mapToObj(i -> word(matter, matter.habit == Habit.KIND ? 0.7 : 0.25))
                .collect(Collectors.joining(" "));
        return letter(matter, folder + 1, conversation, subject);
    }

    private Filed letter(Matter matter, long folder, long conversation, String subject) {
        boolean stranger = matter.habit != Habit.SENDER && random.nextInt(5) < 2;
        int who = stranger
                ? 10 * people + random.nextInt(STRANGERS)
                : matter.people.get(random.nextInt(matter.people.size()));
        double own = matter.habit == Habit.MATTER || matter.habit == Habit.KIND ? 0.08 : 0.02;
        String body = IntStream.range(0, BODY).mapToObj(i -> word(matter, own)).collect(Collectors.joining(" "));
        Address from = new Address("Writer " + who, "writer" + who + "@domain" + who % (people / 2) + ".example");
        String alias = matter.habit == Habit.ACCOUNT ? "role" + folder + "@own.example" : "me@own.example";
        Message message = Message.from(matter.account, from, subject)
                .body(body)
                .sentTo(List.of(alias), List.of(alias))
                .list(matter.habit == Habit.KIND && folder % 2 == 0 ? "list" + folder + ".example" : null)
                .build();
        return new Filed(message, conversation, folder);
    }

    private String word(Matter matter, double own) {
        return random.nextDouble() < own
                ? "w" + matter.words.get(random.nextInt(matter.words.size()))
                : "w" + (int) (Math.pow(random.nextDouble(), 3) * WORDS);
    }

    static void run(int messages) {
        System.out.printf("of %,d messages, right first / among three%n", messages);
        for (int folders : List.of(21, 100, 300)) {
            for (Habit habit : Habit.values()) {
                new LearnBench(habit, folders, 7).measure(messages);
            }
        }
    }

    private void measure(int messages) {
        List<Filed> mail = mailbox(messages);
        LikelyPlaces likely = new LikelyPlaces();
        Map<String, Map<Long, Integer>> bySender = new HashMap<>();
        var open = LongStream.rangeClosed(1, folders).boxed().collect(Collectors.toSet());
        int[] right = new int[4];
        int shown = 0;
        int shownRight = 0;
        long time = 0;
        for (int i = 0; i < mail.size(); i++) {
            Filed one = mail.get(i);
            long begin = System.nanoTime();
            List<Trace> traces = Trace.of(one.message, one.conversation);
            List<Likely> found = likely.of(traces, open, SLOTS);
            time += System.nanoTime() - begin;
            Map<Long, Integer> sender =
                    bySender.computeIfAbsent(one.message.from().key(), key -> new HashMap<>());
            if (i >= WARM) {
                List<Long> ours = found.stream().map(Likely::place).toList();
                List<Long> theirs = sender.entrySet().stream()
                        .sorted(Map.Entry.<Long, Integer>comparingByValue(Comparator.reverseOrder()))
                        .limit(SLOTS)
                        .map(Map.Entry::getKey)
                        .toList();
                count(ours, one.folder, right, 0);
                count(theirs, one.folder, right, 2);
                if (!found.isEmpty() && found.get(0).share() > 0.5) {
                    shown++;
                    shownRight += ours.indexOf(one.folder) == 0 ? 1 : 0;
                }
            }
            likely.learn(traces, one.folder);
            sender.merge(one.folder, 1, Integer::sum);
        }
        int asked = mail.size() - WARM;
        System.out.printf(
                "%3d folders, by %-8s  %5.1f / %5.1f   the sender's count %5.1f / %5.1f   surer than not %5.1f, then right %5.1f   %.2f ms%n",
                folders,
                habit.name().toLowerCase(java.util.Locale.ROOT),
                100.0 * right[0] / asked,
                100.0 * right[1] / asked,
                100.0 * right[2] / asked,
                100.0 * right[3] / asked,
                100.0 * shown / asked,
                100.0 * shownRight / Math.max(1, shown),
                time / 1e6 / mail.size());
    }

    private static void count(List<Long> places, long folder, int[] right, int at) {
        right[at] += places.indexOf(folder) == 0 ? 1 : 0;
        right[at + 1] += places.contains(folder) ? 1 : 0;
    }
}
