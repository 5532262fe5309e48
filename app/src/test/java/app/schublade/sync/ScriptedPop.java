package app.schublade.sync;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;

/** A POP3 server (RFC 1939) that does what a test says: it renumbers, hangs up, lies and refuses. */
final class ScriptedPop implements AutoCloseable {
    private final ServerSocket door = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    private final List<Mail> shelf = new CopyOnWriteArrayList<>();
    private volatile String toPassword = "+OK";
    private volatile long hangUpAfter = Long.MAX_VALUE;
    private volatile String withheld = "";
    private volatile boolean showsHeaders = true;

    record Mail(String uidl, String source) {}

    ScriptedPop() throws IOException {
        Thread thread = new Thread(this::serve, "scripted-pop");
        thread.setDaemon(true);
        thread.start();
    }

    int port() {
        return door.getLocalPort();
    }

    void put(String uidl, String source) {
        shelf.add(new Mail(uidl, source.replace("\n", "\r\n")));
    }

    List<String> sources() {
        return shelf.stream().map(Mail::source).toList();
    }

    /** All ids are others from now on, as after a move to another machine. */
    void renumber(String prefix) {
        List<Mail> all = new ArrayList<>();
        for (Mail mail : shelf) {
            all.add(new Mail(prefix + all.size(), mail.source()));
        }
        shelf.clear();
        shelf.addAll(all);
    }

    /** What it says to every password, or nothing at all: it hangs up. */
    void toPassword(String answer) {
        toPassword = answer;
    }

    /** How many bytes each connection lives for. */
    void hangUpAfter(long bytes) {
        hangUpAfter = bytes;
    }

    /** It does not give the message with this id, and hangs up when asked. */
    void withhold(String uidl) {
        withheld = uidl;
    }

    void showHeaders(boolean on) {
        showsHeaders = on;
    }

    private void serve() {
        while (!door.isClosed()) {
            try (Socket socket = door.accept()) {
                new Conversation(socket).hold();
            } catch (IOException | UncheckedIOException e) {
                // It hangs up, or is over.
            }
        }
    }

    private final class Conversation {
        private final BufferedReader in;
        private final OutputStream out;
        private final List<Mail> listed = List.copyOf(shelf);
        private final Set<Mail> removed = new LinkedHashSet<>();
        private long left = hangUpAfter;

        Conversation(Socket socket) throws IOException {
            in = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.ISO_8859_1));
            out = socket.getOutputStream();
        }

        void hold() throws IOException {
            say("+OK ready");
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                String[] words = line.split(" ");
                switch (words[0]) {
                    case "USER", "NOOP" -> say("+OK");
                    case "PASS" -> {
                        if (toPassword.isEmpty()) {
                            return;
                        }
                        say(toPassword);
                    }
                    case "STAT" -> say("+OK " + listed.size() + " 0");
                    case "UIDL" -> many(i -> listed.get(i).uidl());
                    case "LIST" -> {
                        if (words.length > 1) {
                            say("+OK " + words[1] + " " + mail(words).source().length());
                        } else {
                            many(i -> String.valueOf(listed.get(i).source().length()));
                        }
                    }
                    case "TOP" -> {
                        if (showsHeaders) {
                            String source = mail(words).source();
                            int body = source.indexOf("\r\n\r\n") + 4;
                            int lines = Integer.parseInt(words[2]);
                            send(source.substring(0, Math.min(source.length(), body + lines * 80)));
                        } else {
                            say("-ERR no such command");
                        }
                    }
                    case "RETR" -> {
                        if (mail(words).uidl().equals(withheld)) {
                            return;
                        }
                        send(mail(words).source());
                    }
                    case "DELE" -> {
                        removed.add(mail(words));
                        say("+OK");
                    }
                    case "RSET" -> {
                        removed.clear();
                        say("+OK");
                    }
                    case "QUIT" -> {
                        shelf.removeAll(removed);
                        say("+OK");
                        return;
                    }
                    default -> say("-ERR no such command");
                }
            }
        }

        private Mail mail(String[] words) {
            return listed.get(Integer.parseInt(words[1]) - 1);
        }

        private interface Item {
            String at(int index);
        }

        private void many(Item item) throws IOException {
            StringBuilder all = new StringBuilder("+OK\r\n");
            for (int i = 0; i < listed.size(); i++) {
                all.append(i + 1).append(' ').append(item.at(i)).append("\r\n");
            }
            say(all + ".");
        }

        private void send(String source) throws IOException {
            say("+OK\r\n" + source.replace("\r\n.", "\r\n..") + "\r\n.");
        }

        private void say(String answer) throws IOException {
            byte[] bytes = (answer + "\r\n").getBytes(StandardCharsets.ISO_8859_1);
            int some = (int) Math.min(bytes.length, left);
            out.write(bytes, 0, some);
            out.flush();
            left -= some;
            if (left == 0) {
                throw new IOException("It hangs up.");
            }
        }
    }

    @Override
    public void close() throws IOException {
        door.close();
    }
}
