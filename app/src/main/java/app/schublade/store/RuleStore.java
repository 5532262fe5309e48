package app.schublade.store;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Condition.AccountRef;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The rules of each user in their order, and how often each has acted. */
@Repository
public class RuleStore {
    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final AccountStore accounts;

    public RuleStore(JdbcClient jdbc, PlaceStore places, AccountStore accounts) {
        this.jdbc = jdbc;
        this.places = places;
        this.accounts = accounts;
    }

    /** How a condition or an effect is called in the database. */
    private enum Kind {
        SENDER,
        SUBJECT,
        SENT_TO,
        LIST,
        ACCOUNT,
        FILE,
        LABEL,
        CATEGORY,
        READ
    }

    /** What a rule's ids mean now. */
    private record Names(Places places, Map<Long, String> accounts) {
        @Nullable
        AccountRef account(String id) {
            String name = accounts.get(Long.parseLong(id));
            return name == null ? null : new AccountRef(Long.parseLong(id), name);
        }
    }

    @Transactional(readOnly = true)
    public RuleBook book(long userId) {
        Names names = new Names(
                places.of(userId, null),
                accounts.of(userId).stream().collect(Collectors.toMap(Account::id, Account::name)));
        Map<Long, List<Condition>> when = conditions(userId, false, names);
        Map<Long, List<Condition>> unless = conditions(userId, true, names);
        Map<Long, List<Effect>> then = effects(userId, names);
        return new RuleBook(jdbc.sql("select id, name, enabled, last from rule where user_id = ? order by position, id")
                .param(userId)
                .query((row, number) -> {
                    long id = row.getLong("id");
                    return new Rule(
                            id,
                            row.getString("name"),
                            row.getBoolean("enabled"),
                            when.getOrDefault(id, List.of()),
                            unless.getOrDefault(id, List.of()),
                            then.getOrDefault(id, List.of()),
                            row.getBoolean("last"));
                })
                .list());
    }

    private Map<Long, List<Condition>> conditions(long userId, boolean exception, Names names) {
        Map<Long, List<Condition>> found = new HashMap<>();
        jdbc.sql("""
                        select c.rule_id, c.kind, c.vals from rule_condition c join rule r on r.id = c.rule_id
                        where r.user_id = ? and c.exception = ? order by c.rule_id, c.position
                        """).params(userId, exception).query(row -> {
            found.computeIfAbsent(row.getLong("rule_id"), id -> new ArrayList<>())
                    .add(condition(Kind.valueOf(row.getString("kind")), strings(row.getArray("vals")), names));
        });
        return found;
    }

    private static List<String> strings(Array array) throws SQLException {
        return Arrays.asList((String[]) array.getArray());
    }

    private static Condition condition(Kind kind, List<String> values, Names names) {
        return switch (kind) {
            case SENDER -> new Condition.Sender(values);
            case SUBJECT -> new Condition.SubjectHas(values);
            case SENT_TO -> new Condition.SentTo(values);
            case LIST -> new Condition.MailingList(values);
            case ACCOUNT ->
                new Condition.InAccount(values.stream()
                        .map(names::account)
                        .filter(java.util.Objects::nonNull)
                        .toList());
            case FILE, LABEL, CATEGORY, READ -> throw new IllegalStateException(kind + " is no condition");
        };
    }

    private Map<Long, List<Effect>> effects(long userId, Names names) {
        Map<Long, List<Effect>> found = new HashMap<>();
        jdbc.sql("""
                        select e.*, f.path as folder_path from rule_effect e join rule r on r.id = e.rule_id
                        left join folder f on f.id = e.folder_id
                        where r.user_id = ? order by e.rule_id, e.position
                        """).param(userId).query(row -> {
            found.computeIfAbsent(row.getLong("rule_id"), id -> new ArrayList<>())
                    .add(effect(row, names.places()));
        });
        return found;
    }

    private static Effect effect(ResultSet row, Places places) throws SQLException {
        Kind kind = Kind.valueOf(row.getString("kind"));
        return switch (kind) {
            case FILE ->
                new Effect.FileInto(
                        new FolderRef(row.getLong("folder_id"), FolderPath.parse(row.getString("folder_path"))));
            case LABEL -> {
                Places.Label label = places.label(row.getLong("label_id")).orElseThrow();
                yield new Effect.Label(new LabelRef(label.id(), label.path()), true);
            }
            case CATEGORY -> {
                Places.Category category =
                        places.category(row.getLong("category_id")).orElseThrow();
                yield new Effect.Categorise(new CategoryRef(category.id(), category.name()));
            }
            case READ -> new Effect.MarkRead(true);
            default -> throw new IllegalStateException(kind + " is no effect");
        };
    }

    /** Adds a rule after all others if its id is 0, or replaces the one with its id. Places in it must exist. */
    @Transactional
    public long save(long userId, Rule rule) {
        long id = rule.id() == 0 ? insert(userId, rule) : update(userId, rule);
        int position = 0;
        for (Condition condition : rule.when()) {
            insertCondition(id, position++, false, condition);
        }
        for (Condition condition : rule.unless()) {
            insertCondition(id, position++, true, condition);
        }
        for (int i = 0; i < rule.then().size(); i++) {
            insertEffect(id, i, rule.then().get(i));
        }
        return id;
    }

    private long insert(long userId, Rule rule) {
        return jdbc.sql("""
                        insert into rule (user_id, position, name, enabled, last) values (:user,
                            (select coalesce(max(position), 0) + 1 from rule where user_id = :user), :name, :on, :last)
                        returning id
                        """)
                .param("user", userId)
                .param("name", rule.name())
                .param("on", rule.on())
                .param("last", rule.last())
                .query(Long.class)
                .single();
    }

    private long update(long userId, Rule rule) {
        int found = jdbc.sql("update rule set name = ?, enabled = ?, last = ? where id = ? and user_id = ?")
                .params(rule.name(), rule.on(), rule.last(), rule.id(), userId)
                .update();
        if (found == 0) {
            throw new IllegalArgumentException("This rule is gone; it was deleted in another window.");
        }
        jdbc.sql("delete from rule_condition where rule_id = ?")
                .param(rule.id())
                .update();
        jdbc.sql("delete from rule_effect where rule_id = ?").param(rule.id()).update();
        return rule.id();
    }

    private void insertCondition(long rule, int position, boolean exception, Condition condition) {
        Kind kind;
        List<String> values;
        if (condition instanceof Condition.Sender sender) {
            kind = Kind.SENDER;
            values = sender.values();
        } else if (condition instanceof Condition.SubjectHas subject) {
            kind = Kind.SUBJECT;
            values = subject.values();
        } else if (condition instanceof Condition.SentTo sentTo) {
            kind = Kind.SENT_TO;
            values = sentTo.values();
        } else if (condition instanceof Condition.MailingList list) {
            kind = Kind.LIST;
            values = list.values();
        } else {
            kind = Kind.ACCOUNT;
            values = ((Condition.InAccount) condition)
                    .accounts().stream()
                            .map(account -> String.valueOf(account.id()))
                            .toList();
        }
        jdbc.sql("insert into rule_condition (rule_id, position, exception, kind, vals) values (?, ?, ?, ?, ?)")
                .params(rule, position, exception, kind.name(), values.toArray(String[]::new))
                .update();
    }

    private void insertEffect(long rule, int position, Effect effect) {
        Long folder = effect instanceof Effect.FileInto file ? file.folder().id() : null;
        Long label = effect instanceof Effect.Label one ? one.label().id() : null;
        Long category = effect instanceof Effect.Categorise one ? one.category().id() : null;
        Kind kind =
                folder != null ? Kind.FILE : label != null ? Kind.LABEL : category != null ? Kind.CATEGORY : Kind.READ;
        jdbc.sql("""
                        insert into rule_effect (rule_id, position, kind, folder_id, label_id, category_id)
                        values (:rule, :position, :kind, :folder, :label, :category)
                        """)
                .param("rule", rule)
                .param("position", position)
                .param("kind", kind.name())
                .param("folder", folder)
                .param("label", label)
                .param("category", category)
                .update();
    }

    public void turn(long userId, long id, boolean on) {
        jdbc.sql("update rule set enabled = ? where user_id = ? and id = ?")
                .params(on, userId, id)
                .update();
    }

    /** Moves a rule one place up (-1) or down (+1). */
    @Transactional
    public void shift(long userId, long id, int by) {
        List<Long> order =
                new ArrayList<>(jdbc.sql("select id from rule where user_id = ? order by position, id for update")
                        .param(userId)
                        .query(Long.class)
                        .list());
        int from = order.indexOf(id);
        int to = from + by;
        if (from < 0 || to < 0 || to >= order.size()) {
            return;
        }
        order.add(to, order.remove(from));
        jdbc.sql("""
                        update rule r set position = v.position
                        from unnest(?::bigint[]) with ordinality as v (id, position) where r.id = v.id
                        """).param(order.toArray(Long[]::new)).update();
    }

    public void delete(long userId, long id) {
        jdbc.sql("delete from rule where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }

    /** How many messages each rule has acted on and was not undone for. */
    public Map<Long, Integer> acted(long userId) {
        return jdbc
                .sql("""
                        select r.id, count(distinct f.message_id) from rule r join filing_record f on f.rule_id = r.id
                        where r.user_id = ? and f.undone_at is null group by r.id
                        """)
                .param(userId)
                .query((row, number) -> Map.entry(row.getLong(1), row.getInt(2)))
                .list()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }
}
