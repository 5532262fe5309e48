package app.schublade.standin;

import app.schublade.standin.world.Letter;
import app.schublade.standin.world.LetterWriter;
import app.schublade.standin.world.World;
import jakarta.mail.Flags;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.Date;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import org.jspecify.annotations.Nullable;

/**
 * The mail hosts of the demo world. Tests start one in their own process; {@link StandinMain} is a process of its own.
 */
public final class Standin implements AutoCloseable {
    static {
        // Looked up again for every part of every message unless it is said.
        System.setProperty("jakarta.mail.util.StreamProvider", "org.eclipse.angus.mail.util.MailStreamProvider");
    }

    static final Session SESSION = Session.getInstance(new Properties());
    private static final AtomicLong IDS = new AtomicLong();

    private final MailHosts hosts;
    private final @Nullable Shelf shelf;
    private final World world;
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread thread = new Thread(work, "standin-clock");
        thread.setDaemon(true);
        return thread;
    });
    private volatile boolean lively;

    /**
     * How a stand-in is started.
     *
     * @param firstPort SMTP listens there, the IMAP hosts on the ports after it; 0 for any free ones
     * @param directory where the mail is kept between two starts; null to keep nothing
     * @param messages how many to write when there are none yet
     * @param lively whether somebody writes every minute or so
     */
    public record Options(int firstPort, @Nullable Path directory, int messages, long seed, boolean lively) {
        /** Any free ports, nothing kept, nobody writes unasked. */
        public static Options forTests(int messages) {
            return new Options(0, null, messages, 1, false);
        }
    }

    public Standin(Options options) {
        try {
            hosts = new MailHosts(options.firstPort());
            shelf = options.directory() == null ? null : new Shelf(options.directory());
            world = new World(options.seed());
            lively = options.lively();
            fill(options.messages());
        } catch (IOException | MessagingException e) {
            throw new IllegalStateException("The mail hosts cannot start: " + e.getMessage(), e);
        }
        clock.scheduleWithFixedDelay(this::save, 2, 2, TimeUnit.SECONDS);
        clock.scheduleWithFixedDelay(this::live, 60, 60, TimeUnit.SECONDS);
    }

    private void fill(int messages) throws IOException, MessagingException {
        if (shelf != null && !shelf.isEmpty()) {
            shelf.load(hosts);
            return;
        }
        for (World.PlacedLetter placed : world.until(messages, Instant.now())) {
            Flags flags = new Flags();
            if (placed.read()) {
                flags.add(Flags.Flag.SEEN);
            }
            if (placed.flagged()) {
                flags.add(Flags.Flag.FLAGGED);
            }
            if (placed.answered()) {
                flags.add(Flags.Flag.ANSWERED);
            }
            MimeMessage mime = LetterWriter.mime(placed.letter());
            if (!placed.deliveredTo().isEmpty()) {
                mime.setHeader("Delivered-To", placed.deliveredTo());
            }
            hosts.put(
                    DemoAccount.byCode(placed.account()).orElseThrow(),
                    placed.folder(),
                    mime,
                    flags,
                    Date.from(placed.letter().date()));
        }
        save();
    }

    /** Port of the IMAP host of the account with this code. */
    public int imapPort(String code) {
        return hosts.gate(code).port();
    }

    public int smtpPort() {
        return hosts.smtpPort();
    }

    /** What was sent to people who have no account here, the oldest first. */
    public List<MimeMessage> sentElsewhere() {
        return hosts.sentElsewhere();
    }

    /** Sends a message by SMTP and returns its Message-ID, without brackets. */
    public String deliver(String from, String to, String subject, String text) throws MessagingException {
        String id = "sent-%d-%d@standin.example".formatted(IDS.incrementAndGet(), System.nanoTime());
        MimeMessage mime = new MimeMessage(SESSION) {
            @Override
            protected void updateMessageID() throws MessagingException {
                setHeader("Message-ID", "<" + id + ">");
            }
        };
        mime.setFrom(new InternetAddress(from, true));
        mime.setRecipient(Message.RecipientType.TO, new InternetAddress(to));
        mime.setSubject(subject, "utf-8");
        mime.setSentDate(new Date());
        mime.setText(text, "utf-8");
        mime.saveChanges();
        SmtpOut.send(smtpPort(), mime, mime.getFrom()[0].toString(), to);
        return id;
    }

    /** Shuts or opens the way to an account's host. */
    public void setOffline(String code, boolean offline) {
        hosts.gate(code).setOffline(offline);
    }

    /** Holds back every answer of an account's host for so long. */
    public void setDelay(String code, int millis) {
        hosts.gate(code).setDelayMillis(millis);
    }

    /** Cuts the open connections to an account's host; new ones are welcome. */
    public void cut(String code) {
        hosts.gate(code).cut();
    }

    public void setLively(boolean value) {
        lively = value;
    }

    /** What DNS tells of a service of a demo domain, one SRV record (RFC 2782) a line; empty if there is none. */
    public String services(String name) {
        return new Published(hosts).services(name);
    }

    /** What a demo domain publishes at an address of the web. */
    public Optional<String> document(String url) {
        return new Published(hosts).document(url);
    }

    /** One line for each account: offline or not, delay, number of messages. */
    public String status() {
        StringBuilder text = new StringBuilder("life %s%n".formatted(lively ? "on" : "off"));
        for (DemoAccount account : DemoAccount.ALL) {
            Gate gate = hosts.gate(account.code());
            int messages = hosts.folders(account).values().stream()
                    .mapToInt(folder -> folder.getMessageCount())
                    .sum();
            text.append("%s %s, port %d, delay %d ms, %d messages%n"
                    .formatted(
                            account.code(),
                            gate.isOffline() ? "offline" : "online",
                            gate.port(),
                            gate.delayMillis(),
                            messages));
        }
        return text.toString();
    }

    /** Writes what an application needs to use the accounts; a properties file with one group an account. */
    public void describe(Path file) throws IOException {
        Properties properties = new Properties();
        int number = 0;
        for (DemoAccount account : DemoAccount.ALL) {
            String group = "account." + (++number) + ".";
            properties.setProperty(group + "code", account.code());
            properties.setProperty(group + "name", account.name());
            properties.setProperty(group + "tone", account.tone());
            properties.setProperty(group + "address", account.address());
            properties.setProperty(group + "aliases", String.join(" ", account.aliases()));
            properties.setProperty(group + "host", "127.0.0.1");
            properties.setProperty(group + "port", String.valueOf(imapPort(account.code())));
            properties.setProperty(group + "smtp", String.valueOf(smtpPort()));
            properties.setProperty(group + "password", DemoAccount.PASSWORD);
        }
        Path fresh = file.resolveSibling(file.getFileName() + ".new");
        try (var out = Files.newBufferedWriter(fresh)) {
            properties.store(out, "The mail hosts of the demo world");
        }
        Files.move(fresh, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    private void live() {
        if (lively) {
            try {
                Letter letter = world.next(Instant.now());
                for (String address : world.deliveredTo(letter)) {
                    SmtpOut.send(
                            smtpPort(), LetterWriter.mime(letter), letter.from().address(), address);
                }
            } catch (MessagingException e) {
                System.err.println("Nobody could write: " + e.getMessage());
            }
        }
    }

    private void save() {
        if (shelf != null) {
            try {
                shelf.save(hosts);
            } catch (IOException | MessagingException e) {
                System.err.println("The mail could not be kept: " + e.getMessage());
            }
        }
    }

    @Override
    public void close() {
        clock.shutdownNow();
        save();
        hosts.close();
    }
}
