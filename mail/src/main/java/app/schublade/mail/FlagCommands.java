package app.schublade.mail;

import jakarta.mail.Flags;
import java.time.Instant;
import java.util.Collection;
import java.util.Date;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.eclipse.angus.mail.iap.Argument;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.imap.AppendUID;

/** The commands that change messages, those of the folder that is open by UID (RFC 3501, section 6.4.8). */
record FlagCommands(Wire wire, Queries queries) {
    Map<Long, Long> move(Collection<Long> uids, String targetServerName) throws MailException {
        try {
            Map<Long, Long> moved = new HashMap<>();
            for (List<Long> some : UidSets.inSets(uids)) {
                if (wire.hasCapability("MOVE")) {
                    moved.putAll(transfer("UID MOVE", some, targetServerName));
                } else {
                    moved.putAll(transfer("UID COPY", some, targetServerName));
                    remove(some);
                }
            }
            return moved;
        } catch (ProtocolException e) {
            throw MailException.failed("move messages into " + targetServerName, e);
        }
    }

    private Map<Long, Long> transfer(String command, List<Long> uids, String target) throws ProtocolException {
        Argument arguments = new Argument();
        arguments.writeAtom(UidSets.set(uids));
        wire.writeMailbox(arguments, target);
        return ResponseReader.pairs(wire.copied(wire.ask(command, arguments)));
    }

    Map<Long, Long> copy(Collection<Long> uids, String targetServerName) throws MailException {
        try {
            Map<Long, Long> copied = new HashMap<>();
            for (List<Long> some : UidSets.inSets(uids)) {
                copied.putAll(transfer("UID COPY", some, targetServerName));
            }
            return copied;
        } catch (ProtocolException e) {
            throw MailException.failed("copy messages into " + targetServerName, e);
        }
    }

    void remove(Collection<Long> uids) throws MailException {
        try {
            mark(uids, "\\Deleted", true);
            for (List<Long> some : UidSets.inSets(uids)) {
                if (wire.hasCapability("UIDPLUS")) {
                    wire.uidexpunge(UidSets.sets(some));
                } else if (uids.containsAll(UidSets.boxed(queries.search("DELETED", null)))) {
                    wire.expunge();
                }
            }
        } catch (ProtocolException e) {
            throw MailException.failed("remove messages", e);
        }
    }

    void mark(Collection<Long> uids, String flag, boolean on) throws MailException {
        try {
            for (List<Long> some : UidSets.inSets(uids)) {
                Argument arguments = new Argument();
                arguments.writeAtom(UidSets.set(some));
                arguments.writeAtom(on ? "+FLAGS.SILENT" : "-FLAGS.SILENT");
                arguments.writeAtom("(" + flag + ")");
                wire.ask("UID STORE", arguments);
            }
        } catch (ProtocolException e) {
            throw MailException.failed("set " + flag, e);
        }
    }

    OptionalLong append(String serverName, byte[] source, Instant received, Flags flags) throws MailException {
        try {
            AppendUID uid = wire.appenduid(serverName, flags, Date.from(received), new SourceLiteral(source));
            return uid == null ? OptionalLong.empty() : OptionalLong.of(uid.uid);
        } catch (ProtocolException e) {
            throw MailException.failed("add a message to " + serverName, e);
        }
    }
}
