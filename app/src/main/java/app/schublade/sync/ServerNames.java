package app.schublade.sync;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.sieve.SieveWorld;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.place.Places;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What one account's server calls the user's places. A folder that is not on the server yet is called as its neighbours
 * are: with their delimiter, under their prefix.
 */
public record ServerNames(Account owner, Places places, List<Mailbox> mailboxes) implements SieveWorld {
    private static final String DELIMITER = "/";

    @Override
    public long account() {
        return owner.id();
    }

    @Override
    public OwnAddresses own() {
        return owner.ownAddresses();
    }

    @Override
    public String mailbox(FolderRef folder) {
        return mailboxes.stream()
                .filter(one -> one.folderId() == folder.id())
                .map(one -> one.inbox() ? "INBOX" : one.serverName())
                .findFirst()
                .orElseGet(() -> prefix() + folder.path().toString().replace("/", delimiter()));
    }

    /** What stands between names; it is seen where a folder lies in another one, or behind the prefix. */
    private String delimiter() {
        String prefix = prefix();
        return mailboxes.stream()
                .filter(one -> one.path().contains("/"))
                .map(one -> one.serverName()
                        .substring(
                                0,
                                one.serverName().length()
                                        - FolderPath.stored(one.path()).name().length()))
                .filter(start -> !start.isEmpty())
                .map(start -> start.substring(start.length() - 1))
                .findFirst()
                .orElse(prefix.isEmpty() ? DELIMITER : prefix.substring(prefix.length() - 1));
    }

    private String prefix() {
        return mailboxes.stream()
                .filter(one -> !one.inbox()
                        && !one.path().contains("/")
                        && one.serverName().endsWith(one.path()))
                .map(one -> one.serverName()
                        .substring(0, one.serverName().length() - one.path().length()))
                .findFirst()
                .orElse("");
    }

    @Override
    public FolderRef folder(String mailbox) {
        if (mailbox.equalsIgnoreCase("INBOX")) {
            return special(SpecialUse.INBOX);
        }
        for (Mailbox known : mailboxes) {
            if (known.serverName().equals(mailbox)) {
                return places.folder(known.folderId())
                        .map(Places.Folder::ref)
                        .orElseGet(() -> FolderRef.unmade(known.path()));
            }
        }
        String path = mailbox.startsWith(prefix()) ? mailbox.substring(prefix().length()) : mailbox;
        FolderPath wanted = FolderPath.parse(path.replace(delimiter(), "/"));
        return places.folder(wanted).map(Places.Folder::ref).orElse(new FolderRef(FolderRef.NEW, wanted));
    }

    private FolderRef special(SpecialUse use) {
        return places.special(use).ref();
    }

    @Override
    public FolderRef trash() {
        return special(SpecialUse.TRASH);
    }

    @Override
    public String keyword(LabelRef label) {
        return places.label(label.id()).map(Places.Label::keyword).orElseThrow();
    }

    @Override
    public String keyword(CategoryRef category) {
        return places.category(category.id()).map(Places.Category::keyword).orElseThrow();
    }

    @Override
    public List<String> categoryKeywords() {
        return places.categories().stream().map(Places.Category::keyword).toList();
    }

    @Override
    public @Nullable Effect effect(String keyword, boolean on) {
        for (Places.Label label : places.labels()) {
            if (label.keyword().equalsIgnoreCase(keyword)) {
                return new Effect.SetLabel(label.ref(), on);
            }
        }
        return places.categories().stream()
                .filter(category -> category.keyword().equalsIgnoreCase(keyword))
                .findFirst()
                .map(one -> new Effect.Categorise(on ? one.ref() : null))
                .orElse(null);
    }
}
