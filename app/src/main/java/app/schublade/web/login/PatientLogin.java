package app.schublade.web.login;

import app.schublade.store.UserStore;
import app.schublade.web.frame.Person;
import java.time.Duration;
import java.util.Locale;
import java.util.Optional;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** Checks a login and password. After three wrong ones in a row each further try must wait longer. */
@Component
class PatientLogin implements AuthenticationProvider {
    private final UserStore users;
    private final PasswordEncoder encoder;
    private final String nobody;

    PatientLogin(UserStore users, PasswordEncoder encoder) {
        this.users = users;
        this.encoder = encoder;
        this.nobody = String.valueOf(encoder.encode("nobody"));
    }

    @Override
    public Authentication authenticate(Authentication tried) {
        String login = tried.getName().strip().toLowerCase(Locale.ROOT);
        Duration wait = users.wait(login);
        if (!wait.isZero()) {
            throw new LockedException("Too many wrong passwords. The next try is possible in %d seconds."
                    .formatted(wait.toSeconds() + 1));
        }
        Optional<UserStore.User> user = users.byLogin(login);
        // An unknown login takes as long as a wrong password, so that logins cannot be guessed.
        String hashed = user.map(UserStore.User::password).orElse(nobody);
        if (!encoder.matches(String.valueOf(tried.getCredentials()), hashed) || user.isEmpty()) {
            users.countFailure(login);
            throw new BadCredentialsException("Login and password do not go together. Please try again.");
        }
        users.forgetFailures(login);
        Person person =
                new Person(user.get().id(), user.get().login(), user.get().name(), "");
        return UsernamePasswordAuthenticationToken.authenticated(person, null, person.getAuthorities());
    }

    @Override
    public boolean supports(Class<?> kind) {
        return UsernamePasswordAuthenticationToken.class.isAssignableFrom(kind);
    }
}
