package app.schublade.store.user;

import app.schublade.core.message.Address;
import app.schublade.core.message.People;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.rule.RulePauses;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Key persons and groups of people. */
@Repository
public class PeopleStore {
    /** How long the name of a group may be, in characters. */
    public static final int MAX_NAME = 100;

    private static final int NAMESAKES = 4;

    private final JdbcClient jdbc;
    private final RulePauses pauses;

    public PeopleStore(JdbcClient jdbc, RulePauses pauses) {
        this.pauses = pauses;
        this.jdbc = jdbc;
    }

    /** Everybody at once, as rules ask for them. */
    public People of(long userId) {
        Map<String, Set<String>> groups = new HashMap<>();
        groups(userId)
                .forEach((name, members) -> members.forEach(member ->
                        groups.computeIfAbsent(member, one -> new HashSet<>()).add(name)));
        return new People(new HashSet<>(keyPersons(userId)), groups);
    }

    /** Other addresses that somebody of the same name writes from; none where there is no name. */
    public List<String> namesakes(long userId, Address one) {
        return one.name().isBlank()
                ? List.of()
                : like(userId, one.name(), NAMESAKES).stream()
                        .filter(other -> other.name().equalsIgnoreCase(one.name()))
                        .map(Address::key)
                        .filter(other -> !other.equals(one.key()))
                        .toList();
    }

    /**
     * People whom the user has to do with, by the beginning of their address, its domain or a word of their name; key persons
     * first, then those with the most mail.
     */
    public List<Address> like(long userId, String letters, int most) {
        String pattern = letters.strip().toLowerCase(Locale.ROOT).replaceAll("[\\\\%_]", "\\\\$0") + "%";
        return jdbc.sql("""
                        select name, address from correspondent where user_id = :user
                            and (address like :start or address like '%@' || :start or lower(name) like :start
                                or lower(name) like '% ' || :start)
                        order by exists (select from key_person k where k.user_id = :user
                                and k.value in (address, split_part(address, '@', 2))) desc,
                            messages desc, address limit :most
                        """)
                .param("user", userId)
                .param("start", pattern)
                .param("most", most)
                .query((row, number) -> new Address(row.getString("name"), row.getString("address")))
                .list();
    }

    public List<String> keyPersons(long userId) {
        return jdbc.sql("select value from key_person where user_id = ? order by value")
                .param(userId)
                .query(String.class)
                .list();
    }

    /** The members of each group, in alphabetical order. */
    public Map<String, List<String>> groups(long userId) {
        Map<String, List<String>> groups = new LinkedHashMap<>();
        jdbc.sql("""
                        select g.name, m.value from people_group g left join people_group_member m on m.group_id = g.id
                        where g.user_id = ? order by lower(g.name), m.value
                        """).param(userId).query(row -> {
            List<String> members = groups.computeIfAbsent(row.getString(1), name -> new ArrayList<>());
            if (row.getString(2) != null) {
                members.add(row.getString(2));
            }
        });
        return groups;
    }

    /** @param value see {@link People#value} */
    public void markKey(long userId, String value, boolean key) {
        jdbc.sql(
                        key
                                ? "insert into key_person (user_id, value) values (?, ?) on conflict do nothing"
                                : "delete from key_person where user_id = ? and value = ?")
                .params(userId, value)
                .update();
    }

    /** Adds somebody to a group, which is made if it is not there. */
    @Transactional
    public void join(long userId, String group, String value) {
        if (group.isBlank() || group.length() > MAX_NAME || group.contains(",")) {
            throw new InputProblem(
                    "A group needs a name without commas, of at most %d characters.".formatted(MAX_NAME));
        }
        jdbc.sql("insert into people_group (user_id, name) values (?, ?) on conflict do nothing")
                .params(userId, group.strip())
                .update();
        jdbc.sql("""
                        insert into people_group_member (group_id, value)
                        select id, ? from people_group where user_id = ? and lower(name) = lower(?) on conflict do nothing
                        """).params(value, userId, group.strip()).update();
    }

    public void leave(long userId, String group, String value) {
        jdbc.sql("""
                        delete from people_group_member m using people_group g
                        where g.id = m.group_id and g.user_id = ? and g.name = ? and m.value = ?
                        """).params(userId, group, value).update();
    }

    /** Rules that ask for the group are paused. */
    @Transactional
    public void dissolve(long userId, String group) {
        pauses.pause(userId, "The group %s is gone.".formatted(group), RulePauses.NamedThing.GROUP, List.of(group));
        jdbc.sql("delete from people_group where user_id = ? and name = ?")
                .params(userId, group)
                .update();
    }
}
