package app.schublade.web.frame;

import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import java.util.Collection;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.GrantedAuthority;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.web.server.ResponseStatusException;

/** Somebody who is logged in. Every query is made for the id of the person that asks. */
public record CurrentUser(long id, String login, String name, String password) implements UserDetails {
    private static final long serialVersionUID = 1L;

    /** One of the person's accounts; those of others do not exist. */
    public Account account(AccountStore accounts, long id) {
        return accounts.byId(this.id, id)
                .orElseThrow(() -> new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such account."));
    }

    @Override
    public String getUsername() {
        return login;
    }

    @Override
    public String getPassword() {
        return password;
    }

    @Override
    public Collection<? extends GrantedAuthority> getAuthorities() {
        return List.of();
    }
}
