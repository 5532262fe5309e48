package app.schublade.standin.world;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A matter as {@code stories/*.txt} tell it: what is drawn for it, and who writes what, when and to whom.
 *
 * @param options {@code times N}: how often in two thousand messages; {@code from -90d}: when its first telling begins;
 *     {@code folder PATH}: where what is old was filed; {@code unread 0.3}: share of what is new and not yet read;
 *     {@code anyday}: weekends too; {@code on monday}: the weekday on which it begins
 */
record Story(String name, Map<String, String> options, List<String> facts, List<Scene> scenes) {
    private static final Pattern SCENE =
            Pattern.compile("(\\w*?)([+-]\\d+)d (\\d\\d):(\\d\\d) (\\S+) > ([^|]+?)(?: cc ([^|]+?))?((?: \\| [^|]*)*)");

    /** One letter of it. */
    record Scene(
            String day,
            int offset,
            int minute,
            String from,
            List<String> to,
            List<String> cc,
            Map<String, String> options,
            String subject,
            String text,
            List<Enclosed> enclosed) {

        /** Begins a conversation of its own. */
        boolean isNew() {
            return !subject.isEmpty();
        }
    }

    /** A file that goes with it: its name and the lines its content is made from. */
    record Enclosed(String name, String lines) {}

    static List<Story> read(String text) {
        return Resources.blocks(text, "=== ").stream().map(Story::parse).toList();
    }

    String option(String name, String otherwise) {
        return options.getOrDefault(name, otherwise);
    }

    int times() {
        return Integer.parseInt(option("times", "1"));
    }

    private static Story parse(String block) {
        String[] first = block.split("\n", 2);
        String[] head = first[0].split(" \\| ", 2);
        String rest = first.length > 1 ? first[1] : "";
        int scenes = rest.startsWith("--- ") ? 0 : rest.indexOf("\n--- ");
        List<String> facts = Arrays.stream(
                        rest.substring(0, Math.max(scenes, 0)).split("\n", -1))
                .filter(line -> !line.isBlank())
                .toList();
        return new Story(
                head[0].strip(),
                Resources.options(head.length > 1 ? head[1] : ""),
                facts,
                Resources.blocks(rest, "--- ").stream().map(Story::scene).toList());
    }

    private static Scene scene(String block) {
        String[] lines = block.split("\n", 2);
        Matcher head = SCENE.matcher(lines[0].strip());
        if (!head.matches()) {
            throw new IllegalStateException("Cannot read the letter that starts with “" + lines[0] + "”");
        }
        String body = lines.length > 1 ? lines[1] : "";
        String subject = "";
        if (body.startsWith("Subject: ")) {
            subject = body.substring(9, body.indexOf('\n'));
            body = body.substring(body.indexOf('\n') + 1);
        }
        String[] parts = body.split("(?m)^@ ", -1);
        List<Enclosed> enclosed = new ArrayList<>();
        for (int i = 1; i < parts.length; i++) {
            String[] file = parts[i].split("\n", 2);
            enclosed.add(new Enclosed(file[0].strip(), file.length > 1 ? file[1].strip() : ""));
        }
        return new Scene(
                head.group(1),
                Integer.parseInt(head.group(2)),
                Integer.parseInt(head.group(3)) * 60 + Integer.parseInt(head.group(4)),
                head.group(5),
                names(head.group(6)),
                names(head.group(7)),
                Resources.options(head.group(8)),
                subject,
                parts[0].strip(),
                enclosed);
    }

    private static List<String> names(String list) {
        return list == null ? List.of() : Arrays.asList(list.strip().split(", ", -1));
    }
}
