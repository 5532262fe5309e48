package app.schublade.store.cabinet;

import app.schublade.core.place.Tone;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.base.Sequence;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import app.schublade.store.filing.ActInParts;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RulePauses;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The flags of the user's own. */
@Repository
public class FlagStore {
    /** Each has a digit. */
    public static final int MOST = 9;

    private final JdbcClient jdbc;
    private final Sequence sequence;
    private final UserLock users;
    private final ActInParts parts;
    private final RulePauses pauses;

    FlagStore(JdbcClient jdbc, Sequence sequence, UserLock users, ActInParts parts, RulePauses pauses) {
        this.jdbc = jdbc;
        this.sequence = sequence;
        this.users = users;
        this.parts = parts;
        this.pauses = pauses;
    }

    /** The rules that name each of them, and "the routine X". */
    public Map<Long, List<String>> usedBy(long userId) {
        return pauses.naming(userId, RulePauses.NamedThing.FLAG);
    }

    /**
     * Adds one after all others, in a colour that none of the others has.
     *
     * @throws InputProblem if there are enough, or one of this name
     */
    @Transactional
    public void add(long userId, String name) {
        users.alone(userId);
        int count = sequence.of(Sequence.Sequenced.FLAG, userId).size();
        if (count >= MOST) {
            throw new InputProblem(
                    "There are %d flags, and no more are possible. Rename or delete one.".formatted(count));
        }
        List<String> used = jdbc.sql("select tone from flag where user_id = ?")
                .param(userId)
                .query(String.class)
                .list();
        Tone tone = Arrays.stream(Tone.values())
                .filter(one -> !used.contains(one.name()))
                .findFirst()
                .orElse(Tone.nth(count));
        unique(
                name,
                () -> jdbc.sql("insert into flag (user_id, position, name, tone) values (?, ?, ?, ?)")
                        .params(userId, count + 1, name, tone.name())
                        .update());
    }

    /** @throws InputProblem if another one has the name */
    @Transactional
    public void change(long userId, long flag, String name, Tone tone) {
        unique(
                name,
                () -> jdbc.sql("update flag set name = ?, tone = ? where id = ? and user_id = ?")
                        .params(name, tone.name(), flag, userId)
                        .update());
    }

    private static void unique(String name, Runnable storing) {
        try {
            storing.run();
        } catch (DuplicateKeyException e) {
            throw new InputProblem("There is a flag %s already.".formatted(name), e);
        }
    }

    /** Its messages stay flagged, as none of the user's own; rules that name it are paused. */
    public ActOutcome remove(long userId, Places.OwnFlag flag) {
        return parts.run(
                userId,
                "Deleted the flag " + flag.name(),
                () -> {},
                () -> jdbc.sql("select id from message where user_id = ? and flag_id = ? limit ?")
                        .params(userId, flag.id(), Transactions.MOST)
                        .query(Long.class)
                        .list(),
                state -> state.flaggedAs(null),
                batch -> {
                    pauses.pause(
                            userId,
                            "The flag %s is gone.".formatted(flag.name()),
                            RulePauses.NamedThing.FLAG,
                            List.of(flag.id()));
                    jdbc.sql("delete from flag where id = ? and user_id = ?")
                            .params(flag.id(), userId)
                            .update();
                });
    }

    /** Puts it a place higher, and so on the digit before; the first stays where it is. */
    @Transactional
    public void up(long userId, long flag) {
        users.alone(userId);
        sequence.up(Sequence.Sequenced.FLAG, userId, flag);
    }
}
