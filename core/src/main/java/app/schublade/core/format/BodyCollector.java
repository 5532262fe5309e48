package app.schublade.core.format;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Walks the parts of a message. Its body is all text that a reader is to see, once: every text part that is no attachment, in its
 * order; of alternatives (RFC 2046, section 5.1.4) one. All other parts are files of some {@linkplain PartRole role}; a text with a
 * file name is both. Where all text is attached, the first of it is shown as the body too.
 */
final class BodyCollector {
    /** What is read as it stands. */
    private static final Set<String> PLAIN = Set.of(
            "text/plain",
            "text/markdown",
            "text/x-markdown",
            "text/enriched",
            "text/richtext",
            "text/x-diff",
            "text/x-patch");

    private static final int MAX_BYTES_OF_CHAR = 4;
    /** Of what a report says to programs so much is read. */
    private static final int MAX_REPORT = 64 * 1024;

    /** Of a message in a message so much is read for its name. */
    private static final int MAX_INNER_HEADER = 32 * 1024;

    /** One may lie in another: so many are unwrapped in a message. */
    private static final int MOST_UNWRAPPED = 5;

    private final MimeLimits limits;
    private final Collection<String> cuts;
    private final List<BodyText> texts = new ArrayList<>();
    private final List<Found> files = new ArrayList<>();
    private final Set<String> notes = new LinkedHashSet<>();
    private @Nullable Invitation invitation;
    private @Nullable MimeEntity textInFile;
    private int unwrapped;
    private int plainChars;
    private int htmlChars;

    private BodyCollector(MimeLimits limits, Collection<String> cuts) {
        this.limits = limits;
        this.cuts = cuts;
    }

    /** Something that is not the text. */
    private record Found(
            @Nullable String name,
            String type,
            PartRole role,
            @Nullable String contentId,
            Part.Content content) {
        Part numbered(int number, Set<String> shown) {
            boolean inPlace =
                    role == PartRole.FILE && Part.isPicture(type) && contentId != null && shown.contains(contentId);
            String called = name == null ? FileNames.of(number, Part.usual(type)) : name;
            return new Part(number, called, type, inPlace ? PartRole.PICTURE : role, contentId, content);
        }
    }

    /** @param cuts gets a sentence for all that was left out */
    static MailBody collect(MimeEntity message, MimeLimits limits, Collection<String> cuts) {
        BodyCollector collector = new BodyCollector(limits, cuts);
        collector.walk(message, collector.texts, null);
        if (collector.texts.isEmpty() && collector.textInFile != null) {
            collector.takeText(collector.textInFile, collector.texts);
        }
        return collector.body();
    }

    private MailBody body() {
        Set<String> shown = new HashSet<>();
        texts.stream().map(BodyText::html).filter(Objects::nonNull).forEach(html -> shown.addAll(ContentIds.in(html)));
        List<Part> parts = new ArrayList<>();
        files.forEach(file -> parts.add(file.numbered(parts.size() + 1, shown)));
        List<BodyText.Said> said = texts.stream().map(BodyText::said).toList();
        return new MailBody(
                said.stream().map(BodyText.Said::text).collect(Collectors.joining("\n\n")),
                said.stream().map(BodyText.Said::words).collect(Collectors.joining("\n\n")),
                texts.stream().anyMatch(BodyText::isHtml)
                        ? texts.stream().map(BodyText::asHtml).collect(Collectors.joining("\n"))
                        : null,
                parts,
                List.copyOf(notes),
                invitation);
    }

    /** @param role what it is by where it stands; null if that says nothing */
    private void walk(MimeEntity entity, List<BodyText> into, @Nullable PartRole role) {
        if (!entity.hasParts()) {
            take(entity, into, role);
            return;
        }
        switch (entity.type()) {
            case "multipart/alternative" -> into.addAll(best(entity));
            case "multipart/report" -> {
                for (int i = 0; i < entity.parts().size(); i++) {
                    walk(entity.parts().get(i), into, i == 0 ? role : PartRole.REPORT);
                }
            }
            case "multipart/encrypted" -> {
                notes.add(ArmoredText.ENCRYPTED);
                entity.parts().forEach(part -> walk(part, into, PartRole.WRAPPER));
            }
            default -> entity.parts().forEach(part -> walk(part, into, role));
        }
    }

    /** The first plain text, and the last HTML: the alternatives stand from the plainest to the one that says most. */
    private List<BodyText> best(MimeEntity alternatives) {
        String plain = null;
        String html = null;
        List<BodyText> withHtml = List.of();
        for (MimeEntity part : alternatives.parts()) {
            List<BodyText> found = new ArrayList<>();
            walk(part, found, roleAmongAlternatives(part));
            if (found.stream().anyMatch(BodyText::isHtml)) {
                withHtml = found;
            }
            for (BodyText text : found) {
                plain = plain == null && !text.isHtml() ? text.plain() : plain;
                html = text.isHtml() ? text.html() : html;
            }
        }
        if (withHtml.size() > 1) {
            return withHtml; // HTML with more around it: that as a whole is one alternative.
        }
        return plain == null && html == null ? List.of() : List.of(new BodyText(plain, html));
    }

    private static @Nullable PartRole roleAmongAlternatives(MimeEntity part) {
        String type = part.type();
        if (part.hasParts() || !type.startsWith("text/") || type.equals("text/plain") || type.equals("text/html")) {
            return null;
        }
        return isCalendar(type) ? PartRole.CALENDAR : PartRole.OTHER_FORM;
    }

    private void take(MimeEntity entity, List<BodyText> into, @Nullable PartRole role) {
        if (SecureMime.isWrapped(entity.type())) {
            takeSecure(entity, into);
        }
        boolean isText = isText(entity);
        boolean named = entity.fileName() != null;
        boolean isShown = role == null && isText && !entity.isAttached() && (!named || !isHtml(entity));
        if (isShown) {
            takeText(entity, into);
            if (!named) {
                return;
            }
        }
        boolean mayBeShown = role == null || role == PartRole.OTHER_FORM;
        textInFile = textInFile == null && mayBeShown && entity.type().startsWith("text/") && !isCalendar(entity.type())
                ? entity
                : textInFile;
        takeFile(entity, role);
    }

    /** What was signed is read as if it stood in the place of its wrapper. */
    private void takeSecure(MimeEntity wrapper, List<BodyText> into) {
        Optional<byte[]> content = unwrapped < MOST_UNWRAPPED ? SecureMime.content(wrapper) : Optional.empty();
        notes.add(content.isPresent() ? SecureMime.SIGNED_NOTE : SecureMime.note(wrapper));
        if (content.isPresent()) {
            unwrapped++;
            walk(MimeParser.parse(ByteBuffer.wrap(content.get()), limits, cuts), into, null);
        }
    }

    private static boolean isText(MimeEntity entity) {
        return PLAIN.contains(entity.type()) || isHtml(entity) || entity.saysPartsInVain();
    }

    private static boolean isHtml(MimeEntity entity) {
        return entity.type().equals("text/html");
    }

    private static boolean isCalendar(String type) {
        return type.equals("text/calendar") || type.equals("application/ics") || type.equals("text/x-vcalendar");
    }

    private void takeFile(MimeEntity entity, @Nullable PartRole given) {
        String name = entity.fileName();
        String type = entity.type();
        PartRole role = given == null ? PartRole.FILE : given;
        switch (type) {
            case "application/pgp-signature" -> {
                notes.add(ArmoredText.SIGNED);
                role = PartRole.SEAL;
            }
            case "application/pkcs7-signature", "application/x-pkcs7-signature" -> {
                notes.add(SecureMime.SIGNED_NOTE);
                role = PartRole.SEAL;
            }
            case "application/ms-tnef", "application/vnd.ms-tnef" -> {
                takeWrapped(entity);
                role = PartRole.WRAPPER;
            }
            case "message/delivery-status" -> {
                notes.addAll(DeliveryReport.ofDelivery(beginning(entity, MAX_REPORT)));
                role = PartRole.REPORT;
            }
            case "message/disposition-notification" -> {
                notes.addAll(DeliveryReport.ofReading(beginning(entity, MAX_REPORT)));
                role = PartRole.REPORT;
            }
            case "text/rfc822-headers" -> role = PartRole.REPORT;
            case Part.MESSAGE -> name = name == null ? innerName(entity) : name;
            default ->
                role = SecureMime.isWrapped(type)
                        ? PartRole.WRAPPER
                        : isCalendar(type) ? takeCalendar(entity, role) : role;
        }
        files.add(new Found(name, type, role, entity.contentId(), entity::open));
    }

    private PartRole takeCalendar(MimeEntity entity, PartRole role) {
        String calendar = beginning(entity, InvitationReader.MOST_CHARS);
        boolean isAboutInvitation = InvitationReader.saysMethod(calendar);
        if (invitation == null && (isAboutInvitation || role == PartRole.CALENDAR)) {
            invitation = InvitationReader.read(calendar).orElse(null);
        }
        return isAboutInvitation ? PartRole.CALENDAR : role;
    }

    private void takeWrapped(MimeEntity wrapper) {
        try (InputStream in = wrapper.open()) {
            WrappedFiles.of(in).forEach(this::takeExtracted);
        } catch (IOException e) {
            cuts.add("The wrapper that its files are in is broken; it is kept as it came.");
        }
    }

    private void takeExtracted(ExtractedFile file) {
        String name = FileNames.clean(EncodedWords.decode(file.name()));
        files.add(new Found(
                name, FileNames.type(name == null ? "" : name), PartRole.FILE, null, Part.Content.of(file.content())));
    }

    /** A message in a message is called by its subject. */
    private static String innerName(MimeEntity entity) {
        try (InputStream in = entity.open()) {
            ByteBuffer header = ByteBuffer.wrap(in.readNBytes(MAX_INNER_HEADER));
            MimeEntity inner = MimeParser.parse(header, MimeLimits.USUAL, new ArrayList<>());
            return FileNames.ofMessage(
                    inner.first("subject").map(HeaderField::text).orElse(""));
        } catch (IOException e) {
            return FileNames.ofMessage("");
        }
    }

    private static String beginning(MimeEntity entity, int most) {
        try (InputStream in = entity.open()) {
            return Charsets.decode(in.readNBytes(most), entity.charset()).replace("\0", "");
        } catch (IOException e) {
            return "";
        }
    }

    private void takeText(MimeEntity entity, List<BodyText> into) {
        String text = isHtml(entity) ? html(entity) : plain(entity);
        if (text.isBlank()) {
            return;
        }
        if (!isHtml(entity)) {
            into.add(new BodyText(text, null));
        } else if (HtmlText.saysSomething(text)) {
            into.add(new BodyText(null, text));
        }
    }

    private String html(MimeEntity entity) {
        String read = read(entity, limits.textChars() - htmlChars, bytes -> bytes);
        htmlChars += read.length();
        return read;
    }

    /** Without the files that are written into it, and with its lines as they were before they were broken for sending. */
    private String plain(MimeEntity entity) {
        String read = read(entity, limits.textChars() - plainChars, bytes -> {
            FilesInText.Split split = FilesInText.split(bytes);
            split.files().forEach(this::takeExtracted);
            return split.text();
        });
        plainChars += read.length();
        boolean flowed = entity.parameter("format").equalsIgnoreCase("flowed");
        String text = flowed ? FlowedText.read(read, entity.parameter("delsp").equalsIgnoreCase("yes")) : read;
        if (ArmoredText.isEncrypted(text)) {
            notes.add(ArmoredText.ENCRYPTED);
        }
        if (!ArmoredText.isSigned(text)) {
            return text;
        }
        notes.add(ArmoredText.SIGNED);
        return ArmoredText.content(text);
    }

    private String read(MimeEntity entity, int room, UnaryOperator<byte[]> change) {
        if (room <= 0) {
            return "";
        }
        try (InputStream in = entity.open()) {
            String text = Charsets.decode(change.apply(in.readNBytes(room * MAX_BYTES_OF_CHAR)), entity.charset());
            if (text.length() > room) {
                cuts.add("Its text has more than %,d characters; the rest is not shown.".formatted(limits.textChars()));
            }
            return MimeReader.limit(text, room).replace("\0", "");
        } catch (IOException e) {
            cuts.add("Its text could not be read to the end.");
            return "";
        }
    }
}
