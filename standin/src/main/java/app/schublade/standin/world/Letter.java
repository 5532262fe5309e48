package app.schublade.standin.world;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A message of the demo world before it is put into an envelope.
 *
 * @param id its Message-ID without brackets
 * @param text what was written, with everything filled in; Markdown if it has a layout
 * @param layout how its HTML looks: {@code letter}, {@code newsletter}, {@code receipt}; empty for plain text alone
 * @param charset how it is written if that charset has all its letters; UTF-8 otherwise
 * @param below what follows below of the letter it answers or passes on
 * @param answered the letter it answers, passes on or reports on
 */
public record Letter(
        String id,
        Person from,
        List<Person> to,
        List<Person> cc,
        Language language,
        String subject,
        String text,
        String layout,
        Instant date,
        String charset,
        boolean urgent,
        Below below,
        List<Enclosure> enclosures,
        @Nullable Letter answered) {

    /** What stands below a letter of the one before it. */
    enum Below {
        NOTHING,
        QUOTED,
        PASSED_ON
    }

    /** Everybody it is written to, those in copy last. */
    List<Person> recipients() {
        List<Person> all = new ArrayList<>(to);
        all.addAll(cc);
        return all;
    }

    /** Ids of the letters before it in its conversation, the oldest first (RFC 5322, section 3.6.4). */
    List<String> references() {
        List<String> ids = new ArrayList<>();
        for (Letter before = answered; before != null; before = before.answered) {
            ids.add(0, before.id);
        }
        return ids;
    }

    /** The same, written at another time. */
    Letter at(Instant time) {
        return new Letter(
                id, from, to, cc, language, subject, text, layout, time, charset, urgent, below, enclosures, answered);
    }
}
