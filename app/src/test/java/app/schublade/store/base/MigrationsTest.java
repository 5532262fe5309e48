package app.schublade.store.base;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.DayTime;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Routine;
import app.schublade.core.filing.Rule;
import app.schublade.core.format.OutgoingMessage;
import app.schublade.core.place.FolderPath;
import app.schublade.core.triage.LookHours;
import app.schublade.store.account.Account;
import app.schublade.store.account.AliasStore;
import app.schublade.store.act.Cause;
import app.schublade.store.cabinet.FlagStore;
import app.schublade.store.filing.CountStore;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.find.SavedSearchStore;
import app.schublade.store.find.SearchWorlds;
import app.schublade.store.message.ListRow;
import app.schublade.store.noise.BlockStore;
import app.schublade.store.noise.QuietStore;
import app.schublade.store.outgoing.OutgoingFileStore;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.outgoing.OutgoingStore.DraftText;
import app.schublade.store.outgoing.SavedTextStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RoutineStore;
import app.schublade.store.triage.DayMailStore;
import app.schublade.store.triage.ReminderStore;
import app.schublade.store.triage.StandingDayStore;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Databases;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What others have in their databases stays readable: a migration that has landed is never touched again, and what was kept of
 * each version is there after the update to this one.
 *
 * <p>Whoever adds a migration adds its line to {@code migrations.txt}. When a version has landed, its database is kept:
 * {@code ./schublade test -pl app -am -Dtest=MigrationsTest -Dkeep=V12 -Dsurefire.failIfNoSpecifiedTests=false}.
 */
class MigrationsTest {
    private static final Path KEPT = Path.of("src/test/resources/kept");

    @Test
    void whatHasLandedIsNotTouched() throws IOException {
        Flyway flyway = Flyway.configure()
                .dataSource(Databases.fresh(), Databases.USER, Databases.PASSWORD)
                .load();
        List<String> now =
                Arrays.stream(flyway.info().all()).map(MigrationsTest::line).toList();
        assertThat(String.join("\n", now))
                .as(
                        "a migration that has landed must not change; the line of a new one goes to the end of migrations.txt")
                .isEqualTo(read("migrations.txt").strip());
    }

    private static String line(MigrationInfo migration) {
        return "V%s %08x".formatted(migration.getVersion(), migration.getChecksum());
    }

    private static String read(String name) throws IOException {
        try (InputStream in = Objects.requireNonNull(MigrationsTest.class.getResourceAsStream("/" + name), name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    static List<String> kept() throws IOException {
        try (Stream<Path> files = Files.list(KEPT)) {
            return files.map(file -> file.getFileName().toString())
                    .filter(name -> name.endsWith(".sql"))
                    .map(name -> name.replace(".sql", ""))
                    .sorted()
                    .toList();
        }
    }

    @ParameterizedTest
    @MethodSource("kept")
    void whatWasKeptIsThereAfterTheUpdate(String version) throws IOException {
        try (Cabinet cabinet = Cabinet.on(Databases.kept(read("kept/" + version + ".sql")))) {
            assertThat(told(cabinet)).isEqualTo(read("kept/" + version + ".txt"));
            long user = cabinet.users.byLogin("kept").orElseThrow().id();
            assertThat(cabinet.bean(CountStore.class).wrong(user)).isEmpty();
            assertThat(cabinet.undo.latest(user).title())
                    .as("it can be worked on")
                    .startsWith("Flagged");
        }
    }

    /** All that a user would miss, as the stores tell it. */
    private static String told(Cabinet cabinet) {
        StringBuilder told = new StringBuilder();
        long user = cabinet.users.byLogin("kept").orElseThrow().id();
        for (Account account : cabinet.accounts.of(user)) {
            told.append("account %s %s %s %s\n"
                    .formatted(account.code(), account.name(), account.address(), account.aliases()));
        }
        Places places = cabinet.places.of(user, null);
        places.folders()
                .forEach(folder -> told.append(
                        "folder %s, %d of %d unread\n".formatted(folder.path(), folder.unread(), folder.total())));
        places.labels().forEach(label -> told.append("label %s\n".formatted(label.path())));
        places.categories().forEach(one -> told.append("category %s\n".formatted(one.name())));
        cabinet.rules.book(user).rules().stream()
                .map(Rule::sentence)
                .forEach(sentence -> told.append("rule %s\n".formatted(sentence)));
        List<Long> messages = cabinet.jdbc
                .sql("select id from message where user_id = ? order by id")
                .param(user)
                .query(Long.class)
                .list();
        for (long message : messages) {
            ListRow row = cabinet.messages.row(user, message).orElseThrow();
            told.append("message %s from %s in %s%s%s\n"
                    .formatted(
                            row.subject(),
                            row.sender().email(),
                            cabinet.lies(user, message),
                            row.unread() ? ", unread" : "",
                            row.due() != null ? ", due " + row.due() : row.flagged() ? ", flagged" : ""));
            told.append(new String(cabinet.messages.source(user, message).orElseThrow(), StandardCharsets.UTF_8)
                    .lines()
                    .map(line -> "  | " + line + "\n")
                    .collect(Collectors.joining()));
        }
        cabinet.bean(RecordStore.class)
                .lines(user, new RecordStore.RecordFilter(RecordStore.RecordedBy.ALL, null, null, null, null), 0, 100)
                .forEach(line -> told.append("record %s: %s %s%s\n"
                        .formatted(line.title(), line.subject(), line.reasons(), line.undone() ? ", taken back" : "")));
        tellOthers(cabinet, user, told);
        return told.toString();
    }

    /** What is no mail: a line for each, and none where there is none. */
    private static void tellOthers(Cabinet cabinet, long user, StringBuilder told) {
        cabinet.outgoing.of(user).forEach(one -> {
            told.append("draft %s to %s: %s\n"
                    .formatted(one.text().subject(), one.text().to(), one.text().body()));
            cabinet.bean(OutgoingFileStore.class)
                    .of(one.id())
                    .forEach(file -> told.append("  with %s, %d bytes\n".formatted(file.name(), file.size())));
        });
        cabinet.bean(SavedSearchStore.class)
                .of(user)
                .forEach(one -> told.append("search %s: %s\n".formatted(one.name(), one.words())));
        // Whoever asks for routines is given some.
        for (String query : List.of(
                "select 'routine ' || r.name || ': ' || count(s) from routine r join routine_step s on s.routine_id = r.id where r.user_id = ? group by r.id order by r.id",
                "select 'text ' || name || ': ' || body from saved_text where user_id = ? order by id",
                "select 'key person ' || value from key_person where user_id = ? order by value",
                "select 'blocked ' || value from blocked where user_id = ? order by value",
                "select 'quiet ' || array_to_string(minutes, ' ') || ', ' || notices from quiet where user_id = ?",
                "select 'day sheet ' || array_to_string(minutes, ' ') from day_mail where user_id = ?",
                "select 'reminders to ' || a.address from app_user u join account a on a.id = u.reminders_at where u.id = ?",
                "select 'flag ' || f.name || ': ' || count(m.id) from flag f left join message m on m.flag_id = f.id where f.user_id = ? group by f.id order by f.id",
                "select 'standing day ' || name || ': ' || weekday || coalesce(' at ' || at, '') from standing_day where user_id = ? order by id",
                "select 'alias ' || l.address || ', ' || l.note || ', ' || l.signature from alias l join account a on a.id = l.account_id where a.user_id = ? and l.note <> '' order by l.address")) {
            cabinet.jdbc
                    .sql(query)
                    .param(user)
                    .query(String.class)
                    .list()
                    .forEach(line -> told.append(line).append('\n'));
        }
    }

    /** Writes down what a user of this version has. */
    @Test
    @EnabledIfSystemProperty(named = "keep", matches = "V\\d+")
    void keep() throws Exception {
        String version = System.getProperty("keep");
        String database = Databases.fresh();
        try (Cabinet cabinet = Cabinet.on(database)) {
            fill(cabinet);
            Files.createDirectories(KEPT);
            Files.writeString(KEPT.resolve(version + ".txt"), told(cabinet));
            Files.writeString(KEPT.resolve(version + ".sql"), dump(database));
        }
    }

    private static void fill(Cabinet cabinet) {
        long user = cabinet.users.add("kept", "Tilda Marwick", "-").id();
        Account office = cabinet.account(user, "MU", "loans@quay.example");
        Account club = cabinet.account(user, "RC");
        cabinet.rules.save(user, cabinet.filing(user, "wharf.example", "Loans/Wharf"));
        long label = cabinet.places.label(user, FolderPath.parse("Show/Crates")).id();
        for (int i = 0; i < 6; i++) {
            cabinet.arrives(
                    office,
                    TestMail.from("Anna <anna@wharf.example>", "Crate " + i).saying("Größe: " + i));
            cabinet.arrives(
                    club, TestMail.from("ben@pier.example", "Regatta " + i).read());
        }
        List<Long> all = cabinet.jdbc
                .sql("select id from message where user_id = ? order by id")
                .param(user)
                .query(Long.class)
                .list();
        long folder = cabinet.folder(user, "Club").id();
        cabinet.filing.act(user, Cause.HAND, "Filed into Club", all.subList(1, 4), state -> state.in(folder));
        cabinet.filing.act(user, Cause.HAND, "Labelled", all.subList(0, 5), state -> state.with(label, true));
        cabinet.filing.act(user, Cause.HAND, "Marked as read", all, state -> state.unread(false));
        cabinet.undo.latest(user);
        cabinet.filing.act(user, Cause.HAND, "Flagged", all.subList(2, 3), state -> state.flagged(true));
        fillOthers(cabinet, user, office, all.get(0));
        cabinet.filing.act(user, Cause.HAND, "Flagged", all.subList(3, 4), state -> state.flagged(true));
        cabinet.filing.act(
                user, Cause.HAND, "Due", all.subList(4, 5), state -> state.due(DayTime.parse("2026-12-01 15:00")));
        cabinet.bean(FlagStore.class).add(user, "To pay");
        long flag = cabinet.places.of(user, null).flags().get(0).id();
        cabinet.filing.act(user, Cause.HAND, "Flagged as To pay", all.subList(5, 6), state -> state.flaggedAs(flag));
        cabinet.jdbc.sql("update account set secret = ''").update(); // The key is not kept.
    }

    private static void fillOthers(Cabinet cabinet, long user, Account account, long message) {
        DraftText text = new DraftText(
                account.id(),
                "loans@quay.example",
                "anna@wharf.example",
                "",
                "",
                "Re: Crate",
                "Größe?",
                "<p>Größe?</p>");
        long draft = cabinet.outgoing.begin(user, text, message, null, List.of("a@wharf.example"));
        cabinet.outgoing.keepOver(user, draft, text, new OutgoingStore.Edition(0, ""));
        cabinet.bean(OutgoingFileStore.class)
                .add(user, draft, new OutgoingMessage.AttachedFile("list.txt", "text/plain", new byte[] {'x'}));
        cabinet.bean(SavedSearchStore.class)
                .add(user, "Crates", cabinet.bean(SearchWorlds.class).read(user, "crates in loans"));
        cabinet.bean(RoutineStore.class)
                .save(
                        user,
                        new Routine(0, "Done", List.of(new Effect.MarkRead(true), new Effect.Flag(false)), List.of()));
        cabinet.bean(SavedTextStore.class).add(user, "Opening hours", "Dear {name},");
        cabinet.people.markKey(user, "anna@wharf.example", true);
        cabinet.bean(BlockStore.class).block(user, "spam.example");
        LookHours hours = LookHours.parse("9, 13:30");
        cabinet.bean(QuietStore.class).keep(user, hours, QuietStore.Notices.KEY_PEOPLE, List.of(), List.of());
        cabinet.bean(DayMailStore.class).keep(user, account.id(), hours);
        cabinet.bean(ReminderStore.class).mailTo(user, account.id());
        cabinet.bean(StandingDayStore.class).add(user, "Saturday morning", DayOfWeek.SATURDAY, LocalTime.of(9, 0));
        cabinet.bean(AliasStore.class).add(account, "show@quay.example", "the printer", "Tilda");
    }

    private static String dump(String database) throws Exception {
        ProcessBuilder command = new ProcessBuilder(
                        Path.of(System.getenv("SCHUBLADE_PG_BIN"), "pg_dump").toString(),
                        "--inserts",
                        "--no-owner",
                        "--no-privileges",
                        "--dbname=" + database.replace("jdbc:", ""),
                        "--username=" + Databases.USER)
                .redirectErrorStream(true);
        command.environment().put("PGPASSWORD", Databases.PASSWORD);
        Process dump = command.start();
        dump.getOutputStream().close();
        String script = new String(dump.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(dump.waitFor()).as(script).isZero();
        return Pattern.compile("^(--.*|\\\\.*|SELECT pg_catalog.set_config.*)\n", Pattern.MULTILINE)
                .matcher(script)
                .replaceAll("")
                .replaceAll("\n{2,}", "\n");
    }
}
