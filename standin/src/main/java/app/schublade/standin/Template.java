package app.schublade.standin;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** One block of {@code letters.txt}: what somebody of the demo world writes again and again. */
record Template(String name, String address, String to, Map<String, String> options, String subject, String text) {
    private static final Pattern HEAD = Pattern.compile("(.*?) <([^>]+)> -> (\\S+)((?: \\| .*)?)");
    private static final Pattern CHOICE = Pattern.compile("\\{([^{}]*)}");
    private static final List<String> DAYS = List.of("Monday", "Tuesday", "Wednesday", "Thursday", "Friday");
    private static final List<String> NAMES = List.of(
            "Runa", "Piet", "Maren", "Oskar", "Ylva", "Tobias", "Inga", "Corin", "Della", "Hanno", "Brid", "Lasse");

    static List<Template> all() {
        try (InputStream in = Template.class.getResourceAsStream("letters.txt")) {
            if (in == null) {
                throw new IllegalStateException("letters.txt is missing from the jar");
            }
            String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
            return Arrays.stream(text.split("(?m)^== ", -1))
                    .skip(1)
                    .map(Template::parse)
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Template parse(String block) {
        String[] parts = block.split("\n", 3);
        Matcher head = HEAD.matcher(parts[0]);
        if (!head.matches() || !parts[1].startsWith("Subject: ")) {
            throw new IllegalStateException("letters.txt: cannot read the block that starts with " + parts[0]);
        }
        Map<String, String> options = new HashMap<>();
        for (String option : head.group(4).split(" \\| ", -1)) {
            String[] words = option.strip().split(" ", 2);
            options.put(words[0], words.length > 1 ? words[1] : "");
        }
        return new Template(
                head.group(1), head.group(2), head.group(3), options, parts[1].substring(9), parts[2].strip() + "\n");
    }

    int weight() {
        return number("weight", 10);
    }

    int number(String option, int otherwise) {
        return Integer.parseInt(options.getOrDefault(option, String.valueOf(otherwise)));
    }

    List<String> attachments() {
        String names = options.get("attach");
        return names == null ? List.of() : Arrays.asList(names.split(", ", -1));
    }

    /** Fills the choices of a text, the innermost first. */
    static String fill(String text, Random random) {
        String filled = text;
        for (Matcher choice = CHOICE.matcher(filled); choice.find(); choice = CHOICE.matcher(filled)) {
            String pick = pick(choice.group(1), random);
            filled = filled.substring(0, choice.start()) + pick + filled.substring(choice.end());
        }
        return filled;
    }

    private static String pick(String choice, Random random) {
        return switch (choice) {
            case "n" -> String.valueOf(2 + random.nextInt(900));
            case "day" -> one(DAYS, random);
            case "name" -> one(NAMES, random);
            default -> one(new ArrayList<>(Arrays.asList(choice.split("\\|", -1))), random);
        };
    }

    static <T> T one(List<T> list, Random random) {
        return list.get(random.nextInt(list.size()));
    }
}
