package app.schublade.web.login;

import app.schublade.core.message.Amount;
import app.schublade.store.user.LoginStore;
import app.schublade.store.user.UserStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.work.Background;
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

/** Checks a login and password; after some wrong ones each further try must wait longer, see {@link LoginStore}. */
@Component
class PatientLogin implements AuthenticationProvider {
    private static final Duration SWEEP = Duration.ofMinutes(10);
    private static final int MAX_LOGIN = 100;

    private final UserStore users;
    private final LoginStore logins;
    private final PasswordEncoder encoder;
    private final String nobody;

    PatientLogin(UserStore users, LoginStore logins, PasswordEncoder encoder, Background background) {
        this.users = users;
        this.logins = logins;
        this.encoder = encoder;
        this.nobody = String.valueOf(encoder.encode("nobody"));
        background.every("login sweep", SWEEP, logins::sweep);
    }

    @Override
    public Authentication authenticate(Authentication tried) {
        String name = tried.getName().strip().toLowerCase(Locale.ROOT).replace("\0", "");
        String login = name.substring(0, Math.min(name.length(), MAX_LOGIN));
        LoginStore.Try one = tried.getDetails() instanceof LoginDetails details
                ? new LoginStore.Try(login, details.address(), details.browser())
                : new LoginStore.Try(login, "unknown", null);
        Duration wait = logins.begin(one);
        if (!wait.isZero()) {
            throw new LockedException("Too many wrong passwords. The next try is possible in %s."
                    .formatted(Amount.of(wait.toSeconds() + 1, "second")));
        }
        Optional<UserStore.User> user = users.byLogin(login);
        // An unknown login takes as long as a wrong password, so that logins cannot be guessed.
        String hashed = user.map(UserStore.User::password).orElse(nobody);
        if (!encoder.matches(String.valueOf(tried.getCredentials()), hashed) || user.isEmpty()) {
            throw new BadCredentialsException("Wrong login or password. Please try again.");
        }
        logins.succeeded(one);
        CurrentUser person =
                new CurrentUser(user.get().id(), user.get().login(), user.get().name(), "");
        return UsernamePasswordAuthenticationToken.authenticated(person, null, person.getAuthorities());
    }

    @Override
    public boolean supports(Class<?> kind) {
        return UsernamePasswordAuthenticationToken.class.isAssignableFrom(kind);
    }
}
