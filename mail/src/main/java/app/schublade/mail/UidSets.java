package app.schublade.mail;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import org.eclipse.angus.mail.imap.protocol.UIDSet;

/** UIDs as a command names them: in ranges, and not more than a server's line can take. */
final class UidSets {
    /** How many messages one command names at the most. */
    private static final int MAX_SET = 1000;

    private UidSets() {}

    static List<List<Long>> inSets(Collection<Long> uids) {
        List<Long> sorted = uids.stream().sorted().toList();
        List<List<Long>> sets = new ArrayList<>();
        for (int i = 0; i < sorted.size(); i += MAX_SET) {
            sets.add(sorted.subList(i, Math.min(sorted.size(), i + MAX_SET)));
        }
        return sets;
    }

    static String set(List<Long> uids) {
        return UIDSet.toString(sets(uids));
    }

    static UIDSet[] sets(List<Long> uids) {
        return UIDSet.createUIDSets(uids.stream().mapToLong(Long::longValue).toArray());
    }

    static List<Long> boxed(long[] uids) {
        return Arrays.stream(uids).boxed().toList();
    }
}
