package app.schublade.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.core.message.Address;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Lists of addresses as they are found in mail; each beside what a person would read. */
class AddressFieldsTest {
    private static final int MOST = 500;

    private static String read(String field) {
        return AddressFields.read(field, MOST).stream()
                .map(one -> one.name() + "<" + one.email() + ">")
                .collect(Collectors.joining(" "));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                // As the standard has it.
                "anna@wharf.example | <anna@wharf.example>",
                "<anna@wharf.example> | <anna@wharf.example>",
                "Anna <anna@wharf.example> | Anna<anna@wharf.example>",
                "Anna Berg <anna@wharf.example> | Anna Berg<anna@wharf.example>",
                "\"Berg, Anna\" <anna@wharf.example> | Berg, Anna<anna@wharf.example>",
                "\"Anna \\\"Bo\\\" Berg\" <anna@wharf.example> | Anna \"Bo\" Berg<anna@wharf.example>",
                "\"A\\\\B\" <a@b.example> | A\\B<a@b.example>",
                "a@b.example, c@d.example | <a@b.example> <c@d.example>",
                "A <a@b.example>,C <c@d.example> | A<a@b.example> C<c@d.example>",
                "Friends: a@b.example, C <c@d.example>; | <a@b.example> C<c@d.example>",
                "Friends: a@b.example;, d@e.example | <a@b.example> <d@e.example>",
                "undisclosed-recipients:; | ``",
                "undisclosed-recipients: ; | ``",
                "Undisclosed recipients:; | ``",
                "a@b.example (Anna) | Anna<a@b.example>",
                "(A comment) a@b.example | A comment<a@b.example>",
                "Anna (at work) <a@b.example> | Anna<a@b.example>",
                "Anna (a (nested) comment) <a@b.example> | Anna<a@b.example>",
                "\"a b\"@c.example | <\"a b\"@c.example>",
                "\"anna\"@c.example | <anna@c.example>",
                "Anna <\"a b\"@c.example> | Anna<\"a b\"@c.example>",
                "\"a,b\"@c.example, d@e.example | <\"a,b\"@c.example> <d@e.example>",
                "a+b@c.example | <a+b@c.example>",
                "a.b-c_d@e-f.g.example | <a.b-c_d@e-f.g.example>",
                "o'hara@quay.example | <o'hara@quay.example>",
                "Miles O'Hara <o'hara@quay.example> | Miles O'Hara<o'hara@quay.example>",
                "a@[192.0.2.1] | <a@[192.0.2.1]>",
                "A <a@[IPv6:2001:db8::1]> | A<a@[IPv6:2001:db8::1]>",
                "a@[IPv6:2001:db8::1], b@c.example | <a@[IPv6:2001:db8::1]> <b@c.example>",
                "Dr. A. B. Berg <a@b.example> | Dr. A. B. Berg<a@b.example>",
                // Older forms (RFC 5322, section 4.4).
                "<@hop.example,@other.example:anna@wharf.example> | <anna@wharf.example>",
                "Anna <@hop.example:anna@wharf.example> | Anna<anna@wharf.example>",
                "anna @ wharf . example | <anna@wharf.example>",
                "anna(c)@(c)wharf.example | <anna@wharf.example>",
                "Anna < anna@wharf.example > | Anna<anna@wharf.example>",
                "Anna <anna @ wharf.example> | Anna<anna@wharf.example>",
                "a@b.example,,c@d.example | <a@b.example> <c@d.example>",
                ", a@b.example, | <a@b.example>",
                "Anna . Berg <a@b.example> | Anna . Berg<a@b.example>",
                // Names in encoded words (RFC 2047).
                "=?utf-8?Q?J=C3=B6rg?= <joerg@b.example> | Jörg<joerg@b.example>",
                "=?utf-8?Q?M=C3=BCller,_J=C3=B6rg?= <joerg@b.example> | Müller, Jörg<joerg@b.example>",
                "=?utf-8?Q?M=C3=BCller,?= =?utf-8?Q?_J=C3=B6rg?= <j@b.example> | Müller, Jörg<j@b.example>",
                "\"=?utf-8?Q?M=C3=BCller,_J=C3=B6rg?=\" <j@b.example> | Müller, Jörg<j@b.example>",
                "=?utf-8?Q?A_<b@c.example>?= <j@b.example> | A <b@c.example><j@b.example>",
                "=?utf-8?Q?A=22B?= <j@b.example>, c@d.example | A\"B<j@b.example> <c@d.example>",
                "=?utf-8?Q?(A?= <j@b.example>, c@d.example | (A<j@b.example> <c@d.example>",
                "=?utf-8?Q?J=C3=B6rg?= Berg <j@b.example> | Jörg Berg<j@b.example>",
                "=?utf-8?Q?J=C3=B6?= =?utf-8?Q?rg?= <j@b.example> | Jörg<j@b.example>",
                "=?utf-8?Q?J=C3?= =?utf-8?Q?=B6rg?= <j@b.example> | Jörg<j@b.example>",
                "=?utf-8?B?SsO2cmc=?= <j@b.example> | Jörg<j@b.example>",
                "=?utf-8?Q?J=C3=B6rg?=<j@b.example> | Jörg<j@b.example>",
                "=?iso-8859-1?Q?J=F6rg?= <j@b.example>, =?utf-8?Q?=C3=84nne?= <a@b.example> | Jörg<j@b.example> Änne<a@b.example>",
                "j@b.example (=?utf-8?Q?J=C3=B6rg?=) | Jörg<j@b.example>",
                "=?utf-8?Q?j=40b.example?= <j@b.example> | <j@b.example>",
                "=?utf-8?Q?broken <j@b.example> | =?utf-8?Q?broken<j@b.example>",
                "=?utf-8*en?Q?J=C3=B6rg?= <j@b.example> | Jörg<j@b.example>",
                // Raw UTF-8 (RFC 6532).
                "Jürgen Müller <j@b.example> | Jürgen Müller<j@b.example>",
                "Ä <a@b.example>, Ö <o@b.example>, Ü <u@b.example> | Ä<a@b.example> Ö<o@b.example> Ü<u@b.example>",
                "jürgen@müller.example | <jürgen@müller.example>",
                "Ελένη Καραβά <eleni@quay.example> | Ελένη Καραβά<eleni@quay.example>",
                "港の博物館 <museum@quay.example> | 港の博物館<museum@quay.example>",
                "“Anna” <a@b.example> | “Anna”<a@b.example>",
                // What breaks the standard.
                "foo@bar.example <foo@bar.example> | <foo@bar.example>",
                "foo@bar.example <real@quay.example> | foo@bar.example<real@quay.example>",
                "\"foo@bar.example\" <real@quay.example> | foo@bar.example<real@quay.example>",
                "'foo@bar.example' <foo@bar.example> | <foo@bar.example>",
                "'Anna' <a@b.example> | Anna<a@b.example>",
                "Grebe, Ottoline <o@x.example> | Grebe, Ottoline<o@x.example>",
                "Grebe, Ottoline, Dr. <o@x.example> | Grebe, Ottoline, Dr.<o@x.example>",
                "Grebe, Ottoline <o@x.example>, Berg, Anna <a@b.example> | Grebe, Ottoline<o@x.example> Berg, Anna<a@b.example>",
                "a@b.example, Grebe, Ottoline <o@x.example> | <a@b.example> Grebe, Ottoline<o@x.example>",
                "x@y.example> Bob | Bob<x@y.example>",
                "Bob <x@y.example | Bob<x@y.example>",
                "<x@y.example, c@d.example | <x@y.example> <c@d.example>",
                "Bob x@y.example> | Bob<x@y.example>",
                "Bob <<x@y.example>> | Bob<x@y.example>",
                "x@y.example; | <x@y.example>",
                "x@y.example;c@d.example | <x@y.example> <c@d.example>",
                "Anna a@b.example | Anna<a@b.example>",
                "a@b.example Anna | Anna<a@b.example>",
                "<a@b.example> Anna | Anna<a@b.example>",
                "<a@b.example> (Anna) | Anna<a@b.example>",
                "Anna <a@b.example.> | Anna<a@b.example>",
                "Anna <a@b.example>. | Anna<a@b.example>",
                "mailto:a@b.example | <a@b.example>",
                "<mailto:a@b.example> | <a@b.example>",
                "Anna <MAILTO:a@b.example> | Anna<a@b.example>",
                "anna at wharf.example | <anna@wharf.example>",
                "<> | ``",
                "Anna <> | Anna<>",
                "MAILER-DAEMON | <MAILER-DAEMON>",
                "Mail Delivery System <MAILER-DAEMON> | Mail Delivery System<MAILER-DAEMON>",
                "root | <root>",
                "a@b.example <Anna> | Anna<a@b.example>",
                "Re: your mail <a@b.example> | Re: your mail<a@b.example>",
                "Anna: Berg <a@b.example>, c@d.example | Anna: Berg<a@b.example> <c@d.example>",
                "\"Anna <a@b.example> | \"Anna<a@b.example>",
                "Anna\" <a@b.example> | Anna\"<a@b.example>",
                "Anna (work <a@b.example> | Anna work<a@b.example>",
                "Anna) <a@b.example> | Anna)<a@b.example>",
                "a@b@c.example | <a@b@c.example>",
                "Anna <a@b.example> <c@d.example> | Anna<c@d.example>",
                "Anna <a@b.example>\t,\t<c@d.example> | Anna<a@b.example> <c@d.example>",
                "*Anna* <a@b.example> | *Anna*<a@b.example>",
                "Anna & Bert <a@b.example> | Anna & Bert<a@b.example>",
                "Anna / Bert <a@b.example> | Anna / Bert<a@b.example>",
                "Anna [Club] <a@b.example> | Anna [Club]<a@b.example>",
                "Anna@Work <a@b.example> | Anna@Work<a@b.example>",
            })
    void readsWhatAPersonWouldRead(String field, String expected) {
        assertThat(read(field)).isEqualTo(expected);
    }

    @Test
    void bothWaysToWriteAnInternationalDomainAreOne() {
        assertThat(new Address("", "Jörg@MÜLLER.example").key()).isEqualTo("jörg@xn--mller-kva.example");
        assertThat(new Address("", "a@xn--mller-kva.example").domain())
                .isEqualTo(new Address("", "b@müller.example").domain());
        assertThat(Address.key("*.Müller.example")).isEqualTo("*.xn--mller-kva.example");
        assertThat(Address.key("a@" + "ü".repeat(100) + ".example")).startsWith("a@ü");
        assertThat(Address.key("no address")).isEqualTo("no address");
    }

    @Test
    void nothingIsNothing() {
        assertThat(List.of(read(""), read("  "), read(","), read(";;"), read("()"), read("\"\""), read("\0")))
                .containsOnly("");
    }

    /** Of what somebody types no recipient is taken for a part of another one's name. */
    @Test
    void whatIsTypedHasNoNamesWithCommas() {
        assertThat(AddressFields.readTyped("anna, Bert <bert@wharf.example>", MOST))
                .containsExactly(new Address("", "anna"), new Address("Bert", "bert@wharf.example"));
    }

    @Test
    void noMoreAreReadThanAreWanted() {
        assertThat(AddressFields.read("a@b.example, ".repeat(1000), 7)).hasSize(7);
        assertThat(AddressFields.read("Grebe, Ottoline, ".repeat(1000), 7)).hasSize(7);
    }

    /** What is written is read back, whatever is in a name. */
    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4, 5})
    void whatWasWrittenIsReadBack(int seed) {
        Random random = new Random(seed);
        String signs = "abcÄöü ,;:<>@()\"'\\.=?_港и[]";
        for (int i = 0; i < 400; i++) {
            String name = random.ints(random.nextInt(12), 0, signs.length())
                    .mapToObj(at -> signs.substring(at, at + 1))
                    .collect(Collectors.joining())
                    .replaceAll(" +", " ")
                    .strip();
            if (name.matches("[\"'].*[\"']|.*=\\?.*")) {
                continue; // Quotes around all of a name are taken off.
            }
            List<Address> all = List.of(new Address(name, "a" + i + "@b.example"), new Address("", "c@d.example"));
            assertThat(AddressFields.read(MailWriter.typed(all), MOST)).as(name).isEqualTo(all);
        }
    }

    /** Shapes that make careless readers slow: each is read, and in a time that grows with its length. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "(",
                "<",
                "\"",
                ",",
                ";",
                ":",
                "=?",
                "a:",
                "a: ",
                "((a)",
                "<a ",
                "\"a\"",
                ". ",
                "@ ",
                "a, ",
                "a@b, ",
                "[",
                "\\\"",
                "=?utf-8?Q?",
                "=?utf-8?Q?a?=",
                "a(",
                "a<",
                "<a>",
                "\"\\",
                " ",
                ">",
                "at "
            })
    void longShapesAreReadInOnePass(String shape) {
        long before = System.nanoTime();
        AddressFields.read(shape.repeat(1 + 256 * 1024 / shape.length()), MOST);
        assertThat(System.nanoTime() - before).as("far from quadratic").isLessThan(5_000_000_000L);
    }
}
