package app.schublade.store.message;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.InConversation;
import app.schublade.core.filing.InGroup;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.Trait;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.LabelRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.core.query.Query;
import app.schublade.core.query.Words;
import app.schublade.store.base.Sql;
import java.sql.Timestamp;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * What a query means as SQL: a condition over rows of messages of the user in {@code :user}.
 *
 * <p>Conditions that must see a message as rules do (texts, patterns, whom one knows) cannot be asked in SQL
 * yet; they are refused with an {@link InputProblem}.
 */
final class QuerySql implements Query.QueryVisitor<Sql>, Condition.ConditionVisitor<Sql, RuntimeException> {
    private static final Pattern MESSAGE = Pattern.compile("\\bm\\.");
    private static final Pattern HEAD = Pattern.compile("\\bh\\.");
    private static final Set<Trait> UNKNOWN = Set.of(Trait.KNOWN_SENDER, Trait.NEW_SENDER, Trait.ANSWER);

    private final JdbcClient jdbc;
    private final long userId;
    private final ZoneId zone;
    private final String message;
    private final String head;
    private final String prefix;
    private int parameters;
    private boolean asksHead;
    private boolean asksWords;

    private QuerySql(JdbcClient jdbc, long userId, ZoneId zone, String message, String head, String prefix) {
        this.jdbc = jdbc;
        this.userId = userId;
        this.zone = zone;
        this.message = message;
        this.head = head;
        this.prefix = prefix;
    }

    /**
     * A condition.
     *
     * @param asksHead whether it is about rows of message_head too
     * @param asksWords whether messages must have words: how many have them differs too much for one plan
     */
    record Selection(Sql condition, boolean asksHead, boolean asksWords) {
        /** From here on, and until the transaction ends, a plan is made for the words that are asked for. */
        static void forThisPlan(JdbcClient jdbc) {
            jdbc.sql("select set_config('plan_cache_mode', 'force_custom_plan', true)")
                    .query()
                    .singleRow();
        }
    }

    /**
     * Translates a query. What the user's words have of the parts that are asked for is looked up at once, so that a plan can be
     * made for them.
     *
     * @param zone where the user's days begin and end
     * @param message alias of the table of messages, unlike others in the statement
     * @param head alias of the table of their heads
     */
    static Selection where(JdbcClient jdbc, long userId, Query query, ZoneId zone, String message, String head) {
        return where(jdbc, userId, query, zone, message, head, message);
    }

    /** @param parameters how the names of its parameters begin, unlike those of others in the statement */
    static Selection where(
            JdbcClient jdbc, long userId, Query query, ZoneId zone, String message, String head, String parameters) {
        QuerySql visitor = new QuerySql(jdbc, userId, zone, message, head, parameters);
        Sql condition = query.accept(visitor);
        return new Selection(condition, visitor.asksHead, visitor.asksWords);
    }

    /** Parts of a statement's text, and values between them. */
    private Sql sql(String pattern, Object... values) {
        Map<String, Object> named = new HashMap<>();
        Object[] names = new Object[values.length];
        for (int i = 0; i < values.length; i++) {
            String name = prefix + parameters++;
            named.put(name, values[i]);
            names[i] = ":" + name;
        }
        String own = MESSAGE.matcher(pattern).replaceAll(message + ".");
        own = HEAD.matcher(own).replaceAll(head + ".");
        return new Sql(own.formatted(names), named);
    }

    private Sql ofHead(String pattern, Object... values) {
        asksHead = true;
        return sql(pattern, values);
    }

    private static Sql either(List<Sql> parts) {
        return parts.isEmpty() ? Sql.of("false") : Sql.joined(parts, " or ");
    }

    /** Words that are asked for together are looked up together: the rarest tells where to look for the others. */
    @Override
    public Sql all(Query.All query) {
        List<String> words = new ArrayList<>();
        List<String> unwanted = new ArrayList<>();
        List<Query> others = new ArrayList<>();
        for (Query part : query.parts()) {
            if (part instanceof Words one && !one.forms().isEmpty()) {
                words.add(text(one));
            } else if (part instanceof Query.Without not
                    && not.query() instanceof Words one
                    && !one.forms().isEmpty()) {
                unwanted.add("!" + text(one));
            } else {
                others.add(part);
            }
        }
        List<Sql> parts = new ArrayList<>();
        if (!words.isEmpty()) {
            words.addAll(unwanted);
            parts.add(having(String.join(" & ", words)));
        } else {
            unwanted.forEach(word -> parts.add(Sql.of("not ").plus(having(word.substring(1)))));
        }
        others.forEach(part -> parts.add(part.accept(this)));
        return parts.isEmpty() ? Sql.of("true") : Sql.joined(parts, " and ");
    }

    @Override
    public Sql any(Query.Any query) {
        return query.parts().isEmpty()
                ? Sql.of("false")
                : Sql.joined(
                        query.parts().stream().map(part -> part.accept(this)).toList(), " or ");
    }

    @Override
    public Sql without(Query.Without query) {
        return Sql.of("not ").plus(query.query().accept(this));
    }

    @Override
    public Sql inFolder(Query.InFolder query) {
        // In the Inbox alone anything waits for the next look.
        return sql("(m.folder_id = %s and not m.held)", query.folder().id());
    }

    @Override
    public Sql inTray(Query.InTray query) {
        return sql("(m.tray_id is not null and m.tray_id = %s)", query.tray().id());
    }

    @Override
    public Sql tickled(Query.Tickled query) {
        return sql("m.until_on is not null");
    }

    @Override
    public Sql unread(Query.Unread query) {
        return sql("m.unread");
    }

    @Override
    public Sql dealt(Query.Dealt query) {
        return switch (query.how()) {
            case ANSWERED -> sql("m.answered");
            case FORWARDED -> sql("m.forwarded");
        };
    }

    @Override
    public Sql flaggedAs(Query.FlaggedAs query) {
        return sql("(m.flag_id is not null and m.flag_id = %s)", query.flag().id());
    }

    @Override
    public Sql onDay(Query.OnDay query) {
        String day = switch (query.which()) {
            case DUE -> "m.due_on";
            case DONE -> "m.done_on";
        };
        List<Sql> parts = new ArrayList<>();
        parts.add(sql(day + " is not null"));
        if (query.first() != null) {
            parts.add(sql(day + " >= %s", query.first()));
        }
        if (query.last() != null) {
            parts.add(sql(day + " <= %s", query.last()));
        }
        return Sql.joined(parts, " and ");
    }

    @Override
    public Sql onList(Query.OnList query) {
        return ofHead(
                "(h.list_id is not null and (h.list_id = %s or starts_with(h.list_id, %s)))",
                query.name(), query.name() + ".");
    }

    @Override
    public Sql words(Words query) {
        return query.forms().isEmpty() ? Sql.of("false") : having(text(query));
    }

    private Sql having(String words) {
        asksWords = true;
        return sql("m.id in (select message_id from message_search where words @@ cast(%s as tsquery))", words);
    }

    /** What is looked for, as PostgreSQL reads it, in brackets. */
    private String text(Words query) {
        List<List<String>> forms = query.forms();
        String mark = query.where() == Words.WordField.FILES ? "/" : "";
        String weight = switch (query.where()) {
            case SUBJECT -> "A";
            case SENDER -> "B";
            case RECIPIENTS -> "C";
            case ANYWHERE, FILES -> "";
        };
        return query.isPart(forms)
                ? forms.get(0).stream()
                        .map(form -> wordsWith(form, mark, weight))
                        .collect(Collectors.joining(" | ", "(", ")"))
                : "(" + phrase(forms, mark, weight, query.exact()) + ")";
    }

    private String wordsWith(String part, String mark, String weight) {
        return jdbc.sql("select words_with(?, ?, ?, ?)::text")
                .params(userId, part, mark, weight)
                .query(String.class)
                .single();
    }

    /** As PostgreSQL reads it: words one behind the other, each in any of its forms; the last may go on. */
    private static String phrase(List<List<String>> forms, String mark, String weight, boolean exact) {
        List<String> words = new ArrayList<>();
        for (int i = 0; i < forms.size(); i++) {
            String ending = !exact && i == forms.size() - 1 ? ":*" + weight : weight.isEmpty() ? "" : ":" + weight;
            words.add(forms.get(i).stream()
                    .map(form -> "'" + mark + form + "'" + ending)
                    .collect(Collectors.joining(" | ", "(", ")")));
        }
        return String.join(" <-> ", words);
    }

    @Override
    public Sql meets(Query.Meets query) {
        return query.condition().accept(this);
    }

    @Override
    public Sql group(Group condition) {
        List<Sql> parts =
                condition.parts().stream().map(part -> part.accept(this)).toList();
        return parts.isEmpty() ? Sql.of("false") : Sql.joined(parts, condition.all() ? " and " : " or ");
    }

    @Override
    public Sql not(Not condition) {
        return Sql.of("not ").plus(condition.condition().accept(this));
    }

    @Override
    public Sql marked(Marked condition) {
        List<Sql> parts = new ArrayList<>();
        if (!condition.labels().isEmpty()) {
            parts.add(sql(
                    "m.id in (select message_id from message_label where label_id = any(%s))",
                    (Object) condition.labels().stream().map(LabelRef::id).toArray(Long[]::new)));
        }
        if (!condition.categories().isEmpty()) {
            Object ids = condition.categories().stream().map(CategoryRef::id).toArray(Long[]::new);
            parts.add(sql(
                    "(coalesce(m.category_id = any(%s), false) or m.also_categories && cast(%s as bigint[]))",
                    ids, ids));
        }
        if (condition.flag()) {
            parts.add(sql("m.flagged"));
        }
        return either(parts);
    }

    @Override
    public Sql inAccount(InAccount condition) {
        List<Long> ids = condition.accounts().stream().map(InAccount.Ref::id).toList();
        return ids.size() == 1
                ? sql("m.account_id = %s", ids.get(0))
                : sql("m.account_id = any(%s)", (Object) ids.toArray(Long[]::new));
    }

    @Override
    public Sql traits(Traits condition) {
        return either(condition.values().stream().map(this::trait).toList());
    }

    private Sql trait(Trait trait) {
        if (UNKNOWN.contains(trait)) {
            throw cannotBeAsked(trait.words());
        }
        return switch (trait) {
            case ATTACHMENT -> sql("m.attachments > 0");
            case KEY_PERSON -> ofHead("""
                    exists (select from key_person k where k.user_id = :user
                        and k.value in (h.sender_address, split_part(h.sender_address, '@', -1)))""");
            default -> ofHead("coalesce(h.traits @> cast(array[%s] as text[]), false)", trait.name());
        };
    }

    @Override
    public Sql correspondent(Correspondent condition) {
        if (condition.role() != Correspondent.Role.SENDER) {
            throw cannotBeAsked(condition.sentence());
        }
        return either(condition.values().stream().map(this::sender).toList());
    }

    private Sql sender(String value) {
        int at = value.lastIndexOf('@');
        if (at > 0 && !value.startsWith("*.")) {
            return ofHead("h.sender_address = %s", value);
        }
        if (!value.startsWith("*.")) {
            return ofHead("split_part(h.sender_address, '@', -1) = %s", value.substring(at + 1));
        }
        return ofHead(
                "(right(split_part(h.sender_address, '@', -1), length(%s)) = %s or split_part(h.sender_address, '@', -1) = %s)",
                value.substring(1), value.substring(1), value.substring(2));
    }

    @Override
    public Sql fromList(FromList condition) {
        return ofHead(
                "(h.list_id is not null and h.list_id = any(%s))",
                (Object) condition.values().toArray(String[]::new));
    }

    @Override
    public Sql inConversation(InConversation condition) {
        Object ids = condition.ids().toArray(String[]::new);
        return ofHead("(h.internet_id = any(%s) or coalesce(h.refs && cast(%s as text[]), false))", ids, ids);
    }

    @Override
    public Sql inGroup(InGroup condition) {
        return ofHead("""
                exists (select from people_group g join people_group_member p on p.group_id = g.id
                    where g.user_id = :user and g.name = any(%s)
                    and p.value in (h.sender_address, split_part(h.sender_address, '@', -1)))""", (Object) condition.groups().toArray(String[]::new));
    }

    @Override
    public Sql sentTo(SentTo condition) {
        condition.values().stream()
                .filter(value -> value.startsWith("+") || OwnAddresses.isPattern(value))
                .findFirst()
                .ifPresent(value -> {
                    throw cannotBeAsked("sent to " + value);
                });
        String[] values = condition.values().toArray(String[]::new);
        return ofHead(
                "(h.sent_to && cast(%s as text[]) or coalesce(h.addressed_to && cast(%s as text[]), false))",
                values, values);
    }

    @Override
    public Sql sized(Sized condition) {
        String than = condition.larger() ? ">" : "<";
        return condition.attachment()
                ? ofHead(
                        "coalesce((select max(cast(a ->> 'size' as bigint)) from jsonb_array_elements(h.attached) a) "
                                + than + " %s, false)",
                        condition.bytes())
                : ofHead("h.size " + than + " %s", condition.bytes());
    }

    @Override
    public Sql attached(Attached condition) {
        if (condition.by() == Attached.By.NAME) {
            throw cannotBeAsked(condition.sentence());
        }
        Object kinds = condition.values().stream()
                .map(kind -> kind.toLowerCase(Locale.ROOT))
                .map(kind -> kind.startsWith(".") ? kind.substring(1) : kind)
                .toArray(String[]::new);
        return ofHead("""
                exists (select from jsonb_array_elements(h.attached) a cross join lateral (select lower(a ->> 'type') as type) t
                    where t.type = any(%s) or split_part(t.type, '/', 1) = any(%s) or split_part(t.type, '/', 2) = any(%s)
                        or substring(lower(a ->> 'name') from '[.]([[:alnum:]]{1,10})$') = any(%s))""", kinds, kinds, kinds, kinds);
    }

    @Override
    public Sql receivedAt(ReceivedAt condition) {
        List<Sql> parts = new ArrayList<>();
        if (condition.first() != null) {
            parts.add(sql("m.received_at >= %s", start(condition.first())));
        }
        if (condition.last() != null) {
            parts.add(sql("m.received_at < %s", start(condition.last().plusDays(1))));
        }
        if (!condition.days().isEmpty()) {
            Object days = condition.days().stream().map(DayOfWeek::getValue).toArray(Integer[]::new);
            parts.add(sql("extract(isodow from m.received_at at time zone %s) = any(%s)", zone.getId(), days));
        }
        if (condition.asksForTime()) {
            String minute =
                    "date_part('hour', m.received_at at time zone %1$s) * 60 + date_part('minute', m.received_at at time zone %1$s)";
            String joined = condition.from() < condition.to() ? " and " : " or ";
            parts.add(sql(
                    "(" + minute + " >= %2$s" + joined + minute + " < %3$s)",
                    zone.getId(),
                    condition.from(),
                    condition.to()));
        }
        return parts.isEmpty() ? Sql.of("true") : Sql.joined(parts, " and ");
    }

    private Timestamp start(LocalDate day) {
        return Timestamp.from(day.atStartOfDay(zone).toInstant());
    }

    @Override
    public Sql text(Text condition) {
        throw cannotBeAsked(condition.sentence());
    }

    private static InputProblem cannotBeAsked(String what) {
        return new InputProblem("“%s” cannot be searched for; a rule can ask it.".formatted(what));
    }
}
