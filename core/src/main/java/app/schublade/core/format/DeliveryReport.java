package app.schublade.core.format;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Says in plain words what a report tells programs: who did not get what and why (RFC 3464), or who has read it (RFC 8098). */
final class DeliveryReport {
    private static final int MOST_RECIPIENTS = 50;
    private static final int LONGEST_REASON = 200;
    /** Enhanced status codes (RFC 3463, and the registry that goes with it) without their class. */
    private static final Map<String, String> REASONS = Map.ofEntries(
            Map.entry("1.0", "something is wrong with the address"),
            Map.entry("1.1", "there is no such address"),
            Map.entry("1.2", "there is no such mail server"),
            Map.entry("1.3", "the address is not a valid one"),
            Map.entry("1.6", "the mailbox has moved, and nobody knows where"),
            Map.entry("1.10", "the domain takes no mail"),
            Map.entry("2.0", "something is wrong with the mailbox"),
            Map.entry("2.1", "the mailbox is closed"),
            Map.entry("2.2", "the mailbox is full"),
            Map.entry("2.3", "the message is too large for the mailbox"),
            Map.entry("2.4", "the mailing list could not be resolved"),
            Map.entry("3.1", "the mail server is full"),
            Map.entry("3.2", "the mail server is closed for now"),
            Map.entry("3.4", "the message is too large for the server"),
            Map.entry("4.1", "the mail server does not answer"),
            Map.entry("4.2", "the connection was lost"),
            Map.entry("4.3", "the domain's server cannot be found"),
            Map.entry("4.4", "nobody knows the way to that domain"),
            Map.entry("4.6", "the message went in a circle"),
            Map.entry("4.7", "it took too long"),
            Map.entry("5.3", "it has too many recipients"),
            Map.entry("6.0", "its content is not accepted"),
            Map.entry("7.0", "the server refuses it for its own reasons"),
            Map.entry("7.1", "the server refuses to take mail from you to that address"),
            Map.entry("7.20", "the signature of your domain is missing"),
            Map.entry("7.23", "your server may not send for your domain"),
            Map.entry("7.26", "nothing shows that it really comes from your domain"));

    private DeliveryReport() {}

    /** One sentence for each recipient of a {@code message/delivery-status}; empty if it tells of none. */
    static List<String> ofDelivery(String report) {
        List<String> sentences = new ArrayList<>();
        int more = 0;
        for (Map<String, String> block : blocks(report)) {
            String recipient = address(block.getOrDefault("original-recipient", ""));
            recipient = recipient.isEmpty() ? address(block.getOrDefault("final-recipient", "")) : recipient;
            if (recipient.isEmpty()) {
                continue;
            }
            if (sentences.size() < MOST_RECIPIENTS) {
                sentences.add(sentence(recipient, block));
            } else {
                more++;
            }
        }
        if (more > 0) {
            sentences.add("It tells of %,d more recipients.".formatted(more));
        }
        return sentences;
    }

    /** What a {@code message/disposition-notification} tells; empty if it tells nothing. */
    static List<String> ofReading(String report) {
        Map<String, String> all = new HashMap<>();
        blocks(report).forEach(block -> block.forEach(all::putIfAbsent));
        String disposition = all.getOrDefault("disposition", "").toLowerCase(Locale.ROOT);
        String who = address(all.getOrDefault("final-recipient", all.getOrDefault("original-recipient", "")));
        if (disposition.isEmpty() || who.isEmpty()) {
            return List.of();
        }
        String did = disposition.substring(disposition.indexOf(';') + 1);
        if (did.contains("displayed")) {
            return List.of("%s has opened your message.".formatted(who));
        }
        return List.of(
                did.contains("deleted")
                        ? "%s has deleted your message without opening it.".formatted(who)
                        : "%s has received your message: %s.".formatted(who, did.strip()));
    }

    private static String sentence(String recipient, Map<String, String> block) {
        String reason = reason(block);
        String because = reason.isEmpty() ? "." : ": " + reason + ".";
        return switch (block.getOrDefault("action", "").toLowerCase(Locale.ROOT)) {
            case "delayed" -> "Not delivered to %s yet; the server keeps trying".formatted(recipient) + because;
            case "delivered" -> "Delivered to %s.".formatted(recipient);
            case "relayed" -> "Handed on to the server of %s, which tells no more.".formatted(recipient);
            case "expanded" -> "Delivered to %s, which hands it on to several.".formatted(recipient);
            default -> "Not delivered to %s".formatted(recipient) + because;
        };
    }

    private static String reason(Map<String, String> block) {
        String status = block.getOrDefault("status", "").split("[ (]", 2)[0].strip();
        int dot = status.indexOf('.');
        String known = dot < 0 ? "" : REASONS.getOrDefault(status.substring(dot + 1), "");
        String told = value(block.getOrDefault("diagnostic-code", ""));
        String quoted = told.isEmpty() ? "" : "“%s”".formatted(MimeReader.limit(told, LONGEST_REASON));
        if (known.isEmpty()) {
            return quoted.isEmpty() && !status.isEmpty() ? "status " + status : quoted;
        }
        return quoted.isEmpty() ? "%s (%s)".formatted(known, status) : "%s (%s)".formatted(known, quoted);
    }

    /** Behind the type: {@code rfc822; anna@quay.example}. */
    private static String address(String field) {
        String value = value(field);
        boolean bracketed = value.startsWith("<") && value.endsWith(">");
        return MimeReader.limit(bracketed ? value.substring(1, value.length() - 1) : value, LONGEST_REASON);
    }

    private static String value(String field) {
        return field.substring(field.indexOf(';') + 1).strip();
    }

    /** Groups of fields with blank lines between; folded lines are one. */
    private static List<Map<String, String>> blocks(String report) {
        List<Map<String, String>> blocks = new ArrayList<>();
        Map<String, String> block = new HashMap<>();
        String name = "";
        for (String line : report.split("\\r?\\n", -1)) {
            int colon = line.indexOf(':');
            if (line.isBlank()) {
                blocks.add(block);
                block = new HashMap<>();
            } else if (line.charAt(0) == ' ' || line.charAt(0) == '\t') {
                block.computeIfPresent(
                        name, (key, value) -> value.length() > LONGEST_REASON * 2 ? value : value + " " + line.strip());
            } else if (colon > 0) {
                name = line.substring(0, colon).strip().toLowerCase(Locale.ROOT);
                block.putIfAbsent(
                        name, EncodedWords.decode(line.substring(colon + 1).strip()));
            }
        }
        blocks.add(block);
        return blocks;
    }
}
