package app.schublade.standin;

import jakarta.mail.internet.InternetAddress;
import java.io.UnsupportedEncodingException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;

/** Writes the mail of the demo world: the same seed and the same end give the same mail. */
final class WorldWriter {
    private static final Duration SPAN = Duration.ofDays(3 * 365);
    private static final Duration OLD = Duration.ofDays(75);

    private final List<Template> templates = Template.all();
    private final int allWeights = templates.stream().mapToInt(Template::weight).sum();
    private final Random random;
    private long count;

    WorldWriter(long seed) {
        this.random = new Random(seed);
    }

    /** A letter and where it lies: in the Inbox, in the folder the user filed it into, or in Sent. */
    record Placed(DemoAccount account, String folder, Letter letter, boolean read, boolean flagged) {}

    /** About so many messages over three years, oldest first, more of them lately than long ago. */
    List<Placed> world(int messages, Instant end) {
        List<Placed> all = new ArrayList<>();
        while (all.size() < messages) {
            Template template = choose();
            double age = Math.pow(random.nextDouble(), 2.2);
            Instant date = end.minusMillis((long) (age * SPAN.toMillis()) + 60_000);
            thread(template, date, end, all);
        }
        all.sort(Comparator.comparing(placed -> placed.letter().date()));
        return all;
    }

    /** One new letter, as of now. */
    Letter next(Instant now) {
        return write(choose(), now, null);
    }

    private void thread(Template template, Instant start, Instant end, List<Placed> all) {
        int answers = random.nextInt(3) == 0 ? random.nextInt(template.number("thread", 0) + 1) : 0;
        Letter letter = write(template, start, null);
        all.add(place(template, letter, end));
        Instant date = start;
        for (int i = 0; i < answers; i++) {
            date = date.plusSeconds(3600L + random.nextInt(100_000));
            if (date.isAfter(end)) {
                return;
            }
            boolean mine = i % 2 == 0;
            letter = mine ? reply(template, letter, date) : write(template, date, letter);
            all.add(mine ? sent(letter) : place(template, letter, end));
        }
    }

    private Template choose() {
        int at = random.nextInt(allWeights);
        for (Template template : templates) {
            at -= template.weight();
            if (at < 0) {
                return template;
            }
        }
        throw new IllegalStateException("weights do not add up");
    }

    private Letter write(Template template, Instant date, @Nullable Letter answered) {
        String subject = answered == null
                ? Template.fill(template.subject(), random)
                : "Re: " + answered.subject().replaceFirst("^Re: ", "");
        String id = "%d.%x@%s"
                .formatted(
                        ++count,
                        random.nextInt(),
                        template.address().substring(template.address().indexOf('@') + 1));
        return new Letter(
                id,
                from(template),
                template.to(),
                subject,
                Template.fill(template.text(), random),
                date,
                template.options().get("list"),
                template.options().containsKey("auto"),
                template.options().containsKey("priority"),
                template.options().containsKey("html"),
                template.options().getOrDefault("charset", "utf-8"),
                random.nextInt(3) == 0 ? template.attachments() : List.of(),
                answered == null ? null : answered.id());
    }

    private Letter reply(Template template, Letter answered, Instant date) {
        DemoAccount account = DemoAccount.receiving(template.to()).orElseThrow();
        return new Letter(
                "%d.reply@%s"
                        .formatted(
                                ++count,
                                account.address().substring(account.address().indexOf('@') + 1)),
                address(account.address(), "Tilda Marwick"),
                answered.from().getAddress(),
                "Re: " + answered.subject().replaceFirst("^Re: ", ""),
                Template.fill(
                        "Thank you, {I will see to it by {day}|that is fine with me|I shall ask and write again}.\n\nTilda\n",
                        random),
                date,
                null,
                false,
                false,
                false,
                "utf-8",
                List.of(),
                answered.id());
    }

    private InternetAddress from(Template template) {
        return address(Template.fill(template.address(), random), Template.fill(template.name(), random));
    }

    private static InternetAddress address(String address, String name) {
        try {
            return new InternetAddress(address, name, StandardCharsets.UTF_8.name());
        } catch (UnsupportedEncodingException e) {
            throw new IllegalStateException(e);
        }
    }

    private static Placed sent(Letter letter) {
        DemoAccount account = DemoAccount.receiving(letter.from().getAddress()).orElseThrow();
        return new Placed(account, "Sent", letter, true, false);
    }

    private Placed place(Template template, Letter letter, Instant end) {
        DemoAccount account = DemoAccount.receiving(template.to()).orElseThrow();
        Duration age = Duration.between(letter.date(), end);
        String folder = template.options().get("folder");
        boolean filed = folder != null && age.compareTo(OLD) > 0 && random.nextInt(4) > 0;
        double unread = Double.parseDouble(template.options().getOrDefault("unread", "0.25"));
        boolean recent = age.compareTo(Duration.ofDays(14)) < 0;
        boolean read = filed || random.nextDouble() > (recent ? unread : unread / 30);
        return new Placed(
                account, filed && folder != null ? folder : "INBOX", letter, read, !filed && random.nextInt(90) == 0);
    }
}
