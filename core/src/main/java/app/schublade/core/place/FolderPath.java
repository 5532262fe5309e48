package app.schublade.core.place;

import app.schublade.core.problem.InputProblem;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Where a folder or a label stands in its tree: {@code "Loans/Halden Foundation"}.
 *
 * <p>A path is the identity of a folder over all accounts; the delimiters and encodings of servers never appear in it.
 *
 * <p>What people and servers give is held against limits ({@link #parse}, {@link #of}, {@link #child}); what has been
 * kept is read as it stands ({@link #stored}), so that nothing that is there can keep a page from being shown.
 *
 * @param names from the outermost to the innermost; at least one
 */
public record FolderPath(List<String> names) implements Comparable<FolderPath> {
    /** How many folders may lie inside each other. */
    public static final int MAX_DEPTH = 12;
    /** How long one name may be, in characters. */
    public static final int MAX_NAME = 100;

    private static final Pattern BLANKS = Pattern.compile("\\s+");

    public FolderPath {
        names = List.copyOf(names);
        if (names.isEmpty()) {
            throw new InputProblem("A folder needs a name.");
        }
    }

    /**
     * Reads what a person typed: names with slashes between them; spaces around a slash do not matter.
     *
     * @throws InputProblem with a sentence for the user if this cannot be a path
     */
    public static FolderPath parse(String typed) {
        List<String> names = new ArrayList<>();
        for (String name : typed.split("/", -1)) {
            String clean = BLANKS.matcher(name.strip()).replaceAll(" ");
            if (!clean.isEmpty()) {
                names.add(clean);
            }
        }
        return of(names);
    }

    /**
     * A path of these names.
     *
     * @throws InputProblem with a sentence for the user if one of them is none, or is too long, or if they are too many
     */
    public static FolderPath of(List<String> names) {
        FolderPath path = new FolderPath(names);
        path.checkRoom(0);
        names.forEach(FolderPath::check);
        return path;
    }

    /** A path as it was kept: what {@link #toString} wrote. */
    public static FolderPath stored(String path) {
        return new FolderPath(List.of(path.split("/", -1)));
    }

    /**
     * Makes sure that something can be moved to this path with all that lies in it.
     *
     * @param moved the paths of all that is moved, as they are now
     * @return the path of the outermost of them
     * @throws InputProblem if there is none, if this path lies in it, or if what lies in it would lie too deep here
     */
    public FolderPath asTargetOf(List<FolderPath> moved) {
        FolderPath top = moved.stream()
                .min(Comparator.comparingInt(path -> path.names.size()))
                .orElseThrow(() -> new InputProblem("That is gone; somebody else has changed it meanwhile."));
        if (isBelow(top)) {
            throw new InputProblem("%s cannot be inside itself.".formatted(top.shown()));
        }
        int below = moved.stream().mapToInt(path -> path.names.size()).max().orElse(0) - top.names.size();
        checkRoom(below);
        return top;
    }

    private void checkRoom(int below) {
        int depth = names.size() + below;
        if (depth > MAX_DEPTH) {
            throw new InputProblem(
                    "“%s” would be %d folders deep; %d is the limit.".formatted(names.get(0), depth, MAX_DEPTH));
        }
    }

    private static void check(String name) {
        if (name.isBlank() || name.contains("/") || name.chars().anyMatch(Character::isISOControl)) {
            throw new InputProblem("\"%s\" cannot be the name of a folder.".formatted(name));
        }
        if (name.length() > MAX_NAME) {
            throw new InputProblem("\"%s…\" is %d characters long; %d is the limit."
                    .formatted(name.substring(0, 20), name.length(), MAX_NAME));
        }
    }

    public String name() {
        return names.get(names.size() - 1);
    }

    /** The folder that this one lies in, or null at the top. */
    public @Nullable FolderPath parent() {
        return names.size() == 1 ? null : new FolderPath(names.subList(0, names.size() - 1));
    }

    /** Whether this lies in the other one, or in one that does. */
    public boolean isBelow(FolderPath other) {
        int depth = other.names.size();
        return names.size() > depth && new FolderPath(names.subList(0, depth)).compareTo(other) == 0;
    }

    /** @throws InputProblem if that is no name, or would lie too deep */
    public FolderPath child(String name) {
        List<String> longer = new ArrayList<>(names);
        longer.add(name);
        return of(longer);
    }

    /** The folder of another name beside this one. */
    public FolderPath renamed(String name) {
        List<String> others = new ArrayList<>(names);
        others.set(others.size() - 1, name);
        return of(others);
    }

    /** As people read it: {@code "Loans / Halden Foundation"}; a server's INBOX (RFC 3501, section 5.1) is the Inbox. */
    public String shown() {
        String all = String.join(" / ", names);
        return names.size() > 1 && names.get(0).equalsIgnoreCase("INBOX") ? "Inbox" + all.substring(5) : all;
    }

    /** Paths in the order of a tree read from top to bottom, ignoring case; numbers in names count as such: 20 before 100. */
    @Override
    public int compareTo(FolderPath other) {
        int shared = Math.min(names.size(), other.names.size());
        for (int i = 0; i < shared; i++) {
            int order = compare(names.get(i), other.names.get(i));
            if (order != 0) {
                return order;
            }
        }
        return Integer.compare(names.size(), other.names.size());
    }

    private static int compare(String one, String other) {
        int i = 0;
        int j = 0;
        while (i < one.length() && j < other.length()) {
            int endOfOne = endOfNumber(one, i);
            int endOfOther = endOfNumber(other, j);
            int order;
            if (endOfOne > i && endOfOther > j) {
                order = compareNumbers(one.substring(i, endOfOne), other.substring(j, endOfOther));
                i = endOfOne;
                j = endOfOther;
            } else {
                order = String.CASE_INSENSITIVE_ORDER.compare(one.substring(i, ++i), other.substring(j, ++j));
            }
            if (order != 0) {
                return order;
            }
        }
        int rest = Integer.compare(one.length() - i, other.length() - j);
        return rest != 0 ? rest : one.compareToIgnoreCase(other);
    }

    private static int endOfNumber(String text, int from) {
        int end = from;
        while (end < text.length() && text.charAt(end) >= '0' && text.charAt(end) <= '9') {
            end++;
        }
        return end;
    }

    /** However long they are. */
    private static int compareNumbers(String one, String other) {
        String a = one.replaceFirst("^0+(?=.)", "");
        String b = other.replaceFirst("^0+(?=.)", "");
        return a.length() != b.length() ? Integer.compare(a.length(), b.length()) : a.compareTo(b);
    }

    /** As it is stored and typed: {@code "Loans/Halden Foundation"}; {@link #parse} reads it back. */
    @Override
    public String toString() {
        return String.join("/", names);
    }
}
