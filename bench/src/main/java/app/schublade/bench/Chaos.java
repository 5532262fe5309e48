package app.schublade.bench;

import java.util.Locale;
import java.util.Random;
import java.util.concurrent.TimeUnit;

/**
 * Kills what can be killed, again and again, while mail comes in, a user files, copies, carries over and writes, and another mail
 * program moves and deletes;
 * then lets everything come to rest and counts whether every message is where it should be on both sides.
 *
 * <p>What happens depends on the seed; when it happens, on the machine.
 */
final class Chaos {
    private static final int LONGEST_PAUSE_MILLIS = 8000;
    /** What was being handed in when its process was killed is tried again after five minutes. */
    private static final long REST_SECONDS = 600;

    /** The two applications are 0 and 1, the database is 2, the mail server 3. */
    private static final int VICTIMS = 4;

    private Chaos() {}

    static void run(int kills, long seed) throws Exception {
        System.setProperty("logback.configurationFile", "logback-quiet.xml");
        System.out.printf(
                Locale.ROOT, "chaos: %d kills of two applications, database and mail server; seed %d%n", kills, seed);
        Random random = new Random(seed);
        boolean clean;
        try (ChaosWorld world = new ChaosWorld(seed);
                ChaosActors actors = new ChaosActors(world, seed)) {
            actors.start();
            int[] killed = new int[4];
            for (int i = 0; i < kills; i++) {
                TimeUnit.MILLISECONDS.sleep(200 + random.nextInt(LONGEST_PAUSE_MILLIS));
                int victim = random.nextInt(VICTIMS);
                killed[victim]++;
                kill(world, victim);
                world.reviveApplications();
                if ((i + 1) % 20 == 0) {
                    System.out.printf(Locale.ROOT, "%4d kills, %s%n", i + 1, actors.told());
                }
            }
            actors.stop();
            System.out.printf(
                    Locale.ROOT,
                    "killed: first application %d, second %d, database %d, mail server %d%n%s%n",
                    killed[0],
                    killed[1],
                    killed[2],
                    killed[3],
                    actors.told());
            ChaosCheck check = new ChaosCheck(world, actors);
            check.awaitRest(REST_SECONDS);
            clean = check.report();
        }
        if (!clean) {
            System.exit(1);
        }
    }

    private static void kill(ChaosWorld world, int victim) throws Exception {
        switch (victim) {
            case 0, 1 -> world.killApplication(victim);
            case 2 -> world.killDatabase();
            default -> world.killMailServer();
        }
    }
}
