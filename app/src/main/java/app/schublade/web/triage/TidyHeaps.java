package app.schublade.web.triage;

import app.schublade.core.place.FolderRef;
import app.schublade.core.place.SpecialUse;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.triage.TidyStore.DoneMessage;
import app.schublade.web.reader.LikelyFolders;
import app.schublade.web.reader.LikelyFolders.LikelyFolder;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Heaps up what is done with by the folder where it would likely be filed; the rest would go into the archive. */
@Component
class TidyHeaps {
    private final LikelyFolders likely;
    private final PlaceStore places;

    TidyHeaps(LikelyFolders likely, PlaceStore places) {
        this.likely = likely;
        this.places = places;
    }

    /** A message of a heap, with the reason why it is there. */
    public record HeapLine(DoneMessage message, String why) {}

    /**
     * Messages that would go to the same folder.
     *
     * @param archive whether it is those that belong to no folder
     */
    public record Heap(FolderRef folder, boolean archive, List<HeapLine> lines) {
        /** As the page sends it back: ids with commas between. */
        public String ids() {
            return lines.stream()
                    .map(line -> String.valueOf(line.message().id()))
                    .collect(Collectors.joining(","));
        }
    }

    /** The largest first, the archive last; the messages of a conversation stay together. */
    List<Heap> of(long userId, List<DoneMessage> messages) {
        Places known = places.of(userId, null);
        Map<Long, LikelyFolder> folders = likely.likeliest(
                userId, messages.stream().collect(Collectors.toMap(DoneMessage::id, DoneMessage::sender)), known);
        Map<Long, LikelyFolder> conversations = new HashMap<>();
        for (DoneMessage message : messages) {
            LikelyFolder folder = folders.get(message.id());
            if (folder != null && message.conversation() != null) {
                conversations.merge(
                        message.conversation(), folder, (one, other) -> one.share() >= other.share() ? one : other);
            }
        }
        FolderRef archive = known.special(SpecialUse.ARCHIVE).ref();
        Map<FolderRef, List<HeapLine>> heaps = new LinkedHashMap<>();
        for (DoneMessage message : messages) {
            LikelyFolder together = message.conversation() == null ? null : conversations.get(message.conversation());
            LikelyFolder folder = together == null ? folders.get(message.id()) : together;
            String why = folder == null
                    ? "none of your folders is likely"
                    : folder.equals(folders.get(message.id())) ? folder.why() : "its conversation goes there";
            heaps.computeIfAbsent(folder == null ? archive : folder.folder(), place -> new ArrayList<>())
                    .add(new HeapLine(message, why));
        }
        return heaps.entrySet().stream()
                .map(heap -> new Heap(heap.getKey(), Objects.equals(heap.getKey(), archive), heap.getValue()))
                .sorted(Comparator.comparing(Heap::archive)
                        .thenComparing(heap -> -heap.lines().size())
                        .thenComparing(heap -> heap.folder().path()))
                .toList();
    }
}
