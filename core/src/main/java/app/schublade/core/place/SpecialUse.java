package app.schublade.core.place;

import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The folders that every account has one of (RFC 6154), known by attribute or, where a server lacks it, by name. */
public enum SpecialUse {
    INBOX("Inbox", "\\Inbox", List.of("inbox")),
    /** Ours: no server has an attribute for it. */
    TICKLER("Tickler", "\\Tickler", List.of("tickler")),
    DRAFTS("Drafts", "\\Drafts", List.of("drafts", "draft", "entwürfe")),
    SENT("Sent", "\\Sent", List.of("sent", "sent items", "sent mail", "sent messages", "gesendet")),
    ARCHIVE("Archive", "\\Archive", List.of("archive", "archives", "archiv")),
    JUNK("Junk", "\\Junk", List.of("junk", "spam", "junk mail")),
    TRASH("Trash", "\\Trash", List.of("trash", "deleted items", "deleted messages", "papierkorb"));

    private final String shown;
    private final String attribute;

    @SuppressWarnings("ImmutableEnumChecker") // made by List.of
    private final List<String> commonNames;

    SpecialUse(String shown, String attribute, List<String> commonNames) {
        this.shown = shown;
        this.attribute = attribute;
        this.commonNames = commonNames;
    }

    /** The name in the cabinet, and the path of the one folder over all accounts. */
    public String shown() {
        return shown;
    }

    /** Whether a person files mail into it; drafts and sent mail come there by themselves, into the tickler with a date. */
    public boolean takesMail() {
        return this != DRAFTS && this != SENT && this != TICKLER;
    }

    public FolderPath path() {
        return FolderPath.parse(shown);
    }

    /** Finds the use of a server's folder by its LIST attributes (RFC 6154, section 2), then by its name. */
    public static Optional<SpecialUse> of(FolderPath path, Collection<String> attributes) {
        for (SpecialUse use : values()) {
            if (attributes.stream().anyMatch(use.attribute::equalsIgnoreCase)) {
                return Optional.of(use);
            }
        }
        return path.names().size() > 1 ? Optional.empty() : byName(path.name());
    }

    private static Optional<SpecialUse> byName(String name) {
        String key = name.toLowerCase(Locale.ROOT);
        for (SpecialUse use : values()) {
            if (use.commonNames.contains(key)) {
                return Optional.of(use);
            }
        }
        return Optional.empty();
    }
}
