package app.schublade.learn;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.learn.Likely;
import app.schublade.store.learn.LearnStore;
import app.schublade.store.learn.LearnStore.Learnt;
import app.schublade.store.learn.LearnStore.LessonKind;
import app.schublade.store.message.RuleInputStore;
import app.schublade.work.Background;
import app.schublade.work.ScheduledWork;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
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
     * Where a message is likely to belong, the likeliest first; empty rather than wrong.
     *
     * @param open the folders or labels that come into question
     */
    public List<Likely> likely(long userId, long message, LessonKind kind, Set<Long> open, int most) {
        UserModel model = model(userId);
        synchronized (model) {
            if (!model.isKnown()) {
                background.later("learn what was filed", Duration.ZERO, () -> know(model));
                return List.of();
            }
            model.goOn(false);
            return messages.some(userId, List.of(message), Set.of(Need.BODY)).stream()
                    .flatMap(one -> model.places(kind).of(UserModel.traces(one), open, most).stream())
                    .filter(likely -> likely.because() != null && likely.share() >= LEAST)
                    .toList();
        }
    }

    /** Learns all that there is to be learnt; whoever asks meanwhile waits. */
    public void learn(long userId) {
        UserModel model = model(userId);
        know(model);
        synchronized (model) {
            model.goOn(true);
        }
    }

    private static void know(UserModel model) {
        synchronized (model) {
            if (!model.isKnown() && !model.read()) {
                model.begin();
            }
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
        synchronized (model) {
            Learnt changes = model.changes();
            if (changes != null) {
                store.keep(model.userId(), changes);
            }
        }
    }
}
