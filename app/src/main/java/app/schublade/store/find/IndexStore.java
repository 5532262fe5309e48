package app.schublade.store.find;

import app.schublade.store.base.BulkRows;
import app.schublade.store.find.SearchVector.Weight;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Makes messages findable by their words, behind the mail that comes in. */
@Repository
public class IndexStore {
    /** Signs of a text that are written down. */
    private static final int MAX_TEXT = 100_000;
    /** Words that are a part of no other, and such as nobody types. */
    private static final int SHORTEST_WORD = 4;

    private static final int LONGEST_WORD = 40;

    private final JdbcClient jdbc;
    private final JdbcTemplate template;

    IndexStore(JdbcClient jdbc, JdbcTemplate template) {
        this.jdbc = jdbc;
        this.template = template;
    }

    /** How many of an account's messages cannot be found by their words yet. */
    public int toIndex(long accountId) {
        return jdbc.sql("select count(*) from to_index where account_id = ?")
                .param(accountId)
                .query(Integer.class)
                .single();
    }

    /** How many of a user's messages cannot be found by their words yet. */
    public int toIndexOf(long userId) {
        return jdbc.sql("select count(*) from to_index where account_id in (select id from account where user_id = ?)")
                .param(userId)
                .query(Integer.class)
                .single();
    }

    /** What of a message is written down. */
    private record Text(
            long message,
            long user,
            String subject,
            String senderName,
            String senderAddress,
            String recipients,
            String addressed,
            String files,
            String body) {
        /** As they are put together in SQL. */
        private static List<String> parts(String joined) {
            return joined.isEmpty() ? List.of() : Arrays.asList(joined.split("\n", -1));
        }

        SearchVector vector() {
            SearchVector vector = new SearchVector()
                    .add(subject, Weight.SUBJECT)
                    .add(senderName + " " + senderAddress, Weight.SENDER)
                    .add(recipients, Weight.RECIPIENTS);
            parts(addressed).forEach(one -> vector.add(one, Weight.RECIPIENTS));
            parts(files).forEach(vector::addFile);
            return vector.add(body, Weight.BODY);
        }
    }

    /**
     * Makes some of the account's messages findable by their words, and the people in them by a few letters; the newest first.
     * Returns how many.
     */
    @Transactional
    public int index(long accountId, int most) {
        List<Text> texts = next(accountId, most);
        if (texts.isEmpty()) {
            return 0;
        }
        Long[] ids = texts.stream().map(Text::message).toArray(Long[]::new);
        jdbc.sql("delete from to_index where message_id = any(?)").param(ids).update();
        jdbc.sql("delete from message_search where message_id = any(?)")
                .param(ids)
                .update();
        BulkRows rows = new BulkRows("message_search", "message_id", "words");
        Set<String> words = new TreeSet<>();
        texts.forEach(text -> {
            SearchVector vector = text.vector();
            rows.row().number(text.message).bytes(vector.binary());
            vector.words().stream().filter(IndexStore::isPartOfOthers).forEach(words::add);
        });
        rows.send(template);
        know(texts.get(0).user, words);
        meet(ids);
        return texts.size();
    }

    /** Whoever deletes one of them waits until it is written down. */
    private List<Text> next(long accountId, int most) {
        return jdbc.sql("""
                        select m.id, m.user_id, h.subject, h.sender_name, h.sender_address, h.recipients,
                            coalesce(array_to_string(h.addressed_to, E'\\n'), '') as addressed,
                            coalesce((select string_agg(a ->> 'name', E'\\n') from jsonb_array_elements(h.attached) a), '') as files,
                            left(t.body, :length) as body
                        from to_index q join message m on m.id = q.message_id join message_head h on h.message_id = q.message_id
                            join message_text t on t.message_id = q.message_id
                        where q.account_id = :account order by q.message_id desc limit :most for key share of m
                        """)
                .param("length", MAX_TEXT)
                .param("account", accountId)
                .param("most", most)
                .query((row, number) -> new Text(
                        row.getLong("id"),
                        row.getLong("user_id"),
                        row.getString("subject"),
                        row.getString("sender_name"),
                        row.getString("sender_address"),
                        row.getString("recipients"),
                        row.getString("addressed"),
                        row.getString("files"),
                        row.getString("body")))
                .list();
    }

    private static boolean isPartOfOthers(String word) {
        return word.length() >= SHORTEST_WORD && word.length() <= LONGEST_WORD && !word.startsWith(SearchVector.FILE);
    }

    /** In one order, so that two accounts of a user do not wait for each other. */
    private void know(long userId, Set<String> words) {
        jdbc.sql("""
                        insert into vocabulary (user_id, word)
                        select ?, w.word from unnest(?::text[]) as w (word) order by w.word collate "C" on conflict do nothing
                        """).params(userId, words.toArray(String[]::new)).update();
    }

    /** Whom the user has to do with: senders, and whom he or she wrote to. */
    private void meet(Long[] messages) {
        jdbc.sql("""
                        with mail as (select m.user_id, f.use, h.sender_address, h.sender_name, h.addressed_to
                            from message m join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
                            where m.id = any(?)),
                        people as (
                            select user_id, sender_address as address, sender_name as name from mail
                            where coalesce(use, '') not in ('JUNK', 'TRASH', 'SENT', 'DRAFTS')
                            union all
                            select user_id, a.address, '' from mail cross join lateral unnest(addressed_to) as a (address)
                            where use = 'SENT')
                        insert into correspondent (user_id, address, name, messages)
                        select user_id, address, max(name), count(*) from people where address like '%_@_%'
                        group by user_id, address order by user_id, address
                        on conflict (user_id, address) do update set messages = correspondent.messages + excluded.messages,
                            name = coalesce(nullif(excluded.name, ''), correspondent.name)
                        """).param(messages).update();
    }
}
