package app.schublade.mail.discovery;

import app.schublade.mail.Credentials;
import app.schublade.mail.ImapConnection;
import app.schublade.mail.MailException;
import app.schublade.mail.MailHost;
import app.schublade.mail.MailHost.Encryption;
import app.schublade.mail.PopConnection;
import app.schublade.mail.SmtpConnection;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;

/**
 * Tries the servers that an address may have. Different hosts are tried at the same time, the ports of one host one after
 * the other until it answers, so that a wrong password is not shown to it again and again. A password goes out only
 * encrypted, or to this machine.
 */
public final class Probe {
    private static final int AT_ONCE = 8;

    private final Duration patience;
    private final Duration limit;

    /**
     * @param patience how long to wait for any one answer
     * @param limit how long to try in all; what has not answered by then counts as away
     */
    public Probe(Duration patience, Duration limit) {
        this.patience = patience;
        this.limit = limit;
    }

    /**
     * How a server answered.
     *
     * @param host as it works, or as it would once the problem is solved
     * @param authorisation who gives out the tokens that it wants in place of a password
     * @param problem why it does not work yet; null if it let Schublade in
     */
    public record ProbeOutcome(
            Service service,
            MailHost host,
            String source,
            @Nullable AuthorisationServer authorisation,
            @Nullable MailException problem) {

        public boolean works() {
            return problem == null && !wantsToken();
        }

        public boolean wantsToken() {
            return authorisation != null;
        }

        /** The lower the better: what works, then what a user's decision or password would make work. */
        private int rank() {
            if (problem == null) {
                return 0;
            }
            return switch (problem.kind()) {
                case CERTIFICATE -> 1;
                case LOGIN_REFUSED -> 2;
                case NOT_PERMITTED -> 3;
                case NOT_ENCRYPTED -> 4;
                default -> 5;
            };
        }

        private boolean isAnswer() {
            return rank() < 5;
        }
    }

    /**
     * What was found.
     *
     * @param receiving null if no server answered
     * @param sending null if no server answered
     * @param tried how many servers were tried
     */
    public record ProbedHosts(
            @Nullable ProbeOutcome receiving, @Nullable ProbeOutcome sending, int tried) {}

    public ProbedHosts find(List<Candidate> candidates, Credentials credentials) {
        Map<String, List<Candidate>> byHost = new LinkedHashMap<>();
        for (Candidate candidate : candidates) {
            byHost.computeIfAbsent(candidate.service() + " " + candidate.host().host(), key -> new ArrayList<>())
                    .add(candidate);
        }
        ExecutorService threads = Executors.newFixedThreadPool(AT_ONCE, work -> {
            Thread thread = new Thread(work, "probe");
            thread.setDaemon(true);
            return thread;
        });
        List<Future<ProbeOutcome>> asked = byHost.values().stream()
                .map(some -> threads.submit(() -> ask(some, credentials)))
                .toList();
        List<ProbeOutcome> outcomes = collect(asked);
        threads.shutdownNow();
        ProbeOutcome imap = best(outcomes, Service.IMAP);
        ProbeOutcome receiving = imap != null && imap.isAnswer() ? imap : best(outcomes, Service.POP3);
        return new ProbedHosts(answered(receiving), answered(best(outcomes, Service.SUBMISSION)), candidates.size());
    }

    private List<ProbeOutcome> collect(List<Future<ProbeOutcome>> asked) {
        long end = System.nanoTime() + limit.toNanos();
        List<ProbeOutcome> outcomes = new ArrayList<>();
        for (Future<ProbeOutcome> one : asked) {
            try {
                outcomes.add(one.get(Math.max(1, end - System.nanoTime()), TimeUnit.NANOSECONDS));
            } catch (TimeoutException e) {
                one.cancel(true);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return outcomes;
            } catch (ExecutionException e) {
                throw new IllegalStateException("A server could not be tried", e.getCause());
            }
        }
        return outcomes;
    }

    private static @Nullable ProbeOutcome best(List<ProbeOutcome> outcomes, Service service) {
        return outcomes.stream()
                .filter(outcome -> outcome.service() == service)
                .min(Comparator.comparingInt(ProbeOutcome::rank))
                .orElse(null);
    }

    private static @Nullable ProbeOutcome answered(@Nullable ProbeOutcome outcome) {
        return outcome != null && outcome.isAnswer() ? outcome : null;
    }

    private ProbeOutcome ask(List<Candidate> ofOneHost, Credentials credentials) {
        ProbeOutcome best = null;
        for (Candidate candidate : ofOneHost) {
            ProbeOutcome outcome = ask(candidate, credentials);
            if (best == null || outcome.rank() < best.rank()) {
                best = outcome;
            }
            if (outcome.rank() <= 2) {
                break;
            }
        }
        return java.util.Objects.requireNonNull(best);
    }

    private ProbeOutcome ask(Candidate candidate, Credentials credentials) {
        MailHost host = candidate.host();
        if (candidate.authorisation() != null) {
            // It says itself that a password is of no use; it is believed so far, and tried with its token.
            return new ProbeOutcome(candidate.service(), host, candidate.source(), candidate.authorisation(), null);
        }
        MailException problem = tryOut(candidate.service(), host, credentials);
        if (problem != null && problem.kind() == MailException.FailureKind.NOT_ENCRYPTED && host.isThisMachine()) {
            host = new MailHost(host.host(), host.port(), Encryption.NONE, host.login());
            problem = tryOut(candidate.service(), host, credentials);
        }
        int at = host.login().lastIndexOf('@');
        if (problem != null && problem.kind() == MailException.FailureKind.LOGIN_REFUSED && at > 0) {
            // RFC 6186, section 4: the whole address first, then what stands before the @.
            MailHost brief = new MailHost(
                    host.host(), host.port(), host.encryption(), host.login().substring(0, at));
            if (tryOut(candidate.service(), brief, credentials) == null) {
                host = brief;
                problem = null;
            }
        }
        return new ProbeOutcome(candidate.service(), host, candidate.source(), candidate.authorisation(), problem);
    }

    /** Tries one server. Returns what is wrong, or null if it lets Schublade in. */
    private @Nullable MailException tryOut(Service service, MailHost host, Credentials credentials) {
        try {
            check(service, host, credentials, patience);
            return null;
        } catch (MailException e) {
            return e;
        }
    }

    /**
     * Connects to a server and leaves it again.
     *
     * @throws MailException if it does not let Schublade in
     */
    public static void check(Service service, MailHost host, Credentials credentials, Duration patience)
            throws MailException {
        switch (service) {
            case IMAP -> ImapConnection.open(host, credentials, patience).close();
            case POP3 -> PopConnection.open(host, credentials, patience).close();
            case SUBMISSION -> SmtpConnection.check(host, credentials, patience);
        }
    }
}
