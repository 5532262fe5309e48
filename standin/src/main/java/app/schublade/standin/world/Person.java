package app.schublade.standin.world;

import jakarta.mail.internet.InternetAddress;
import java.io.UnsupportedEncodingException;
import java.nio.charset.StandardCharsets;
import java.util.Map;

/**
 * Somebody of the demo world: a person, an office, a robot or a mailing list.
 *
 * @param organisation where the person works; empty for private people
 * @param signOff the last lines of what they write
 * @param signature what stands below the dashes; empty for none
 * @param options {@code account CODE}: an address of the user's own; {@code list ID}: mail comes through this list;
 *     {@code auto}: a machine; {@code delivers ID}: which address of the user's gets what is sent to this list;
 *     {@code charset}, {@code wrap}: how their program writes; {@code tone}: the colour of their letterhead
 */
public record Person(
        String id,
        String name,
        String address,
        Language language,
        String organisation,
        String signOff,
        String signature,
        Map<String, String> options) {

    boolean is(String option) {
        return options.containsKey(option);
    }

    String option(String name, String otherwise) {
        return options.getOrDefault(name, otherwise);
    }

    String domain() {
        return address.substring(address.indexOf('@') + 1);
    }

    InternetAddress internetAddress() {
        try {
            return new InternetAddress(address, name, StandardCharsets.UTF_8.name());
        } catch (UnsupportedEncodingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** What a text says of this person. */
    String said(String form) {
        return switch (form) {
            case "" -> name;
            case "first" -> name.substring(0, (name + " ").indexOf(' '));
            case "last" -> name.substring(name.lastIndexOf(' ') + 1);
            case "address" -> address;
            case "org" -> organisation.isEmpty() ? name : organisation;
            default -> throw new IllegalArgumentException("A person has no form " + form);
        };
    }
}
