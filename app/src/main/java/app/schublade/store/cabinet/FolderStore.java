package app.schublade.store.cabinet;

import app.schublade.core.filing.State;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.problem.InputProblem;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.base.Sequence;
import app.schublade.store.base.Transactions;
import app.schublade.store.base.UserLock;
import app.schublade.store.filing.ActInParts;
import app.schublade.store.filing.ChangeEvents;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.rule.RulePauses;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** What becomes of folders: they are renamed with all below them, or deleted, and their servers are told. */
@Repository
public class FolderStore {
    /** A folder of the user's that is not one of the special ones, with all below it. */
    private static final String WITH_ALL_BELOW = """
            (select b.id from folder f join folder b on b.user_id = f.user_id
                and (b.id = f.id or starts_with(b.path, f.path || '/'))
             where f.id = :folder and f.user_id = :user and f.use is null and b.use is null)\s""";

    private final JdbcClient jdbc;
    private final PlaceStore places;
    private final Sequence sequence;
    private final UserLock users;
    private final ActInParts parts;
    private final RulePauses pauses;
    private final ChangeEvents changes;

    FolderStore(
            JdbcClient jdbc,
            PlaceStore places,
            Sequence sequence,
            UserLock users,
            ActInParts parts,
            RulePauses pauses,
            ChangeEvents changes) {
        this.jdbc = jdbc;
        this.places = places;
        this.sequence = sequence;
        this.users = users;
        this.parts = parts;
        this.pauses = pauses;
        this.changes = changes;
    }

    /**
     * A folder as its own page shows it.
     *
     * @param below how many folders lie in it, and in those
     * @param messages in it and in all below
     * @param accounts names of the accounts whose servers have it
     * @param usedBy the rules that file into it or below, and "the routine X"
     */
    public record Portrait(
            long id, FolderPath path, int below, int messages, List<String> accounts, List<String> usedBy) {}

    public Optional<Portrait> portrait(long userId, long folder) {
        return jdbc.sql("""
                        select f.id, f.path,
                            (select count(*) - 1 from\s""" + WITH_ALL_BELOW + """
                            x) as below,
                            (select coalesce(sum(total), 0) from folder_count where folder_id in\s""" + WITH_ALL_BELOW + """
                            ) as messages,
                            array(select a.name from mailbox b join account a on a.id = b.account_id
                                where b.folder_id = f.id order by a.position) as accounts,
                            array(select distinct r.name from rule_effect e join rule r on r.id = e.rule_id
                                where e.folder_id in\s""" + WITH_ALL_BELOW + """
                                union all select distinct 'the routine ' || r.name from routine_step s
                                join routine r on r.id = s.routine_id and r.user_id = :user
                                where s.folder_id in\s""" + WITH_ALL_BELOW + """
                            ) as used_by
                        from folder f where f.id = :folder and f.user_id = :user and f.use is null and f.deleted_at is null
                        """)
                .param("folder", folder)
                .param("user", userId)
                .query((row, number) -> new Portrait(
                        row.getLong("id"),
                        FolderPath.stored(row.getString("path")),
                        row.getInt("below"),
                        row.getInt("messages"),
                        List.of((String[]) row.getArray("accounts").getArray()),
                        List.of((String[]) row.getArray("used_by").getArray())))
                .optional();
    }

    /**
     * An account whose server has no such folder.
     *
     * @param wished whether it is to be made there already
     */
    public record MissingServer(long account, String name, boolean wished) {}

    /** The servers on which a folder could be made; those of POP3 have none. */
    public List<MissingServer> without(long userId, long folder) {
        return jdbc.sql("""
                        select a.id, a.name, exists (select from folder_wish w where w.account_id = a.id and w.folder_id = :folder) as wished
                        from account a where a.user_id = :user and a.protocol = 'IMAP'
                            and not exists (select from mailbox b where b.account_id = a.id and b.folder_id = :folder)
                        order by a.position, a.id
                        """)
                .param("folder", folder)
                .param("user", userId)
                .query((row, number) ->
                        new MissingServer(row.getLong("id"), row.getString("name"), row.getBoolean("wished")))
                .list();
    }

    /** Has a folder made on an account's server, before anything is filed into it. Nothing if it is there, or is not the user's. */
    @Transactional
    public Optional<MissingServer> makeOn(long userId, long folder, long account) {
        Optional<MissingServer> server = without(userId, folder).stream()
                .filter(one -> one.account() == account)
                .findFirst();
        if (server.isPresent()) {
            jdbc.sql("insert into folder_wish (account_id, folder_id) values (?, ?) on conflict do nothing")
                    .params(account, folder)
                    .update();
            changes.tellAll(userId);
        }
        return server;
    }

    /**
     * Gives a folder another path, with all that lies below it. Rules follow, for they know it by its id.
     *
     * @throws InputProblem if there is a folder of that path, if the path lies within the folder itself or what lies in it
     *     would lie too deep, or if the folder is gone
     */
    @Transactional
    public void rename(long userId, Portrait folder, FolderPath path) {
        users.alone(userId);
        List<FolderPath> moved =
                withAllBelow(userId, folder.id()).stream().map(FolderRef::path).toList();
        String from = path.asTargetOf(moved).toString();
        String to = path.toString();
        places.makeWay(userId, path);
        boolean taken = jdbc.sql(
                        "select exists (select from folder where user_id = :user and lower(path) = lower(:to) and id <> :folder)"
                                + " or exists (select from folder b join folder o on o.user_id = b.user_id"
                                + " and lower(o.path) = lower(:to || substr(b.path, length(:from) + 1)) where b.id in "
                                + WITH_ALL_BELOW + " and o.id not in " + WITH_ALL_BELOW + ")")
                .param("user", userId)
                .param("from", from)
                .param("to", to)
                .param("folder", folder.id())
                .query(Boolean.class)
                .single();
        if (taken) {
            throw new InputProblem("There is a folder %s already.".formatted(path.shown()));
        }
        if (path.parent() != null) {
            places.folder(userId, path.parent());
        }
        jdbc.sql("update folder set path = :to || substr(path, length(:from) + 1) where id in " + WITH_ALL_BELOW)
                .param("from", from)
                .param("to", to)
                .param("folder", folder.id())
                .param("user", userId)
                .update();
        jdbc.sql("update mailbox b set wanted_path = f.path from folder f where f.id = b.folder_id and f.id in "
                        + WITH_ALL_BELOW)
                .param("folder", folder.id())
                .param("user", userId)
                .update();
        changes.tellAll(userId);
    }

    /**
     * Moves all messages of a folder, and of all below it, to the trash, and the folders out of sight; one undo. Should that
     * be cut off, the folders are there still, with what has not been moved.
     */
    public ActOutcome delete(long userId, Portrait folder) {
        String title = "Deleted the folder " + folder.path().shown();
        long trash = places.special(userId, SpecialUse.TRASH);
        return inParts(userId, title, folder.id(), () -> {}, (State state) -> state.in(trash), batch -> {
            pauses.pause(
                    userId,
                    "The folder %s was deleted.".formatted(folder.path().shown()),
                    RulePauses.NamedThing.FOLDER,
                    withAllBelow(userId, folder.id()).stream()
                            .map(FolderRef::id)
                            .toList());
            jdbc.sql("update folder set deleted_at = now(), deleted_in = :act where id in " + WITH_ALL_BELOW)
                    .param("act", batch)
                    .param("folder", folder.id())
                    .param("user", userId)
                    .update();
        });
    }

    /** Does the same to all messages of a folder and of all below it, which takes them out of it. */
    private ActOutcome inParts(
            long userId,
            String title,
            long folder,
            Runnable beginning,
            UnaryOperator<State> change,
            ActInParts.Ending ending) {
        return parts.run(
                userId, title, beginning, () -> messages(userId, folder, true, Transactions.MOST), change, ending);
    }

    /** All messages of a folder; with those of all below it, if wanted. */
    public List<Long> messages(long userId, long folder, boolean below) {
        return messages(userId, folder, below, Integer.MAX_VALUE);
    }

    public List<Long> inTrash(long userId) {
        return messages(userId, places.special(userId, SpecialUse.TRASH), false);
    }

    private List<Long> messages(long userId, long folder, boolean below, int most) {
        String which = below ? "folder_id in " + WITH_ALL_BELOW : "folder_id = :folder and user_id = :user ";
        return jdbc.sql("select id from message where " + which + "order by id limit :most")
                .param("folder", folder)
                .param("user", userId)
                .param("most", most)
                .query(Long.class)
                .list();
    }

    /**
     * Makes two folders one: the messages and rules of the first go to the second, and so do the folders in it; those that
     * are there already are merged in the same way.
     *
     * @throws InputProblem if one lies in the other, or is gone
     */
    public ActOutcome merge(long userId, Portrait from, Portrait into) {
        Map<Long, Long> targets = new LinkedHashMap<>();
        return inParts(
                userId,
                "Merged %s into %s".formatted(from.path().shown(), into.path().shown()),
                from.id(),
                () -> targets.putAll(targets(userId, from.id(), into.id())),
                (State state) -> state.in(targets.getOrDefault(state.folder(), into.id())),
                batch -> {
                    targets.forEach((old, target) -> List.of("rule_effect", "routine_step")
                            .forEach(table -> jdbc.sql("update " + table + " set folder_id = ? where folder_id = ?")
                                    .params(target, old)
                                    .update()));
                    jdbc.sql("update folder set deleted_at = now() where id = any(:merged) and id in " + WITH_ALL_BELOW
                                    + "and not exists (select from folder i where i.id = :into and i.user_id = :user"
                                    + " and (i.id = folder.id or starts_with(i.path, folder.path || '/')))")
                            .param("merged", targets.keySet().toArray(Long[]::new))
                            .param("folder", from.id())
                            .param("into", into.id())
                            .param("user", userId)
                            .update();
                });
    }

    /** Where the messages of each of the folders go that are merged, as the folders lie now. */
    private Map<Long, Long> targets(long userId, long from, long into) {
        users.alone(userId);
        List<FolderRef> merged = withAllBelow(userId, from);
        List<FolderRef> others = withAllBelow(userId, into);
        if (merged.isEmpty() || others.isEmpty()) {
            throw new InputProblem("One of the two folders is gone.");
        }
        FolderPath path = merged.get(0).path();
        FolderPath target = others.get(0).path();
        if (path.isBelow(target) || target.isBelow(path) || from == into) {
            throw new InputProblem("%s and %s contain each other; file the messages with F instead."
                    .formatted(path.shown(), target.shown()));
        }
        Map<Long, Long> targets = new LinkedHashMap<>();
        for (FolderRef each : merged) {
            List<String> names = new ArrayList<>(target.names());
            names.addAll(each.path()
                    .names()
                    .subList(path.names().size(), each.path().names().size()));
            targets.put(each.id(), places.folder(userId, FolderPath.of(names)).id());
        }
        return targets;
    }

    /** The folder first. */
    private List<FolderRef> withAllBelow(long userId, long folder) {
        return jdbc.sql("select id, path from folder where deleted_at is null and id in " + WITH_ALL_BELOW
                        + " order by path")
                .param("folder", folder)
                .param("user", userId)
                .query((row, number) -> new FolderRef(row.getLong(1), FolderPath.stored(row.getString(2))))
                .list();
    }

    /** What can be switched on and off at a folder. */
    public enum FolderTrait {
        PINNED("pinned"),
        HIDDEN("hidden"),
        FOLDED("folded");

        private final String column;

        FolderTrait(String column) {
            this.column = column;
        }
    }

    public void turn(long userId, long folder, FolderTrait trait, boolean on) {
        jdbc.sql("update folder set " + trait.column + " = ? where id = ? and user_id = ?")
                .params(on, folder, userId)
                .update();
    }

    /** Puts folders that lie in the same place into this order. */
    public void arrange(long userId, List<Long> siblings) {
        sequence.arrange(Sequence.Sequenced.FOLDER, userId, siblings);
    }

    /** All folders stand in the order of their names again. */
    public void sortByName(long userId) {
        jdbc.sql("update folder set position = null where user_id = ?")
                .param(userId)
                .update();
    }
}
