package app.schublade.web.frame;

import java.util.Collection;
import java.util.List;
import org.springframework.security.core.GrantedAuthority;
import org.springframework.security.core.userdetails.UserDetails;

/** Somebody who is logged in. Every query is made for the id of the person that asks. */
public record Person(long id, String login, String name, String password) implements UserDetails {
    private static final long serialVersionUID = 1L;

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
