package app.schublade.standin;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CountDownLatch;

/**
 * Starts the mail hosts as a process of their own: {@code --directory=DIR --port=N --messages=N --seed=N --life=on|off}.
 * SMTP listens on the port given, IMAP on the four after it, the commands on the next.
 */
public final class StandinMain {
    private static final Set<String> KNOWN = Set.of("directory", "port", "messages", "seed", "life");

    private StandinMain() {}

    public static void main(String[] arguments) throws IOException, InterruptedException {
        System.setProperty("org.slf4j.simpleLogger.defaultLogLevel", "error");
        Map<String, String> options = read(arguments);
        Path directory = Files.createDirectories(Path.of(options.getOrDefault("directory", "standin-data")));
        int port = Integer.parseInt(options.getOrDefault("port", "0"));
        Standin standin = new Standin(new Standin.Options(
                port,
                directory,
                Integer.parseInt(options.getOrDefault("messages", "2000")),
                Long.parseLong(options.getOrDefault("seed", "1")),
                !"off".equals(options.get("life"))));
        Controls controls = new Controls(standin, port == 0 ? 0 : port + 1 + DemoAccount.ALL.size());
        standin.describe(directory.resolve("accounts.properties"));
        CountDownLatch end = new CountDownLatch(1);
        Runtime.getRuntime().addShutdownHook(new Thread(() -> {
            controls.close();
            standin.close();
            end.countDown();
        }));
        System.out.println("Mail hosts are up, commands on http://127.0.0.1:" + controls.port());
        System.out.print(standin.status());
        end.await();
    }

    private static Map<String, String> read(String[] arguments) {
        Map<String, String> options = new HashMap<>();
        for (String argument : arguments) {
            String[] sides = argument.split("=", 2);
            String name = sides[0].replaceFirst("^--", "");
            if (sides.length < 2 || !KNOWN.contains(name)) {
                throw new IllegalArgumentException("Cannot read " + argument + "; known are " + KNOWN);
            }
            options.put(name, sides[1]);
        }
        return options;
    }
}
