package app.schublade.standin.world;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javax.imageio.ImageIO;
import org.apache.james.mime4j.dom.Body;
import org.apache.james.mime4j.dom.Entity;
import org.apache.james.mime4j.dom.Message;
import org.apache.james.mime4j.dom.Multipart;
import org.apache.james.mime4j.dom.SingleBody;
import org.apache.james.mime4j.dom.TextBody;
import org.apache.james.mime4j.message.DefaultMessageBuilder;
import org.apache.james.mime4j.stream.MimeConfig;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Reads the demo's mail back, by another library than the one that wrote it, and looks for what does not agree. */
class WorldTest {
    private static final Instant END = Instant.parse("2026-11-24T09:00:00Z");
    private static final Pattern ADDRESS = Pattern.compile("[\\w.+-]+@([\\w.-]+\\w)");
    private static final Pattern LINK = Pattern.compile("https?://([^/\\s\"<>)]+)");
    private static final Pattern CODE = Pattern.compile("\\b([A-Z]{1,4}-?\\d{3,}|\\d{4,})\\b");

    private static List<World.PlacedLetter> world;
    private static final Map<String, Read> READ = new HashMap<>();

    /** A message as the reader finds it: its plain text, its HTML, and its files by name. */
    private record Read(Message message, String text, String html, Map<String, byte[]> files, Set<String> types) {}

    @BeforeAll
    static void readAll() throws Exception {
        world = new World(1).until(2000, END);
        for (World.PlacedLetter placed : world) {
            if (!READ.containsKey(placed.letter().id())) {
                READ.put(placed.letter().id(), read(placed.letter()));
            }
        }
    }

    private static Read read(Letter letter) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        LetterWriter.mime(letter).writeTo(out);
        DefaultMessageBuilder builder = new DefaultMessageBuilder();
        builder.setMimeEntityConfig(MimeConfig.PERMISSIVE);
        Message message = builder.parseMessage(new ByteArrayInputStream(out.toByteArray()));
        Map<String, byte[]> files = new HashMap<>();
        Set<String> types = new TreeSet<>();
        Map<String, String> texts = new HashMap<>();
        collect(message, files, types, texts);
        return new Read(
                message,
                texts.getOrDefault("text/plain", "").replace("\r\n", "\n"),
                texts.getOrDefault("text/html", ""),
                files,
                types);
    }

    private static void collect(Entity entity, Map<String, byte[]> files, Set<String> types, Map<String, String> texts)
            throws IOException {
        Body body = entity.getBody();
        types.add(entity.getMimeType());
        if (body instanceof Multipart parts) {
            for (Entity part : parts.getBodyParts()) {
                collect(part, files, types, texts);
            }
        } else if (body instanceof SingleBody single) {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            single.writeTo(bytes);
            if (entity.getFilename() != null) {
                files.put(entity.getFilename(), bytes.toByteArray());
            } else if (body instanceof TextBody text) {
                texts.putIfAbsent(entity.getMimeType(), new String(bytes.toByteArray(), text.getMimeCharset()));
            }
        }
    }

    @Test
    void theSameSeedWritesTheSameMail() {
        assertThat(new World(5).until(100, END)).isEqualTo(new World(5).until(100, END));
        assertThat(new World(5).until(100, END)).isNotEqualTo(new World(6).until(100, END));
    }

    @Test
    void everyAddressOfTheUserGetsMailAndSomeIsFiled() {
        assertThat(world).hasSizeBetween(2000, 2040);
        assertThat(world.stream().map(World.PlacedLetter::deliveredTo).distinct())
                .contains(
                        "tilda.marwick@lanternquay.example",
                        "loans@lanternquay.example",
                        "press@lanternquay.example",
                        "schools@lanternquay.example",
                        "desk@northlights-tour.example",
                        "secretary@brackwater-rowing.example",
                        "regatta@brackwater-rowing.example",
                        "tilda@marwick-post.example",
                        "tilda+shop@marwick-post.example",
                        "tilda+travel@marwick-post.example");
        assertThat(world.stream().map(World.PlacedLetter::folder).distinct())
                .contains("INBOX", "Sent", "Loans/Kestrel Island");
        assertThat(world.stream().map(placed -> placed.letter().date()).max(Comparator.naturalOrder()))
                .hasValueSatisfying(last -> assertThat(last).isBeforeOrEqualTo(END));
    }

    @Test
    void whatIsReadIsWhatWasWritten() {
        for (World.PlacedLetter placed : world) {
            Letter letter = placed.letter();
            Read read = of(letter);
            assertThat(read.message().getSubject()).isEqualTo(letter.subject());
            assertThat(read.message().getMessageId()).isEqualTo("<" + letter.id() + ">");
            assertThat(read.message().getFrom().get(0).getName())
                    .isEqualTo(letter.from().name());
            assertThat(read.message().getDate().toInstant().getEpochSecond())
                    .isEqualTo(letter.date().getEpochSecond());
            if (letter.layout().isEmpty()) {
                assertThat(read.text().strip()).isEqualTo(Prose.whole(letter).strip());
            } else {
                assertThat(words(Jsoup.parse(read.html()).text()))
                        .as(letter.subject())
                        .contains(words(read.text()).substring(0, 25));
            }
        }
    }

    private static Read of(Letter letter) {
        return Objects.requireNonNull(READ.get(letter.id()));
    }

    private static String words(String text) {
        return text.replaceAll("[^\\p{L}\\p{N}]+", " ").strip();
    }

    @Test
    void nothingIsLeftUnfilledAndNobodyIsReal() {
        for (Read read : READ.values()) {
            String all = read.message().getSubject()
                    + read.text()
                    + Jsoup.parse(read.html()).body().html();
            assertThat(all).doesNotContain("{", "}", "null", "%s");
            for (Pattern pattern : List.of(ADDRESS, LINK)) {
                assertThat(pattern.matcher(all).results().map(found -> found.group(1)))
                        .as(all)
                        .allMatch(name -> name.endsWith(".example"));
            }
        }
    }

    @Test
    void everyDayThatIsWrittenFallsOnItsWeekday() {
        Map<Language, Pattern> days = new EnumMap<>(Language.class);
        for (Language language : Language.values()) {
            days.put(
                    language,
                    Pattern.compile("(?iu)(%s)[,.]? (\\d+)(?:er|\\.)?(?: de)? (%s)"
                            .formatted(names(language, "EEEE"), names(language, "MMMM"))));
        }
        AtomicInteger checked = new AtomicInteger();
        for (World.PlacedLetter placed : world) {
            LocalDate written = placed.letter().date().atZone(World.ZONE).toLocalDate();
            days.forEach((language, pattern) -> {
                Matcher day = pattern.matcher(of(placed.letter()).text());
                while (day.find()) {
                    checked.incrementAndGet();
                    assertThat(existsNear(day, language, written))
                            .as("%s in “%s”", day.group(), placed.letter().subject())
                            .isTrue();
                }
            });
        }
        assertThat(checked.get()).isGreaterThan(800);
    }

    private static String names(Language language, String pattern) {
        Set<String> names = new HashSet<>();
        for (int i = 0; i < 366; i++) {
            names.add(name(LocalDate.of(2026, 1, 1).plusDays(i), pattern, language));
        }
        return String.join("|", names);
    }

    /** Whether the weekday is right in one of the years around the letter, at most some fourteen months from it. */
    private static boolean existsNear(Matcher day, Language language, LocalDate written) {
        for (int year = written.getYear() - 1; year <= written.getYear() + 1; year++) {
            for (int month = 1; month <= 12; month++) {
                try {
                    LocalDate date = LocalDate.of(year, month, Integer.parseInt(day.group(2)));
                    if (name(date, "MMMM", language).equalsIgnoreCase(day.group(3))
                            && name(date, "EEEE", language).equalsIgnoreCase(day.group(1))
                            && Math.abs(date.toEpochDay() - written.toEpochDay()) < 430) {
                        return true;
                    }
                } catch (DateTimeException e) {
                    // There is no such day in this month.
                }
            }
        }
        return false;
    }

    private static String name(LocalDate date, String pattern, Language language) {
        return DateTimeFormatter.ofPattern(pattern, language.locale()).format(date);
    }

    @Test
    void whoSignsIsWhoWrites() {
        for (World.PlacedLetter placed : world) {
            Person from = placed.letter().from();
            if (!from.is("auto") && !from.is("list")) {
                String own = of(placed.letter()).text().split("(?m)^(-- $|> )", 2)[0];
                String last = from.signOff().substring(from.signOff().lastIndexOf('\n') + 1);
                assertThat(own).contains(last);
            }
        }
    }

    @Test
    void everyQuotedLineStandsInALetterBeforeIt() {
        int quotations = 0;
        for (World.PlacedLetter placed : world) {
            Letter letter = placed.letter();
            if (letter.below() != Letter.Below.QUOTED || !letter.layout().isEmpty() || letter.answered() == null) {
                continue;
            }
            quotations++;
            String before = flat(Prose.whole(letter.answered()));
            for (String line : of(letter).text().lines().toList()) {
                if (line.startsWith("> ")) {
                    assertThat(before).contains(flat(line.substring(2)));
                }
            }
        }
        assertThat(quotations).isGreaterThan(80);
    }

    private static String flat(String text) {
        return text.replaceAll("\\s+", " ").strip();
    }

    @Test
    void conversationsAreKnownByTheirHeadersAndNobodyAnswersTooEarly() {
        Map<String, Integer> sizes = new HashMap<>();
        Map<String, Instant> dates = world.stream()
                .collect(Collectors.toMap(
                        one -> one.letter().id(), one -> one.letter().date(), (a, b) -> a));
        Set<String> counted = new HashSet<>();
        for (World.PlacedLetter placed : world) {
            List<String> references = placed.letter().references();
            String header = of(placed.letter()).message().getHeader().getFields("References").stream()
                    .map(field -> field.getBody().replaceAll("\\s+", " "))
                    .collect(Collectors.joining());
            assertThat(header)
                    .isEqualTo(references.stream().map(id -> "<" + id + ">").collect(Collectors.joining(" ")));
            for (String id : references) {
                assertThat(dates.get(id))
                        .as(id)
                        .isNotNull()
                        .isBefore(placed.letter().date());
            }
            String root = references.isEmpty() ? placed.letter().id() : references.get(0);
            if (counted.add(placed.letter().id())) {
                sizes.merge(root, 1, Integer::sum);
            }
        }
        long single = sizes.values().stream().filter(size -> size == 1).count();
        assertThat(single).as("of %d conversations", sizes.size()).isLessThan(sizes.size() / 2);
        assertThat(sizes.values().stream().max(Comparator.naturalOrder()).orElse(0))
                .isGreaterThan(6);
    }

    @Test
    void documentsSayWhatTheirLettersSay() throws Exception {
        int documents = 0;
        int sums = 0;
        for (Map.Entry<String, Read> one : READ.entrySet()) {
            String letter =
                    one.getValue().message().getSubject() + one.getValue().text();
            for (Map.Entry<String, byte[]> file : one.getValue().files().entrySet()) {
                if (!file.getKey().endsWith(".pdf")) {
                    continue;
                }
                documents++;
                try (PDDocument document = Loader.loadPDF(file.getValue())) {
                    String text = new PDFTextStripper().getText(document);
                    assertThat(text.length()).isGreaterThan(60);
                    assertThat(text).doesNotContain("{", "}", "?");
                    Matcher code = CODE.matcher(file.getKey());
                    while (code.find()) {
                        assertThat(text).as(file.getKey()).contains(code.group());
                    }
                    sums += addsUp(text);
                    Matcher due = Pattern.compile("To pay: ?(€[\\d,.]*\\d)").matcher(text);
                    if (due.find() && letter.contains("€")) {
                        assertThat(letter).contains(due.group(1));
                    }
                }
            }
        }
        assertThat(documents).isGreaterThan(120);
        assertThat(sums).isGreaterThan(20);
    }

    /** Whether the sums above “Together” or “Paid out” make it; 1 if there was something to add. */
    private static int addsUp(String text) {
        BigDecimal sum = BigDecimal.ZERO;
        boolean adding = false;
        for (String line : text.split("\\R", -1)) {
            List<BigDecimal> amounts = new ArrayList<>();
            Matcher amount = Pattern.compile("€([\\d,.]+)").matcher(line);
            while (amount.find()) {
                amounts.add(new BigDecimal(amount.group(1).replace(",", "").replaceAll("\\.$", "")));
            }
            BigDecimal last = amounts.isEmpty() ? BigDecimal.ZERO : amounts.get(amounts.size() - 1);
            if (line.startsWith("What ")) {
                adding = true;
            } else if (adding && line.startsWith("Together")) {
                assertThat(last).as(text).isEqualByComparingTo(sum);
                return 1;
            } else if (adding) {
                sum = sum.add(last);
            }
        }
        return 0;
    }

    @Test
    void picturesArePicturesAndInvitationsNameTheirDay() throws Exception {
        int pictures = 0;
        int invitations = 0;
        for (Read read : READ.values()) {
            for (Map.Entry<String, byte[]> file : read.files().entrySet()) {
                if (file.getKey().matches(".*\\.(jpg|png)")) {
                    BufferedImage image = ImageIO.read(new ByteArrayInputStream(file.getValue()));
                    assertThat(image.getWidth()).isGreaterThan(300);
                    assertThat(file.getValue().length).isBetween(3_000, 300_000);
                    pictures++;
                } else if (file.getKey().endsWith(".ics")) {
                    String calendar = new String(file.getValue(), java.nio.charset.StandardCharsets.UTF_8);
                    assertThat(calendar).contains("METHOD:REQUEST\r\n", "DTSTART:2", "END:VCALENDAR\r\n");
                    invitations++;
                }
            }
        }
        assertThat(pictures).isGreaterThan(60);
        assertThat(invitations).isGreaterThan(8);
    }

    @Test
    void thereIsSomethingOfEverything() {
        Set<String> charsets = new TreeSet<>();
        Set<String> types = new TreeSet<>();
        Set<Language> languages = new HashSet<>();
        for (World.PlacedLetter placed : world) {
            Read read = of(placed.letter());
            types.addAll(read.types());
            charsets.add(String.valueOf(read.message().getCharset()).toLowerCase(java.util.Locale.ROOT));
            languages.add(placed.letter().language());
        }
        assertThat(languages).containsExactlyInAnyOrder(Language.values());
        assertThat(charsets).contains("utf-8", "iso-8859-1", "iso-8859-7", "iso-2022-jp");
        assertThat(types)
                .contains(
                        "application/pdf",
                        "image/jpeg",
                        "image/png",
                        "message/delivery-status",
                        "message/rfc822",
                        "multipart/alternative",
                        "multipart/mixed",
                        "multipart/related",
                        "multipart/report",
                        "text/calendar",
                        "text/csv",
                        "text/html");
        assertThat(world.stream().filter(placed -> !placed.read()).count()).isBetween(60L, 400L);
    }

    @Test
    void fewSentencesComeOften() {
        Map<String, Integer> uses = new HashMap<>();
        for (World.PlacedLetter placed : world) {
            for (String sentence : placed.letter().text().split("[.?!]\\s+|\\n", -1)) {
                if (sentence.strip().length() > 12) {
                    uses.merge(sentence.strip(), 1, Integer::sum);
                }
            }
        }
        assertThat(uses.size()).isGreaterThan(1_800);
        assertThat(uses.values().stream().mapToInt(Integer::intValue).sum() / (double) uses.size())
                .isLessThan(4);
        assertThat(world.stream()
                        .mapToInt(one -> one.letter().text().length())
                        .max()
                        .orElse(0))
                .isGreaterThan(1_500);
    }

    @Test
    void whatComesNextReachesSomebodyHere() {
        World lively = new World(3);
        for (int i = 0; i < 200; i++) {
            Letter next = lively.next(END);
            assertThat(lively.deliveredTo(next)).isNotEmpty();
            assertThat(next.date()).isEqualTo(END);
        }
    }
}
