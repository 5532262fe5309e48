package app.schublade.standin.world;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** The plain text of a letter: what was written, who signs, and what is quoted below. */
final class Prose {
    private static final int QUOTED_LINES = 60;

    private Prose() {}

    /** Text, sign-off, signature and quotation. */
    static String whole(Letter letter) {
        return wrapped(written(letter), letter.from()) + signature(letter) + quotation(letter) + "\n";
    }

    /** Text and sign-off. */
    static String written(Letter letter) {
        String signOff = letter.from().signOff();
        int line = signOff.indexOf('\n');
        if (letter.language() != letter.from().language() && line > 0) {
            signOff = letter.language().closing() + signOff.substring(line);
        }
        return letter.text() + (signOff.isEmpty() ? "" : "\n\n" + signOff);
    }

    private static String signature(Letter letter) {
        String signature = letter.from().signature();
        return signature.isEmpty() || letter.answered() != null ? "" : "\n\n-- \n" + signature;
    }

    private static String quotation(Letter letter) {
        Letter other = letter.answered();
        if (other == null || letter.below() == Letter.Below.NOTHING) {
            return "";
        }
        if (letter.below() == Letter.Below.PASSED_ON) {
            return "\n\n%s\n\n%s"
                    .formatted(attribution(letter, other), whole(other).strip());
        }
        List<String> lines = whole(other).strip().lines().limit(QUOTED_LINES).toList();
        StringBuilder text = new StringBuilder("\n\n").append(attribution(letter, other));
        lines.forEach(line ->
                text.append('\n').append(line.startsWith(">") ? ">" : "> ").append(line));
        return text.toString();
    }

    /** The line above a quotation, as the answering person's program writes it. */
    static String attribution(Letter letter, Letter other) {
        LocalDate date = other.date().atZone(World.ZONE).toLocalDate();
        return letter.below() == Letter.Below.PASSED_ON
                ? "Forwarded: “%s”, from %s <%s>, %s"
                        .formatted(
                                other.subject(),
                                other.from().name(),
                                other.from().address(),
                                letter.language().day(date, "year"))
                : letter.language().attribution(date, other.from().name());
    }

    /** Some programs break lines; others leave a paragraph in one. */
    private static String wrapped(String text, Person from) {
        int width = Integer.parseInt(from.option("wrap", "0"));
        if (width == 0) {
            return text;
        }
        List<String> lines = new ArrayList<>();
        for (String paragraph : text.split("\n", -1)) {
            String rest = paragraph;
            while (rest.length() > width && rest.lastIndexOf(' ', width) > 0 && !rest.startsWith("|")) {
                int end = rest.lastIndexOf(' ', width);
                lines.add(rest.substring(0, end));
                rest = rest.substring(end + 1);
            }
            lines.add(rest);
        }
        return String.join("\n", lines);
    }
}
