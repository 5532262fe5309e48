package app.schublade.core.place;

import app.schublade.core.words.Fold;
import java.util.regex.Pattern;

/** IMAP keywords (RFC 3501, section 2.3.2): an atom, so letters, digits and a few signs only. */
public final class Keyword {
    private static final Pattern NOT_ATOM = Pattern.compile("[^a-z0-9]+");
    private static final int MAX = 60;

    private Keyword() {}

    /** The keyword of a label, readable in other mail programs: {@code "Objects/Ship models"} is {@code label-objects-ship-models}. */
    public static String ofLabel(FolderPath path) {
        return of("label-", path.toString());
    }

    public static String ofCategory(String name) {
        return of("category-", name);
    }

    private static String of(String prefix, String text) {
        String atom = NOT_ATOM.matcher(Fold.text(text)).replaceAll("-").replaceAll("^-|-$", "");
        // Names in other scripts fold to nothing: their hash keeps them apart.
        String known = atom.length() * 2 < text.length() ? atom + "x" + Integer.toHexString(text.hashCode()) : atom;
        return prefix + (known.length() > MAX ? known.substring(0, MAX) + Integer.toHexString(text.hashCode()) : known);
    }
}
