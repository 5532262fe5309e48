package app.schublade.mail;

import java.util.ArrayList;
import java.util.List;
import org.eclipse.angus.mail.iap.Argument;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.imap.ResyncData;
import org.eclipse.angus.mail.imap.protocol.FetchResponse;
import org.eclipse.angus.mail.imap.protocol.IMAPResponse;
import org.eclipse.angus.mail.imap.protocol.MailboxInfo;
import org.jspecify.annotations.Nullable;

/** Asks a server what has changed in a folder since it stood as known (RFC 7162). */
record Resync(Wire wire) {
    /** What goes along when the folder is opened; null where the server counts no changes. */
    @Nullable
    ResyncData asked(@Nullable FolderStatus before) {
        if (before != null && before.modSeq() > 0 && wire.isEnabled("QRESYNC")) {
            return new ResyncData(before.uidValidity(), before.modSeq());
        }
        return wire.hasCapability("CONDSTORE") ? ResyncData.CONDSTORE : null;
    }

    /** What has changed; null if the server cannot tell. */
    Opened.@Nullable MailboxChanges changes(MailboxInfo info, FolderStatus now, FolderStatus before)
            throws ProtocolException {
        if (before.modSeq() == 0 || now.modSeq() == 0 || before.uidValidity() != now.uidValidity()) {
            return null;
        }
        return wire.isEnabled("QRESYNC") ? changes(info) : changedSince(before.modSeq());
    }

    private static Opened.MailboxChanges changes(MailboxInfo info) {
        List<Sighting> sightings = new ArrayList<>();
        List<Opened.Range> gone = new ArrayList<>();
        List<IMAPResponse> answers = info.responses == null ? List.of() : info.responses;
        for (IMAPResponse answer : answers) {
            if (answer instanceof FetchResponse fetched) {
                Sighting sighting = ResponseReader.sighting(fetched);
                if (sighting != null) {
                    sightings.add(sighting);
                }
            } else if (answer.keyEquals("VANISHED")) {
                gone.addAll(ResponseReader.vanished(answer));
            }
        }
        return new Opened.MailboxChanges(sightings, gone);
    }

    private Opened.MailboxChanges changedSince(long modSeq) throws ProtocolException {
        Argument arguments = new Argument();
        arguments.writeAtom("1:*");
        arguments.writeAtom("(UID FLAGS)");
        arguments.writeAtom("(CHANGEDSINCE " + modSeq + ")");
        return new Opened.MailboxChanges(
                ResponseReader.collect(wire.ask("UID FETCH", arguments), ResponseReader::sighting), null);
    }
}
