package app.schublade.core.sieve;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Effect;
import app.schublade.core.filing.Marked;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.Sized;
import app.schublade.core.filing.Text;
import app.schublade.core.filing.Traits;
import app.schublade.core.message.Trait;
import app.schublade.core.place.CategoryRef;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class SieveWriterTest {
    private static final Condition FROM = Correspondent.sender("wharf.example");

    private static Rule rule(boolean on, Condition... when) {
        return new Rule(
                1, "Wharf", on, List.of(when), List.of(), List.of(new Effect.FileInto(Harbour.FOLDERS.get(0))), false);
    }

    private static SieveWriter.Written written(Rule... rules) {
        return new SieveWriter(new Harbour()).write(List.of(rules));
    }

    @Test
    void aScriptIsReadableByPeople() {
        assertThat(written(rule(true, FROM, Text.subject("Loan offer"))).script())
                .isEqualTo("""
                require ["fileinto", "mailbox", "regex", "variables"];

                # Wharf
                if allof (address :domain :is "from" "wharf.example",
                    allof (header :regex "subject" "(^|[^[:alnum:]])Loan([^[:alnum:]]|$)",
                        header :regex "subject" "(^|[^[:alnum:]])offer([^[:alnum:]]|$)")) {
                    if string :is "${folder}" "" {
                        set "folder" "Loans";
                    }
                }

                # What was decided is done here, once.
                if not string :is "${folder}" "" {
                    fileinto :create "${folder}";
                }
                """);
    }

    static Stream<Arguments> whatCannotBeSaid() {
        return Stream.of(
                Arguments.of(rule(false, FROM), "it is switched off"),
                Arguments.of(rule(true), "it has no conditions"),
                Arguments.of(
                        rule(true, new Traits(List.of(Trait.NEW_SENDER))),
                        "a script knows no other mail, so it cannot tell “from somebody never seen before”"),
                Arguments.of(rule(true, new Marked(List.of(), List.of(), true)), "a script does not know “is flagged”"),
                Arguments.of(rule(true, new Sized(true, true, 5)), "a script cannot measure attachments"),
                Arguments.of(
                        new Rule(
                                1,
                                "Wharf",
                                true,
                                List.of(FROM),
                                List.of(),
                                List.of(new Effect.Categorise(new CategoryRef(30, "Next", 3))),
                                false),
                        "a server cannot flag, due after 3 days"),
                Arguments.of(
                        rule(true, text(Text.Where.SENDER_NAME, Text.Match.WORDS, "Anna")),
                        "a script cannot tell the sender’s name from the address that stands with it"),
                Arguments.of(
                        rule(true, text(Text.Where.BODY, Text.Match.STARTS, "Dear")),
                        "a script cannot compare the whole body, only look into it"),
                Arguments.of(
                        rule(true, text(Text.Where.SUBJECT, Text.Match.CONTAINS, "${x}")),
                        "“${” means something else in a script"),
                Arguments.of(
                        rule(true, text(Text.Where.SUBJECT, Text.Match.REGEX, "a+?\\b")),
                        "“a+?\\b” is a regular expression that scripts do not have"));
    }

    private static Text text(Text.Where where, Text.Match match, String value) {
        return new Text(where, "", match, List.of(value));
    }

    @ParameterizedTest
    @MethodSource
    void whatCannotBeSaid(Rule rule, String why) {
        Rule other = rule(true, Text.subject("port"));
        SieveWriter.Written written = written(rule, other);
        assertThat(written.remarks()).containsExactly(new SieveWriter.WritingRemark(rule, true, why));
        assertThat(written.script())
                .as("the others are there")
                .isEqualTo(written(other).script());
    }

    @Test
    void accentsAreTakenAsTheyAreAndThatIsSaid() {
        Rule rule = rule(true, text(Text.Where.SUBJECT, Text.Match.CONTAINS, "Größe"));
        SieveWriter.Written written = written(rule);
        assertThat(written.script()).contains("header :contains \"subject\" \"Größe\"");
        assertThat(written.remarks())
                .containsExactly(
                        new SieveWriter.WritingRemark(rule, false, "is compared with accents as they are written"));
    }
}
