package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.mail.Fetched;
import app.schublade.mail.Sighting;
import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A message as fetched, and read.
 *
 * @param problem why it could not be read; null if it could
 */
record FetchedMessage(
        Fetched fetched,
        ParsedMail mail,
        String identity,
        @Nullable String problem) {
    private static final Logger LOG = LoggerFactory.getLogger(FetchedMessage.class);

    /** Reads a message; whatever is wrong with it, or with the reader, it is a letter. */
    static FetchedMessage read(Fetched fetched) {
        try {
            ParsedMail mail = MimeReader.read(fetched.source());
            return new FetchedMessage(fetched, mail, Identity.of(mail.messageId(), fetched.source()), null);
        } catch (RuntimeException | StackOverflowError | AssertionError e) {
            LOG.error("A message could not be read; it is kept as it came", e);
            return unread(
                    fetched, "it could not be read (%s)".formatted(e.getClass().getSimpleName()));
        }
    }

    /** Reads a stored message again. */
    static FetchedMessage again(byte[] source, int size) {
        return read(new Fetched(new Sighting(0, false, false, false, false, Set.of()), Instant.EPOCH, size, source));
    }

    private static FetchedMessage unread(Fetched fetched, String problem) {
        ParsedMail mail = MimeReader.unreadable(fetched.source(), "It is kept as it came: %s.".formatted(problem));
        return new FetchedMessage(fetched, mail, Identity.of("", fetched.source()), problem);
    }

    /** The same letter as it came, because what was read of it is of no use. */
    FetchedMessage asItCame(String why) {
        return unread(fetched, why);
    }

    /** The same letter with another time of arrival, where the server tells none. */
    FetchedMessage received(Instant time) {
        return new FetchedMessage(
                new Fetched(fetched.sighting(), time, fetched.size(), fetched.source()), mail, identity, problem);
    }
}
