package app.schublade.core.place;

import app.schublade.core.message.Address;
import app.schublade.core.message.SubjectStem;
import app.schublade.core.message.Trait;
import app.schublade.core.words.Fold;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Sorts mail into the trays of the Inbox by what is known of it: first what the user decided for its sender, then whether
 * a robot or a list sent it, then whether it goes on with something.
 *
 * @param trays from top to bottom
 * @param senders trays by address, or by domain for everybody there
 */
public record TraySorter(List<SortedTray> trays, Map<String, Long> senders) {
    /** Words in subjects of mail that one keeps; folded, in the languages that such mail often comes in. */
    private static final Set<String> RECORD_WORDS = Set.of(
            "receipt",
            "receipts",
            "invoice",
            "statement",
            "bill",
            "payment",
            "paid",
            "order",
            "booking",
            "reservation",
            "ticket",
            "tickets",
            "confirmation",
            "confirmed",
            "contract",
            "policy",
            "tax",
            "rechnung",
            "quittung",
            "kontoauszug",
            "bestellung",
            "buchung",
            "bestatigung",
            "zahlung",
            "facture",
            "recu",
            "releve",
            "commande",
            "fattura",
            "ricevuta",
            "factura",
            "recibo",
            "faktura",
            "kvitto");

    public TraySorter {
        trays = List.copyOf(trays);
        senders = Map.copyOf(senders);
    }

    /** A tray, and what it takes by itself; null if that is nothing. */
    public record SortedTray(long id, @Nullable TrayKind kind) {}

    /** Where a message goes, and why; in words that follow "because it is …". */
    public record Sorted(long tray, String reason) {}

    /**
     * Sorts a message.
     *
     * @param answers whether it names messages that it answers
     * @return null if there is no tray for it
     */
    public @Nullable Sorted sort(Address sender, String subject, Set<Trait> traits, boolean answers) {
        Long chosen = senders.getOrDefault(sender.key(), senders.get(sender.domain()));
        if (chosen != null) {
            return new Sorted(
                    chosen, "you said so of " + (senders.containsKey(sender.key()) ? sender.key() : sender.domain()));
        }
        if (traits.contains(Trait.LIST)) {
            return into(TrayKind.NOTICES, "it comes by a mailing list");
        }
        if (traits.contains(Trait.AUTOMATED)) {
            String word = recordWord(subject);
            return word == null
                    ? into(TrayKind.NOTICES, "a robot sent it")
                    : into(TrayKind.RECORDS, "a robot sent it, and its subject says “%s”".formatted(word));
        }
        return answers || SubjectStem.isAnswer(subject)
                ? into(TrayKind.ONGOING, "it goes on with a conversation")
                : into(TrayKind.PEOPLE, "a person writes, of something new");
    }

    private static @Nullable String recordWord(String subject) {
        return Fold.words(subject).stream()
                .filter(RECORD_WORDS::contains)
                .findFirst()
                .orElse(null);
    }

    private @Nullable Sorted into(TrayKind kind, String reason) {
        return trays.stream()
                .filter(tray -> tray.kind() == kind)
                .findFirst()
                .map(tray -> new Sorted(tray.id(), reason))
                .orElse(null);
    }
}
