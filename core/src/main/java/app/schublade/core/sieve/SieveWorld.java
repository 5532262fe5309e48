package app.schublade.core.sieve;

import app.schublade.core.filing.Effect;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** How one account's server names what rules are about. A script belongs to one account. */
public interface SieveWorld {
    long account();

    OwnAddresses own();

    /** The folder as the server names it. */
    String mailbox(FolderRef folder);

    /** The folder that the server names so, {@link FolderRef#NEW} if there is none yet. */
    FolderRef folder(String mailbox);

    FolderRef trash();

    /** The keyword (RFC 9051, section 2.3.2) that stands for a label. */
    String keyword(LabelRef label);

    String keyword(CategoryRef category);

    /** The keywords of all categories: a message has at most one. */
    List<String> categoryKeywords();

    /** What setting a keyword means, or taking it off; null if nothing is known by it. */
    @Nullable
    Effect effect(String keyword, boolean on);
}
