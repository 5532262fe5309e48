package app.schublade.store.rule;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.RuleBook;
import app.schublade.core.filing.Term;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.LabelRef;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.Json;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;

/** The rules of each user in their order, and how often each has acted. */
@Repository
public class RuleStore {
    /** More than that are seldom at work; each that is missing is compiled anew. */
    private static final int MOST_BOOKS = 100;

    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final AccountStore accounts;
    private final RuleOrderStore order;
    private final Map<Long, RuleBook> books = new ConcurrentHashMap<>();

    public RuleStore(JdbcClient jdbc, PlaceStore places, AccountStore accounts, RuleOrderStore order) {
        this.order = order;
        this.jdbc = jdbc;
        this.places = places;
        this.accounts = accounts;
    }

    /** A rule's conditions as they are kept: in words, but what is the user's own by its id, so that names can change. */
    record Conditions(List<Term> when, List<Term> unless) {}

    static final TypeReference<Conditions> CONDITIONS = new TypeReference<>() {};

    /** What a rule's ids mean now. What is gone is named so: nothing has it, and the rule says it. */
    record StoredNames(Places places, Map<Long, String> accounts) implements Term.Names {
        private static final FolderPath GONE = FolderPath.parse("(gone)");

        @Override
        public InAccount.Ref account(String id) {
            return new InAccount.Ref(Long.parseLong(id), accounts.getOrDefault(Long.parseLong(id), "(gone)"));
        }

        @Override
        public LabelRef label(String id) {
            return new LabelRef(
                    Long.parseLong(id),
                    places.label(Long.parseLong(id)).map(Places.Label::path).orElse(GONE));
        }

        @Override
        public CategoryRef category(String id) {
            return places.category(Long.parseLong(id))
                    .map(Places.Category::ref)
                    .orElseGet(() -> new CategoryRef(Long.parseLong(id), "(gone)"));
        }

        @Override
        public String group(String name) {
            return name;
        }

        /** What is kept was understood before. */
        @Override
        public Condition called(Correspondent.Role role, String domain) {
            return new Correspondent(role, List.of(domain));
        }

        @Override
        public List<String> lists(String identifier) {
            return List.of(identifier);
        }

        @Override
        public String of(InAccount.Ref account) {
            return String.valueOf(account.id());
        }

        @Override
        public String of(LabelRef label) {
            return String.valueOf(label.id());
        }

        @Override
        public String of(CategoryRef category) {
            return String.valueOf(category.id());
        }
    }

    StoredNames names(long userId) {
        return new StoredNames(
                places.of(userId, null),
                accounts.of(userId).stream().collect(Collectors.toMap(Account::id, Account::name)));
    }

    /** The user's rules as they are now; the same book as the last time, unless a rule or something that one names has changed. */
    @Transactional(readOnly = true)
    public RuleBook book(long userId) {
        List<Rule> now = all(userId);
        RuleBook last = books.get(userId);
        if (last != null && last.rules().equals(now)) {
            return last;
        }
        if (books.size() >= MOST_BOOKS) {
            books.clear();
        }
        RuleBook book = new RuleBook(now);
        books.put(userId, book);
        return book;
    }

    /** The rules in their order, for whoever decides nothing by them. */
    @Transactional(readOnly = true)
    public List<Rule> all(long userId) {
        StoredNames names = names(userId);
        Map<Long, List<Effect>> then = effects(userId, names);
        return jdbc.sql("select id, name, enabled, last, conditions from rule where user_id = ? order by position, id")
                .param(userId)
                .query((row, number) -> {
                    long id = row.getLong("id");
                    Conditions conditions = Json.read(row.getString("conditions"), CONDITIONS);
                    return new Rule(
                            id,
                            row.getString("name"),
                            row.getBoolean("enabled"),
                            conditions(conditions.when(), names),
                            conditions(conditions.unless(), names),
                            then.getOrDefault(id, List.of()),
                            row.getBoolean("last"));
                })
                .list();
    }

    static List<Condition> conditions(List<Term> terms, StoredNames names) {
        return terms.stream().map(term -> term.condition(names)).toList();
    }

    private Map<Long, List<Effect>> effects(long userId, StoredNames names) {
        Map<Long, List<Effect>> found = new HashMap<>();
        jdbc.sql("""
                        select e.*, f.path as folder_path from rule_effect e join rule r on r.id = e.rule_id
                        left join folder f on f.id = e.folder_id
                        where r.user_id = ? order by e.rule_id, e.position
                        """).param(userId).query(row -> {
            found.computeIfAbsent(row.getLong("rule_id"), id -> new ArrayList<>())
                    .add(EffectRow.read(row, names.places()));
        });
        return found;
    }

    /** Adds a rule after all others if its id is 0, or replaces the one with its id. Places in it must exist. */
    @Transactional
    public long save(long userId, Rule rule) {
        StoredNames names = names(userId);
        String conditions = Json.write(new Conditions(terms(rule.when(), names), terms(rule.unless(), names)));
        if (rule.id() != 0) {
            byId(userId, rule.id())
                    .filter(before -> !isSame(before, rule))
                    .ifPresent(before -> keepVersion(before.id()));
        }
        long id = rule.id() == 0 ? insert(userId, rule, conditions) : update(userId, rule, conditions);
        for (int i = 0; i < rule.then().size(); i++) {
            EffectRow.of(rule.then().get(i)).insertInto(jdbc, "rule_effect", "rule_id", id, i);
        }
        return id;
    }

    /** A rule of the user's. */
    @Transactional(readOnly = true)
    public Optional<Rule> byId(long userId, long id) {
        return all(userId).stream().filter(rule -> rule.id() == id).findFirst();
    }

    private static List<Term> terms(List<Condition> conditions, StoredNames names) {
        return conditions.stream().map(condition -> Term.of(condition, names)).toList();
    }

    private static boolean isSame(Rule before, Rule after) {
        return before.when().equals(after.when())
                && before.unless().equals(after.unless())
                && before.then().equals(after.then())
                && before.last() == after.last();
    }

    /** Writes down how a rule is before it changes. */
    void keepVersion(long id) {
        jdbc.sql("""
                        insert into rule_version (rule_id, name, last, conditions, effects)
                        select id, name, last, conditions, (
                            select coalesce(jsonb_agg(to_jsonb(e) order by e.position), '[]')
                            from rule_effect e where e.rule_id = r.id)
                        from rule r where id = ?
                        """).param(id).update();
    }

    private long insert(long userId, Rule rule, String conditions) {
        return jdbc.sql("""
                        insert into rule (user_id, position, name, enabled, last, conditions) values (:user,
                            (select coalesce(max(position), 0) + 1 from rule where user_id = :user), :name, :on, :last,
                            :conditions::jsonb)
                        returning id
                        """)
                .param("conditions", conditions)
                .param("user", userId)
                .param("name", rule.name())
                .param("on", rule.on())
                .param("last", rule.last())
                .query(Long.class)
                .single();
    }

    private long update(long userId, Rule rule, String conditions) {
        int found = jdbc.sql("""
                        update rule set name = ?, enabled = ?, last = ?, conditions = ?::jsonb, paused = null
                        where id = ? and user_id = ?
                        """)
                .params(rule.name(), rule.on(), rule.last(), conditions, rule.id(), userId)
                .update();
        if (found == 0) {
            throw new InputProblem("This rule is gone; it was deleted in another window.");
        }
        jdbc.sql("delete from rule_effect where rule_id = ?").param(rule.id()).update();
        return rule.id();
    }

    public void turn(long userId, long id, boolean on) {
        jdbc.sql("update rule set enabled = ?, paused = null where user_id = ? and id = ?")
                .params(on, userId, id)
                .update();
    }

    @Transactional
    public void delete(long userId, long id) {
        order.handOn(userId, id);
        jdbc.sql("delete from rule where user_id = ? and id = ?")
                .params(userId, id)
                .update();
    }

    /**
     * What a rule has done that was not undone.
     *
     * @param acted on how many messages
     * @param lately how many of them arrived in the last 30 days, whenever the rule was run over them
     * @param since when the rule was made
     * @param last when the last of them arrived; null if it never acted
     * @param expected on how many it would have acted in 30 days of the year before it was made; null if that is not known
     */
    public record History(
            int acted,
            int lately,
            Instant since,
            @Nullable Instant last,
            @Nullable Double expected) {}

    /** Notes how much a rule would have taken when it was made, or changed. */
    public void expect(long userId, long id, double inThirtyDays) {
        jdbc.sql("update rule set expected = :expected where user_id = :user and id = :id")
                .param("expected", inThirtyDays)
                .param("user", userId)
                .param("id", id)
                .update();
    }

    /** What the rules have done, by their ids. */
    public Map<Long, History> histories(long userId) {
        Map<Long, History> histories = new HashMap<>();
        jdbc.sql("""
                        select r.id, r.created_at, r.expected::double precision as expected, count(distinct f.message_id) as acted, max(m.received_at) as last,
                            count(distinct f.message_id) filter (where m.received_at > now() - interval '30 days') as lately
                        from rule r left join filing_record f on f.rule_id = r.id and f.undone_at is null
                            left join message m on m.id = f.message_id
                        where r.user_id = ? group by r.id
                        """).param(userId).query(row -> {
            histories.put(
                    row.getLong("id"),
                    new History(
                            row.getInt("acted"),
                            row.getInt("lately"),
                            row.getTimestamp("created_at").toInstant(),
                            row.getTimestamp("last") == null
                                    ? null
                                    : row.getTimestamp("last").toInstant(),
                            row.getObject("expected", Double.class)));
        });
        return histories;
    }
}
