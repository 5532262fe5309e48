package app.schublade.store.place;

import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.Colour;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.Keyword;
import app.schublade.core.place.LabelRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.core.place.Tone;
import app.schublade.core.place.TrayKind;
import app.schublade.store.base.UserLock;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Folders, labels and categories: read together, made when first needed. */
@Repository
public class PlaceStore {
    /** What is behind the name of a folder that was deleted and whose name another one has taken; a bracket ends it. */
    public static final String EARLIER = " (earlier";

    /** Moss; accounts and categories begin with the tones before it. */
    private static final int FIRST_LABEL_TONE = 5;

    private final JdbcClient jdbc;
    private final UserLock users;

    public PlaceStore(JdbcClient jdbc, UserLock users) {
        this.users = users;
        this.jdbc = jdbc;
    }

    /** What a user starts with: the special folders, four trays and three categories. */
    public void furnish(long userId) {
        for (SpecialUse use : SpecialUse.values()) {
            jdbc.sql("insert into folder (user_id, path, use) values (?, ?, ?)")
                    .params(userId, use.shown(), use.name())
                    .update();
        }
        int position = 1;
        for (TrayKind kind : TrayKind.values()) {
            jdbc.sql("insert into tray (user_id, position, name, kind) values (?, ?, ?, ?)")
                    .params(userId, position++, kind.shown(), kind.name())
                    .update();
        }
        for (String name : List.of("Today", "Next", "With others")) {
            category(userId, name);
        }
    }

    /** Everything with its counts, over all accounts or for one. */
    public Places of(long userId, @Nullable Long accountId) {
        List<Places.Folder> folders = jdbc.sql("""
                        select f.id, f.path, f.use, f.position, f.hidden, f.pinned, f.folded,
                            coalesce(sum(c.total), 0) - coalesce(max(w.total), 0) as total,
                            coalesce(sum(c.unread), 0) - coalesce(max(w.unread), 0) as unread
                        from folder f left join folder_count c
                            on c.folder_id = f.id and (:account::bigint is null or c.account_id = :account)
                            left join (select folder_id, count(*) as total, count(*) filter (where unread) as unread
                                from message where user_id = :user and held
                                    and (:account::bigint is null or account_id = :account)
                                group by 1) w on w.folder_id = f.id
                        where f.user_id = :user and f.deleted_at is null group by f.id
                        """)
                .param("account", accountId)
                .param("user", userId)
                .query(PlaceStore::folder)
                .list();
        return new Places(
                folders,
                labels(userId, accountId),
                categories(userId),
                trays(userId, accountId),
                flags(userId, accountId));
    }

    /** What servers call the user's labels and categories. */
    public Keywords keywords(long userId) {
        return new Keywords(
                ids("select keyword, id from label where user_id = ?", userId),
                ids("select keyword, id from category where user_id = ? order by rank, id", userId),
                jdbc.sql("select exists (select from habits where user_id = ? and several_categories)")
                        .param(userId)
                        .query(Boolean.class)
                        .single());
    }

    private Map<String, Long> ids(String sql, long userId) {
        Map<String, Long> ids = new LinkedHashMap<>();
        jdbc.sql(sql)
                .param(userId)
                .query((row, number) -> Map.entry(row.getString(1), row.getLong(2)))
                .list()
                .forEach(entry -> ids.putIfAbsent(entry.getKey(), entry.getValue()));
        return ids;
    }

    private List<Places.Label> labels(long userId, @Nullable Long accountId) {
        return jdbc.sql("""
                        select l.id, l.path, l.tone, l.own_colour, l.keyword, l.position, l.hidden, coalesce(sum(c.unread), 0) as unread
                        from label l left join label_count c
                            on c.label_id = l.id and (:account::bigint is null or c.account_id = :account)
                        where l.user_id = :user group by l.id order by l.path
                        """)
                .param("account", accountId)
                .param("user", userId)
                .query((row, number) -> new Places.Label(
                        row.getLong("id"),
                        FolderPath.stored(row.getString("path")),
                        Tone.valueOf(row.getString("tone")),
                        colour(row.getString("own_colour")),
                        row.getString("keyword"),
                        row.getInt("unread"),
                        row.getObject("position", Integer.class),
                        row.getBoolean("hidden")))
                .list();
    }

    private static @Nullable Colour colour(@Nullable String text) {
        return text == null ? null : Colour.parse(text);
    }

    private List<Places.Tray> trays(long userId, @Nullable Long accountId) {
        return jdbc.sql("""
                        select t.id, t.name, t.kind, coalesce(u.unread, 0) as unread from tray t left join (
                            select m.tray_id, count(*) as unread from message m join folder f on f.id = m.folder_id
                            where f.user_id = :user and f.use = 'INBOX' and m.unread and not m.held
                                and (:account::bigint is null or m.account_id = :account)
                            group by m.tray_id) u on u.tray_id = t.id
                        where t.user_id = :user order by t.position, t.id
                        """)
                .param("account", accountId)
                .param("user", userId)
                .query((row, number) -> new Places.Tray(
                        row.getLong("id"), row.getString("name"), kind(row.getString("kind")), row.getInt("unread")))
                .list();
    }

    private List<Places.OwnFlag> flags(long userId, @Nullable Long accountId) {
        return jdbc.sql("""
                        select f.id, f.name, f.tone, (select count(*) from message m
                            where m.flag_id = f.id and (:account::bigint is null or m.account_id = :account)) as messages
                        from flag f where f.user_id = :user order by f.position, f.id
                        """)
                .param("account", accountId)
                .param("user", userId)
                .query((row, number) -> new Places.OwnFlag(
                        row.getLong("id"),
                        row.getString("name"),
                        Tone.valueOf(row.getString("tone")),
                        row.getInt("messages")))
                .list();
    }

    private static @Nullable TrayKind kind(@Nullable String name) {
        return name == null ? null : TrayKind.valueOf(name);
    }

    public List<Places.Category> categories(long userId) {
        return jdbc.sql(
                        "select id, rank, name, tone, keyword, mark, due_days from category where user_id = ? order by rank, id")
                .param(userId)
                .query((row, number) -> new Places.Category(
                        row.getLong("id"),
                        row.getInt("rank"),
                        row.getString("name"),
                        Tone.valueOf(row.getString("tone")),
                        row.getString("keyword"),
                        row.getString("mark"),
                        row.getObject("due_days", Integer.class)))
                .list();
    }

    /** Unread messages of the Inbox for each account. */
    public Map<Long, Integer> unreadInInbox(long userId) {
        return jdbc
                .sql("""
                        select c.account_id, c.unread - coalesce(w.waiting, 0)
                        from folder_count c join folder f on f.id = c.folder_id
                            left join (select account_id, count(*) as waiting from message
                                where user_id = :user and held and unread group by 1) w on w.account_id = c.account_id
                        where f.user_id = :user and f.use = 'INBOX'
                        """)
                .param("user", userId)
                .query((row, number) -> Map.entry(row.getLong(1), row.getInt(2)))
                .list()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    public long inbox(long userId) {
        return special(userId, SpecialUse.INBOX);
    }

    public long special(long userId, SpecialUse use) {
        return jdbc.sql("select id from folder where user_id = ? and use = ?")
                .params(userId, use.name())
                .query(Long.class)
                .single();
    }

    /** A folder that every account has, as effects name it. */
    public FolderRef shared(long userId, SpecialUse use) {
        return new FolderRef(special(userId, use), use.path());
    }

    /** The folder of a path, upper or lower case, made with all its parents if it is not there. */
    @Transactional
    public FolderRef folder(long userId, FolderPath wanted) {
        users.shared(userId);
        FolderPath parent = wanted.parent();
        FolderPath path =
                parent == null ? wanted : folder(userId, parent).path().child(wanted.name());
        jdbc.sql("""
                        insert into folder (user_id, path) select :user, :path
                        where not exists (select from folder where user_id = :user and lower(path) = lower(:path))
                        on conflict do nothing
                        """).param("user", userId).param("path", path.toString()).update();
        jdbc.sql("""
                        update folder set deleted_at = null
                        where user_id = ? and lower(path) = lower(?) and deleted_at is not null
                        """).params(userId, path.toString()).update();
        return jdbc.sql("""
                        select id, path from folder where user_id = :user and lower(path) = lower(:path)
                        order by path = :path desc limit 1
                        """)
                .param("user", userId)
                .param("path", path.toString())
                .query((row, number) -> new FolderRef(row.getLong(1), FolderPath.stored(row.getString(2))))
                .single();
    }

    /** A folder that was deleted gives its path up, so that it can still come back, under another name. */
    public void makeWay(long userId, FolderPath path) {
        String earlier = path + EARLIER + ")";
        for (int i = 2; isTaken(userId, earlier); i++) {
            earlier = path + EARLIER + " " + i + ")";
        }
        jdbc.sql("""
                        update folder f set path = :earlier || substr(f.path, length(:path) + 1)
                        where f.user_id = :user and f.use is null and f.deleted_at is not null
                            and (lower(f.path) = lower(:path) or starts_with(lower(f.path), lower(:path) || '/'))
                            and not exists (select from folder o where o.user_id = f.user_id and o.deleted_at is null
                                and lower(o.path) = lower(:path))
                        """)
                .param("earlier", earlier)
                .param("path", path.toString())
                .param("user", userId)
                .update();
        jdbc.sql("""
                        update mailbox b set wanted_path = f.path from folder f
                        where f.id = b.folder_id and f.user_id = :user and f.deleted_at is not null
                            and (f.path = :earlier or starts_with(f.path, :earlier || '/'))
                        """).param("earlier", earlier).param("user", userId).update();
    }

    private boolean isTaken(long userId, String path) {
        return jdbc.sql("select exists (select from folder where user_id = ? and lower(path) = lower(?))")
                .params(userId, path)
                .query(Boolean.class)
                .single();
    }

    /**
     * The label of a path, upper or lower case, made with all its parents if it is not there; a new one takes its
     * parent's colour.
     */
    @Transactional
    public LabelRef label(long userId, FolderPath wanted) {
        users.shared(userId);
        FolderPath parent = wanted.parent();
        FolderPath path = parent == null ? wanted : label(userId, parent).path().child(wanted.name());
        jdbc.sql("""
                        insert into label (user_id, path, tone, own_colour, keyword) select :user, :path,
                            coalesce((select tone from label where user_id = :user and path = :parent), :tone),
                            (select own_colour from label where user_id = :user and path = :parent), :keyword
                        where not exists (select from label where user_id = :user and lower(path) = lower(:path))
                        on conflict do nothing
                        """)
                .param("user", userId)
                .param("path", path.toString())
                .param("parent", path.parent() == null ? "" : String.valueOf(path.parent()))
                .param("tone", nextTone("label", userId).name())
                .param("keyword", Keyword.ofLabel(path))
                .update();
        return jdbc.sql("select id, path from label where user_id = ? and lower(path) = lower(?) limit 1")
                .params(userId, path.toString())
                .query((row, number) -> new LabelRef(row.getLong(1), FolderPath.stored(row.getString(2))))
                .single();
    }

    /** The category of a name, upper or lower case; a new one is ranked last. */
    @Transactional
    public CategoryRef category(long userId, String name) {
        users.shared(userId);
        String clean = FolderPath.parse(name.replace('/', ' ')).name();
        jdbc.sql("""
                        insert into category (user_id, rank, name, tone, keyword) select :user,
                            (select coalesce(max(rank), 0) + 1 from category where user_id = :user), :name, :tone, :keyword
                        where not exists (select from category where user_id = :user and lower(name) = lower(:name))
                        on conflict do nothing
                        """)
                .param("user", userId)
                .param("name", clean)
                .param("tone", nextTone("category", userId).name())
                .param("keyword", Keyword.ofCategory(clean))
                .update();
        return jdbc.sql("select id, name, due_days from category where user_id = ? and lower(name) = lower(?) limit 1")
                .params(userId, clean)
                .query((row, number) -> new CategoryRef(
                        row.getLong("id"), row.getString("name"), row.getObject("due_days", Integer.class)))
                .single();
    }

    private Tone nextTone(String kind, long userId) {
        String sql = kind.equals("label")
                ? "select count(*) from label where user_id = ? and path not like '%/%'"
                : "select count(*) from category where user_id = ?";
        int count = jdbc.sql(sql).param(userId).query(Integer.class).single();
        // Categories begin with brick, amber, slate: the most urgent is the warmest.
        List<Tone> categories = List.of(Tone.BRICK, Tone.AMBER, Tone.SLATE);
        return kind.equals("category") && count < categories.size()
                ? categories.get(count)
                : Tone.nth(count + FIRST_LABEL_TONE);
    }

    /** Ids of the folders that the user filed into by hand of late, the last one first. */
    public List<Long> filedIntoLast(long userId, int most) {
        return jdbc.sql("""
                        select r.folder_after from filing_record r where r.folder_after <> r.folder_before and r.batch_id in (
                            select id from batch where user_id = ? and cause = 'HAND' order by id desc limit 100)
                        group by r.folder_after order by max(r.id) desc limit ?
                        """).params(userId, most).query(Long.class).list();
    }

    private static Places.Folder folder(ResultSet row, int number) throws SQLException {
        String use = row.getString("use");
        return new Places.Folder(
                row.getLong("id"),
                FolderPath.stored(row.getString("path")),
                use == null ? null : SpecialUse.valueOf(use),
                row.getInt("total"),
                row.getInt("unread"),
                row.getObject("position", Integer.class),
                row.getBoolean("hidden"),
                row.getBoolean("pinned"),
                row.getBoolean("folded"));
    }
}
