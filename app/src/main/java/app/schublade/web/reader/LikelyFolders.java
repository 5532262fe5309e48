package app.schublade.web.reader;

import app.schublade.core.learn.Likely;
import app.schublade.core.learn.Trace;
import app.schublade.core.message.Address;
import app.schublade.core.place.FolderRef;
import app.schublade.learn.Learner;
import app.schublade.store.learn.LearnStore.LessonKind;
import app.schublade.store.message.ListRow;
import app.schublade.store.place.Places;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Folders and labels that a message is likely to get, with the reason in words. */
@Component
public class LikelyFolders {
    /** Fewer examples may be an accident. */
    private static final int SOME = 3;

    private final Learner learner;

    LikelyFolders(Learner learner) {
        this.learner = learner;
    }

    /**
     * A folder that suits.
     *
     * @param share how likely it is, from 0 to 1
     * @param why a sentence
     */
    public record LikelyFolder(FolderRef folder, double share, String why) {
        public boolean isLikelierThanNot() {
            return share > 0.5;
        }
    }

    /** Where a message is likely to be filed, the likeliest first; the archive has a key of its own. */
    public List<LikelyFolder> folders(long userId, ListRow message, Places places, int most) {
        Map<Long, Places.Folder> open = open(places);
        open.remove(message.folderId());
        return learner.likely(userId, message.id(), LessonKind.FOLDER, open.keySet(), most + 1).stream()
                .flatMap(likely -> Stream.ofNullable(open.get(likely.place()))
                        .filter(folder -> folder.use() == null)
                        .map(folder -> new LikelyFolder(folder.ref(), likely.share(), why(likely, message.sender()))))
                .limit(most)
                .toList();
    }

    private static Map<Long, Places.Folder> open(Places places) {
        return places.folders().stream()
                .filter(Places.Folder::isForFiling)
                .collect(Collectors.toMap(Places.Folder::id, Function.identity()));
    }

    /**
     * Where each of many messages belongs, as far as that can be told without looking: one of the user's folders is likelier than
     * not, and most of those that are like it are there, and these are some.
     *
     * @param senders of the messages, by their ids
     */
    public Map<Long, LikelyFolder> likeliest(long userId, Map<Long, Address> senders, Places places) {
        Map<Long, Places.Folder> open = open(places);
        Map<Long, LikelyFolder> all = new HashMap<>();
        learner.likeliest(userId, List.copyOf(senders.keySet()), LessonKind.FOLDER, open.keySet())
                .forEach((message, likely) -> {
                    Places.Folder folder = open.get(likely.place());
                    Address sender = senders.get(message);
                    if (folder == null || folder.use() != null || sender == null) {
                        return; // The archive is where everything goes that has no folder.
                    }
                    LikelyFolder one = new LikelyFolder(folder.ref(), likely.share(), why(likely, sender));
                    if (one.isLikelierThanNot() && likely.there() >= SOME && 2 * likely.there() > likely.all()) {
                        all.put(message, one);
                    }
                });
        return all;
    }

    /** Labels that a message is likely to get, the likeliest first. */
    public List<Long> labels(long userId, long message, Places places, int most) {
        Set<Long> open = places.labels().stream().map(Places.Label::id).collect(Collectors.toSet());
        return learner.likely(userId, message, LessonKind.LABEL, open, most).stream()
                .map(Likely::place)
                .toList();
    }

    private static String why(Likely likely, Address sender) {
        Trace because = likely.because();
        if (because == null) {
            return "";
        }
        String which = switch (because.kind()) {
            case CONVERSATION -> "of this conversation";
            case LIST -> "of this mailing list";
            case ALIAS -> "sent to " + because.value();
            case SENDER -> "from " + sender.shown();
            case DOMAIN -> "from " + because.value();
            case SUBJECT -> "with this subject";
            case ACCOUNT -> "of this account";
            case FILE -> "with a ." + because.value();
            case SUBJECT_WORD -> "with “" + because.value() + "” in the subject";
            case WORD -> "with “" + because.value() + "”";
        };
        return "%,d of %,d %s %s there"
                .formatted(likely.there(), likely.all(), which, likely.there() == 1 ? "is" : "are");
    }
}
