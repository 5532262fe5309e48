package app.schublade.store.rule;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Rules that are switched off because something that they name is gone; they say why, until somebody switches them on. */
@Repository
public class RulePauses {
    private final JdbcClient jdbc;

    RulePauses(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** What a rule can name, with the column of its effects that says which. Conditions on a folder there are none. */
    public enum NamedThing {
        FOLDER("folder_id"),
        LABEL("label_id"),
        CATEGORY("category_id"),
        TRAY("tray_id"),
        FLAG("flag_id"),
        /** In conditions alone, by its name. */
        GROUP(null);

        private final @Nullable String column;

        NamedThing(@Nullable String column) {
            this.column = column;
        }
    }

    /**
     * Switches off all rules that are on and name one of these.
     *
     * @param named ids, or names of groups
     */
    public void pause(long userId, String reason, NamedThing kind, Collection<?> named) {
        String inEffects = kind.column == null
                ? "false"
                : "exists (select from rule_effect e where e.rule_id = r.id and e.%s::text = any(:named))"
                        .formatted(kind.column);
        jdbc.sql("update rule r set enabled = false, paused = :reason where r.user_id = :user and r.enabled and ("
                        + inEffects + """
                         or exists (select from unnest(:named::text[]) as n (one) where jsonb_path_exists(r.conditions,
                            '$.** ? (@.kind == $kind).values[*] ? (@ == $one)',
                            jsonb_build_object('kind', :kind, 'one', n.one), true)))
                        """)
                .param("reason", reason)
                .param("user", userId)
                .param("named", named.stream().map(String::valueOf).toArray(String[]::new))
                .param("kind", kind.name())
                .update();
    }

    /** The rules that name each of the user's folders, labels, categories, trays or flags, and "the routine X", by its id. */
    public Map<Long, List<String>> naming(long userId, NamedThing kind) {
        if (kind.column == null) {
            throw new IllegalArgumentException("Groups have no ids.");
        }
        Map<Long, List<String>> names = new HashMap<>();
        jdbc.sql("""
                        select p.id, array_agg(u.name order by u.is_routine, u.position) from %1$s p cross join lateral (
                            select r.name, r.position, false as is_routine from rule r where r.user_id = p.user_id and (
                                exists (select from rule_effect e where e.rule_id = r.id and e.%2$s = p.id)
                                or jsonb_path_exists(r.conditions, '$.** ? (@.kind == $kind).values[*] ? (@ == $one)',
                                    jsonb_build_object('kind', :kind, 'one', p.id::text), true))
                            union all select 'the routine ' || r.name, r.position, true from routine r
                            where r.user_id = p.user_id
                                and exists (select from routine_step s where s.routine_id = r.id and s.%2$s = p.id)) u
                        where p.user_id = :user group by p.id
                        """.formatted(kind.name().toLowerCase(Locale.ROOT), kind.column))
                .param("kind", kind.name())
                .param("user", userId)
                .query(row -> {
                    names.put(row.getLong(1), List.of((String[]) row.getArray(2).getArray()));
                });
        return names;
    }

    /** A rule that is switched off because something that it names is gone. */
    public record PausedRule(long id, String name, String why) {}

    /** In the order of the rules. */
    public List<PausedRule> paused(long userId) {
        return jdbc.sql("""
                        select id, name, paused as why from rule
                        where user_id = ? and not enabled and paused is not null order by position, id
                        """).param(userId).query(PausedRule.class).list();
    }

    /** Why rules are switched off, by their ids. */
    public Map<Long, String> reasons(long userId) {
        Map<Long, String> reasons = new HashMap<>();
        jdbc.sql("select id, paused from rule where user_id = ? and not enabled and paused is not null")
                .param(userId)
                .query(row -> {
                    reasons.put(row.getLong(1), row.getString(2));
                });
        return reasons;
    }
}
