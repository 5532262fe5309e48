package app.schublade.store.outgoing;

import app.schublade.core.filing.Sized;
import app.schublade.core.format.OutgoingMessage.AttachedFile;
import app.schublade.core.problem.InputProblem;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.function.LongSupplier;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The files of messages that are being written. */
@Repository
public class OutgoingFileStore {
    /** Of all files of a message together; most servers take no more, for in the message they are a third larger. */
    public static final int MAX_BYTES = 25_000_000;

    private static final int MAX_FILES = 100;

    private final JdbcClient jdbc;

    OutgoingFileStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * A file as the page shows it.
     *
     * @param size in bytes
     */
    public record DraftFile(long id, String name, int size) {
        public String shownSize() {
            return Sized.inWords(size);
        }
    }

    /** Those that go along beside the text. */
    public List<DraftFile> of(long outgoing) {
        return jdbc.sql("""
                        select id, name, length(content) as size from outgoing_file
                        where outgoing_id = ? and content_id is null order by id
                        """).param(outgoing).query(DraftFile.class).list();
    }

    /** All of them with what is in them, and the pictures of the text. */
    public List<AttachedFile> files(long outgoing) {
        return jdbc.sql("select name, type, content, content_id from outgoing_file where outgoing_id = ? order by id")
                .param(outgoing)
                .query(OutgoingFileStore::file)
                .list();
    }

    /** A picture of the text. */
    public Optional<AttachedFile> picture(long userId, long outgoing, String contentId) {
        return jdbc.sql("""
                        select f.name, f.type, f.content, f.content_id from outgoing_file f join outgoing o on o.id = f.outgoing_id
                        where o.user_id = ? and o.id = ? and f.content_id = ?
                        """)
                .params(userId, outgoing, contentId)
                .query(OutgoingFileStore::file)
                .optional();
    }

    private static AttachedFile file(ResultSet row, int number) throws SQLException {
        return new AttachedFile(
                row.getString("name"), row.getString("type"), row.getBytes("content"), row.getString("content_id"));
    }

    /**
     * Adds a file to a message that is being written.
     *
     * @throws InputProblem if the message is on its way or gone, or would become too large
     */
    @Transactional
    public void add(long userId, long outgoing, AttachedFile file) {
        if (!touch(userId, outgoing)) {
            throw new InputProblem(
                    "This message is on its way already, or gone; “%s” was not added.".formatted(file.name()));
        }
        put(outgoing, file);
    }

    /** Its writer has done something with it. Returns whether it is being written still; it is this transaction's then. */
    private boolean touch(long userId, long outgoing) {
        return jdbc.sql("""
                        update outgoing set touched = true, changed_at = now()
                        where user_id = ? and id = ? and state in ('DRAFT', 'REFUSED')
                        """).params(userId, outgoing).update() > 0;
    }

    private void put(long outgoing, AttachedFile file) {
        boolean fits = jdbc.sql("""
                        select coalesce(sum(length(content)), 0) + ? <= ? and count(*) < ? from outgoing_file
                        where outgoing_id = ?
                        """)
                .params(file.content().length, MAX_BYTES, MAX_FILES, outgoing)
                .query(Boolean.class)
                .single();
        if (!fits) {
            throw tooLarge(file.name());
        }
        jdbc.sql("insert into outgoing_file (outgoing_id, name, type, content, content_id) values (?, ?, ?, ?, ?)")
                .param(outgoing)
                .param(file.name())
                .param(file.type())
                .param(file.content())
                .param(file.contentId())
                .update();
        jdbc.sql("""
                        delete from outgoing_file f where at < now() - interval '30 days'
                            and not exists (select from outgoing o where o.id = f.outgoing_id)
                        """).update();
    }

    /** Begins a message that has files from the start: with all of them, or not at all. */
    @Transactional
    public long begin(LongSupplier message, List<AttachedFile> all) {
        long id = message.getAsLong();
        all.forEach(file -> put(id, file));
        return id;
    }

    /** What is said of a file with which a message would become too large. */
    public static InputProblem tooLarge(String name) {
        return new InputProblem(
                "With “%s” this message would be too large: its files may have %d MB together, and be %d."
                        .formatted(name, MAX_BYTES / 1_000_000, MAX_FILES));
    }

    @Transactional
    public void remove(long userId, long outgoing, long file) {
        if (touch(userId, outgoing)) {
            jdbc.sql("delete from outgoing_file where id = ? and outgoing_id = ?")
                    .params(file, outgoing)
                    .update();
        }
    }
}
