package app.schublade.standin;

import com.icegreen.greenmail.store.FolderListener;
import com.icegreen.greenmail.store.MailFolder;
import com.icegreen.greenmail.store.StoredMessage;
import jakarta.mail.Flags;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeMessage;
import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Date;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.WeakHashMap;
import java.util.concurrent.atomic.AtomicBoolean;

/**
 * Keeps the mail of the hosts on disk: sources under their hash, and an index of what lies where that is replaced in
 * one step, so that a kill at any moment loses at most the last seconds.
 */
final class Shelf {
    private final Path index;
    private final Path sources;
    private final Map<MimeMessage, String> known = new WeakHashMap<>();
    private final Map<MailFolder, String> watched = new WeakHashMap<>();
    private final AtomicBoolean changed = new AtomicBoolean(true);

    Shelf(Path directory) throws IOException {
        this.index = directory.resolve("index.tsv");
        this.sources = Files.createDirectories(directory.resolve("sources"));
    }

    boolean isEmpty() {
        return !Files.exists(index);
    }

    void load(MailHosts hosts) throws IOException, MessagingException {
        Map<String, DemoAccount> accounts = new HashMap<>();
        DemoAccount.ALL.forEach(account -> accounts.put(account.code(), account));
        for (String line : Files.readAllLines(index, StandardCharsets.UTF_8)) {
            String[] cells = line.split("\t", -1);
            DemoAccount account = accounts.get(cells[0]);
            if (account == null) {
                continue;
            }
            if (cells.length == 2) {
                hosts.folder(account, cells[1]);
            } else {
                hosts.put(account, cells[1], source(cells[2]), flags(cells[4]), new Date(Long.parseLong(cells[3])));
            }
        }
    }

    /** Writes what lies where if anything has changed since the last time. */
    synchronized void save(MailHosts hosts) throws IOException, MessagingException {
        Map<MailFolder, String> places = new LinkedHashMap<>();
        for (DemoAccount account : DemoAccount.ALL) {
            hosts.folders(account).forEach((path, folder) -> places.put(folder, account.code() + "\t" + path));
        }
        watch(places);
        if (!changed.getAndSet(false)) {
            return;
        }
        try {
            Path fresh = index.resolveSibling("index.new");
            Files.writeString(fresh, lines(places));
            Files.move(fresh, index, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException | MessagingException e) {
            changed.set(true);
            throw e;
        }
    }

    /** Folders tell when something in them changes; that there are others, or that they are called otherwise, is seen here. */
    private void watch(Map<MailFolder, String> places) {
        if (places.equals(watched)) {
            return;
        }
        changed.set(true);
        for (MailFolder folder : places.keySet()) {
            if (!watched.containsKey(folder)) {
                folder.addListener(new Watcher());
            }
        }
        watched.clear();
        watched.putAll(places);
    }

    private String lines(Map<MailFolder, String> places) throws IOException, MessagingException {
        StringBuilder lines = new StringBuilder();
        for (Map.Entry<MailFolder, String> place : places.entrySet()) {
            lines.append(place.getValue()).append('\n');
            for (StoredMessage message : place.getKey().getMessages()) {
                lines.append(place.getValue())
                        .append('\t')
                        .append(line(message))
                        .append('\n');
            }
        }
        return lines.toString();
    }

    /** Notes that a folder has changed. */
    private final class Watcher implements FolderListener {
        @Override
        public void expunged(int number) {
            changed.set(true);
        }

        @Override
        public void added(int number) {
            changed.set(true);
        }

        @Override
        public void flagsUpdated(int number, Flags flags, Long uid) {
            changed.set(true);
        }

        @Override
        public void mailboxDeleted() {
            changed.set(true);
        }
    }

    private String line(StoredMessage message) throws IOException, MessagingException {
        String hash = known.get(message.getMimeMessage());
        if (hash == null) {
            hash = keep(message.getMimeMessage());
            known.put(message.getMimeMessage(), hash);
        }
        return hash + "\t" + message.getReceivedDate().getTime() + "\t" + words(message.getFlags());
    }

    private String keep(MimeMessage message) throws IOException, MessagingException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        message.writeTo(out);
        String hash = hash(out.toByteArray());
        Path file = sources.resolve(hash);
        if (!Files.exists(file)) {
            Path fresh = sources.resolve(hash + ".new");
            Files.write(fresh, out.toByteArray());
            Files.move(fresh, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        }
        return hash;
    }

    private MimeMessage source(String hash) throws IOException, MessagingException {
        try (InputStream in = new BufferedInputStream(Files.newInputStream(sources.resolve(hash)))) {
            MimeMessage message = new MimeMessage(Standin.SESSION, in);
            known.put(message, hash);
            return message;
        }
    }

    private static String hash(byte[] bytes) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes), 0, 20);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    private static String words(Flags flags) {
        List<String> words = new ArrayList<>();
        if (flags.contains(Flags.Flag.SEEN)) {
            words.add("\\Seen");
        }
        if (flags.contains(Flags.Flag.FLAGGED)) {
            words.add("\\Flagged");
        }
        if (flags.contains(Flags.Flag.ANSWERED)) {
            words.add("\\Answered");
        }
        words.addAll(List.of(flags.getUserFlags()));
        return String.join(" ", words);
    }

    private static Flags flags(String words) {
        Flags flags = new Flags();
        for (String word : words.split(" ", -1)) {
            switch (word) {
                case "" -> {}
                case "\\Seen" -> flags.add(Flags.Flag.SEEN);
                case "\\Flagged" -> flags.add(Flags.Flag.FLAGGED);
                case "\\Answered" -> flags.add(Flags.Flag.ANSWERED);
                default -> flags.add(word);
            }
        }
        return flags;
    }
}
