package app.schublade.store.rule;

import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Rule;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.base.Json;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** How rules were before they were changed. */
@Repository
public class RuleVersionStore {
    /** What an effect names and is gone since is left out. */
    private static final String EFFECTS = """
            rows from (jsonb_to_recordset(v.effects) as (kind text, folder_id bigint, label_id bigint, category_id bigint,
                turned_on boolean, tray_id bigint, flag_id bigint, detail text, recipients text)) with ordinality
                as e (kind, folder_id, label_id, category_id, turned_on, tray_id, flag_id, detail, recipients, position)
            """;

    private static final String THERE = """
            (e.kind not in ('FILE', 'COPY', 'TICKLE') or exists (select from folder f where f.id = e.folder_id))
                and (e.label_id is null or exists (select from label l where l.id = e.label_id))
                and (e.category_id is null or exists (select from category c where c.id = e.category_id))
                and (e.tray_id is null or exists (select from tray t where t.id = e.tray_id))
                and (e.flag_id is null or exists (select from flag g where g.id = e.flag_id))
            """;

    private final JdbcClient jdbc;
    private final RuleStore rules;

    public RuleVersionStore(JdbcClient jdbc, RuleStore rules) {
        this.jdbc = jdbc;
        this.rules = rules;
    }

    /**
     * A rule as it was.
     *
     * @param until when it was changed
     */
    public record Version(long id, Instant until, Rule rule) {}

    /** The latest first. */
    @Transactional(readOnly = true)
    public List<Version> of(long userId, long rule, int most) {
        RuleStore.StoredNames names = rules.names(userId);
        return jdbc.sql("""
                        select v.* from rule_version v join rule r on r.id = v.rule_id
                        where r.user_id = ? and r.id = ? order by v.id desc limit ?
                        """)
                .params(userId, rule, most)
                .query((row, number) -> {
                    RuleStore.Conditions conditions = Json.read(row.getString("conditions"), RuleStore.CONDITIONS);
                    Rule was = new Rule(
                            rule,
                            row.getString("name"),
                            true,
                            RuleStore.conditions(conditions.when(), names),
                            RuleStore.conditions(conditions.unless(), names),
                            effects(row.getLong("id"), names),
                            row.getBoolean("last"));
                    return new Version(
                            row.getLong("id"), row.getTimestamp("until").toInstant(), was);
                })
                .list();
    }

    private List<Effect> effects(long version, RuleStore.StoredNames names) {
        List<Effect> effects = new ArrayList<>();
        jdbc.sql("select e.*, f.path as folder_path from rule_version v cross join " + EFFECTS
                        + " left join folder f on f.id = e.folder_id where v.id = ? and " + THERE
                        + " order by e.position")
                .param(version)
                .query(row -> {
                    effects.add(EffectRow.read(row, names.places()));
                });
        return effects;
    }

    /** Makes a rule what it was; what it is now becomes a version. Whether it is on stays as it is. */
    @Transactional
    public void bringBack(long userId, long rule, long version) {
        int found =
                jdbc.sql("""
                        select count(*) from rule_version v join rule r on r.id = v.rule_id
                        where r.user_id = ? and r.id = ? and v.id = ?
                        """).params(userId, rule, version).query(Integer.class).single();
        if (found == 0) {
            throw new InputProblem("This version is gone.");
        }
        rules.keepVersion(rule);
        jdbc.sql("""
                        update rule r set name = v.name, last = v.last, conditions = v.conditions
                        from rule_version v where v.id = ? and r.id = v.rule_id
                        """).param(version).update();
        jdbc.sql("delete from rule_effect where rule_id = ?").param(rule).update();
        jdbc.sql("""
                        insert into rule_effect (rule_id, position, kind, folder_id, label_id, category_id, turned_on, tray_id, flag_id,
                            detail, recipients)
                        select v.rule_id, e.position, e.kind, e.folder_id, e.label_id, e.category_id, e.turned_on, e.tray_id, e.flag_id,
                            e.detail, e.recipients
                        from rule_version v cross join\s""" + EFFECTS + " where v.id = ? and " + THERE).param(version).update();
        jdbc.sql("delete from rule_version where id = ?").param(version).update();
    }
}
