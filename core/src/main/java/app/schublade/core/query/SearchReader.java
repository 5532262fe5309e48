package app.schublade.core.query;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.Trait;
import app.schublade.core.query.Search.SearchTerm;
import app.schublade.core.query.Search.TermTopic;
import app.schublade.core.query.SearchWorld.NameKind;
import app.schublade.core.query.SearchWorld.Named;
import app.schublade.core.query.SearchWorld.Naming;
import app.schublade.core.words.WordSplitter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Understands what people type into the find box. Words in any order, all of which must be there; {@code "in quotes"} exactly
 * so; {@code or} between two; {@code not} or a minus before what must not be. What begins like a term of the list in {@code
 * docs/find.md} is one, unless its first word is in quotes; everything else is words.
 */
public final class SearchReader {
    /** What is longer is cut. */
    public static final int MAX_LENGTH = 400;

    private static final int MAX_TERMS = 40;
    private static final Pattern PIECE = Pattern.compile("(-?)(?:[\"“”„]([^\"“”„]*)(?:[\"“”„]|$)|([^\\s\"“”„]+))");
    private static final Pattern SIZE = Pattern.compile("(\\d{1,6}(?:[.,]\\d{1,3})?)(b|kb|mb|gb|k|m|g)?");
    private static final Map<String, List<String>> KINDS = Map.of(
            "pdf", List.of("pdf"),
            "picture", List.of("image"),
            "photo", List.of("image"),
            "image", List.of("image"),
            "spreadsheet", List.of("xls", "xlsx", "ods", "csv"),
            "table", List.of("xls", "xlsx", "ods", "csv"),
            "document", List.of("doc", "docx", "odt", "rtf"),
            "presentation", List.of("ppt", "pptx", "odp"),
            "zip", List.of("zip"),
            "invitation", List.of("ics", "calendar"));
    private static final Set<String> FILES = Set.of("file", "files", "attachment", "attachments");
    /** What begins a term, and so is nobody's name. */
    private static final Set<String> LEADS = Set.of(
            "from", "to", "with", "in", "below", "about", "subject", "since", "before", "after", "until", "or", "not",
            "named");

    private static final Set<String> ARTICLES = Set.of("a", "an", "the");

    private final SearchWorld world;
    private final List<Piece> pieces = new ArrayList<>();
    private final List<String> words;
    /** As they may be names, in quotes or not. */
    private final List<String> texts;

    private SearchReader(String typed, SearchWorld world) {
        this.world = world;
        Matcher matcher = PIECE.matcher(typed);
        while (matcher.find() && pieces.size() < MAX_TERMS * 2) {
            boolean quoted = matcher.group(2) != null;
            String text = quoted ? matcher.group(2) : matcher.group(3);
            boolean not = matcher.end(1) > matcher.start(1);
            pieces.add(new Piece(matcher.start(), matcher.end(), text, quoted, not));
        }
        words = pieces.stream()
                .map(one -> one.quoted || one.not ? "" : one.text)
                .toList();
        texts = pieces.stream().map(one -> one.not ? "" : one.text).toList();
    }

    /** A word or some in quotes, with a minus before it or without. */
    private record Piece(int start, int end, String text, boolean quoted, boolean not) {
        boolean is(String word) {
            return !quoted && !not && text.equalsIgnoreCase(word);
        }
    }

    /** A term without its place in the text, with the number of pieces that it takes. */
    private record Read(
            int pieces,
            TermTopic kind,
            String lead,
            String value,
            Query query,
            @Nullable Named place) {
        static Read of(int pieces, TermTopic kind, String lead, String value, Query query) {
            return new Read(pieces, kind, lead, value, query, null);
        }
    }

    /** Never fails: what is not understood is words. */
    public static Search read(String typed, SearchWorld world) {
        String text = typed.substring(0, Math.min(typed.length(), MAX_LENGTH)).strip();
        return new Search(text, new SearchReader(text, world).alternatives(), world);
    }

    private List<List<SearchTerm>> alternatives() {
        List<List<SearchTerm>> alternatives = new ArrayList<>();
        List<SearchTerm> terms = new ArrayList<>();
        for (int at = 0; at < pieces.size(); ) {
            if (pieces.get(at).is("or") && at + 1 < pieces.size()) {
                alternatives.add(terms);
                terms = new ArrayList<>();
                at++;
                continue;
            }
            boolean said = pieces.get(at).is("not") && at + 1 < pieces.size() && !pieces.get(at + 1).not;
            int begin = said ? at + 1 : at;
            boolean wanted = !said && !pieces.get(begin).not;
            Read read = term(begin).orElseGet(() -> words(begin));
            SearchTerm term = new SearchTerm(
                    pieces.get(at).start,
                    pieces.get(begin + read.pieces - 1).end,
                    wanted,
                    read.kind,
                    read.lead,
                    read.value,
                    read.query,
                    read.place);
            if (read.kind != TermTopic.WORDS || !WordSplitter.of(read.value).isEmpty()) {
                terms.add(term);
            }
            at = begin + read.pieces;
        }
        alternatives.add(terms);
        return alternatives.stream()
                .filter(one -> !one.isEmpty())
                .limit(MAX_TERMS)
                .toList();
    }

    private Read words(int at) {
        Piece piece = pieces.get(at);
        Query query = new Words(Words.WordField.ANYWHERE, piece.text, piece.quoted);
        return Read.of(1, TermTopic.WORDS, "", piece.text, query);
    }

    /** The word at a place in lower case, though a minus stands before it; empty if it is in quotes. */
    private String word(int at) {
        return at < pieces.size() && !pieces.get(at).quoted
                ? pieces.get(at).text.toLowerCase(Locale.ROOT)
                : "";
    }

    private Optional<Read> term(int at) {
        return Stream.<IntFunction<Optional<Read>>>of(
                        this::files,
                        this::size,
                        this::ownFlag,
                        this::mark,
                        this::list,
                        this::person,
                        this::place,
                        this::time,
                        this::subject)
                .map(one -> one.apply(at))
                .flatMap(Optional::stream)
                .findFirst();
    }

    private Optional<Read> files(int at) {
        String word = word(at);
        if (word.equals("file") || word.equals("named")) {
            int name = word(at + 1).matches("named?|called") ? at + 2 : at + 1;
            return value(name)
                    .map(one -> Read.of(
                            name + 1 - at,
                            TermTopic.FILES,
                            "file",
                            one.text,
                            new Words(Words.WordField.FILES, one.text, one.quoted)));
        }
        int kind = word.equals("with") ? at + 1 : word.equals("has") ? at + 1 : at;
        if (kind > at && ARTICLES.contains(word(kind))) {
            kind++;
        }
        int pieces = kind + 1 - at;
        String asked = word(kind);
        if (pieces > 1 && FILES.contains(asked)) {
            return Optional.of(Read.of(pieces, TermTopic.FILES, "with", "files", is(Trait.ATTACHMENT)));
        }
        String one = asked.endsWith("s") && !KINDS.containsKey(asked) ? asked.substring(0, asked.length() - 1) : asked;
        List<String> endings = KINDS.get(one);
        if (endings == null || (pieces == 1 && !one.equals("pdf"))) {
            return Optional.empty();
        }
        String shown =
                one.equals("pdf") ? "a PDF" : (one.equals("image") || one.equals("invitation") ? "an " : "a ") + one;
        Query query = new Query.Meets(new Attached(Attached.By.KIND, endings));
        return Optional.of(Read.of(pieces, TermTopic.FILES, "with", shown, query));
    }

    /** {@code larger than 2 MB} */
    private Optional<Read> size(int at) {
        String word = word(at);
        boolean larger = word.equals("larger") || word.equals("bigger");
        if (!larger && !word.equals("smaller")) {
            return Optional.empty();
        }
        int number = word(at + 1).equals("than") ? at + 2 : at + 1;
        Matcher size = SIZE.matcher(word(number));
        if (!size.matches()) {
            return Optional.empty();
        }
        boolean apart = size.group(2) == null && word(number + 1).matches("b|kb|mb|gb");
        String unit = apart ? word(number + 1) : size.group(2) == null ? "mb" : size.group(2);
        long factor = switch (unit.charAt(0)) {
            case 'b' -> 1;
            case 'k' -> 1_000;
            case 'g' -> 1_000_000_000;
            default -> 1_000_000;
        };
        long bytes = Math.round(Double.parseDouble(size.group(1).replace(',', '.')) * factor);
        Sized sized = new Sized(false, larger, bytes);
        return Optional.of(
                Read.of(number + (apart ? 2 : 1) - at, TermTopic.FILES, "", sized.sentence(), new Query.Meets(sized)));
    }

    private static Query is(Trait trait) {
        return new Query.Meets(new Traits(List.of(trait)));
    }

    private Optional<Read> mark(int at) {
        String two = word(at) + " " + word(at + 1);
        return switch (two) {
            case "from me" -> mark(2, "sent by me", world.sent());
            case "to me" -> mark(2, "to me", is(Trait.TO_ME));
            case "key people" -> mark(2, "from key people", Filter.KEY_PEOPLE.query());
            case "sent by" -> word(at + 2).equals("me") ? mark(3, "sent by me", world.sent()) : Optional.empty();
            case "from key" ->
                word(at + 2).equals("people")
                        ? mark(3, "from key people", Filter.KEY_PEOPLE.query())
                        : Optional.empty();
            default -> markOfOneWord(at);
        };
    }

    private Optional<Read> markOfOneWord(int at) {
        return switch (word(at)) {
            case "unread" -> mark(1, "unread", new Query.Unread());
            case "flagged" -> mark(1, "flagged", Filter.FLAGGED.query());
            case "answered", "replied" -> answered(at, new Query.Dealt(Query.Dealing.ANSWERED));
            case "unanswered" -> answered(at, new Query.Without(new Query.Dealt(Query.Dealing.ANSWERED)));
            case "forwarded" -> answered(at, new Query.Dealt(Query.Dealing.FORWARDED));
            case "overdue" ->
                mark(
                        1,
                        "overdue",
                        new Query.OnDay(
                                Query.MessageDay.DUE, null, world.today().minusDays(1)));
            case "due" -> day(at, Query.MessageDay.DUE);
            case "done" -> day(at, Query.MessageDay.DONE);
            default -> Optional.empty();
        };
    }

    /** With a time behind it or without. */
    private Optional<Read> day(int at, Query.MessageDay which) {
        return Period.read(words, at + 1, world.today())
                .map(one -> Read.of(
                        1 + one.words(),
                        TermTopic.MARK,
                        which.words(),
                        one.said(),
                        new Query.OnDay(which, one.first(), one.last())))
                .or(() -> mark(1, which.words(), new Query.OnDay(which)));
    }

    /** With "by me" behind it or without. */
    private Optional<Read> answered(int at, Query query) {
        boolean byMe = word(at + 1).equals("by") && word(at + 2).equals("me");
        return mark(byMe ? 3 : 1, query.sentence(), query);
    }

    private static Optional<Read> mark(int pieces, String said, Query query) {
        return Optional.of(Read.of(pieces, TermTopic.MARK, "", said, query));
    }

    /** What stands behind a word that wants a value. */
    private Optional<Piece> value(int at) {
        return at < pieces.size()
                        && !pieces.get(at).not
                        && !LEADS.contains(word(at))
                        && !WordSplitter.of(pieces.get(at).text).isEmpty()
                ? Optional.of(pieces.get(at))
                : Optional.empty();
    }

    private Optional<Read> person(int at) {
        String role = word(at);
        if (!Set.of("from", "to", "with").contains(role)) {
            return Optional.empty();
        }
        if (role.equals("from")) {
            Optional<Read> other = group(at).or(() -> time(at));
            if (other.isPresent()) {
                return other;
            }
        }
        int name = ARTICLES.contains(word(at + 1)) ? at + 2 : at + 1;
        return value(name)
                .map(one ->
                        Read.of(name + 1 - at, TermTopic.PERSON, role, one.text, person(role, one.text, one.quoted)));
    }

    private static Query person(String role, String name, boolean exact) {
        Words from = new Words(Words.WordField.SENDER, name, exact);
        Words to = new Words(Words.WordField.RECIPIENTS, name, exact);
        return switch (role) {
            case "from" -> from;
            case "to" -> to;
            default -> new Query.Any(List.of(from, to));
        };
    }

    /** {@code from the mailing list rowers}, {@code in list rowers.club.example} */
    private Optional<Read> list(int at) {
        if (!Set.of("from", "to", "in").contains(word(at))) {
            return Optional.empty();
        }
        int list = ARTICLES.contains(word(at + 1)) ? at + 2 : at + 1;
        list += word(list).equals("mailing") ? 1 : 0;
        int name = list + 1;
        return word(list).equals("list")
                ? value(name)
                        .map(one -> Read.of(
                                name + 1 - at, TermTopic.MARK, "from the list", one.text, new Query.OnList(one.text)))
                : Optional.empty();
    }

    private Optional<Read> group(int at) {
        int name = at + 1 + (word(at + 1).equals("the") ? 1 : 0);
        int group = name + (word(name).equals("group") ? 1 : 0);
        return world.find(texts, group, one -> one.kind() == NameKind.GROUP)
                .map(one -> new Read(
                        group + one.words() - at,
                        TermTopic.PERSON,
                        "from",
                        one.place().shown(),
                        one.place().query(),
                        one.place()));
    }

    private Optional<Read> place(int at) {
        String lead = word(at);
        int name = ARTICLES.contains(word(at + 1)) ? at + 2 : at + 1;
        return switch (lead) {
            case "in" ->
                world.find(texts, name, one -> one.kind() != NameKind.GROUP)
                        .map(one -> placed(
                                one, name - at + one.words(), "in", one.place().query()));
            case "below" ->
                world.find(texts, name, one -> one.below() != null)
                        .map(one -> placed(
                                one,
                                name - at + one.words(),
                                "below",
                                one.place().below() == null
                                        ? one.place().query()
                                        : one.place().below()));
            case "labelled", "label" ->
                world.find(texts, name, one -> one.kind() == NameKind.LABEL)
                        .map(one -> placed(
                                one,
                                name - at + one.words(),
                                "labelled",
                                one.place().query()));
            default -> Optional.empty();
        };
    }

    /** "flagged as to pay", where there is such a flag. */
    private Optional<Read> ownFlag(int at) {
        if (!word(at).equals("flagged")) {
            return Optional.empty();
        }
        int name = word(at + 1).equals("as") ? at + 2 : at + 1;
        return world.find(texts, name, one -> one.kind() == NameKind.FLAG)
                .map(one -> placed(
                        one, name - at + one.words(), "flagged as", one.place().query()));
    }

    private static Read placed(Naming found, int pieces, String lead, Query query) {
        Named place = found.place();
        return new Read(pieces, TermTopic.PLACE, lead, place.shown(), query, place);
    }

    private Optional<Read> time(int at) {
        return Period.read(words, at, world.today()).map(SearchReader::time);
    }

    private static Read time(Period period) {
        Query query = new Query.Meets(ReceivedAt.days(period.first(), period.last()));
        return Read.of(period.words(), TermTopic.TIME, "", period.said(), query);
    }

    private Optional<Read> subject(int at) {
        return Set.of("about", "subject").contains(word(at))
                ? value(at + 1)
                        .map(one -> Read.of(
                                2,
                                TermTopic.SUBJECT,
                                "about",
                                one.text,
                                new Words(Words.WordField.SUBJECT, one.text, one.quoted)))
                : Optional.empty();
    }

    /** A text with its first words in quotes, so that they are nothing but words. */
    static String quoted(String source, int most) {
        Matcher piece = PIECE.matcher(source);
        List<String> words = new ArrayList<>();
        int quoted = 0;
        while (piece.find()) {
            boolean not = words.isEmpty() && piece.group().equalsIgnoreCase("not");
            boolean quote = piece.group(2) == null && !not && quoted < most;
            words.add(quote ? piece.group(1) + '"' + piece.group(3) + '"' : piece.group());
            quoted += quote ? 1 : 0;
        }
        return String.join(" ", words);
    }

    static String withoutNot(String source) {
        return source.startsWith("-") ? source.substring(1) : source.replaceFirst("(?i)^not\\s+", "");
    }

    /** What is left when a term was taken out: no {@code or} with nothing beside it. */
    static String withoutLooseEnds(String text) {
        String[] words = text.split("\\s+", -1);
        List<String> kept = new ArrayList<>();
        for (int i = 0; i < words.length; i++) {
            boolean or = words[i].equalsIgnoreCase("or");
            boolean loose = or
                    && (kept.isEmpty()
                            || i == words.length - 1
                            || kept.get(kept.size() - 1).equalsIgnoreCase("or"));
            if (!loose) {
                kept.add(words[i]);
            }
        }
        return String.join(" ", kept);
    }
}
