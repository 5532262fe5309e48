package app.schublade.core.learn;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.SubjectStem;
import app.schublade.core.words.Fold;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Something of a message that others may share with it, and that may tell where it belongs.
 *
 * @param value as it is compared; empty values do not occur
 */
public record Trace(TraceKind kind, String value) {
    private static final int MAX_WORDS = 120;
    private static final int MAX_SUBJECT_WORDS = 20;
    private static final int MAX_TEXT = 8000;
    private static final int MAX_FILES = 10;
    private static final int SHORTEST = 3;
    private static final int LONGEST = 40;

    /** What it is; the figures were tried on generated mailboxes ({@code bench learn}). */
    public enum TraceKind {
        CONVERSATION(5.0, 0.2),
        LIST(3.0, 0.12),
        ALIAS(0.75, 0.25),
        SENDER(1.0, 0.12),
        DOMAIN(0.45, 0.35),
        SUBJECT(1.2, 0.25),
        ACCOUNT(1.2, 0.9),
        FILE(0.9, 0.9),
        SUBJECT_WORD(0.9, 1.0),
        WORD(0.35, 3.5);

        private final double weight;
        private final double doubt;

        TraceKind(double weight, double doubt) {
            this.weight = weight;
            this.doubt = doubt;
        }

        /** How much it says beside the others. */
        double weight() {
            return weight;
        }

        /** Of how few messages it may be taken for an accident. */
        double doubt() {
            return doubt;
        }
    }

    /**
     * What a message shares with others.
     *
     * @param conversation its number, or 0 if it stands alone
     */
    public static List<Trace> of(Message message, long conversation) {
        Set<Trace> traces = new LinkedHashSet<>();
        if (conversation != 0) {
            traces.add(new Trace(TraceKind.CONVERSATION, Long.toString(conversation)));
        }
        if (message.listId() != null && !message.listId().isBlank()) {
            traces.add(new Trace(TraceKind.LIST, message.listId()));
        }
        message.sentTo().forEach(alias -> add(traces, TraceKind.ALIAS, alias));
        sender(traces, message.from());
        add(traces, TraceKind.ACCOUNT, Long.toString(message.account()));
        add(
                traces,
                TraceKind.SUBJECT,
                Fold.phrase(SubjectStem.of(message.subject())).strip());
        message.attachments().stream()
                .limit(MAX_FILES)
                .forEach(file -> add(traces, TraceKind.FILE, ending(file.name())));
        words(traces, TraceKind.SUBJECT_WORD, message.subject(), MAX_SUBJECT_WORDS);
        words(traces, TraceKind.WORD, message.body(), MAX_WORDS);
        return List.copyOf(traces);
    }

    private static void sender(Set<Trace> traces, Address from) {
        add(traces, TraceKind.SENDER, from.key());
        add(traces, TraceKind.DOMAIN, from.domain());
    }

    private static void add(Set<Trace> traces, TraceKind kind, String value) {
        if (!value.isBlank()) {
            traces.add(new Trace(kind, value));
        }
    }

    private static String ending(String name) {
        String ending = name.substring(name.lastIndexOf('.') + 1);
        return ending.length() == name.length() || ending.length() > SHORTEST * 2
                ? ""
                : ending.toLowerCase(Locale.ROOT);
    }

    private static void words(Set<Trace> traces, TraceKind kind, String text, int most) {
        Fold.words(text.substring(0, Math.min(text.length(), MAX_TEXT))).stream()
                .filter(word -> word.length() >= SHORTEST && word.length() <= LONGEST)
                .limit(most)
                .forEach(word -> traces.add(new Trace(kind, word)));
    }

    /** A number that hardly any other trace has (FNV-1a, 64 bits), in whose place the trace itself need not be kept. */
    long hash() {
        long hash = 0xcbf29ce484222325L;
        for (byte one : (kind.name() + ' ' + value).getBytes(StandardCharsets.UTF_8)) {
            hash = (hash ^ (one & 0xff)) * 0x100000001b3L;
        }
        return hash;
    }
}
