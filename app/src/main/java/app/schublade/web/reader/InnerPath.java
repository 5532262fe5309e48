package app.schublade.web.reader;

import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.core.format.Part;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Where in a message a part is: the numbers of the messages that it lies in, then its own, such as {@code 3.1}.
 *
 * @param numbers from 1, the outermost first
 */
record InnerPath(List<Integer> numbers) {
    private static final int DEEPEST = 10;
    private static final int LONGEST_NUMBER = 6;

    InnerPath {
        numbers = List.copyOf(numbers);
    }

    /** Empty if it is none. */
    static Optional<InnerPath> parse(String path) {
        List<Integer> numbers = new ArrayList<>();
        for (String word : path.split("\\.", DEEPEST + 1)) {
            if (word.isEmpty()
                    || word.length() > LONGEST_NUMBER
                    || !word.chars().allMatch(Character::isDigit)) {
                return Optional.empty();
            }
            numbers.add(Integer.parseInt(word));
        }
        return numbers.size() > DEEPEST ? Optional.empty() : Optional.of(new InnerPath(numbers));
    }

    /** Which part of the outermost message it is, or lies in. */
    int outermost() {
        return numbers.get(0);
    }

    /** The part of a message that lies there. */
    Optional<Part> part(ParsedMail outermost) {
        ParsedMail mail = outermost;
        for (int number : numbers.subList(0, numbers.size() - 1)) {
            Optional<ParsedMail> inner = part(mail, number).flatMap(InnerPath::message);
            if (inner.isEmpty()) {
                return Optional.empty();
            }
            mail = inner.get();
        }
        return part(mail, numbers.get(numbers.size() - 1));
    }

    /** The message in a message that lies there. */
    Optional<ParsedMail> message(ParsedMail outermost) {
        return part(outermost).flatMap(InnerPath::message);
    }

    private static Optional<ParsedMail> message(Part part) {
        return part.isMessage() ? Optional.of(MimeReader.read(part.content())) : Optional.empty();
    }

    private static Optional<Part> part(ParsedMail mail, int number) {
        return mail.parts().stream().filter(part -> part.number() == number).findFirst();
    }
}
