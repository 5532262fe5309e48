package app.schublade.core.filing;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.FolderPath;
import app.schublade.core.place.FolderRef;
import app.schublade.core.place.LabelRef;
import java.time.DayOfWeek;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;

/** Rules and messages made up of few words and addresses, so that they meet often. */
final class RandomMail {
    private static final List<String> WORDS = List.of(
            "loan",
            "Loan",
            "Größe",
            "grosse",
            "museum",
            "port",
            "report",
            "Überfahrt",
            "crate",
            "crates",
            "42",
            "no.",
            "art",
            "courier",
            "ΛΙΜΑΝΙ",
            "λιμάνι",
            "n°7",
            "invoice",
            "Ueberfahrt",
            "Menü",
            "menue",
            "C++",
            "c",
            "F#",
            "INVOICE",
            "œuvre");
    private static final List<String> BETWEEN =
            List.of(" ", " ", " ", ", ", "-", "\r\n", ". ", " (", ") ", "—", "\u00a0");
    private static final List<String> DOMAINS =
            List.of("quay.example", "east.quay.example", "deep.east.quay.example", "wharf.example", "kestrel.example");
    private static final List<String> NAMES = List.of("anna", "Ben", "orders+shop", "office");
    private static final List<String> IDS =
            List.of("a1@quay.example", "b2@quay.example", "c3@wharf.example", "d4@wharf.example");
    private static final List<String> LISTS = List.of("rowers.quay.example", "circular.wharf.example");

    private final Random random;

    RandomMail(Random random) {
        this.random = random;
    }

    private <T> T one(List<T> all) {
        return all.get(random.nextInt(all.size()));
    }

    private <T> List<T> some(int most, Supplier<T> maker) {
        List<T> all = new ArrayList<>();
        for (int i = random.nextInt(most) + 1; i > 0; i--) {
            all.add(maker.get());
        }
        return all;
    }

    private String text(int most) {
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(most + 1); i > 0; i--) {
            text.append(one(WORDS)).append(one(BETWEEN));
        }
        return text.toString();
    }

    private String address() {
        return one(NAMES) + "@" + one(DOMAINS);
    }

    Message message() {
        String list = random.nextInt(3) == 0 ? one(LISTS) : null;
        Set<Trait> traits = traits();
        if (list != null) {
            traits.add(Trait.LIST);
        }
        return Message.from(1 + random.nextInt(3), new Address(text(2), address()), text(6))
                .body(random.nextInt(4) == 0 ? text(200) : text(20))
                .replyTo(random.nextBoolean() ? List.of() : List.of(new Address("", address())))
                .headers(Map.of("x-topic", some(2, () -> text(3))))
                .sentTo(List.of(address().toLowerCase(java.util.Locale.ROOT)), some(3, this::address))
                .thread(some(3, () -> one(IDS)))
                .list(list)
                .attachments(
                        random.nextBoolean()
                                ? List.of()
                                : List.of(new Message.Attachment(
                                        one(WORDS) + ".PDF", "application/pdf", random.nextInt(5_000_000))))
                .size(random.nextInt(2_000_000))
                .received(LocalDateTime.of(2026, 11, 1, 0, 0).plusMinutes(random.nextInt(100_000)))
                .traits(traits)
                .groups(random.nextBoolean() ? Set.of() : Set.of("Lenders"))
                .build();
    }

    private Set<Trait> traits() {
        Set<Trait> traits = EnumSet.noneOf(Trait.class);
        some(4, () -> one(List.of(Trait.values()))).forEach(traits::add);
        return traits;
    }

    State state() {
        Set<Long> labels = new TreeSet<>(some(2, () -> (long) random.nextInt(4)));
        return new State(1, random.nextBoolean(), random.nextBoolean(), random.nextBoolean() ? null : 2L, labels);
    }

    Rule rule(int id) {
        List<Effect> then = some(
                2,
                () -> random.nextBoolean()
                        ? new Effect.FileInto(new FolderRef(10 + random.nextInt(3), FolderPath.parse("Loans")))
                        : new Effect.SetLabel(
                                new LabelRef(random.nextInt(4), FolderPath.parse("Objects")), random.nextBoolean()));
        return new Rule(
                id,
                "Rule " + id,
                random.nextInt(10) > 0,
                some(2, () -> condition(2)),
                random.nextInt(3) == 0 ? some(2, () -> condition(1)) : List.of(),
                then,
                random.nextInt(12) == 0);
    }

    private Condition condition(int depth) {
        return switch (random.nextInt(depth > 0 ? 17 : 14)) {
            case 0 -> new Correspondent(one(List.of(Correspondent.Role.values())), some(2, this::correspondent));
            case 1 -> new Correspondent(Correspondent.Role.SENDER, some(3, this::correspondent));
            case 2 -> new SentTo(some(2, () -> one(List.of(address(), "+shop", "*@" + one(DOMAINS)))));
            case 3 -> new FromList(some(2, () -> one(LISTS)));
            case 4 -> new InAccount(List.of(new InAccount.Ref(1 + random.nextInt(4), "Museum")));
            case 13 -> new InConversation("Crates", some(2, () -> one(IDS)));
            case 5 -> new InGroup(List.of(one(List.of("Lenders", "Schools"))));
            case 6 -> new Traits(some(2, () -> one(List.of(Trait.values()))));
            case 7 -> new Sized(random.nextBoolean(), random.nextBoolean(), random.nextInt(3_000_000));
            case 8 ->
                new Attached(
                        one(List.of(Attached.By.values())), some(2, () -> one(List.of("*.pdf", "pdf", "l*", "image"))));
            case 9 ->
                new ReceivedAt(
                        null,
                        null,
                        EnumSet.of(one(List.of(DayOfWeek.values()))),
                        random.nextInt(ReceivedAt.DAY),
                        1 + random.nextInt(ReceivedAt.DAY));
            case 10 ->
                new Marked(
                        List.of(new LabelRef(random.nextInt(4), FolderPath.parse("Objects"))),
                        List.of(new CategoryRef(random.nextInt(4), "Next")),
                        random.nextBoolean());
            case 11, 12 -> text();
            case 14 -> new Not(condition(depth - 1));
            default -> new Group(random.nextBoolean(), some(3, () -> condition(depth - 1)));
        };
    }

    private String correspondent() {
        return one(List.of(address(), one(DOMAINS), "@" + one(DOMAINS), "*." + one(DOMAINS)));
    }

    private Text text() {
        Text.Where where = one(List.of(Text.Where.values()));
        Text.Match match = one(List.of(Text.Match.values()));
        return new Text(where, where == Text.Where.HEADER ? "X-Topic" : "", match, some(2, () -> value(match)));
    }

    private String value(Text.Match match) {
        return switch (match) {
            case WILDCARD -> one(List.of("*", "*" + one(WORDS) + "*", one(WORDS) + "?*", "*" + text(2)));
            case REGEX -> one(List.of("lo[a-z]n", "\\d+", "^gr", "uber", "(art|crate)s? "));
            default -> text(2);
        };
    }
}
