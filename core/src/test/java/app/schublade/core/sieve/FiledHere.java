package app.schublade.core.sieve;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.State;
import app.schublade.core.filing.Verdict;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Message;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.sieve.Interpreter.Outcome;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/** What the rules do with a letter here, told as a server's interpreter tells it. */
final class FiledHere {
    private static final SieveWorld WORLD = new Harbour();

    private FiledHere() {}

    static Message.Builder message(byte[] letter) {
        ParsedMail mail = MimeReader.read(letter);
        return Reading.of(1, Harbour.OWN, mail, letter.length, Reading.traits(Harbour.OWN, mail));
    }

    /** The message, and then its copies. */
    static List<Outcome> outcomes(List<Rule> rules, Message message) {
        State after = new State(1, true, false, null, Set.of());
        Verdict verdict = new RuleBook(rules).file(message, after);
        Set<String> copies = new LinkedHashSet<>();
        for (Verdict.Hit hit : verdict.hits()) {
            for (Effect effect : hit.effects()) {
                after = effect.on(after);
                if (effect instanceof Effect.CopyInto copy) {
                    copies.add(WORLD.mailbox(copy.folder()));
                }
            }
        }
        Set<String> flags = flags(after);
        String folder = mailbox(after.folder());
        copies.remove(folder);
        List<Outcome> outcomes = new ArrayList<>(List.of(new Outcome(folder, flags)));
        copies.forEach(copy -> outcomes.add(new Outcome(copy, flags)));
        return outcomes;
    }

    private static String mailbox(long folder) {
        return Harbour.FOLDERS.stream()
                .filter(one -> one.id() == folder)
                .map(WORLD::mailbox)
                .findFirst()
                .orElse("INBOX");
    }

    private static Set<String> flags(State after) {
        Set<String> flags = new TreeSet<>();
        if (!after.unread()) {
            flags.add("\\seen");
        }
        if (after.flagged()) {
            flags.add("\\flagged");
        }
        for (LabelRef label : Harbour.LABELS) {
            if (after.labels().contains(label.id())) {
                flags.add(WORLD.keyword(label));
            }
        }
        for (CategoryRef category : Harbour.CATEGORIES) {
            if (Long.valueOf(category.id()).equals(after.category())) {
                flags.add(WORLD.keyword(category));
            }
        }
        return flags;
    }
}
