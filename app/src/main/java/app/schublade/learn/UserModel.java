package app.schublade.learn;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.learn.LikelyPlaces;
import app.schublade.core.learn.Trace;
import app.schublade.store.base.Gzip;
import app.schublade.store.learn.LearnStore;
import app.schublade.store.learn.LearnStore.Learnt;
import app.schublade.store.learn.LearnStore.Lesson;
import app.schublade.store.learn.LearnStore.LessonKind;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.message.RuleInputStore.RuleCandidate;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.locks.ReentrantLock;
import java.util.stream.Collectors;
import java.util.zip.GZIPInputStream;
import org.jspecify.annotations.Nullable;

/** What was learnt of one user. One thread at a time: whoever uses it locks it. */
final class UserModel {
    /** Held by whoever uses it. */
    final ReentrantLock lock = new ReentrantLock();

    /** So many of the messages that came last are learnt from at first. */
    private static final int FIRST = 10_000;
    /** So many are read at once. */
    static final int AT_ONCE = 500;

    private final long userId;
    private final LearnStore store;
    private final RuleInputStore messages;
    private final Map<LessonKind, LikelyPlaces> places = new EnumMap<>(LessonKind.class);
    private long lastLesson;
    private boolean known;
    private boolean changed;

    UserModel(long userId, LearnStore store, RuleInputStore messages) {
        this.userId = userId;
        this.store = store;
        this.messages = messages;
        for (LessonKind kind : LessonKind.values()) {
            places.put(kind, new LikelyPlaces());
        }
    }

    long userId() {
        return userId;
    }

    LikelyPlaces places(LessonKind kind) {
        return Objects.requireNonNull(places.get(kind));
    }

    static List<Trace> traces(RuleCandidate candidate) {
        Long conversation = candidate.row().conversation();
        return Trace.of(candidate.message(), conversation == null ? 0 : conversation);
    }

    /** Whether it was read from what was kept, or made of what lies in the folders now. */
    boolean isKnown() {
        return known;
    }

    /** Reads what was kept; false if nothing was. */
    boolean read() {
        Learnt learnt = store.learnt(userId).orElse(null);
        if (learnt != null && read(learnt.gzip().array())) {
            lastLesson = learnt.lastLesson();
            known = true;
        }
        return known;
    }

    private boolean read(byte[] gzip) {
        try (DataInputStream in = new DataInputStream(new GZIPInputStream(new ByteArrayInputStream(gzip)))) {
            for (LessonKind kind : LessonKind.values()) {
                LikelyPlaces read = LikelyPlaces.read(in);
                if (read == null) {
                    return false;
                }
                places.put(kind, read);
            }
            return true;
        } catch (IOException e) {
            return false; // It is made anew.
        }
    }

    /** Learns from what lies where now. */
    void begin() {
        lastLesson = store.lastLesson(userId);
        List<Lesson> now = store.now(userId, FIRST);
        for (int from = 0; from < now.size(); from += AT_ONCE) {
            learn(now.subList(from, Math.min(now.size(), from + AT_ONCE)));
        }
        known = true;
        changed = true;
    }

    /** Learns from some of what was done since; returns whether there may be more. */
    boolean goOn(int most) {
        List<Lesson> lessons = store.after(userId, lastLesson, most);
        if (!lessons.isEmpty()) {
            learn(lessons);
            lastLesson = lessons.get(lessons.size() - 1).id();
            changed = true;
        }
        return lessons.size() == most;
    }

    private void learn(List<Lesson> lessons) {
        Set<Long> ids = lessons.stream().map(Lesson::message).collect(Collectors.toSet());
        Map<Long, List<Trace>> traces = new HashMap<>();
        messages.some(userId, ids, Set.of(Need.BODY))
                .forEach(candidate -> traces.put(candidate.row().id(), traces(candidate)));
        Set<Long> filing = Set.copyOf(store.folders(userId));
        for (Lesson lesson : lessons) {
            List<Trace> of = traces.get(lesson.message());
            if (of == null || (lesson.kind() == LessonKind.FOLDER && !filing.contains(lesson.place()))) {
                continue; // The message is gone, or was not filed but thrown away, or put back into the Inbox.
            }
            if (lesson.there()) {
                places(lesson.kind()).learn(of, lesson.place());
            } else {
                places(lesson.kind()).unlearn(of, lesson.place());
            }
        }
    }

    /** What is to be kept, or null if nothing changed since the last time. */
    @Nullable
    Learnt changes() {
        if (!changed) {
            return null;
        }
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (DataOutputStream out = new DataOutputStream(bytes);
                Gzip gzip = new Gzip()) {
            for (LessonKind kind : LessonKind.values()) {
                places(kind).write(out);
            }
            changed = false;
            return new Learnt(lastLesson, ByteBuffer.wrap(gzip.compress(bytes.toByteArray())));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
