package app.schublade.store.intake;

import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Address;
import app.schublade.core.message.Trait;
import app.schublade.store.account.Account;
import app.schublade.store.account.Mailbox;
import app.schublade.store.base.BulkRows;
import app.schublade.store.base.Gzip;
import app.schublade.store.base.Json;
import app.schublade.store.message.StateColumn;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.jdbc.core.JdbcTemplate;

/** The rows of new messages in all tables. Those that need nothing of the database are made when this is. */
final class NewRows {
    private static final int SNIPPET = 160;
    private static final int MAX_BODY = 400_000;

    private final Account account;
    private final Map<Long, Incoming> messages;
    private final List<BulkRows> beside;

    /** @param messages by the ids that they get */
    NewRows(Account account, Mailbox mailbox, Map<Long, Incoming> messages) {
        this.account = account;
        this.messages = messages;
        beside = List.of(
                heads(account, messages),
                texts(messages),
                toIndex(account, messages),
                sources(),
                labels(),
                copies(mailbox));
    }

    /** The rows of what a message says, for one that is stored already. */
    static List<BulkRows> content(Account account, long messageId, Incoming read) {
        Map<Long, Incoming> one = Map.of(messageId, read);
        return List.of(heads(account, one), texts(one), toIndex(account, one));
    }

    /**
     * Sends all of them, within the transaction that is going on.
     *
     * @param conversations by message
     * @param waiting those that are not shown in the Inbox yet
     */
    void send(JdbcTemplate template, Map<Long, Long> conversations, Set<Long> waiting) {
        messages(conversations, waiting).send(template);
        beside.forEach(bulk -> bulk.send(template));
    }

    private BulkRows messages(Map<Long, Long> conversations, Set<Long> waiting) {
        List<String> columns = Stream.concat(
                        Stream.of(
                                "id",
                                "user_id",
                                "account_id",
                                "received_at",
                                "attachments",
                                "conversation_id",
                                "answered",
                                "forwarded",
                                "held"),
                        StateColumn.OF_MESSAGE.stream().map(StateColumn::column))
                .toList();
        BulkRows bulk = new BulkRows("message", columns.toArray(String[]::new));
        messages.forEach((id, incoming) -> {
            bulk.row()
                    .number(id)
                    .number(account.userId())
                    .number(account.id())
                    .time(incoming.received())
                    .small(Math.min(incoming.mail().attachments().size(), Short.MAX_VALUE))
                    .number(conversations.get(id))
                    .truth(incoming.handled().answered())
                    .truth(incoming.handled().forwarded())
                    .truth(waiting.contains(id));
            StateColumn.OF_MESSAGE.forEach(column -> bulk.value(column.of(incoming.filed())));
        });
        return bulk;
    }

    private static BulkRows heads(Account account, Map<Long, Incoming> messages) {
        BulkRows bulk = new BulkRows(
                "message_head",
                "message_id",
                "account_id",
                "internet_id",
                "size",
                "sender_name",
                "sender_address",
                "recipients",
                "subject",
                "snippet",
                "sent_to",
                "alias",
                "list_id",
                "refs",
                "sent_at",
                "unclaimed",
                "reply_to",
                "addressed_to",
                "traits",
                "attached",
                "tray_reason");
        messages.forEach((id, incoming) -> {
            ParsedMail mail = incoming.mail();
            bulk.row()
                    .number(id)
                    .number(account.id())
                    .text(incoming.identity())
                    .integer(incoming.size())
                    .text(mail.from().name())
                    .text(mail.from().key())
                    .text(Reading.addressees(mail))
                    .text(mail.subject())
                    .text(mail.snippet(SNIPPET))
                    .texts(incoming.sentTo())
                    .text(incoming.alias())
                    .text(mail.listId())
                    .texts(mail.references())
                    .time(mail.sent())
                    .texts(incoming.unclaimed())
                    .texts(mail.replyTo().stream().map(Address::key).toList())
                    .texts(Reading.recipients(mail))
                    .texts(incoming.traits().stream().map(Trait::name).toList())
                    .json(Json.write(Reading.attachments(mail)))
                    .text(incoming.trayReason());
        });
        return bulk;
    }

    private static BulkRows texts(Map<Long, Incoming> messages) {
        BulkRows bulk = new BulkRows("message_text", "message_id", "body");
        messages.forEach((id, incoming) -> bulk.row().number(id).text(body(incoming.mail())));
        return bulk;
    }

    /** What is to be made findable by its words. */
    private static BulkRows toIndex(Account account, Map<Long, Incoming> messages) {
        BulkRows bulk = new BulkRows("to_index", "message_id", "account_id");
        messages.keySet().forEach(id -> bulk.row().number(id.longValue()).number(account.id()));
        return bulk;
    }

    static String body(ParsedMail mail) {
        return mail.words().substring(0, Math.min(mail.words().length(), MAX_BODY));
    }

    private BulkRows sources() {
        BulkRows bulk = new BulkRows("message_source", "message_id", "whole", "gzip");
        try (Gzip gzip = new Gzip()) {
            messages.forEach((id, incoming) -> {
                bulk.row().number(id).truth(incoming.isWhole()).bytes(gzip.compress(incoming.source()));
            });
        }
        return bulk;
    }

    private BulkRows labels() {
        BulkRows bulk = new BulkRows("message_label", "message_id", "label_id");
        messages.forEach((id, incoming) -> {
            incoming.filed().labels().forEach(label -> bulk.row().number(id).number(label));
        });
        return bulk;
    }

    private BulkRows copies(Mailbox mailbox) {
        BulkRows bulk = new BulkRows("server_copy", "message_id", "account_id", "mailbox_id", "uid");
        messages.forEach((id, incoming) -> {
            bulk.row().number(id).number(account.id()).number(mailbox.id()).number(incoming.uid());
        });
        return bulk;
    }
}
