package app.schublade.standin;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.IntFunction;

/** Mail as nobody should write it: shapes that grow, and whole messages changed at random. */
public final class BrokenMail {
    private static final List<String> FIELDS = List.of(
            "From",
            "Sender",
            "Reply-To",
            "To",
            "Cc",
            "Bcc",
            "Subject",
            "Date",
            "Message-ID",
            "References",
            "In-Reply-To",
            "List-Id",
            "List-Post",
            "Delivered-To",
            "X-Original-To",
            "Return-Path",
            "Precedence",
            "Auto-Submitted",
            "Importance",
            "Priority",
            "X-Priority",
            "Sensitivity",
            "Content-Type",
            "Content-Disposition",
            "Content-ID",
            "Content-Transfer-Encoding",
            "X-Anything");

    private static final List<String> VALUES = List.of(
            "\0",
            "=?utf-8?Q?a=00b?=",
            "<=?utf-8?Q?a=00b@c?=>",
            "=?utf-8?B?AAAA?=",
            "=?utf-8?Q?",
            "=?x-no?Q?=FF?=",
            "\ud83d half",
            "Jürgen Müller <j@b.example>, ",
            "text/plain; charset=utf-16; charset=\"\0\"",
            "multipart/mixed; boundary = \"x\"",
            "multipart/mixed; boundary=",
            "message/rfc822",
            "attachment; filename*0=a; filename*1*=''%00%ff; filename=\"\0\"",
            "base64",
            "quoted-printable",
            "Thu, 99 Foo 99999999 99:99:99 +9999",
            "<<<<>>>>,,,;;;:::@@@\"\"\\\\(((",
            "a".repeat(3000));

    private BrokenMail() {}

    /** Shapes by name; each makes a source of about so many bytes, always with a sender, a subject and an end of header. */
    public static Map<String, IntFunction<byte[]>> shapes() {
        Map<String, IntFunction<byte[]>> shapes = new LinkedHashMap<>();
        shapes.put(
                "nested parts",
                size -> nested(size, "Content-Type: multipart/mixed; boundary = \"b%1$d\"\r\n\r\n--b%1$d\r\n"));
        shapes.put(
                "nested parts of one name",
                size -> nested(size, "Content-Type: multipart/mixed; boundary = \"x\"\r\n\r\n--x\r\n"));
        shapes.put("messages in messages", size -> nested(size, "Content-Type: message/rfc822\r\n\r\n"));
        shapes.put(
                "quoted messages in messages",
                size -> nested(
                        size, "Content-Type: message/rfc822\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n"));
        shapes.put(
                "many parts", size -> body(size, "Content-Type: multipart/mixed; boundary=b\r\n", "--b\r\n\r\nx\r\n"));
        shapes.put("lines of hyphens", size -> body(size, "Content-Type: multipart/mixed; boundary=b\r\n", "--\r\n"));
        shapes.put(
                "half boundaries",
                size -> body(
                        size,
                        "Content-Type: multipart/mixed; boundary=" + "b".repeat(70) + "\r\n",
                        "--" + "b".repeat(69) + "\r\n"));
        shapes.put("many fields", size -> header(size, "X-Field: some value\r\n"));
        shapes.put("one long field", size -> header(size, "X-Field: ", "some value "));
        shapes.put("a field of many lines", size -> header(size, "X-Field: a\r\n", " b\r\n"));
        shapes.put("words begun in a subject", size -> header(size, "Subject: ", "=?utf-8?Q?"));
        shapes.put("words in a subject", size -> header(size, "Subject: ", "=?utf-8?Q?=C3=BC?= "));
        shapes.put("words begun in a sender", size -> header(size, "From: ", "=?utf-8?Q?"));
        shapes.put("commas in To", size -> header(size, "To: ", ","));
        shapes.put("brackets in To", size -> header(size, "To: ", "<"));
        shapes.put("comments in To", size -> header(size, "To: ", "("));
        shapes.put("quotes in To", size -> header(size, "To: ", "\""));
        shapes.put("groups in To", size -> header(size, "To: ", "a:b@c.example,"));
        shapes.put("recipients", size -> header(size, "To: ", "Anna <anna@wharf.example>, "));
        shapes.put("references", size -> header(size, "References: ", "<a@b.example> "));
        shapes.put("brackets in References", size -> header(size, "References: ", "<"));
        shapes.put("parameters", size -> header(size, "Content-Type: text/plain; ", "a=b; "));
        shapes.put("parameters in pieces", size -> header(size, "Content-Disposition: attachment; ", "filename*0=b; "));
        shapes.put("a date", size -> header(size, "Date: ", "1 "));
        shapes.put("tags", size -> body(size, "Content-Type: text/html\r\n", "<b><p>"));
        shapes.put("crossed tags", size -> body(size, "Content-Type: text/html\r\n", "<b></p>"));
        shapes.put("attributes", size -> body(size, "Content-Type: text/html\r\n", "<p a1=b "));
        shapes.put("links begun", size -> body(size, "Content-Type: text/html\r\n", "<a "));
        shapes.put("pictures", size -> body(size, "Content-Type: text/html\r\n", "<img "));
        shapes.put("equals signs", size -> body(size, "Content-Transfer-Encoding: quoted-printable\r\n", "="));
        shapes.put("blanks", size -> body(size, "Content-Transfer-Encoding: quoted-printable\r\n", " "));
        shapes.put("base64", size -> body(size, "Content-Transfer-Encoding: base64\r\n", "="));
        shapes.put("empty lines", size -> body(size, "", "\r\n"));
        shapes.put("NUL", size -> body(size, "", "\0"));
        shapes.put(
                "lists in lists",
                size -> body(size, "Content-Type: text/html\r\n", "<ul><li>a<a href='http://b.example'>b"));
        shapes.put("tables in tables", size -> body(size, "Content-Type: text/html\r\n", "<table><tr><td>a"));
        shapes.put("flowed lines", size -> body(size, "Content-Type: text/plain; format=flowed\r\n", ">> a \r\n"));
        shapes.put("marks of quotes", size -> body(size, "Content-Type: text/plain; format=flowed\r\n", ">"));
        shapes.put("files begun in a text", size -> body(size, "", "begin 644 a\r\n"));
        shapes.put("a file in a text without end", size -> body(size, "", "begin 644 a\r\n\r\n"));
        shapes.put("lines of a file in a text", size -> body(size, "", "#86)C\r\n"));
        shapes.put("yEnc begun", size -> body(size, "", "=ybegin line=1 size=1 name=a\r\nabc\r\nbegin 644 a\r\n"));
        shapes.put("signed texts begun", size -> body(size, "", "-----BEGIN PGP SIGNED MESSAGE-----\r\n"));
        shapes.put("encrypted texts begun", size -> body(size, "", "-----BEGIN PGP MESSAGE-----\r\n"));
        shapes.put(
                "recipients of a report",
                size -> body(
                        size,
                        "Content-Type: message/delivery-status\r\n",
                        "Final-Recipient: rfc822; a@b.example\r\nStatus: 5.1.1\r\n\r\n"));
        shapes.put(
                "a field of a report",
                size -> body(size, "Content-Type: message/delivery-status\r\n\r\nX-A: b\r\n", " and more\r\n"));
        shapes.put(
                "elements in elements",
                size -> body(
                        size,
                        "Content-Type: application/pkcs7-mime; smime-type=signed-data\r\nContent-Transfer-Encoding: base64\r\n",
                        "MIAwgDCA"));
        for (String line : List.of(
                "BEGIN:VEVENT\r\nDTSTART:20260303T100000Z\r\nEND:VEVENT\r\n",
                "BEGIN:VEVENT\r\n",
                "ATTENDEE;CN=\"a\":mailto:b@c.example\r\n",
                "BEGIN:VTIMEZONE\r\nTZID:a\r\n",
                "BEGIN:VTIMEZONE\r\nEND:VTIMEZONE\r\n",
                " folded\r\n",
                "RRULE:FREQ=SECONDLY;COUNT=999999999\r\n")) {
            shapes.put("a calendar of " + line.strip().replaceAll("\\s+", " "), size -> calendar(size, line));
        }
        return shapes;
    }

    private static byte[] calendar(int size, String line) {
        return body(
                size, "Content-Type: text/calendar\r\n\r\nBEGIN:VCALENDAR\r\nMETHOD:REQUEST\r\nBEGIN:VEVENT\r\n", line);
    }

    private static byte[] bytes(String source) {
        return source.getBytes(StandardCharsets.UTF_8);
    }

    private static final String HEAD = "From: Anna <anna@wharf.example>\r\n";
    private static final String ID = "Message-ID: <m@wharf.example>\r\n";
    private static final String SUBJECT = "Subject: Still read\r\n" + ID;

    private static byte[] nested(int size, String level) {
        StringBuilder source = new StringBuilder(HEAD + SUBJECT);
        for (int i = 0; source.length() < size; i++) {
            source.append(level.formatted(i));
        }
        return bytes(source.toString());
    }

    private static byte[] body(int size, String fields, String repeated) {
        String blank = fields.contains("\r\n\r\n") ? "" : "\r\n";
        return bytes(HEAD + SUBJECT + fields + blank + repeated.repeat(size / repeated.length() + 1));
    }

    private static byte[] header(int size, String repeated) {
        return header(size, "", repeated);
    }

    private static byte[] header(int size, String begin, String repeated) {
        String end = repeated.endsWith("\n") ? "" : "\r\n";
        return bytes((begin.startsWith("From") ? "" : HEAD) + begin + repeated.repeat(size / repeated.length() + 1)
                + end + (begin.startsWith("Subject") ? ID : SUBJECT) + "\r\nThe text.\r\n");
    }

    /** A message with everything, changed at random: fields broken, bytes flipped, parts cut out, cut off. */
    public static byte[] any(Random random) {
        List<String> fields = new ArrayList<>();
        fields.add("From: Anna <anna@wharf.example>");
        fields.add("Subject: Broken " + random.nextInt());
        for (int i = random.nextInt(12); i > 0; i--) {
            fields.add(one(random, FIELDS) + ": " + one(random, VALUES).repeat(1 + random.nextInt(4)));
        }
        java.util.Collections.shuffle(fields, random);
        StringBuilder source = new StringBuilder(String.join("\r\n", fields)).append("\r\n\r\n");
        for (int i = random.nextInt(8); i > 0; i--) {
            source.append(random.nextBoolean() ? "--x\r\n" : "text\r\n")
                    .append(one(random, FIELDS))
                    .append(": ")
                    .append(one(random, VALUES))
                    .append(random.nextBoolean() ? "\r\n\r\n" : "\r\n");
        }
        ByteArrayOutputStream changed = new ByteArrayOutputStream();
        byte[] whole = bytes(source.toString());
        int length = random.nextInt(4) == 0 ? random.nextInt(whole.length) : whole.length;
        for (int i = 0; i < length; i++) {
            switch (random.nextInt(400)) {
                case 0 -> changed.write(random.nextInt(256));
                case 1 -> i += random.nextInt(20);
                case 2 -> changed.write(0);
                default -> changed.write(whole[i]);
            }
        }
        return changed.toByteArray();
    }

    private static String one(Random random, List<String> all) {
        return all.get(random.nextInt(all.size()));
    }
}
