package app.schublade.core.format;

import static java.time.ZoneOffset.UTC;
import static java.time.format.DateTimeFormatter.RFC_1123_DATE_TIME;

import app.schublade.core.message.Address;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.Trait;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * A message that is being written.
 *
 * @param text what it says, as plain text
 * @param html the same with its formatting ({@link WrittenHtml}), or null
 * @param inReplyTo the Message-ID of what it answers, without angle brackets; null if it answers nothing
 * @param references those of the conversation, the oldest first
 * @param origin who writes it
 * @param enclosed what it passes on, or null
 * @param files what goes along with it
 */
public record OutgoingMessage(
        Address from,
        List<Address> to,
        List<Address> cc,
        String subject,
        String text,
        @Nullable String html,
        @Nullable String inReplyTo,
        List<String> references,
        Origin origin,
        @Nullable EnclosedMessage enclosed,
        List<AttachedFile> files) {
    /** So much of what is answered is quoted, in characters. */
    private static final int MAX_QUOTED = 20_000;

    private static final int MAX_REFERENCES = 50;
    private static final int MAX_BLIND = 200;
    /** Through so many rules a message may go, of whomever. */
    private static final int MAX_PASSES = 5;

    private static final Pattern TYPE = Pattern.compile("[a-z0-9.+-]{1,60}/[a-z0-9.+-]{1,100}");

    private static final String ANSWER = "Re: ";
    private static final String AUTOMATIC = "Auto: ";
    private static final String FORWARD = "Fwd: ";
    /** Names the addresses that have passed a message on, so that it does not go in a circle. */
    static final String PASSED_ON_BY = "Schublade-Passed-On-By";
    /** Addresses that stand for no person; besides those of {@link Reading}. */
    private static final Pattern NOBODY = Pattern.compile("(owner-.*|.*-(request|owner|bounces))@.*");

    public OutgoingMessage {
        to = List.copyOf(to);
        cc = List.copyOf(cc);
        references = List.copyOf(references);
        files = List.copyOf(files);
    }

    /** Of a message that a person writes. */
    public OutgoingMessage(
            Address from,
            List<Address> to,
            List<Address> cc,
            String subject,
            String text,
            @Nullable String inReplyTo,
            List<String> references) {
        this(from, to, cc, subject, text, null, inReplyTo, references, Origin.PERSON, null, List.of());
    }

    /** What this program has to tell its user. */
    public static OutgoingMessage toSelf(Address self, String subject, String text) {
        return new OutgoingMessage(
                self,
                List.of(new Address("", self.email())),
                List.of(),
                subject,
                text,
                null,
                null,
                List.of(),
                Origin.PROGRAM,
                null,
                List.of());
    }

    /** Who writes a message. */
    public enum Origin {
        PERSON,
        /** A rule that answers. */
        ANSWERING_RULE,
        /** A rule that passes mail on. */
        FORWARDING_RULE,
        /** This program, to its own user. */
        PROGRAM
    }

    /**
     * A message that is passed on.
     *
     * @param source as it came (RFC 5322)
     * @param attached whether it goes along as it is; else only its files do
     * @param passedOnBy addresses, if rules passed it on; the last is that of the sender
     */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    public record EnclosedMessage(byte[] source, boolean attached, List<String> passedOnBy) {}

    /**
     * A file.
     *
     * @param type its media type (RFC 2046); a message goes along as it is
     * @param contentId by which the text shows it where it stands (RFC 2392); null if it goes along beside the text
     */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    public record AttachedFile(
            String name,
            String type,
            byte[] content,
            @Nullable String contentId) {
        /** A file that goes along beside the text. */
        public AttachedFile(String name, String type, byte[] content) {
            this(name, type, content, null);
        }

        /** A file that somebody has: its name such that it can be saved anywhere, its type one that is possible. */
        public static AttachedFile of(String name, String type, byte[] content) {
            String clean = FileNames.clean(name);
            String known = type.isBlank() ? FileNames.type(name) : type.toLowerCase(Locale.ROOT);
            boolean message = known.equals(Part.MESSAGE); // It is not looked into whether it is one.
            return new AttachedFile(
                    clean == null ? FileNames.of(1, known) : clean,
                    message || !TYPE.matches(known) ? "application/octet-stream" : known,
                    content);
        }
    }

    /** The pictures that stand in its text: without formatting, none does, and none goes along. */
    List<AttachedFile> pictures() {
        return files.stream().filter(this::isShown).toList();
    }

    /** What goes along beside its text. */
    List<AttachedFile> attached() {
        return files.stream().filter(file -> file.contentId == null).toList();
    }

    /** How large it will be when it is written, in bytes: what goes along is written in four signs for three bytes, in lines (RFC 2045, section 6.8). */
    public long estimatedSize() {
        long within = files.stream()
                .filter(file -> file.contentId == null || isShown(file))
                .mapToLong(file -> file.content.length)
                .sum();
        long passedOn = enclosed == null ? 0 : enclosed.source().length;
        return text.length() + (html == null ? 0 : html.length()) + passedOn + within * 4 / 3 * 78 / 76;
    }

    private boolean isShown(AttachedFile file) {
        return html != null && file.contentId != null && html.contains("\"cid:" + file.contentId + '"');
    }

    /** The same with what it passes on. */
    public OutgoingMessage enclosing(EnclosedMessage other) {
        return new OutgoingMessage(from, to, cc, subject, text, html, inReplyTo, references, origin, other, files);
    }

    /** The same with files. */
    public OutgoingMessage with(List<AttachedFile> others) {
        return new OutgoingMessage(from, to, cc, subject, text, html, inReplyTo, references, origin, enclosed, others);
    }

    /** The same with its text formatted; null takes that away. */
    public OutgoingMessage formatted(@Nullable String written) {
        return new OutgoingMessage(
                from, to, cc, subject, text, written, inReplyTo, references, origin, enclosed, files);
    }

    /**
     * A message that a rule passes on; none if it has been passed on from this account already, and has come back.
     *
     * @param name of the user
     * @param source of the message
     * @param text what is written above it
     */
    public static Optional<OutgoingMessage> forward(
            ParsedMail mail,
            OwnAddresses own,
            String name,
            List<Address> to,
            byte[] source,
            boolean attached,
            String text) {
        List<String> passed = new ArrayList<>(mail.headers().values(PASSED_ON_BY));
        if (passed.size() >= MAX_PASSES || passed.stream().anyMatch(own.main()::equalsIgnoreCase)) {
            return Optional.empty();
        }
        passed.add(own.main());
        return Optional.of(new OutgoingMessage(
                new Address(name, own.main()),
                to,
                List.of(),
                FORWARD + mail.subject(),
                attached ? text : (text.isBlank() ? "" : text.strip() + "\n\n") + passedOn(mail, written(mail)),
                null,
                null,
                List.of(),
                Origin.FORWARDING_RULE,
                new EnclosedMessage(source, attached, passed),
                List.of()));
    }

    /**
     * The beginning of a message that a person passes on: from the address that it came to, with its text and its files.
     *
     * @param name of the user
     * @param when how the time of the message is said
     */
    public static OutgoingMessage passingOn(ParsedMail mail, OwnAddresses own, String name, String when) {
        String alias = own.aliasIn(own.among(mail.recipients()));
        Carried carried = Carried.of(mail);
        return new OutgoingMessage(
                        new Address(name, alias == null ? own.main() : alias),
                        List.of(),
                        List.of(),
                        begun(FORWARD, mail.subject()),
                        "\n\n" + passedOn(mail, when),
                        null,
                        List.of())
                .formatted(WrittenHtml.of(passedOnHead(mail, when)) + WrittenHtml.quotable(mail, carried.pictures))
                .with(carried.files);
    }

    /**
     * What goes along with a message that is written on or passed on.
     *
     * @param files its files, and the pictures of its text
     * @param pictures how these are called there, and here
     */
    private record Carried(List<AttachedFile> files, Map<String, String> pictures) {
        static Carried of(ParsedMail mail) {
            Map<String, String> pictures = new LinkedHashMap<>();
            List<AttachedFile> files = new ArrayList<>();
            for (Part part : mail.parts()) {
                String known = part.role() == PartRole.PICTURE ? part.contentId() : null;
                String id = known == null ? null : pictureId();
                if (id != null) {
                    pictures.put(known, id);
                }
                if (id != null || part.role() == PartRole.FILE) {
                    files.add(new AttachedFile(part.name(), part.type(), part.content(), id));
                }
            }
            return new Carried(files, pictures);
        }
    }

    /**
     * A draft that another program has left, as it is written on.
     *
     * @param name of the user
     */
    public static OutgoingMessage resumed(ParsedMail mail, OwnAddresses own, String name) {
        List<String> mine = own.among(List.of(mail.from()));
        List<String> thread = mail.references();
        Carried carried = Carried.of(mail);
        String answered = mail.headers().values("In-Reply-To").stream()
                .findFirst()
                .map(field -> field.strip().replaceAll("^<|>$", ""))
                .filter(id -> !id.isEmpty())
                .orElse(null);
        return new OutgoingMessage(
                        new Address(name, mine.isEmpty() ? own.main() : mine.get(0)),
                        mail.to(),
                        mail.cc(),
                        mail.subject(),
                        mail.text(),
                        answered,
                        thread)
                .formatted(mail.html() == null ? null : WrittenHtml.quotable(mail, carried.pictures))
                .with(carried.files);
    }

    /** Who is to get a draft without the others' knowing. */
    public static List<Address> blindCopies(ParsedMail draft) {
        return draft.headers().values("Bcc").stream()
                .flatMap(field -> AddressFields.read(field, MAX_BLIND).stream())
                .toList();
    }

    /** What a picture in a text is called by that is like no other (RFC 2045, section 7). */
    public static String pictureId() {
        return UUID.randomUUID() + "@inline";
    }

    /** A message as a file, as it came. */
    public static AttachedFile asItCame(ParsedMail mail, byte[] source) {
        return new AttachedFile(FileNames.ofMessage(mail.subject()), Part.MESSAGE, source);
    }

    /** A subject with a word before it that stands there once. */
    private static String begun(String word, String subject) {
        return subject.toLowerCase(Locale.ROOT).startsWith(word.strip().toLowerCase(Locale.ROOT))
                ? subject
                : word + subject;
    }

    /** The text of a message with what one wants to know of where it came from. */
    private static String passedOn(ParsedMail mail, String when) {
        return "%s\n\n%s\n".formatted(passedOnHead(mail, when), mail.text().strip());
    }

    private static String passedOnHead(ParsedMail mail, String when) {
        String to = MailWriter.typed(mail.to());
        return "Forwarded from %s\nWritten %s%s\nSubject: %s"
                .formatted(
                        MailWriter.typed(List.of(mail.from())), when, to.isEmpty() ? "" : ", to " + to, mail.subject());
    }

    private static String written(ParsedMail mail) {
        return mail.sent() == null
                ? "at an unknown time"
                : RFC_1123_DATE_TIME.format(mail.sent().atOffset(UTC));
    }

    /**
     * An answer that no person writes (RFC 3834, sections 2 and 3); none to robots, lists, oneself, or mail that names no
     * address of the user's own.
     *
     * @param name of the user
     */
    public static Optional<OutgoingMessage> automatic(ParsedMail mail, OwnAddresses own, String name, String text) {
        List<Address> named = new ArrayList<>(mail.to());
        named.addAll(mail.cc());
        List<String> mine = own.among(named);
        String sender = mail.from().key();
        boolean person = sender.contains("@")
                && !NOBODY.matcher(sender).matches()
                && own.among(List.of(mail.from())).isEmpty()
                && !Reading.traits(own, mail).contains(Trait.AUTOMATED);
        if (mine.isEmpty() || !person) {
            return Optional.empty();
        }
        return Optional.of(new OutgoingMessage(
                new Address(name, mine.get(0)),
                List.of(mail.from()),
                List.of(),
                AUTOMATIC + mail.subject(),
                text,
                null,
                mail.messageId().isEmpty() ? null : mail.messageId(),
                thread(mail),
                Origin.ANSWERING_RULE,
                null,
                List.of()));
    }

    /** The ids of the conversation with the message at the end (RFC 5322, section 3.6.4). */
    private static List<String> thread(ParsedMail mail) {
        List<String> references = new ArrayList<>(mail.references());
        if (!mail.messageId().isEmpty()) {
            references.add(mail.messageId());
        }
        return references.subList(Math.max(0, references.size() - MAX_REFERENCES), references.size());
    }

    /**
     * The beginning of an answer (RFC 5322, section 3.6.4): from the address that the message came to, to whom it wants
     * the answer, or to everybody.
     *
     * @param name of the user
     * @param when how the time of the message is said
     * @param marked what alone of it is quoted; empty for all of it
     */
    public static OutgoingMessage answer(
            ParsedMail mail, OwnAddresses own, String name, boolean all, String when, String marked) {
        List<String> mine = own.among(mail.recipients());
        String alias = own.aliasIn(mine);
        boolean wrote = !own.among(List.of(mail.from())).isEmpty();
        List<Address> to = wrote ? mail.to() : mail.replyTo().isEmpty() ? List.of(mail.from()) : mail.replyTo();
        Map<String, Address> others = new LinkedHashMap<>();
        if (all) {
            List<Address> copied = new ArrayList<>(wrote ? List.of() : mail.to());
            copied.addAll(mail.cc());
            copied.stream()
                    .filter(one -> own.among(List.of(one)).isEmpty())
                    .forEach(one -> others.putIfAbsent(one.key(), one));
            to.forEach(one -> others.remove(one.key()));
        }
        String whoWrote = "%s, %s wrote:".formatted(when, mail.from().shown());
        return new OutgoingMessage(
                        new Address(name, alias == null ? own.main() : alias),
                        to,
                        List.copyOf(others.values()),
                        begun(ANSWER, mail.subject()),
                        quoted(marked.isBlank() ? mail.text() : marked, whoWrote),
                        mail.messageId().isEmpty() ? null : mail.messageId(),
                        thread(mail))
                .formatted("%s<blockquote>%s</blockquote>"
                        .formatted(
                                WrittenHtml.of(whoWrote),
                                marked.isBlank() ? WrittenHtml.quotable(mail, Map.of()) : WrittenHtml.of(marked)));
    }

    private static String quoted(String words, String whoWrote) {
        String text = words.strip();
        boolean cut = text.length() > MAX_QUOTED;
        String lines = (cut ? text.substring(0, MAX_QUOTED) : text)
                .lines()
                .map(line -> line.startsWith(">") ? ">" + line : "> " + line)
                .collect(Collectors.joining("\n"));
        return "\n\n%s\n%s%s\n".formatted(whoWrote, lines, cut ? "\n> …" : "");
    }
}
