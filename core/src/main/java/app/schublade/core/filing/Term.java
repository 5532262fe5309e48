package app.schublade.core.filing;

import app.schublade.core.filing.Text.Match;
import app.schublade.core.message.Trait;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.problem.InputProblem;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A condition as words, as it is kept and as it is typed: what it is about, how that is compared, with which values.
 *
 * @param match how text is compared; null for what is no text
 * @param negated whether the condition must not hold
 * @param values of a header field the first one is its name
 * @param parts of a group
 */
public record Term(TermKind kind, @Nullable Match match, boolean negated, List<String> values, List<Term> parts) {
    private static final Pattern SIZE =
            Pattern.compile("(\\d{1,12}(?:\\.\\d)?)\\s*(bytes|kb|mb)?", Pattern.CASE_INSENSITIVE);
    private static final Pattern DATES =
            Pattern.compile("(?:(from|until)\\s+)?(\\d{4}-\\d\\d-\\d\\d)(?:\\s*to\\s*(\\d{4}-\\d\\d-\\d\\d))?");
    private static final Pattern HOURS = Pattern.compile("(\\d{1,2})(?::00)?\\s*to\\s*(\\d{1,2})(?::00)?");
    private static final int DAY = 24;

    /** What a condition is about. */
    public enum TermKind {
        SENDER("from", "an address, a domain, or *.domain"),
        SENDER_NAME("sender’s name", "words"),
        REPLY_TO("reply to", "an address or a domain"),
        SENT_TO("sent to", "an address, +tag or *@domain"),
        ACCOUNT("account", "its name"),
        SUBJECT("subject", "words"),
        BODY("body", "words"),
        SUBJECT_OR_BODY("subject or body", "words"),
        HEADER("header", "Field: words"),
        LIST("mailing list", "the list’s id"),
        IS("it is", "addressed to me alone, automated mail, …"),
        ATTACHMENT_NAME("attachment named", "*.pdf"),
        ATTACHMENT_KIND("attachment of kind", "pdf, image"),
        ATTACHMENT_LARGER("an attachment over", "2 MB"),
        LARGER("larger than", "2 MB"),
        SMALLER("smaller than", "20 KB"),
        DATES("received", "2026-12-20 to 2027-01-06"),
        WEEKDAYS("received on", "Saturday, Sunday"),
        HOURS("received between", "18 to 8"),
        LABEL("has the label", "Label / label in it"),
        CATEGORY("has the category", "its name"),
        GROUP("from the group", "its name"),
        FLAGGED("is flagged", ""),
        ALL("all of", ""),
        ANY("any of", "");

        private final String words;
        private final String hint;

        TermKind(String words, String hint) {
            this.words = words;
            this.hint = hint;
        }

        public String words() {
            return words;
        }

        /** What can be typed. */
        public String hint() {
            return hint;
        }

        /** Whether it is about text, which can be compared in several ways. */
        public boolean isText() {
            return switch (this) {
                case SENDER_NAME, SUBJECT, BODY, SUBJECT_OR_BODY, HEADER -> true;
                default -> false;
            };
        }

        public boolean isGroup() {
            return this == ALL || this == ANY;
        }

        public boolean needsValues() {
            return this != FLAGGED && !isGroup();
        }
    }

    public Term {
        values = List.copyOf(values);
        parts = List.copyOf(parts);
    }

    /** What values mean that name something of the user's own, and how it is named. */
    public interface Names {
        /** @throws InputProblem with a sentence for the user if there is none, as the others */
        InAccount.Ref account(String value);

        LabelRef label(String value);

        CategoryRef category(String value);

        /** A group of people, by its name as it is written. */
        String group(String value);

        String of(InAccount.Ref account);

        String of(LabelRef label);

        String of(CategoryRef category);
    }

    private static Term of(TermKind kind, List<String> values) {
        return new Term(kind, null, false, values, List.of());
    }

    /** A condition in words. */
    public static Term of(Condition condition, Names names) {
        return condition.accept(new Words(names));
    }

    /** Says each kind of condition in words. */
    private record Words(Names names) implements Condition.ConditionVisitor<Term, RuntimeException> {
        @Override
        public Term not(Not not) {
            Term term = not.condition().accept(this);
            return new Term(term.kind, term.match, !term.negated, term.values, term.parts);
        }

        @Override
        public Term group(Group group) {
            List<Term> parts =
                    group.parts().stream().map(part -> part.accept(this)).toList();
            return new Term(group.all() ? TermKind.ALL : TermKind.ANY, null, false, List.of(), parts);
        }

        @Override
        public Term text(Text text) {
            List<String> values = text.where() == Text.Where.HEADER
                    ? Stream.concat(Stream.of(text.header()), text.values().stream())
                            .toList()
                    : text.values();
            return new Term(TermKind.valueOf(text.where().name()), text.match(), false, values, List.of());
        }

        @Override
        public Term correspondent(Correspondent one) {
            return of(one.role() == Correspondent.Role.SENDER ? TermKind.SENDER : TermKind.REPLY_TO, one.values());
        }

        @Override
        public Term sentTo(SentTo sentTo) {
            return of(TermKind.SENT_TO, sentTo.values());
        }

        @Override
        public Term fromList(FromList list) {
            return of(TermKind.LIST, list.values());
        }

        @Override
        public Term inAccount(InAccount in) {
            return of(TermKind.ACCOUNT, in.accounts().stream().map(names::of).toList());
        }

        @Override
        public Term traits(Traits traits) {
            return of(TermKind.IS, traits.values().stream().map(Trait::words).toList());
        }

        @Override
        public Term attached(Attached attached) {
            return of(
                    attached.by() == Attached.By.NAME ? TermKind.ATTACHMENT_NAME : TermKind.ATTACHMENT_KIND,
                    attached.values());
        }

        @Override
        public Term sized(Sized sized) {
            TermKind kind = sized.attachment()
                    ? TermKind.ATTACHMENT_LARGER
                    : sized.larger() ? TermKind.LARGER : TermKind.SMALLER;
            Term term = of(kind, List.of(Sized.inWords(sized.bytes())));
            return term.bytes() == sized.bytes() ? term : of(kind, List.of(sized.bytes() + " bytes"));
        }

        @Override
        public Term receivedAt(ReceivedAt at) {
            if (!at.days().isEmpty()) {
                return of(
                        TermKind.WEEKDAYS,
                        new TreeSet<>(at.days()).stream().map(Term::capital).toList());
            }
            if (at.first() != null || at.last() != null) {
                String dates = at.last() == null
                        ? "from " + at.first()
                        : at.first() == null ? "until " + at.last() : at.first() + " to " + at.last();
                return of(TermKind.DATES, List.of(dates));
            }
            return of(TermKind.HOURS, List.of(at.fromHour() + " to " + at.toHour()));
        }

        @Override
        public Term inGroup(InGroup in) {
            return of(TermKind.GROUP, in.groups());
        }

        @Override
        public Term marked(Marked marked) {
            if (marked.flag()) {
                return of(TermKind.FLAGGED, List.of());
            }
            return marked.labels().isEmpty()
                    ? of(
                            TermKind.CATEGORY,
                            marked.categories().stream().map(names::of).toList())
                    : of(TermKind.LABEL, marked.labels().stream().map(names::of).toList());
        }
    }

    private static String capital(DayOfWeek day) {
        return day.name().charAt(0) + day.name().substring(1).toLowerCase(Locale.ROOT);
    }

    /**
     * The condition that the words mean.
     *
     * @throws InputProblem with a sentence for the user if they mean none
     */
    public Condition condition(Names names) {
        Condition condition = plain(names);
        return negated ? new Not(condition) : condition;
    }

    private Condition plain(Names names) {
        return switch (kind) {
            case SENDER -> new Correspondent(Correspondent.Role.SENDER, values);
            case REPLY_TO -> new Correspondent(Correspondent.Role.REPLY_TO, values);
            case SENT_TO -> new SentTo(values);
            case ACCOUNT -> new InAccount(values.stream().map(names::account).toList());
            case SUBJECT, BODY, SUBJECT_OR_BODY, SENDER_NAME -> text(Text.Where.valueOf(kind.name()), "", values);
            case HEADER ->
                text(
                        Text.Where.HEADER,
                        values.isEmpty() ? "" : values.get(0),
                        values.subList(Math.min(1, values.size()), values.size()));
            case LIST -> new FromList(values);
            case IS -> new Traits(values.stream().map(Trait::of).toList());
            case ATTACHMENT_NAME -> new Attached(Attached.By.NAME, values);
            case ATTACHMENT_KIND -> new Attached(Attached.By.KIND, values);
            case ATTACHMENT_LARGER -> new Sized(true, true, bytes());
            case LARGER -> new Sized(false, true, bytes());
            case SMALLER -> new Sized(false, false, bytes());
            case DATES -> dates();
            case WEEKDAYS ->
                new ReceivedAt(null, null, values.stream().map(Term::day).collect(Collectors.toSet()), 0, DAY);
            case HOURS -> hours();
            case LABEL -> new Marked(values.stream().map(names::label).toList(), List.of(), false);
            case CATEGORY ->
                new Marked(List.of(), values.stream().map(names::category).toList(), false);
            case GROUP -> new InGroup(values.stream().map(names::group).toList());
            case FLAGGED -> new Marked(List.of(), List.of(), true);
            case ALL, ANY ->
                new Group(
                        kind == TermKind.ALL,
                        parts.stream().map(part -> part.condition(names)).toList());
        };
    }

    private Text text(Text.Where where, String header, List<String> texts) {
        return new Text(where, header, match == null ? Match.WORDS : match, texts);
    }

    private String value() {
        return values.isEmpty() ? "" : values.get(0).strip();
    }

    private long bytes() {
        Matcher matcher = SIZE.matcher(value());
        if (!matcher.matches()) {
            throw new InputProblem("“%s” is not a size; write it like 2 MB or 500 KB.".formatted(value()));
        }
        String unit = matcher.group(2) == null ? "bytes" : matcher.group(2).toLowerCase(Locale.ROOT);
        double factor = unit.equals("mb") ? 1e6 : unit.equals("kb") ? 1e3 : 1;
        return Math.round(Double.parseDouble(matcher.group(1)) * factor);
    }

    private ReceivedAt dates() {
        Matcher matcher = DATES.matcher(value());
        boolean fits = matcher.matches();
        String open = fits ? matcher.group(1) : null;
        String second = fits ? matcher.group(3) : null;
        if (!fits || (open == null && second == null) || ("until".equals(open) && second != null)) {
            throw new InputProblem(
                    "“%s” are not dates; write 2026-12-20 to 2027-01-06, from 2026-12-20 or until 2027-01-06."
                            .formatted(value()));
        }
        try {
            LocalDate one = LocalDate.parse(matcher.group(2));
            LocalDate last = second == null ? null : LocalDate.parse(second);
            return "until".equals(open)
                    ? new ReceivedAt(null, one, Set.of(), 0, DAY)
                    : new ReceivedAt(one, last, Set.of(), 0, DAY);
        } catch (DateTimeException e) {
            throw new InputProblem("“%s”: there is no such day.".formatted(value()), e);
        }
    }

    private static DayOfWeek day(String value) {
        String start = value.strip().toUpperCase(Locale.ROOT);
        return Arrays.stream(DayOfWeek.values())
                .filter(day -> start.length() >= 2 && day.name().startsWith(start))
                .findFirst()
                .orElseThrow(() ->
                        new InputProblem("“%s” is not a day of the week; write Monday, Tuesday, …".formatted(value)));
    }

    private ReceivedAt hours() {
        Matcher matcher = HOURS.matcher(value());
        if (!matcher.matches()) {
            throw new InputProblem("“%s” are not hours; write them like 18 to 8.".formatted(value()));
        }
        return new ReceivedAt(
                null, null, Set.of(), Integer.parseInt(matcher.group(1)), Integer.parseInt(matcher.group(2)));
    }
}
