package app.schublade.web.frame;

import app.schublade.store.base.MailChanged;
import app.schublade.store.outgoing.OutgoingStore;
import app.schublade.store.user.NotificationStore;
import app.schublade.work.Background;
import java.io.IOException;
import java.time.Duration;
import java.util.HashSet;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import tools.jackson.databind.json.JsonMapper;

/** Tells the browsers of a user that something changed, by server-sent events; they fetch what they show. */
@Controller
public class Live implements DisposableBean {
    /** Changes so close together are told once. */
    private static final Duration TOGETHER = Duration.ofMillis(150);

    private static final Duration ALIVE = Duration.ofSeconds(20);

    private static final int MOST_NOTICES = 5;
    private static final String NOBODY = "-";
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final NotificationStore notifications;
    /** The last notification that a user's browsers here were told of. */
    private final Map<Long, Long> noticed = new ConcurrentHashMap<>();

    private final Map<Long, Set<SseEmitter>> browsers = new ConcurrentHashMap<>();
    /** Whose browsers are to be told, and which of their windows changed something; none for what changed by itself. */
    private final Map<Long, Set<String>> untold = new ConcurrentHashMap<>();

    private final Background background;

    public Live(NotificationStore notifications, Background background) {
        this.notifications = notifications;
        this.background = background;
        background.every("live", ALIVE, this::sayAlive);
    }

    @GetMapping(path = "/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter listen(@AuthenticationPrincipal CurrentUser person) {
        SseEmitter browser = new SseEmitter(0L);
        Set<SseEmitter> all = browsers.computeIfAbsent(person.id(), id -> ConcurrentHashMap.newKeySet());
        browser.onCompletion(() -> all.remove(browser));
        browser.onError(error -> all.remove(browser));
        noticed.computeIfAbsent(person.id(), notifications::last);
        all.add(browser);
        send(browser, all, "hello", "-");
        return browser;
    }

    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    public void mailChanged(MailChanged changed) {
        long user = changed.userId();
        if (!browsers.containsKey(user)) {
            return;
        }
        untold.compute(user, (id, windows) -> {
            Set<String> all = windows == null ? new HashSet<>() : windows;
            if (windows == null) {
                background.later("live", TOGETHER, () -> tell(user));
            }
            all.add(window());
            return all;
        });
    }

    /** Other windows may have the same draft open. */
    @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT, fallbackExecution = true)
    public void draftChanged(OutgoingStore.DraftChanged changed) {
        Set<SseEmitter> all = browsers.getOrDefault(changed.userId(), Set.of());
        String data = changed.id() + " " + window();
        all.forEach(browser -> send(browser, all, "draft", data));
    }

    /** The window that asked for what is being done; none if it is done in the background. */
    private static String window() {
        String window = RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes request
                ? request.getRequest().getHeader("Schublade-Window")
                : null;
        return window != null && window.matches("[\\w-]{1,40}") ? window : NOBODY;
    }

    private void tell(long user) {
        Set<String> windows = Objects.requireNonNullElse(untold.remove(user), Set.of());
        String by = windows.size() == 1 ? windows.iterator().next() : NOBODY;
        Set<SseEmitter> all = browsers.getOrDefault(user, Set.of());
        all.forEach(browser -> send(browser, all, "changed", by));
        for (NotificationStore.Notification one :
                notifications.after(user, noticed.getOrDefault(user, Long.MAX_VALUE), MOST_NOTICES)) {
            noticed.put(user, one.id());
            String data = JSON.writeValueAsString(
                    new ToNotice(one.message(), one.sender().shown(), one.subject(), one.sound(), one.due()));
            all.forEach(browser -> send(browser, all, "notice", data));
        }
    }

    /** New mail, or what is due, as a browser is told of it. */
    record ToNotice(long message, String sender, String subject, boolean sound, boolean due) {}

    private void sayAlive() {
        browsers.values().forEach(all -> all.forEach(browser -> send(browser, all, "alive", "-")));
    }

    private static void send(SseEmitter browser, Set<SseEmitter> all, String name, String data) {
        try {
            browser.send(SseEmitter.event().name(name).data(data));
        } catch (IOException | IllegalStateException e) {
            all.remove(browser); // The window was closed.
        }
    }

    @Override
    public void destroy() {
        browsers.values().forEach(all -> all.forEach(Live::end));
    }

    private static void end(SseEmitter browser) {
        try {
            browser.complete();
        } catch (IllegalStateException e) {
            // It is gone already; the others are still told.
        }
    }
}
