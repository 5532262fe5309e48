package app.schublade.core.sieve;

import app.schublade.core.message.OwnAddresses;
import app.schublade.core.message.Trait;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;

/** What a message tells about itself, as tests of its header; see {@code Reading.traits}. */
final class TraitTests {
    private static final Argument IS = Argument.tag("is");
    private static final Argument MATCHES = Argument.tag("matches");
    private static final Argument ROBOTS = Argument.text(
            "^(no|not|do-?not)[-_.]?reply$", "^(mailer-daemon|postmaster|bounces?|notifications?|alerts?|robot)$");

    private final Map<Trait, Test> tests;

    TraitTests(OwnAddresses own) {
        Test toMe = addressed(own, "to");
        Test copied = addressed(own, "cc");
        Test alone = Test.of(
                "address",
                Argument.tag("count"),
                Argument.text("eq"),
                Argument.tag("comparator"),
                Argument.text("i;ascii-numeric"),
                Argument.text("to", "cc"),
                Argument.text("1"));
        Test list = Test.any(List.of(exists("list-id"), exists("list-post"), header("precedence", IS, "list")));
        tests = Map.ofEntries(
                Map.entry(Trait.TO_ME, toMe),
                Map.entry(Trait.TO_ME_ALONE, Test.all(List.of(toMe, alone))),
                Map.entry(Trait.ONLY_COPIED, Test.all(List.of(copied, Test.not(toMe)))),
                Map.entry(Trait.NOT_ADDRESSED, Test.not(Test.any(List.of(toMe, copied)))),
                Map.entry(Trait.LIST, list),
                Map.entry(Trait.AUTOMATED, automated(list)),
                Map.entry(Trait.ATTACHMENT, attachment()),
                Map.entry(Trait.IMPORTANT, importance("high", "urgent", "1*", "2*")),
                Map.entry(Trait.UNIMPORTANT, importance("low", "non-urgent", "4*", "5*")),
                Map.entry(Trait.PERSONAL, header("sensitivity", IS, "personal")),
                Map.entry(Trait.PRIVATE, header("sensitivity", IS, "private")),
                Map.entry(Trait.CONFIDENTIAL, header("sensitivity", IS, "company-confidential", "confidential")));
    }

    /** @throws Unsayable if it depends on other mail */
    Test test(Trait trait) throws Unsayable {
        Test test = tests.get(trait);
        if (test == null) {
            throw new Unsayable("a script knows no other mail, so it cannot tell “%s”".formatted(trait.words()));
        }
        return test;
    }

    Optional<Trait> trait(Test test) {
        return tests.entrySet().stream()
                .filter(entry -> entry.getValue().equals(test))
                .map(Map.Entry::getKey)
                .findFirst();
    }

    /** Patterns that fit an address and all its plus-addresses (RFC 5233). */
    static List<String> withTags(String address) {
        int at = address.lastIndexOf('@');
        String escaped = TestWriter.escaped(address);
        return at < 1 || OwnAddresses.isPattern(address)
                ? List.of(address)
                : List.of(escaped, TestWriter.escaped(address.substring(0, at)) + "+*" + address.substring(at));
    }

    private static Test addressed(OwnAddresses own, String field) {
        List<String> patterns = new ArrayList<>(withTags(own.main()));
        new TreeSet<>(own.aliases()).forEach(alias -> patterns.addAll(withTags(alias)));
        return Test.of("address", MATCHES, Argument.text(field), Argument.text(patterns));
    }

    private static Test exists(String field) {
        return Test.of("exists", Argument.text(field));
    }

    private static Test header(String field, Argument match, String... values) {
        return Test.of("header", match, Argument.text(field), Argument.text(values));
    }

    private static Test automated(Test list) {
        return Test.any(List.of(
                list,
                Test.all(List.of(exists("auto-submitted"), Test.not(header("auto-submitted", MATCHES, "no*")))),
                header("precedence", IS, "bulk", "junk", "auto_reply"),
                exists("list-unsubscribe"),
                header("return-path", IS, "<>"),
                Test.of("address", Argument.tag("localpart"), Argument.tag("regex"), Argument.text("from"), ROBOTS)));
    }

    private static Test attachment() {
        return Test.of(
                "header",
                Argument.tag("mime"),
                Argument.tag("anychild"),
                MATCHES,
                Argument.text("content-disposition"),
                Argument.text("attachment*"));
    }

    private static Test importance(String importance, String priority, String... xPriority) {
        return Test.any(List.of(
                header("importance", IS, importance),
                header("priority", IS, priority),
                header("x-priority", MATCHES, xPriority)));
    }
}
