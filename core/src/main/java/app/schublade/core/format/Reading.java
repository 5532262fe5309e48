package app.schublade.core.format;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.Trait;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What a message that was read tells the rules about itself. */
public final class Reading {
    /** How robots name themselves. */
    private static final Pattern ROBOT = Pattern.compile(
            "(no|not|do-?not)[-_.]?reply|mailer-daemon|postmaster|bounces?|notifications?|alerts?|robot",
            Pattern.CASE_INSENSITIVE);

    private static final Pattern BULK = Pattern.compile("bulk|junk|list|auto_reply");

    private static final int MAX_ADDRESSEES = 20;

    private Reading() {}

    /**
     * Everything about a message that its source and the account's addresses tell.
     *
     * @param traits those of {@link #traits}, and what other mail tells
     */
    public static Message.Builder of(long account, OwnAddresses own, ParsedMail mail, int size, Set<Trait> traits) {
        return Message.from(account, mail.from(), mail.subject())
                .replyTo(mail.replyTo())
                .body(mail.words())
                .headers(mail.headers().all())
                .sentTo(own.among(mail.recipients()), recipients(mail))
                .addressees(addressees(mail))
                .thread(thread(mail))
                .list(mail.listId())
                .attachments(attachments(mail))
                .size(size)
                .traits(traits);
    }

    /** The first of those that a message was sent to by To or Cc, as a list shows them. */
    public static String addressees(ParsedMail mail) {
        return Stream.concat(mail.to().stream(), mail.cc().stream())
                .limit(MAX_ADDRESSEES)
                .map(Address::shown)
                .collect(Collectors.joining(", "));
    }

    /** The ids of a message and of those that it answers. */
    private static List<String> thread(ParsedMail mail) {
        return Stream.concat(Stream.of(mail.messageId()), mail.references().stream())
                .filter(Predicate.not(String::isEmpty))
                .toList();
    }

    /** All addresses that the message was sent to, in lower case. */
    public static List<String> recipients(ParsedMail mail) {
        return mail.recipients().stream()
                .map(Address::key)
                .filter(one -> !one.isEmpty())
                .distinct()
                .toList();
    }

    public static List<Message.Attachment> attachments(ParsedMail mail) {
        return mail.attachments().stream()
                .map(part -> new Message.Attachment(part.name(), part.type(), part.size()))
                .toList();
    }

    /** What is so of the message by itself; what depends on other mail is not among it. */
    public static Set<Trait> traits(OwnAddresses own, ParsedMail mail) {
        Set<Trait> traits = EnumSet.noneOf(Trait.class);
        boolean toMe = !own.among(mail.to()).isEmpty();
        boolean copied = !own.among(mail.cc()).isEmpty();
        put(traits, Trait.TO_ME, toMe);
        put(traits, Trait.TO_ME_ALONE, toMe && mail.to().size() + mail.cc().size() == 1);
        put(traits, Trait.ONLY_COPIED, copied && !toMe);
        put(traits, Trait.NOT_ADDRESSED, !toMe && !copied);
        boolean list = mail.listId() != null
                || !mail.headers().values("List-Post").isEmpty()
                || mail.headers().values("Precedence").stream().anyMatch("list"::equalsIgnoreCase);
        put(traits, Trait.LIST, list);
        put(traits, Trait.AUTOMATED, list || isAutomated(mail));
        put(traits, Trait.ATTACHMENT, !mail.attachments().isEmpty());
        put(traits, Trait.IMPORTANT, says(mail, "Importance", "high") || priority(mail) < 3);
        put(traits, Trait.UNIMPORTANT, says(mail, "Importance", "low") || priority(mail) > 3);
        put(traits, Trait.PERSONAL, says(mail, "Sensitivity", "personal"));
        put(traits, Trait.PRIVATE, says(mail, "Sensitivity", "private"));
        put(
                traits,
                Trait.CONFIDENTIAL,
                says(mail, "Sensitivity", "company-confidential") || says(mail, "Sensitivity", "confidential"));
        return traits;
    }

    private static void put(Set<Trait> traits, Trait trait, boolean is) {
        if (is) {
            traits.add(trait);
        }
    }

    /** RFC 3834, section 5, and what was common before it. */
    private static boolean isAutomated(ParsedMail mail) {
        String sender = mail.from().key();
        String name = sender.substring(0, Math.max(0, sender.indexOf('@')));
        return mail.headers().values("Auto-Submitted").stream()
                        .anyMatch(value -> !value.toLowerCase(Locale.ROOT).startsWith("no"))
                || mail.headers().values("Precedence").stream()
                        .anyMatch(value ->
                                BULK.matcher(value.toLowerCase(Locale.ROOT)).matches())
                || !mail.headers().values("List-Unsubscribe").isEmpty()
                || mail.headers().values("Return-Path").contains("<>")
                || ROBOT.matcher(name).matches();
    }

    /** RFC 2156, sections 5.3.4 and 5.3.9. */
    private static boolean says(ParsedMail mail, String field, String value) {
        return mail.headers().values(field).stream().anyMatch(value::equalsIgnoreCase);
    }

    /** From 1 for the highest to 5 for the lowest; 3 where nothing is said. */
    private static int priority(ParsedMail mail) {
        List<String> values = new ArrayList<>(mail.headers().values("X-Priority"));
        mail.headers()
                .values("Priority")
                .forEach(value -> values.add(
                        switch (value.toLowerCase(Locale.ROOT)) {
                            case "urgent" -> "1";
                            case "non-urgent" -> "5";
                            default -> "3";
                        }));
        return values.stream()
                .filter(value -> !value.isEmpty() && value.charAt(0) >= '1' && value.charAt(0) <= '5')
                .mapToInt(value -> value.charAt(0) - '0')
                .filter(value -> value != 3)
                .findFirst()
                .orElse(3);
    }
}
