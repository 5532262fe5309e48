package app.schublade.web.reader;

import app.schublade.core.filing.BuiltIn;
import app.schublade.core.format.ListExit;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.message.Address;
import app.schublade.core.message.People;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.account.Account;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.MessageStore;
import app.schublade.store.place.Places;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A message as the reading sheet shows it.
 *
 * @param when as people say it
 * @param exact the time to the minute
 * @param filed what rules did to it, the latest first
 * @param people whom the user sets apart
 * @param due until when something must be done, as people say it, or null
 * @param tray the name of the tray that it lies in, or null
 * @param rest what is only on the server of a message that is too large; null if all of it is here
 * @param others the other messages of its conversation, the latest first
 * @param muted whether its conversation is muted
 * @param exit how its mailing list can be left; null if it came by none, that does not say, or it is junk
 * @param draft the id of the answer that is being written, or null
 * @param pictures whether its pictures are fetched from outside
 * @param trayReason why, if that was not the user's own doing; or null
 */
public record Sheet(
        ListRow row,
        ParsedMail mail,
        Account account,
        String aliasNote,
        FolderPath folder,
        String when,
        String exact,
        List<Places.Category> categories,
        List<Places.Label> labels,
        List<FiledBy> filed,
        People people,
        @Nullable String due,
        @Nullable String until,
        @Nullable String tray,
        @Nullable String trayReason,
        MessageStore.@Nullable MissingPart rest,
        List<OtherMessage> others,
        boolean muted,
        @Nullable ListExit exit,
        @Nullable Long draft,
        boolean pictures) {

    /** Mail may be so long on its way, and clocks go differently. */
    private static final Duration ON_THE_WAY = Duration.ofMinutes(15);

    private static final int KILO = 1024;
    /** So many other messages of a conversation are named. */
    static final int MOST_OTHERS = 30;

    /** Whether it is being written, here or in another program. */
    public boolean isDraft() {
        return folder.equals(SpecialUse.DRAFTS.path());
    }

    /**
     * What one rule did.
     *
     * @param rule its id, or null if it was deleted since
     * @param did {@code "Filed into Schools, category Next"}
     * @param when when it did
     * @param reasons the conditions that held
     */
    public record FiledBy(
            long batch, @Nullable Long rule, String ruleName, String did, String when, List<String> reasons) {
        /** Whether no rule of the user's did it. */
        public boolean isBuiltIn() {
            return rule == null && BuiltIn.isName(ruleName);
        }
    }

    /** Whether the sender can be blocked: not the user's own address. */
    public boolean blockable() {
        Address sender = row.sender();
        return sender.key().contains("@")
                && account.ownAddresses().among(List.of(sender)).isEmpty();
    }

    /**
     * Another message of the conversation, on a line.
     *
     * @param who wrote it: a name, or "You"
     */
    public record OtherMessage(long id, String who, String snippet, String when, String exact) {}

    /** How many others are named, in words. */
    public String othersInWords() {
        return switch (others.size()) {
            case 1 -> "One more in this conversation";
            case MOST_OTHERS -> "The latest %d in this conversation".formatted(MOST_OTHERS);
            default -> "%d more in this conversation".formatted(others.size());
        };
    }

    /** Whether more people than the user and the sender have it. */
    public boolean hasOthers() {
        return mail.to().size() + mail.cc().size() > 1;
    }

    /** Whether the sender is a key person, by address or domain. */
    public boolean key() {
        return people.isKey(row.sender());
    }

    /** Whether that can be changed here: not if all of the sender's domain are key persons. */
    public boolean markable() {
        return !key() || people.key().contains(row.sender().key());
    }

    /** The groups that the sender is in. */
    public Collection<String> groups() {
        return people.groupsOf(row.sender());
    }

    /** The alias it came to and whose it is; null if it came to the account's main address. */
    public @Nullable String alias() {
        return row.alias();
    }

    /** What it holds. */
    public Contents contents() {
        return new Contents(row.id(), "", mail, pictures);
    }

    /** Whether it was written at another time than it came, or says so. */
    public boolean isWrittenLongBefore() {
        Instant sent = mail.sent();
        return sent != null && Duration.between(sent, row.received()).abs().compareTo(ON_THE_WAY) > 0;
    }

    /** What of a very large message is here, in a sentence; null if all of it is. */
    public @Nullable String onlyBeginning() {
        return rest == null
                ? null
                : "Only the first %,d of its %,d MB are here. Saved as it came, all of it is fetched from its server."
                        .formatted(rest.here() / KILO / KILO, (rest.size() + KILO * KILO - 1) / KILO / KILO);
    }
}
