package app.schublade.core.sieve;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.InAccount;
import app.schublade.core.filing.InGroup;
import app.schublade.core.filing.Not;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.Message;
import app.schublade.core.message.Trait;
import java.nio.charset.StandardCharsets;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Base64;
import java.util.EnumSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.Supplier;

/** Letters as they lie on a server, and rules that a script can say about them. */
final class RandomLetters {
    private static final List<String> WORDS = List.of(
            "loan", "Loan", "loans", "museum", "port", "report", "crate", "no.7", "art", "courier", "INVOICE", "a+b");
    private static final List<String> DOMAINS =
            List.of("quay.example", "east.quay.example", "wharf.example", "tilda.example");
    private static final List<String> NAMES = List.of("anna", "Ben", "tilda", "tilda+shop", "no-reply", "loans");
    private static final List<String> LISTS = List.of("rowers.quay.example", "circular.wharf.example");
    private static final Set<Trait> OF_OTHER_MAIL =
            EnumSet.of(Trait.KEY_PERSON, Trait.KNOWN_SENDER, Trait.NEW_SENDER, Trait.ANSWER);
    private static final List<Trait> TRAITS =
            EnumSet.complementOf(EnumSet.copyOf(OF_OTHER_MAIL)).stream().toList();

    private static final List<String> AWKWARD_WORDS = List.of(
            "Überführung",
            "uberfuhrung",
            "Straße",
            "strasse",
            "Brücke",
            "br",
            "Bruecke",
            "Ueberfuehrung",
            "c",
            "C#",
            "café",
            "日本",
            "x  y",
            "it's",
            "C++",
            "ﬁle",
            "Bru\u0308cke",
            "e\u00admail");
    /** A script does not know of Re:. */
    private static final List<Text.Match> SAYABLE =
            EnumSet.complementOf(EnumSet.of(Text.Match.STARTS_AFTER_RE, Text.Match.IS_AFTER_RE)).stream()
                    .toList();

    private static final List<String> SENDERS = List.of(
            "Anna Grebe <%s>",
            "\"Grebe, Anna\" <%s>",
            "%s",
            "J. Grebe (Harbour) <%s>",
            "=?utf-8?q?J=C3=B6rg_Grebe?= <%s>",
            "=?utf-8?q?Grebe=2C_Anna?= <%s>",
            "Anna <%s>, Ben <ben@wharf.example>",
            "<%s>",
            "Crew: %s;",
            "\"A \\\"B\" <%s>",
            "Ben <%s> ",
            "Jörg <%s>");

    private final Random random;
    private final LocalDate today;
    private boolean withAwkward;
    private boolean awkward;

    RandomLetters(Random random, LocalDate today) {
        this.random = random;
        this.today = today;
    }

    /** Half of the letters with accents, in HTML, with inline pictures, several senders and so on; and rules that no server knows. */
    RandomLetters awkward() {
        withAwkward = true;
        return this;
    }

    /** What is known of a letter from other mail. */
    Message known(Message.Builder builder) {
        Message message = builder.build();
        Set<Trait> traits = EnumSet.noneOf(Trait.class);
        traits.addAll(message.traits());
        OF_OTHER_MAIL.stream().filter(trait -> random.nextBoolean()).forEach(traits::add);
        return builder.traits(traits)
                .groups(random.nextBoolean() ? Set.of("Lenders") : Set.of())
                .build();
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
        return String.join(
                one(List.of(" ", ", ", "-")),
                some(most, () -> one(awkward && random.nextInt(3) == 0 ? AWKWARD_WORDS : WORDS)));
    }

    private String address() {
        return one(NAMES) + "@" + one(DOMAINS);
    }

    private void maybe(StringBuilder letter, String field, Supplier<String> value) {
        if (random.nextInt(3) == 0) {
            letter.append(field).append(": ").append(value.get()).append("\r\n");
        }
    }

    byte[] letter() {
        awkward = withAwkward && random.nextBoolean();
        StringBuilder letter = new StringBuilder(
                "From: %s\r\n".formatted((awkward ? one(SENDERS) : SENDERS.get(0)).formatted(address())));
        letter.append("To: ").append(String.join(", ", some(2, this::address))).append("\r\n");
        maybe(letter, "Cc", () -> String.join(", ", some(2, this::address)));
        maybe(letter, "Reply-To", this::address);
        if (awkward) {
            maybe(letter, "Delivered-To", this::address);
            maybe(letter, "Delivered-To", this::address);
            maybe(letter, "To", () -> one(List.of("undisclosed-recipients:;", "\"A, B\" <" + address() + ">")));
            maybe(letter, "Bcc", this::address);
            maybe(letter, "Priority", () -> one(List.of("urgent", "non-urgent", "normal")));
        }
        letter.append("Subject: ").append(subject()).append("\r\n");
        maybe(letter, "List-Id", () -> "Rowers <%s>".formatted(one(LISTS)));
        maybe(letter, "Auto-Submitted", () -> one(List.of("no", "auto-generated")));
        maybe(letter, "Precedence", () -> one(List.of("bulk", "list", "first-class")));
        maybe(letter, "Importance", () -> one(List.of("high", "low", "normal")));
        maybe(letter, "X-Priority", () -> one(List.of("1 (Highest)", "3", "5")));
        maybe(letter, "Sensitivity", () -> one(List.of("Personal", "Private", "Company-Confidential")));
        maybe(letter, "X-Topic", () -> text(3));
        letter.append("MIME-Version: 1.0\r\n");
        body(letter);
        return letter.toString().getBytes(StandardCharsets.UTF_8);
    }

    private String subject() {
        String text = text(5);
        if (!awkward || text.chars().allMatch(sign -> sign < 0x80)) {
            return text;
        }
        return switch (random.nextInt(4)) {
            case 0 -> "=?utf-8?b?" + Base64.getEncoder().encodeToString(text.getBytes(StandardCharsets.UTF_8)) + "?=";
            case 1 -> text.replaceFirst(" ", "\r\n\t") + " ";
            case 2 -> text + "\r\nSubject: " + text(2);
            default -> text;
        };
    }

    private void body(StringBuilder letter) {
        String text = "Dear Tilda,\r\n" + text(12) + "\r\n";
        if (awkward && random.nextInt(2) == 0) {
            letter.append(one(List.of(
                            "Content-Type: text/html; charset=utf-8\r\n\r\n<p>%s</p>",
                            "Content-Type: text/plain; charset=utf-8; format=flowed\r\n\r\n%s",
                            "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n%s=41",
                            "Content-Type: text/plain; name=loan.txt\r\nContent-Disposition: attachment; filename=loan.txt\r\n\r\n%s",
                            "\r\n%s\r\nbegin 644 loan.pdf\r\n#86)C\r\n`\r\nend\r\n",
                            several("alternative", "Content-Type: text/html\r\n\r\n<b>museum</b>"),
                            several(
                                    "related",
                                    "Content-Type: image/png; name=loan.png\r\nContent-ID: <a>\r\nContent-Disposition: inline\r\n\r\nabc"),
                            "\r\n%s"))
                    .formatted(text));
            return;
        }
        if (random.nextBoolean()) {
            letter.append("Content-Type: text/plain\r\n\r\n").append(text);
            return;
        }
        letter.append("Content-Type: multipart/mixed; boundary=x\r\n\r\n--x\r\nContent-Type: text/plain\r\n\r\n")
                .append(text)
                .append("--x\r\nContent-Type: %s\r\n".formatted(one(List.of("application/pdf", "image/png"))))
                .append("Content-Disposition: attachment; filename=\"%s\"\r\n\r\n"
                        .formatted(one(List.of("loan.pdf", "Crate.PNG", "list.csv"))))
                .append("abc\r\n--x--\r\n");
    }

    private static String several(String how, String second) {
        return "Content-Type: multipart/%s; boundary=y\r\n\r\n--y\r\nContent-Type: text/plain\r\n\r\n%%s\r\n--y\r\n%s\r\n--y--\r\n"
                .formatted(how, second);
    }

    Rule rule(int number) {
        awkward = withAwkward;
        return new Rule(
                number,
                "Rule " + number,
                true,
                some(2, () -> condition(2)),
                random.nextInt(3) == 0 ? some(2, () -> condition(1)) : List.of(),
                some(3, this::effect),
                random.nextInt(5) == 0);
    }

    private Effect effect() {
        if (awkward && random.nextInt(5) == 0) {
            return one(List.of(
                    new Effect.CopyInto(one(Harbour.FOLDERS)),
                    new Effect.CopyInto(one(Harbour.FOLDERS)),
                    new Effect.Notify(false)));
        }
        return switch (random.nextInt(6)) {
            case 0, 1 -> new Effect.FileInto(one(Harbour.FOLDERS));
            case 2 -> new Effect.SetLabel(one(Harbour.LABELS), random.nextInt(3) > 0);
            case 3 -> new Effect.Categorise(random.nextInt(3) > 0 ? one(Harbour.CATEGORIES) : null);
            case 4 -> new Effect.MarkRead(random.nextInt(3) > 0);
            default -> new Effect.Flag(random.nextInt(3) > 0);
        };
    }

    private Condition condition(int depth) {
        if (awkward && random.nextInt(10) == 0) {
            return one(List.of(
                    new Traits(List.of(one(List.copyOf(OF_OTHER_MAIL)))),
                    new InGroup(List.of("Lenders")),
                    new Sized(true, random.nextBoolean(), random.nextInt(10)),
                    new Text(Text.Where.SENDER_NAME, "", Text.Match.WORDS, List.of("Grebe")),
                    new Text(Text.Where.SUBJECT, "", Text.Match.WILDCARD, List.of("?" + one(WORDS) + "*"))));
        }
        return switch (random.nextInt(depth > 0 ? 16 : 13)) {
            case 0, 1 -> new Correspondent(one(List.of(Correspondent.Role.values())), some(3, this::correspondent));
            case 2, 3 -> new SentTo(some(2, () -> one(List.of(address(), "+shop", "*@" + one(DOMAINS)))));
            case 4 -> new FromList(some(2, () -> one(LISTS)));
            case 5 -> new InAccount(List.of(new InAccount.Ref(1 + random.nextInt(2), "Museum")));
            case 6, 7 -> new Traits(some(2, () -> one(TRAITS)));
            case 8 -> new Sized(false, random.nextBoolean(), random.nextInt(1500));
            case 9 ->
                new Attached(
                        one(List.of(Attached.By.values())), some(2, () -> one(List.of("*.pdf", "pdf", "l*", "image"))));
            case 10 -> received();
            case 11, 12 -> words();
            case 13 -> new Not(condition(depth - 1));
            default -> new Group(random.nextBoolean(), some(3, () -> condition(depth - 1)));
        };
    }

    private ReceivedAt received() {
        LocalDate first = today.plusDays(random.nextInt(5) - 2);
        return switch (random.nextInt(5)) {
            case 0 -> ReceivedAt.days(first, null);
            case 1 -> ReceivedAt.days(null, first);
            case 2 -> ReceivedAt.on(EnumSet.of(one(List.of(DayOfWeek.values()))));
            case 3 -> ReceivedAt.between(60 * random.nextInt(24), 60 * (1 + random.nextInt(24)));
            default -> ReceivedAt.between(random.nextInt(ReceivedAt.DAY), 1 + random.nextInt(ReceivedAt.DAY));
        };
    }

    private String correspondent() {
        return one(List.of(address(), one(DOMAINS), "@" + one(DOMAINS), "*." + one(DOMAINS)));
    }

    private Text words() {
        Text.Where where =
                one(List.of(Text.Where.SUBJECT, Text.Where.BODY, Text.Where.SUBJECT_OR_BODY, Text.Where.HEADER));
        Text.Match match = one(
                where == Text.Where.BODY || where == Text.Where.SUBJECT_OR_BODY
                        ? List.of(Text.Match.WORDS, Text.Match.PHRASE, Text.Match.CONTAINS, Text.Match.REGEX)
                        : SAYABLE);
        return new Text(where, where == Text.Where.HEADER ? "X-Topic" : "", match, some(2, () -> value(match)));
    }

    private String value(Text.Match match) {
        return switch (match) {
            case WILDCARD -> one(List.of("*", "*" + one(WORDS) + "*", one(WORDS) + "?*", "*" + text(2)));
            case REGEX -> one(List.of("lo[a-z]n", "\\d+", "^re", "(art|crate)s?"));
            default -> text(2);
        };
    }
}
