package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Reads lists of addresses (RFC 5322, sections 3.4 and 4.4), as other programs write them and as people type them. What breaks
 * the standard is read as a person would: a name with a comma that nobody quoted, an address without brackets, or with one of
 * them, {@code anna at quay.example}. Each sign is looked at a fixed number of times.
 */
final class AddressFields {
    /** Of a longer field only the beginning is read. */
    private static final int MAX_LENGTH = 256 * 1024;

    private static final int MAX_NAME = 200;
    private static final int MAX_ADDRESS = 320;
    private static final int MAX_DEPTH = 20;
    /** Of what stands between two commas. */
    private static final int MAX_PIECES = 500;
    /** Commas in one name. */
    private static final int MAX_WAITING = 5;

    private static final String MAILTO = "mailto:";

    private final String text;
    private final boolean forgiving;
    private int at;
    /** Behind these places no quote, bracket or group is closed any more. */
    private int lastQuote;

    private int lastParenthesis;
    private final int lastSemicolon;

    private AddressFields(String text, boolean forgiving) {
        this.text = text.stripTrailing();
        this.forgiving = forgiving;
        lastQuote = text.lastIndexOf('"');
        lastParenthesis = text.lastIndexOf(')');
        lastSemicolon = text.lastIndexOf(';');
    }

    /** Reads at most so many addresses; the members of a group are given one by one. */
    static List<Address> read(String field, int most) {
        return new AddressFields(MimeReader.limit(field, MAX_LENGTH), true).all(most);
    }

    /**
     * As {@link #read}; but of what somebody types nothing is passed over or guessed: what is no address comes out as one that
     * is none.
     */
    static List<Address> readTyped(String typed, int most) {
        return new AddressFields(MimeReader.limit(typed, MAX_LENGTH), false).all(most);
    }

    private enum Kind {
        WORD,
        QUOTED,
        COMMENT,
        /** In angle brackets. */
        ANGLE
    }

    /** @param apart whether blanks are before it */
    private record Piece(Kind kind, String text, boolean apart) {}

    /**
     * What stands between two commas.
     *
     * @param ends the sign that ended it; NUL at the end
     */
    private record Entry(List<Piece> pieces, char ends) {
        boolean isName() {
            return !pieces.isEmpty()
                    && pieces.stream()
                            .noneMatch(piece -> piece.kind() == Kind.ANGLE
                                    || piece.kind() == Kind.COMMENT
                                    || (piece.kind() == Kind.WORD
                                            && piece.text().indexOf('@') >= 0));
        }

        boolean isNamedAddress() {
            return pieces.size() > 1
                    && pieces.get(0).kind() != Kind.ANGLE
                    && pieces.stream()
                            .anyMatch(piece ->
                                    piece.kind() == Kind.ANGLE && piece.text().indexOf('@') > 0);
        }
    }

    private List<Address> all(int most) {
        List<Address> all = new ArrayList<>();
        List<Piece> names = new ArrayList<>();
        int waiting = 0;
        while (at < text.length() && all.size() < most) {
            Entry entry = entry();
            if (forgiving && waiting < MAX_WAITING && entry.isName() && entry.ends() == ',') {
                // "Grebe, Ottoline <o@grebe.example>": what comes may be the rest of the name.
                waiting++;
                names.addAll(entry.pieces());
                names.add(new Piece(Kind.WORD, ",", false));
                continue;
            }
            if (waiting > 0 && entry.isNamedAddress()) {
                names.addAll(entry.pieces());
                add(all, names, most);
            } else {
                addEach(all, names, most);
                add(all, entry.pieces(), most);
            }
            names.clear();
            waiting = 0;
        }
        addEach(all, names, most);
        return all;
    }

    private void addEach(List<Address> all, List<Piece> names, int most) {
        List<Piece> one = new ArrayList<>();
        for (Piece piece : names) {
            if (piece.kind() == Kind.WORD && piece.text().equals(",")) {
                add(all, one, most);
                one.clear();
            } else {
                one.add(piece);
            }
        }
        add(all, one, most);
    }

    private void add(List<Address> all, List<Piece> pieces, int most) {
        Address address = pieces.isEmpty() ? null : address(pieces);
        if (address == null && !pieces.isEmpty() && !forgiving) {
            address = new Address("", "<>");
        }
        if (address != null && all.size() < most) {
            all.add(address);
        }
    }

    /** Reads up to the next comma, semicolon, or the colon behind the name of a group, which is left out. */
    private Entry entry() {
        List<Piece> pieces = new ArrayList<>();
        boolean apart = false;
        boolean address = false;
        while (at < text.length()) {
            char sign = text.charAt(at);
            if (sign == ',' || sign == ';') {
                at++;
                return new Entry(pieces, sign);
            }
            if (isBlank(sign) || sign == '>') {
                apart = true;
                at++;
                continue;
            }
            int before = at;
            Piece piece;
            if (sign == '"' && at < lastQuote) {
                piece = new Piece(Kind.QUOTED, quoted(), apart);
            } else if (sign == '(' && at < lastParenthesis) {
                piece = new Piece(Kind.COMMENT, comment(), apart);
            } else if (sign == '<') {
                piece = new Piece(Kind.ANGLE, angle(), apart);
            } else {
                piece = new Piece(Kind.WORD, word(), apart);
            }
            at = Math.max(at, before + 1);
            apart = piece.text().isEmpty(); // What opens nothing is passed over, like a blank.
            address |= piece.kind() == Kind.ANGLE || piece.text().indexOf('@') >= 0;
            if (!address && piece.kind() == Kind.WORD && isGroup(piece.text())) {
                pieces.clear();
            } else if (pieces.size() < MAX_PIECES && (!piece.text().isEmpty() || piece.kind() == Kind.ANGLE)) {
                pieces.add(piece);
            }
        }
        return new Entry(pieces, '\0');
    }

    /** {@code Name:} begins a group if a semicolon ends it, or if it has no members. */
    private boolean isGroup(String word) {
        return word.endsWith(":") && (at <= lastSemicolon || at >= text.length());
    }

    private static boolean isBlank(char sign) {
        return sign == ' ' || sign == '\t' || sign == '\r' || sign == '\n' || sign == '\u00a0';
    }

    /** An encoded word as a whole, or what stands until a sign that has a meaning here; a colon ends it too. */
    private String word() {
        int start = at;
        while (at < text.length()) {
            char sign = text.charAt(at);
            int end = sign == '=' ? EncodedWords.end(text, at) : -1;
            if (end > 0) {
                if (at > start) {
                    break;
                }
                at = end;
                break;
            }
            if (sign == '[') {
                at = literalEnd();
            } else if (isBlank(sign) || ",;<>(".indexOf(sign) >= 0 || (sign == '"' && at < lastQuote)) {
                break;
            } else {
                at++;
                if (sign == ':' && !text.substring(start, at).equalsIgnoreCase(MAILTO)) {
                    break;
                }
            }
        }
        return text.substring(start, at);
    }

    /** Behind a domain that is an address of its own: {@code [IPv6:fe80::1]}. */
    private int literalEnd() {
        for (int i = at + 1; i < text.length() && i - at <= MAX_ADDRESS; i++) {
            char sign = text.charAt(i);
            if (sign == ']') {
                return i + 1;
            }
            if (isBlank(sign) || sign == ',') {
                break;
            }
        }
        return at + 1;
    }

    /** What stands in quotes, without them. */
    private String quoted() {
        StringBuilder content = new StringBuilder();
        for (int i = at + 1; i < text.length(); i++) {
            char sign = text.charAt(i);
            if (sign == '"') {
                at = i + 1;
                return content.toString();
            }
            if (sign == '\\' && i + 1 < text.length()) {
                i++;
            }
            content.append(text.charAt(i));
        }
        lastQuote = at; // The last one was escaped: no quote is closed behind this place.
        return "";
    }

    private String comment() {
        int depth = 0;
        StringBuilder content = new StringBuilder();
        for (int i = at; i < text.length(); i++) {
            char sign = text.charAt(i);
            if (sign == '\\' && i + 1 < text.length()) {
                content.append(text.charAt(++i));
                continue;
            }
            depth += sign == '(' ? 1 : sign == ')' ? -1 : 0;
            if (depth == 0) {
                at = i + 1;
                return content.toString();
            }
            if (depth > MAX_DEPTH) {
                break;
            }
            if (depth > 1 || sign != '(') {
                content.append(sign);
            }
        }
        lastParenthesis = at;
        return "";
    }

    /** What stands in angle brackets; where the second one is missing, what has no blank or comma in it. */
    private String angle() {
        int start = at + 1;
        int open = -1;
        for (int i = start; i < text.length(); i++) {
            char sign = text.charAt(i);
            if (sign == '>') {
                at = i + 1;
                return text.substring(start, i);
            }
            if (sign == '<') {
                break;
            }
            if (open < 0 && i > start && (isBlank(sign) || sign == ',' || sign == ';')) {
                open = i;
            }
        }
        int next = text.indexOf('<', start);
        at = open >= 0 ? open : next < 0 ? text.length() : next;
        return text.substring(start, at);
    }

    /** Null if nothing is there. */
    private @Nullable Address address(List<Piece> pieces) {
        Piece angle = null;
        for (Piece piece : pieces) {
            if (piece.kind() == Kind.ANGLE
                    && (angle == null
                            || piece.text().indexOf('@') >= 0
                            || angle.text().indexOf('@') < 0)) {
                angle = piece;
            }
        }
        return angle == null ? bare(pieces) : withBrackets(pieces, angle);
    }

    private @Nullable Address withBrackets(List<Piece> pieces, Piece angle) {
        int where = pieces.indexOf(angle);
        String before = name(pieces.subList(0, where), false);
        String behind = name(pieces.subList(where + 1, pieces.size()), false);
        String email = email(withSign(angle.text()));
        if (email.indexOf('@') < 0 && before.indexOf('@') > 0) { // The name is in the brackets.
            return of(angle.text(), email(before));
        }
        String name = !before.isBlank() ? before : !behind.isBlank() ? behind : name(pieces, true);
        return of(name, email);
    }

    /** {@code anna at quay.example} is written so that programs do not find it. */
    private String withSign(String address) {
        String[] words = forgiving && address.indexOf('@') < 0 ? address.strip().split("\\s+", 4) : new String[0];
        return words.length == 3 && words[1].equalsIgnoreCase("at") && words[2].indexOf('.') > 0
                ? words[0] + "@" + words[2]
                : address;
    }

    /** Without brackets: the word with an {@code @} is the address, and what is around it, or in a comment, the name. */
    private @Nullable Address bare(List<Piece> pieces) {
        List<StringBuilder> words = new ArrayList<>();
        boolean behindDot = false; // One that stands alone (RFC 5322, section 4.4).
        for (Piece piece : pieces) {
            if (piece.kind() == Kind.COMMENT) {
                continue;
            }
            StringBuilder last = words.isEmpty() ? null : words.get(words.size() - 1);
            boolean joins = last != null
                    && (!piece.apart()
                            || behindDot
                            || endsOpen(last)
                            || piece.text().startsWith("@")
                            || piece.text().startsWith("."));
            String written = piece.kind() == Kind.QUOTED ? "\"" + piece.text() + "\"" : piece.text();
            if (last != null && joins) {
                last.append(written);
            } else {
                words.add(new StringBuilder(written));
            }
            behindDot = piece.text().equals(".");
        }
        if (!forgiving && words.size() > 1) {
            return new Address("", String.join(" ", words));
        }
        for (int i = 0; i < words.size(); i++) {
            if (words.get(i).indexOf("@") > 0) {
                String email = email(words.remove(i).toString());
                String name = String.join(" ", words);
                return of(name.isBlank() ? name(pieces, true) : name, email);
            }
        }
        if (words.size() == 3
                && words.get(1).toString().equalsIgnoreCase("at")
                && words.get(2).indexOf(".") > 0) {
            return of("", email(words.get(0) + "@" + words.get(2)));
        }
        String name = name(pieces, false);
        return words.size() == 1 && pieces.get(0).kind() == Kind.WORD ? of("", email(name)) : of(name, "");
    }

    private static boolean endsOpen(StringBuilder word) {
        char last = word.isEmpty() ? ' ' : word.charAt(word.length() - 1);
        return last == '@' || (last == '.' && word.indexOf("@") > 0);
    }

    /** The words in a row, with their blanks; or the comments, but for those within an address. */
    private static String name(List<Piece> pieces, boolean comments) {
        StringBuilder name = new StringBuilder();
        for (Piece piece : pieces) {
            boolean within = comments && !piece.apart() && !piece.equals(pieces.get(0));
            if ((piece.kind() == Kind.COMMENT) == comments && piece.kind() != Kind.ANGLE && !within) {
                name.append(piece.apart() && !name.isEmpty() ? " " : "").append(piece.text());
            }
        }
        return name.toString();
    }

    private @Nullable Address of(String name, String email) {
        String decoded = EncodedWords.decode(name);
        String shown = (forgiving ? decoded.replaceAll("[\\s\\p{Z}\\p{Cc}]+", " ") : decoded).strip();
        boolean quoted = forgiving
                && shown.length() > 1
                && ((shown.startsWith("'") && shown.endsWith("'")) || (shown.startsWith("\"") && shown.endsWith("\"")));
        String bare = quoted ? shown.substring(1, shown.length() - 1).strip() : shown;
        if (bare.isEmpty() && email.isEmpty()) {
            return null;
        }
        return new Address(
                bare.equalsIgnoreCase(email) ? "" : MimeReader.limit(bare, MAX_NAME),
                MimeReader.limit(email, MAX_ADDRESS));
    }

    /** An address without comments, blanks, a route (RFC 5322, section 4.4), and quotes that it does not need. */
    private String email(String written) {
        String text = EncodedWords.decode(written);
        StringBuilder bare = new StringBuilder(text.length());
        boolean quoted = false;
        int depth = 0;
        for (int i = 0; i < text.length(); i++) {
            char sign = text.charAt(i);
            quoted ^= sign == '"' && depth == 0;
            depth += quoted ? 0 : sign == '(' ? 1 : sign == ')' && depth > 0 ? -1 : 0;
            if (depth == 0
                    && (quoted || !(isBlank(sign) || "<>(),;".indexOf(sign) >= 0))
                    && !(forgiving && Character.isISOControl(sign))) {
                bare.append(sign);
            }
        }
        String email = bare.toString();
        if (email.regionMatches(true, 0, MAILTO, 0, MAILTO.length())) {
            email = email.substring(MAILTO.length());
        }
        int route = email.startsWith("@") ? email.indexOf(':') : -1;
        email = route > 0 ? email.substring(route + 1) : email;
        while (email.endsWith(".") || email.endsWith("'") || email.endsWith(":")) {
            email = email.substring(0, email.length() - 1);
        }
        email = email.startsWith("'") ? email.substring(1) : email;
        int domain = email.lastIndexOf('@');
        String local = domain < 0 ? email : email.substring(0, domain);
        return unquoted(local) + (domain < 0 ? "" : email.substring(domain));
    }

    /** A local part keeps its quotes only if it says something else without them. */
    private static String unquoted(String local) {
        if (local.length() < 3 || !local.startsWith("\"") || !local.endsWith("\"")) {
            return local;
        }
        String inside = local.substring(1, local.length() - 1);
        boolean plain = inside.chars()
                .allMatch(sign -> Character.isLetterOrDigit(sign) || "!#$%&'*+-/=?^_`{|}~.".indexOf(sign) >= 0);
        return plain ? inside : local;
    }
}
