package app.schublade.core.format;

import app.schublade.core.message.Address;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.apache.james.mime4j.dom.address.Mailbox;
import org.apache.james.mime4j.field.address.LenientAddressParser;
import org.apache.james.mime4j.stream.ParserCursor;
import org.apache.james.mime4j.util.ByteArrayBuffer;

/**
 * Reads lists of addresses (RFC 5322, section 3.4), as other programs write them and as people type them.
 *
 * <p>The library's parser works on bytes and must be told how many there are: given text, it takes the number of characters
 * for that, and cuts the last address off. It would decode encoded words too, in a time that grows with the square of their
 * number, so they are hidden from it and decoded here.
 */
final class AddressFields {
    /** Of a longer field only the beginning is read. */
    private static final int MAX_LENGTH = 256 * 1024;

    private static final String WORD = "=?";
    /** A control character, which no field that was unfolded has. */
    private static final String HIDDEN_WORD = "=\u0001";

    private static final int MAX_NAME = 200;
    private static final int MAX_ADDRESS = 320;

    private AddressFields() {}

    /** Reads at most so many addresses; the members of a group are given one by one. */
    static List<Address> read(String field, int most) {
        String text = MimeReader.limit(field, MAX_LENGTH).replace("\u0001", "").replace(WORD, HIDDEN_WORD);
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        List<Address> all = new ArrayList<>();
        for (Mailbox mailbox : LenientAddressParser.DEFAULT
                .parseAddressList(new ByteArrayBuffer(bytes, true), new ParserCursor(0, bytes.length))
                .flatten()) {
            if (all.size() >= most) {
                break;
            }
            String name = mailbox.getName() == null ? "" : EncodedWords.decode(shown(mailbox.getName()));
            all.add(new Address(
                    MimeReader.limit(name.strip(), MAX_NAME),
                    MimeReader.limit(shown(mailbox.getAddress()), MAX_ADDRESS)));
        }
        return all;
    }

    private static String shown(String parsed) {
        return parsed.replace(HIDDEN_WORD, WORD);
    }
}
