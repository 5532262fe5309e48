package app.schublade.web.login;

import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.convert.ConversionException;
import org.springframework.session.Session;
import org.springframework.session.SessionRepository;

/**
 * Sessions that note when they were used last once a minute, not at each request: otherwise whatever is read writes too.
 *
 * @param <S> the sessions of the store behind it
 */
final class CalmSessions<S extends Session> implements SessionRepository<CalmSessions.Calm<S>> {
    private static final Logger LOG = LoggerFactory.getLogger(CalmSessions.class);
    private static final Duration BETWEEN = Duration.ofMinutes(1);
    /** However often it is used. */
    private static final Duration LONGEST = Duration.ofDays(30);

    private final SessionRepository<S> sessions;

    CalmSessions(SessionRepository<S> sessions) {
        this.sessions = sessions;
    }

    @Override
    public Calm<S> createSession() {
        return new Calm<>(sessions.createSession());
    }

    @Override
    public void save(Calm<S> session) {
        sessions.save(session.session());
    }

    @Override
    public @Nullable Calm<S> findById(String id) {
        S found = sessions.findById(id);
        if (found != null && found.getCreationTime().plus(LONGEST).isBefore(Instant.now())) {
            sessions.deleteById(id);
            return null;
        }
        return found == null || !canBeRead(found) ? null : new Calm<>(found);
    }

    /** What another version has kept in it may be of classes that are no more: then one logs in again. */
    private boolean canBeRead(S session) {
        try {
            session.getAttributeNames().forEach(session::getAttribute);
            return true;
        } catch (ConversionException e) {
            LOG.info("A session of another version is ended: {}", e.getMessage());
            sessions.deleteById(session.getId());
            return false;
        }
    }

    @Override
    public void deleteById(String id) {
        sessions.deleteById(id);
    }

    /** A session as it is, but for the time of its last use. */
    record Calm<S extends Session>(S session) implements Session {
        @Override
        public void setLastAccessedTime(Instant time) {
            if (time.isAfter(session.getLastAccessedTime().plus(BETWEEN))) {
                session.setLastAccessedTime(time);
            }
        }

        @Override
        public Instant getLastAccessedTime() {
            return session.getLastAccessedTime();
        }

        @Override
        public String getId() {
            return session.getId();
        }

        @Override
        public String changeSessionId() {
            return session.changeSessionId();
        }

        @Override
        @SuppressWarnings("TypeParameterUnusedInFormals") // the interface's shape
        public <T> @Nullable T getAttribute(String name) {
            return session.getAttribute(name);
        }

        @Override
        public Set<String> getAttributeNames() {
            return session.getAttributeNames();
        }

        @Override
        public void setAttribute(String name, Object value) {
            session.setAttribute(name, value);
        }

        @Override
        public void removeAttribute(String name) {
            session.removeAttribute(name);
        }

        @Override
        public Instant getCreationTime() {
            return session.getCreationTime();
        }

        @Override
        public void setMaxInactiveInterval(Duration interval) {
            session.setMaxInactiveInterval(interval);
        }

        @Override
        public Duration getMaxInactiveInterval() {
            return session.getMaxInactiveInterval();
        }

        @Override
        public boolean isExpired() {
            return session.isExpired();
        }
    }
}
