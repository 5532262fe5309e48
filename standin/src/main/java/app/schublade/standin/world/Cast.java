package app.schublade.standin.world;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Everybody, as {@code people.txt} lists them. */
final class Cast {
    private static final Pattern HEAD = Pattern.compile("(\\S+): ([^<|]+?)(?: <([^>]+)>)?((?: \\| [^|]*)*)");
    private static final Pattern LINE = Pattern.compile("([^<]+) <([^>]+)>(?:, (.+))?");

    private final Map<String, Person> known = new LinkedHashMap<>();
    private final Map<String, List<Person>> pools = new LinkedHashMap<>();

    private Cast() {}

    /** Reads people; a block that cannot be read is told by its first line. */
    static Cast read(String text) {
        Cast people = new Cast();
        for (String block : Resources.blocks(text, "== ")) {
            people.add(block);
        }
        return people;
    }

    /** @throws IllegalStateException if nobody has this id */
    Person one(String id) {
        Person person = known.get(id);
        if (person == null) {
            throw new IllegalStateException("people.txt knows nobody called " + id);
        }
        return person;
    }

    /** The people of a group. */
    List<Person> pool(String name) {
        List<Person> pool = pools.get(name);
        if (pool == null) {
            throw new IllegalStateException("people.txt has no group " + name);
        }
        return pool;
    }

    Iterable<Person> all() {
        return known.values();
    }

    private void add(String block) {
        String[] parts = block.split("\n", 2);
        Matcher head = HEAD.matcher(parts[0].strip());
        if (!head.matches()) {
            throw new IllegalStateException("people.txt: cannot read the block that starts with " + parts[0]);
        }
        Map<String, String> options = Resources.options(head.group(4));
        String body = parts.length > 1 ? parts[1].strip() : "";
        if (options.containsKey("pool")) {
            addPool(head.group(1), options, body);
        } else {
            String[] ends = (body + "\n").split("(?m)^--\n", 2);
            Person person = new Person(
                    head.group(1),
                    head.group(2),
                    head.group(3),
                    Language.of(options.getOrDefault("language", "en")),
                    options.getOrDefault("org", ""),
                    ends[0].strip(),
                    ends.length > 1 ? ends[1].strip() : "",
                    options);
            known.put(person.id(), person);
        }
    }

    /** A group: its first line is how all of them sign, with the name as {@code %s}; then one of them a line. */
    private void addPool(String name, Map<String, String> options, String body) {
        String[] lines = body.split("\n", -1);
        List<Person> pool = new ArrayList<>();
        for (int i = 1; i < lines.length; i++) {
            Matcher line = LINE.matcher(lines[i]);
            if (!line.matches()) {
                throw new IllegalStateException("people.txt: cannot read “" + lines[i] + "” in the group " + name);
            }
            String full = line.group(1);
            String organisation = line.group(3) == null ? "" : line.group(3);
            String signed = lines[0].replace("%first", full.substring(0, full.indexOf(' ')))
                    .replace("%s", full)
                    .replace("%org", organisation)
                    .replace(" / ", "\n");
            Person person = new Person(
                    name + "." + i,
                    full,
                    line.group(2),
                    Language.of(options.getOrDefault("language", "en")),
                    organisation,
                    signed,
                    "",
                    options);
            pool.add(person);
            known.put(person.id(), person);
        }
        pools.put(name, List.copyOf(pool));
    }
}
