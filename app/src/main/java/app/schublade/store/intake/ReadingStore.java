package app.schublade.store.intake;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Address;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** How far the mail of accounts has been read by the reader as it is now ({@link MimeReader#VERSION}). */
@Repository
public class ReadingStore {
    private final JdbcClient jdbc;

    ReadingStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Up to which message an account's mail has been read again; empty if all of it was read by this reader. */
    public Optional<Long> readUpTo(long accountId) {
        return jdbc.sql("select read_up_to from account where id = ? and reader < ?")
                .params(accountId, MimeReader.VERSION)
                .query(Long.class)
                .optional();
    }

    /** The next messages of an account, in the order of their ids. */
    public List<Long> behind(long accountId, long message, int most) {
        return jdbc.sql("""
                        select message_id from message_head where account_id = ? and message_id > ?
                        order by message_id limit ?
                        """).params(accountId, message, most).query(Long.class).list();
    }

    public void haveRead(long accountId, long upTo) {
        jdbc.sql("update account set read_up_to = ? where id = ?")
                .params(upTo, accountId)
                .update();
    }

    /** All of an account's mail has been read by this reader. */
    public void haveReadAll(long accountId) {
        jdbc.sql("update account set reader = ?, read_up_to = 0 where id = ?")
                .params(MimeReader.VERSION, accountId)
                .update();
    }

    /** Whether a message reads otherwise than it is stored. */
    public boolean isBetter(long messageId, ParsedMail read) {
        return jdbc.sql("""
                        select h.sender_name, h.sender_address, h.subject, h.recipients, h.sent_at, h.addressed_to, m.attachments,
                            t.body
                        from message_head h join message m on m.id = h.message_id
                        join message_text t on t.message_id = h.message_id where h.message_id = ?
                        """)
                .param(messageId)
                .query((row, number) -> {
                    java.sql.Array addressed = row.getArray("addressed_to");
                    java.sql.Timestamp sent = row.getTimestamp("sent_at");
                    Stored stored = new Stored(
                            new Address(row.getString("sender_name"), row.getString("sender_address")),
                            row.getString("subject"),
                            row.getString("recipients"),
                            sent == null ? null : sent.toInstant(),
                            addressed == null ? List.of() : Arrays.asList((String[]) addressed.getArray()),
                            row.getInt("attachments"),
                            row.getString("body"));
                    return !stored.equals(Stored.of(read));
                })
                .optional()
                .orElse(false);
    }

    /** What is shown and found of a message, and asked by rules. */
    private record Stored(
            Address sender,
            String subject,
            String recipients,
            @Nullable Instant sent,
            List<String> addressed,
            int attachments,
            String body) {
        static Stored of(ParsedMail mail) {
            Instant sent = mail.sent();
            return new Stored(
                    new Address(mail.from().name(), mail.from().key()),
                    mail.subject(),
                    Reading.addressees(mail),
                    sent == null ? null : sent.truncatedTo(ChronoUnit.MICROS),
                    List.copyOf(Reading.recipients(mail)),
                    mail.attachments().size(),
                    NewRows.body(mail));
        }
    }
}
