package app.schublade.web.accounts;

import app.schublade.store.account.Account;
import app.schublade.work.Background;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Passwords that were typed to look for an account's servers, until the account is added: in the memory of this process
 * alone, for some minutes, and only for the servers that they were tried on.
 */
@Component
class TypedPasswords {
    private static final Duration KEPT = Duration.ofMinutes(15);
    private static final int MOST = 1000;

    private final Map<String, FormFields> all = new ConcurrentHashMap<>();
    private final Background background;

    TypedPasswords(Background background) {
        this.background = background;
    }

    private record FormFields(String password, Set<String> hosts) {}

    /** Keeps a password. Returns a ticket for it. */
    String keep(String password, Set<String> hosts) {
        String ticket = UUID.randomUUID().toString();
        if (all.size() < MOST) {
            all.put(ticket, new FormFields(password, hosts));
            background.later("typed passwords", KEPT, () -> all.remove(ticket));
        }
        return ticket;
    }

    /** The password of a ticket, if it is to go to none but the servers that it was typed for. */
    Optional<String> of(String ticket, Set<String> hosts) {
        return Optional.ofNullable(all.get(ticket))
                .filter(typed -> typed.hosts().containsAll(hosts))
                .map(FormFields::password);
    }

    /** The names of the servers that an account's password goes to. */
    static Set<String> hosts(Account.Hosts hosts) {
        return Stream.of(Optional.of(hosts.receiving()), Optional.ofNullable(hosts.sending()))
                .flatMap(Optional::stream)
                .map(host -> host.host())
                .collect(Collectors.toSet());
    }
}
