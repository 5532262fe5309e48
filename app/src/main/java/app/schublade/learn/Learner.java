package app.schublade.learn;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.learn.Likely;
import app.schublade.store.learn.LearnStore;
import app.schublade.store.learn.LearnStore.Learnt;
import app.schublade.store.learn.LearnStore.LessonKind;
import app.schublade.store.message.RuleInputStore;
import app.schublade.store.message.RuleInputStore.RuleCandidate;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.springframework.stereotype.Component;

/**
 * Says where messages are likely to be filed. What a user taught is read, or made of what lies in the folders, behind the
 * first question; until then nothing is likely. What is done later is learnt when one asks next.
 */
@Component
public class Learner extends ScheduledWork {
    /** What so many users taught is held, some megabytes each. */
    private static final int MOST_USERS = 20;
    /** What is less likely is not shown. */
    private static final double LEAST = 0.2;
    /** So much that was filed is learnt while a page waits; more is learnt behind. */
    private static final int MOST_AT_ONCE = 40;

    private static final int PATIENCE_MILLIS = 200;

    private final LearnStore store;
    private final RuleInputStore messages;
    private final Background background;
    /** The one that was asked last is the last. */
    private final Map<Long, UserModel> models = new LinkedHashMap<>();

    Learner(LearnStore store, RuleInputStore messages, Background background) {
        super(background, "learner", Duration.ofMinutes(1));
        this.background = background;
        this.store = store;
        this.messages = messages;
    }

    /**
     * Where a message is likely to belong, the likeliest first; empty rather than wrong, and rather than late: while much is
     * being learnt nothing is likely.
     *
     * @param open the folders or labels that come into question
     */
    public List<Likely> likely(long userId, long message, LessonKind kind, Set<Long> open, int most) {
        UserModel model = model(userId);
        if (!isFree(model)) {
            return List.of();
        }
        try {
            if (!model.isKnown() || model.goOn(MOST_AT_ONCE)) {
                background.later("learn what was filed", Duration.ZERO, () -> learn(userId));
            }
            return messages.some(userId, List.of(message), Set.of(Need.BODY)).stream()
                    .flatMap(one -> model.places(kind).of(UserModel.traces(one), open, most).stream())
                    .filter(Learner::isWorthTelling)
                    .toList();
        } finally {
            model.lock.unlock();
        }
    }

    private static boolean isFree(UserModel model) {
        try {
            return model.lock.tryLock(PATIENCE_MILLIS, TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    /**
     * Where each of many messages most likely belongs; those of which nothing can be said are left out. Waits until all that was
     * filed is learnt, and lets others ask in between.
     *
     * @param open the folders or labels that come into question
     */
    public Map<Long, Likely> likeliest(long userId, List<Long> asked, LessonKind kind, Set<Long> open) {
        learn(userId);
        UserModel model = model(userId);
        Map<Long, Likely> all = new HashMap<>();
        for (int from = 0; from < asked.size(); from += MOST_AT_ONCE) {
            List<Long> some = asked.subList(from, Math.min(asked.size(), from + MOST_AT_ONCE));
            model.lock.lock();
            try {
                for (RuleCandidate one : messages.some(userId, some, Set.of(Need.BODY))) {
                    model.places(kind).of(UserModel.traces(one), open, 1).stream()
                            .filter(Learner::isWorthTelling)
                            .forEach(likely -> all.put(one.row().id(), likely));
                }
            } finally {
                model.lock.unlock();
            }
        }
        return all;
    }

    private static boolean isWorthTelling(Likely likely) {
        return likely.because() != null && likely.share() >= LEAST;
    }

    /** Learns all that there is to be learnt. */
    public void learn(long userId) {
        UserModel model = model(userId);
        model.lock.lock();
        try {
            if (!model.isKnown() && !model.read()) {
                model.begin();
            }
            boolean more;
            do {
                more = model.goOn(UserModel.AT_ONCE);
            } while (more);
        } finally {
            model.lock.unlock();
        }
    }

    private UserModel model(long userId) {
        synchronized (models) {
            UserModel model = models.remove(userId);
            if (model == null) {
                model = new UserModel(userId, store, messages);
            }
            models.put(userId, model);
            return model;
        }
    }

    /** Keeps what was learnt, and lets go of what was not asked for the longest. */
    @Override
    protected void go() {
        List<UserModel> all;
        synchronized (models) {
            all = new ArrayList<>(models.values());
        }
        for (UserModel model : all) {
            keep(model);
        }
        synchronized (models) {
            Iterator<UserModel> oldest = models.values().iterator();
            while (models.size() > MOST_USERS) {
                oldest.next();
                oldest.remove();
            }
        }
    }

    private void keep(UserModel model) {
        model.lock.lock();
        try {
            Learnt changes = model.changes();
            if (changes != null) {
                store.keep(model.userId(), changes);
            }
        } finally {
            model.lock.unlock();
        }
    }
}
