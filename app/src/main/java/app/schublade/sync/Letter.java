package app.schublade.sync;

import app.schublade.core.format.Identity;
import app.schublade.core.format.MimeReader;
import app.schublade.core.format.ParsedMail;
import app.schublade.mail.Fetched;
import java.time.Instant;

/** A message as fetched, and read. */
record Letter(Fetched fetched, ParsedMail mail, String identity) {
    static Letter read(Fetched fetched) {
        ParsedMail mail = MimeReader.read(fetched.source());
        return new Letter(fetched, mail, Identity.of(mail.messageId(), fetched.source()));
    }

    /** The same letter with another time of arrival, where the server tells none. */
    Letter received(Instant time) {
        return new Letter(new Fetched(fetched.sighting(), time, fetched.size(), fetched.source()), mail, identity);
    }
}
