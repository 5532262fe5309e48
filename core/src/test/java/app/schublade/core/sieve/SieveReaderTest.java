package app.schublade.core.sieve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.filing.Rule;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Scripts that others wrote. */
class SieveReaderTest {
    private static SieveReader.Read read(String script) throws SieveException {
        return SieveReader.read(script, new Harbour());
    }

    private static List<String> sentences(String script) throws SieveException {
        return read(script).rules().stream().map(Rule::sentence).toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            address "from" "anna@wharf.example"                           | from anna@wharf.example
            address :is :domain "From" ["wharf.example", "quay.example"]  | from wharf.example or quay.example
            address :domain :matches "from" "*.wharf.example"             | (from *.wharf.example and not from wharf.example)
            address :is ["to", "cc"] "loans@quay.example"                 | sent to loans@quay.example
            address :is :detail ["to", "cc"] "shop"                       | sent to +shop
            address :is :domain ["to", "cc"] "quay.example"               | sent to *@quay.example
            envelope :is "to" "loans@quay.example"                        | sent to loans@quay.example
            header :contains "Subject" "invoice"                          | subject contains “invoice”
            header :contains ["subject", "comments"] "invoice"            | (subject contains “invoice” or Comments contains “invoice”)
            header :matches "Subject" "*invoice*"                         | subject looks like “*invoice*”
            header :regex "subject" "^inv"                                | subject matches “^inv”
            header :is "x-spam-flag" "YES"                                | X-Spam-Flag is “YES”
            exists ["list-id", "list-post"]                               | (List-Id looks like “*” and List-Post looks like “*”)
            body :contains "unsubscribe"                                  | body contains “unsubscribe”
            size :over 2M                                                 | larger than 2.1 MB
            currentdate :value "ge" "date" "2026-12-20"                   | received from 2026-12-20 on
            currentdate :is "weekday" ["0", "6"]                          | received on Saturday or Sunday
            date :value "lt" "received" "hour" "08"                       | received between 0:00 and 8:00
            currentdate :value "gt" "hour" "17"                           | received between 18:00 and 24:00
            currentdate :value "le" "time" "07:14:59"                     | received between 0:00 and 7:15
            currentdate :value "ge" "time" "18:30:00"                     | received between 18:30 and 24:00
            anyof (size :over 5, size :under 3)                           | (larger than 5 bytes or smaller than 3 bytes)
            """)
    void eachTestMeansACondition(String test, String sentence) throws SieveException {
        assertThat(sentences("if " + test + " { fileinto \"Loans\"; stop; }"))
                .containsExactly(sentence + " → file into Loans, no later rules");
    }

    @Test
    void localPartsAreLookedForInAddressesAlone() throws SieveException {
        Rule rule = read("if address :localpart :contains \"from\" \"news\" { addflag \"\\\\Seen\"; }")
                .rules()
                .get(0);
        Letters letters = new Letters(rule);
        assertThat(letters.taken("The news <daily-news@wharf.example>")).isTrue();
        assertThat(letters.taken("daily-news@wharf.example")).isTrue();
        assertThat(letters.taken("The news <daily@wharf.example>")).isFalse();
        assertThat(letters.taken("The news <daily@news.example>")).isFalse();
        SieveWriter.Written again = new SieveWriter(new Harbour()).write(List.of(rule));
        assertThat(again.remarks()).as("it can be written again").isEmpty();
        assertThat(read(again.script()).rules().get(0).when()).isEqualTo(rule.when());
    }

    @ParameterizedTest
    @CsvSource({
        "news*, news-daily, true",
        "news?, news1, true",
        "news?, news12, false",
        "'a.c*', abc, false",
        "'a.c*', a.cd, true"
    })
    void patternsOfLocalParts(String pattern, String localPart, boolean taken) throws SieveException {
        Rule rule = read("if address :localpart :matches \"from\" \"%s\" { stop; }".formatted(pattern))
                .rules()
                .get(0);
        assertThat(new Letters(rule).taken("Anna <%s@wharf.example>".formatted(localPart)))
                .isEqualTo(taken);
    }

    /** A rule and letters that only say whom they are from. */
    private record Letters(Rule rule) {
        boolean taken(String from) {
            byte[] source = ("From: " + from + "\r\n\r\n").getBytes(java.nio.charset.StandardCharsets.US_ASCII);
            var mail = app.schublade.core.format.MimeReader.read(source);
            var message = app.schublade.core.format.Reading.of(1, Harbour.OWN, mail, source.length, java.util.Set.of())
                    .build();
            var state = new app.schublade.core.filing.State(1, true, false, null, java.util.Set.of());
            return !new app.schublade.core.filing.RuleBook(List.of(rule))
                    .file(message, state)
                    .hits()
                    .isEmpty();
        }
    }

    @Test
    void aChainBecomesOneRuleABranch() throws SieveException {
        assertThat(sentences("""
                require ["fileinto", "imap4flags"];
                /* Who lends
                   us things */
                if header :contains "subject" "loan" {
                    fileinto :flags ["\\\\Seen l20", "\\\\Flagged"] "Loans";
                } elsif size :over 9000 {
                    discard;
                } else {
                    addflag "c30";
                }
                """))
                .containsExactly(
                        "subject contains “loan” → mark as read, label Objects, flag, file into Loans",
                        "larger than 9 KB; unless subject contains “loan” → file into Trash",
                        "not subject contains “loan”; unless larger than 9 KB → category Next");
    }

    @Test
    void whatLiesInsideOfOthersNeedsBoth() throws SieveException {
        assertThat(sentences("""
                # From the museum
                if allof (address :domain "from" "quay.example", not header :is "subject" "x") {
                    addflag "l22";
                    if size :over 100 { fileinto "Schools"; stop; }
                    addflag "l20";
                }
                keep;
                addflag "l21";
                """))
                .containsExactly(
                        "from quay.example; unless subject is “x” → label Press",
                        "from quay.example, larger than 100 bytes; unless subject is “x” → file into Schools, no later rules",
                        "from quay.example; unless subject is “x” → label Objects",
                        "larger than 0 bytes → label Objects / Stone");
    }

    @Test
    void aCommentNamesTheRuleUnderIt() throws SieveException {
        assertThat(read("# Loans\nif true { fileinto \"Loans\"; }\nif false { stop; }")
                        .rules())
                .extracting(Rule::name)
                .containsExactly("Loans", "Smaller than 0 bytes");
    }

    @Test
    void whatCannotBeTakenOverIsListedWithItsLine() throws SieveException {
        SieveReader.Read read = read("""
                if header "subject" "a" { redirect "b@c.example"; }
                if environment "name" "x" { fileinto "Loans"; }
                if true { fileinto :copy "Loans"; addflag "l20"; }
                if true { fileinto :copy :flags "l20" "Loans"; }
                vacation :days 3 "I am away";
                vacation "Back on Monday";
                if true { fileinto "Loans"; }
                if true { fileinto "Schools"; }
                if true { addflag "unheard"; }
                """);
        assertThat(read.rules())
                .extracting(Rule::sentence)
                .containsExactly(
                        "subject is “a” → forward to b@c.example, file into Trash",
                        "larger than 0 bytes → copy into Loans, label Objects",
                        "larger than 0 bytes → answer “Back on Monday”",
                        "larger than 0 bytes → file into Loans",
                        "larger than 0 bytes → file into Schools");
        assertThat(read.remarks())
                .containsExactly(
                        new SieveReader.ReadingRemark(
                                1,
                                false,
                                "it is passed on in a message of your own here, not as if its sender had written there"),
                        new SieveReader.ReadingRemark(
                                1, false, "what the script passes on and does not keep goes to the trash here"),
                        new SieveReader.ReadingRemark(2, true, "the test “environment” has no counterpart here"),
                        new SieveReader.ReadingRemark(4, true, "a copy with flags of its own has no counterpart here"),
                        new SieveReader.ReadingRemark(
                                5, true, "here a sender is answered once in 7 days, with a text and nothing else"),
                        new SieveReader.ReadingRemark(
                                7,
                                false,
                                "the script copies into the folder that it files into, and may keep the message in the Inbox too"),
                        new SieveReader.ReadingRemark(
                                8,
                                false,
                                "the script may file a message here that it filed before; here the first folder wins"),
                        new SieveReader.ReadingRemark(
                                9, true, "the keyword “unheard” stands for no label or category here"));
    }

    @Test
    void whatIsDoneOneAfterTheOtherIsToldWhereItMatters() throws SieveException {
        assertThat(told("""
                if header "subject" "a" { fileinto "Loans"; }
                if header "subject" "b" { keep; }
                if header "subject" "c" { addflag "l20"; fileinto :flags "l21" "Schools"; addflag "l22"; }
                """))
                .containsExactly(
                        "2 the script may keep a message in the Inbox that it filed before; here it lies in the folder alone",
                        "3 the script may file a message here that it filed before; here the first folder wins",
                        "3 what the script filed or kept before is without these flags there; here it has them",
                        "3 the flags named here are put in place of those that were set before; here they are put on too");
        assertThat(told("if size :over 1 { keep; }\nif size :over 2 { fileinto \"Loans\"; }"))
                .containsExactly(
                        "2 the script may file a message here that it keeps in the Inbox too; here it goes into the folder alone");
        assertThat(told("""
                if header "subject" "a" { fileinto "Loans"; }
                elsif header "subject" "b" { fileinto "Schools"; addflag "\\\\Seen"; stop; }
                else { keep; }
                """))
                .containsExactly(
                        "2 what the script filed or kept before is without these flags there; here it has them");
        assertThat(told("if size :over 1 { addflag \"l20\"; fileinto \"Loans\"; stop; }\nfileinto \"Schools\";"))
                .isEmpty();
    }

    private static List<String> told(String script) throws SieveException {
        return read(script).remarks().stream()
                .map(one -> one.line() + " " + one.what())
                .toList();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            discard;                                                        | what the script would lose goes to the trash here
            setflag "l20";                                                  | flags that were set before stay here
            if currentdate :is "weekday" "8" { stop; }                      | “8” is not a weekday
            if currentdate :value "ge" "date" "20-1-1" { stop; }            | “20-1-1” is not a date
            if currentdate :is "weekday" "01" { stop; }                     | “01” is not a weekday
            if currentdate :is "date" ["2026-1-1", "x"] { stop; }           | a day or a time is compared with one value here
            if currentdate :value "ge" "hour" ["08", "12"] { stop; }        | a day or a time is compared with one value here
            if currentdate :value "ge" "hour" "8" { stop; }                 | “8” is no hour that can be told to the minute
            if currentdate :value "gt" "hour" "23" { stop; }                | “gt 23” of a time has no counterpart here
            if currentdate :value "lt" "time" "00:00:00" { stop; }          | “lt 00:00:00” of a time has no counterpart here
            if currentdate :value "gt" "time" "08:15:00" { stop; }          | “08:15:00” is no time that can be told to the minute
            if currentdate :is "time" "08:15:00" { stop; }                  | “eq 08:15:00” of a time has no counterpart here
            if currentdate :is "minute" "5" { stop; }                       | the part “minute” of a date has no counterpart here
            if header :matches "subject" "a\\\\*" { stop; }             | a pattern that means * or ? themselves has no counterpart here
            if header "subject" { stop; }                                   | the test “header” lacks something to compare
            if body :raw "x" { stop; }                                      | “:raw” has no counterpart here
            if header :comparator "i;octet" "subject" "x" { stop; }         | capital and small letters are the same here; “i;octet” tells them apart
            if header :contains "subject" "Müller" { stop; }                | accents do not matter here: not only “Müller” is taken
            if header :contains "subject" "" { stop; }                      | nothing is compared with an empty text here
            if header :is "subject" ["x", ""] { stop; }                     | nothing is compared with an empty text here
            if header :mime "subject" "x" { stop; }                         | “:mime” has no counterpart here
            if header :unheard "subject" "x" { stop; }                      | “:unheard” has no counterpart here
            if exists :mime "x-y" { stop; }                                 | “:mime” has no counterpart here
            if address :index 1 "from" "a@b.example" { stop; }              | “:index” has no counterpart here
            if envelope :unheard "to" "a@b.example" { stop; }               | “:unheard” has no counterpart here
            if address ["to", "cc"] "a@b.example" { stop; }                 | what was delivered to that address without naming it counts here too
            if currentdate :zone "+0100" :is "weekday" "1" { stop; }        | “:zone” has no counterpart here
            if date :originalzone "received" "weekday" "1" { stop; }        | “:originalzone” has no counterpart here
            if address :matches "from" "anna" { stop; }                     | “anna” is no pattern of an address
            fileinto :specialuse "\\\\Junk" "Loans";                        | “fileinto :specialuse” has no counterpart here
            notify "mailto:a@b.example";                                    | the notice is shown by the browser here
            redirect :copy "a@b.example";                                   | it is passed on in a message of your own here, not as if its sender had written there
            redirect "${x}";                                                | this address is put together only when mail arrives
            reject "No";                                                    | mail that has arrived cannot be refused any more
            fileinto "";                                                    | A folder needs a name.
            fileinto :flags ["\\\\Seen", "unheard"] "Loans";                | the keyword “unheard” stands for no label or category here
            """)
    void eachLineThatMeansSomethingElseIsSaid(String script, String what) throws SieveException {
        assertThat(read(script).remarks())
                .extracting(SieveReader.ReadingRemark::what)
                .containsExactly(what);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            fileinto "Loans"; keep;                                   | copy into Loans
            keep; fileinto "Loans";                                   | copy into Loans
            fileinto "Loans"; fileinto "Schools";                     | file into Loans, copy into Schools
            fileinto "Loans"; keep :flags "\\\\Seen";                 | copy into Loans, mark as read
            discard; keep;                                            | nothing
            keep; discard;                                            | nothing
            fileinto "Loans"; discard;                                | file into Loans
            redirect :copy "a@b.example";                             | forward to a@b.example
            redirect "a@b.example"; keep;                             | forward to a@b.example
            redirect "a@b.example"; fileinto "Loans";                 | forward to a@b.example, file into Loans
            redirect "a@b.example";                                   | forward to a@b.example, file into Trash
            fileinto "Loans"; stop; fileinto "Schools";               | file into Loans, no later rules
            addflag ["\\\\Seen", "unheard", "\\\\Flagged"];           | mark as read, flag
            fileinto :create "Loans";                                 | file into Loans
            notify "mailto:a@b.example";                              | notify
            """)
    void whatAnActionMeansDependsOnThoseBesideIt(String actions, String effects) throws SieveException {
        List<String> sentences = sentences("if size :over 5 { " + actions + " }");
        assertThat(sentences)
                .isEqualTo(effects.equals("nothing") ? List.of() : List.of("larger than 5 bytes → " + effects));
    }

    /** {@code *} may stand for the @ too, wherever it stands. */
    @ParameterizedTest
    @CsvSource({
        "*anna*example, anna@wharf.example, true",
        "*anna*example, x@anna.example, true",
        "*anna*example, joanna.b@x.example, true",
        "*anna*example, anna@wharf.test, false",
        "anna*, anna@wharf.example, true",
        "anna*, annabel@wharf.example, true",
        "anna*, joanna@wharf.example, false",
        "*.example, anna@wharf.example, true",
        "anna?wharf.example, anna@wharf.example, true",
    })
    void aPatternOfAWholeAddressSpansItsAt(String pattern, String address, boolean taken) throws SieveException {
        Rule rule = read("if address :matches \"from\" \"" + pattern + "\" { addflag \"\\\\Seen\"; }")
                .rules()
                .get(0);
        assertThat(new Letters(rule).taken("Anna Wharf <" + address + ">")).isEqualTo(taken);
    }

    @Test
    void aBranchThatStopsNeedsNoExceptionAfterIt() throws SieveException {
        assertThat(sentences("""
                if size :over 9 { fileinto "Loans"; stop; }
                elsif size :over 8 { addflag "\\\\Seen"; stop; }
                elsif size :over 7 { fileinto "Schools"; }
                else { addflag "\\\\Flagged"; }
                """))
                .containsExactly(
                        "larger than 9 bytes → file into Loans, no later rules",
                        "larger than 8 bytes → mark as read, no later rules",
                        "larger than 7 bytes → file into Schools",
                        "not larger than 7 bytes → flag");
    }

    @Test
    @Timeout(20)
    void aLongChainIsReadInNoTimeAndNothingOfItIsGuessed() throws SieveException {
        StringBuilder stopping = new StringBuilder("if size :over 100000 { stop; }\n");
        StringBuilder open = new StringBuilder(stopping);
        for (int i = 0; i < 3000; i++) {
            stopping.append(
                    "elsif header :contains \"subject\" \"word%d\" { fileinto \"Loans\"; stop; }\n".formatted(i));
            open.append("elsif header :contains \"subject\" \"word%d\" { fileinto \"Loans\"; }\n".formatted(i));
        }
        assertThat(read(stopping.toString()).rules())
                .hasSize(3001)
                .allSatisfy(rule -> assertThat(rule.unless()).isEmpty());
        SieveReader.Read read = read(open.toString());
        assertThat(read.rules()).hasSize(202);
        assertThat(read.remarks().stream().filter(SieveReader.ReadingRemark::leftOut))
                .hasSize(2799)
                .allSatisfy(remark -> assertThat(remark.what()).contains("more than 200 other branches"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            if true { keep; }}          | Line 1: here “}” stands instead of a command.
            if true { keep }            | Line 1: here “}” stands instead of “{”.
            keep "a                     | Line 1: this string never ends; it lacks its closing quotation mark.
            /* x                        | Line 1: this comment never ends; it lacks its */.
            if not { keep; }            | Line 1: here “{” stands instead of a test after “not”.
            fileinto ["a", 5];          | Line 1: here “5” stands instead of a string.
            keep ?                      | Line 1: “?” cannot stand here.
            """)
    void whatIsNoSieveIsRefusedWithItsLine(String script, String said) {
        assertThatThrownBy(() -> read(script))
                .isInstanceOf(SieveException.class)
                .hasMessage(said);
    }

    @Test
    void lineNumbersCountTextsAndComments() {
        assertThatThrownBy(() -> read("# one\n/* two\nthree */ vacation text:\n..dots\n.\n;\n?"))
                .hasMessageStartingWith("Line 7:");
    }

    @ParameterizedTest
    @ValueSource(strings = {"if not ", "if anyof(", "if true {"})
    void whatIsTooDeepIsRefused(String piece) {
        assertThatThrownBy(() -> read(piece.repeat(5000))).hasMessageContaining("lie inside each other");
    }

    @Test
    void whatIsTooLongIsRefused() {
        assertThatThrownBy(() -> read(" ".repeat(SieveParser.MAX_LENGTH + 1))).hasMessageContaining("is the limit");
    }

    @Test
    void whateverIsReadItIsEitherTakenOrRefused() {
        Random random = new Random(3);
        String[] pieces = {
            "if ",
            "elsif ",
            "else ",
            "not ",
            "allof",
            "anyof",
            "(",
            ")",
            "{",
            "}",
            ";",
            ",",
            "[",
            "]",
            "true ",
            "header ",
            "address ",
            "size ",
            "date ",
            "body ",
            "envelope ",
            ":is ",
            ":matches ",
            ":value ",
            ":over ",
            ":flags ",
            "\"subject\" ",
            "\"from\" ",
            "\"to\" ",
            "\"*.a\\\\\" ",
            "\"(\" ",
            "\"ge\" ",
            "\"hour\" ",
            "5K ",
            "fileinto ",
            "keep ",
            "stop ",
            "addflag ",
            "\"${folder}\" ",
            "string ",
            "exists ",
            "set ",
            ":regex ",
            "\"\" ",
            "\n",
            "#x\n"
        };
        int taken = 0;
        for (int i = 0; i < 40_000; i++) {
            StringBuilder script = new StringBuilder();
            for (int j = random.nextInt(14); j >= 0; j--) {
                script.append(pieces[random.nextInt(pieces.length)]);
            }
            if (random.nextBoolean()) {
                script.insert(0, "if ").append("{ fileinto \"Loans\"; }");
            }
            try {
                taken += read(script.toString()).rules().size();
            } catch (SieveException e) {
                assertThat(e.line()).isPositive();
            }
        }
        assertThat(taken).as("rules that came of it").isPositive();
    }
}
