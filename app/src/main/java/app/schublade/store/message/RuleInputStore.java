package app.schublade.store.message;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.filing.RuleInput;
import app.schublade.core.filing.State;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.Reading;
import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.People;
import app.schublade.core.message.Trait;
import app.schublade.core.query.Query;
import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.base.Json;
import app.schublade.store.base.Sql;
import app.schublade.store.base.Zones;
import app.schublade.store.user.Acquaintance;
import app.schublade.store.user.AcquaintanceStore;
import app.schublade.store.user.PeopleStore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;

/** Messages as the rules see them. */
@Repository
public class RuleInputStore {
    /** Rows that are held in memory at once while all messages are walked through. */
    private static final int STREAM_ROWS = 2000;

    private static final TypeReference<List<Message.Attachment>> ATTACHMENTS = new TypeReference<>() {};

    /** What was stored before the newest columns were there is read from its source again. */
    private static final String ROW = MessageStore.COLUMNS + """
            , h.reply_to, h.addressed_to, h.traits, h.attached, h.internet_id, h.refs,
                case when :body then t.body end as body,
                case when :headers or h.traits is null then s.gzip end as source
            from message m join message_head h on h.message_id = m.id
                left join message_text t on :body and t.message_id = m.id
                left join message_source s on (:headers or h.traits is null) and s.message_id = m.id
            where m.user_id = :user\s""";

    private final JdbcClient jdbc;
    private final NamedParameterJdbcTemplate streaming;
    private final AccountStore accounts;
    private final AcquaintanceStore acquaintances;
    private final PeopleStore people;
    private final Zones zones;

    public RuleInputStore(
            DataSource source,
            AccountStore accounts,
            AcquaintanceStore acquaintances,
            PeopleStore people,
            Zones zones) {
        this.zones = zones;
        this.people = people;
        jdbc = JdbcClient.create(source);
        JdbcTemplate template = new JdbcTemplate(source);
        template.setFetchSize(STREAM_ROWS);
        streaming = new NamedParameterJdbcTemplate(template);
        this.accounts = accounts;
        this.acquaintances = acquaintances;
    }

    /** A message with all that rules and a trial run's list need. */
    public record RuleCandidate(ListRow row, Message message) {
        public State state() {
            return row.state();
        }

        /** As queries ask for it. */
        public RuleInput input() {
            return new RuleInput(message, row.state(), row.handled());
        }
    }

    /** What is needed to read rows; the sets are empty if nobody asks for them. */
    private record Reader(
            ZoneId zone,
            Map<Long, OwnAddresses> own,
            People people,
            boolean acquainted,
            Set<Long> firsts,
            Set<Long> answers) {
        RuleCandidate subject(ResultSet row) throws SQLException {
            ListRow shown = MessageStore.row(row, 0);
            Message.Builder message = message(row, shown);
            message.received(LocalDateTime.ofInstant(shown.received(), zone)).groups(people.groupsOf(shown.sender()));
            return new RuleCandidate(shown, message.build());
        }

        private Message.Builder message(ResultSet row, ListRow shown) throws SQLException {
            byte[] source = row.getBytes("source");
            if (row.getArray("traits") == null && source != null) {
                OwnAddresses addresses = own.getOrDefault(shown.accountId(), new OwnAddresses("", Set.of()));
                var mail = MimeReader.read(MessageStore.unpack(source));
                Set<Trait> traits = traits(shown, Reading.traits(addresses, mail));
                return Reading.of(shown.accountId(), addresses, mail, row.getInt("size"), traits);
            }
            String body = row.getString("body");
            String attached = row.getString("attached");
            return Message.from(shown.accountId(), shown.sender(), shown.subject())
                    .replyTo(texts(row, "reply_to").stream()
                            .map(address -> new Address("", address))
                            .toList())
                    .body(body == null ? "" : body)
                    .headers(
                            source == null
                                    ? Map.of()
                                    : MimeReader.read(MessageStore.unpack(source))
                                            .headers()
                                            .all())
                    .sentTo(texts(row, "sent_to"), texts(row, "addressed_to"))
                    .addressees(shown.recipients())
                    .thread(thread(row))
                    .list(shown.listId())
                    .attachments(attached == null ? List.of() : Json.read(attached, ATTACHMENTS))
                    .size(row.getInt("size"))
                    .traits(traits(
                            shown,
                            texts(row, "traits").stream().map(Trait::valueOf).collect(Collectors.toSet())));
        }

        private Set<Trait> traits(ListRow shown, Set<Trait> own) {
            Set<Trait> traits = people.with(own, shown.sender());
            return acquainted
                    ? Acquaintance.with(traits, !firsts.contains(shown.id()), answers.contains(shown.id()))
                    : traits;
        }
    }

    private static List<String> thread(ResultSet row) throws SQLException {
        List<String> ids = new ArrayList<>(texts(row, "refs"));
        ids.add(row.getString("internet_id"));
        return ids;
    }

    private static List<String> texts(ResultSet row, String column) throws SQLException {
        java.sql.Array array = row.getArray(column);
        return array == null ? List.of() : Arrays.asList((String[]) array.getArray());
    }

    /**
     * Shows messages of the user, newest first, without holding them all.
     *
     * @param needs what of a message must be at hand
     */
    @Transactional(readOnly = true)
    public void forEach(long userId, Query query, Set<Need> needs, Consumer<RuleCandidate> visitor) {
        Reader reader = reader(userId, needs, null);
        Sql where =
                QuerySql.where(jdbc, userId, query, zones.of(userId), "m", "h").condition();
        Map<String, Object> parameters = new HashMap<>(parameters(userId, needs, null));
        parameters.putAll(where.parameters());
        streaming.query(
                ROW + "and " + where.text() + " order by m.received_at desc, m.id desc",
                parameters,
                (ResultSet row) -> visitor.accept(reader.subject(row)));
    }

    /** One message with everything at hand. */
    @Transactional(readOnly = true)
    public Optional<RuleCandidate> subject(long userId, long id) {
        Set<Need> all = EnumSet.allOf(Need.class);
        Reader reader = reader(userId, all, id);
        return streaming
                .query(ROW + "and m.id = :id", parameters(userId, all, id), (row, number) -> reader.subject(row))
                .stream()
                .findFirst();
    }

    /** How many messages are meant. */
    @Transactional(readOnly = true)
    public int count(long userId, Query query) {
        QuerySql.Selection where = QuerySql.where(jdbc, userId, query, zones.of(userId), "m", "h");
        String head = where.asksHead() ? " join message_head h on h.message_id = m.id" : "";
        Integer count = streaming.queryForObject(
                "select count(*) from message m" + head + " where m.user_id = :user and "
                        + where.condition().text(),
                where.condition().with("user", userId).parameters(),
                Integer.class);
        return count == null ? 0 : count;
    }

    /**
     * Some messages.
     *
     * @param needs what of them must be at hand
     */
    @Transactional(readOnly = true)
    public List<RuleCandidate> some(long userId, Collection<Long> ids, Set<Need> needs) {
        Reader reader = reader(userId, needs, null);
        Map<String, Object> parameters = new HashMap<>(parameters(userId, needs, null));
        parameters.put("ids", ids.toArray(Long[]::new));
        return streaming.query(ROW + "and m.id = any(:ids)", parameters, (row, number) -> reader.subject(row));
    }

    private Reader reader(long userId, Set<Need> needs, @Nullable Long alone) {
        boolean acquainted = needs.contains(Need.ACQUAINTANCE);
        return new Reader(
                zones.of(userId),
                accounts.of(userId).stream().collect(Collectors.toMap(Account::id, Account::ownAddresses)),
                people.of(userId),
                acquainted,
                acquainted ? acquaintances.firsts(userId, alone) : Set.of(),
                acquainted ? acquaintances.answers(userId, alone) : Set.of());
    }

    private static Map<String, Object> parameters(long userId, Set<Need> needs, @Nullable Long id) {
        return Map.of(
                "user",
                userId,
                "body",
                needs.contains(Need.BODY),
                "headers",
                needs.contains(Need.HEADERS),
                "id",
                id == null ? 0L : id);
    }
}
