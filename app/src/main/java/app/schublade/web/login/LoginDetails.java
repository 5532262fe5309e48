package app.schublade.web.login;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.io.Serializable;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * Where a try to log in comes from.
 *
 * @param address of the network; of IPv6 the part that one household has
 * @param browser the token of a browser that somebody has logged in with before; or null
 */
record LoginDetails(String address, @Nullable String browser) implements Serializable {
    private static final long serialVersionUID = 1L;
    static final String COOKIE = "KNOWN";
    private static final int MAX_TOKEN = 100;
    private static final int HOUSEHOLD_GROUPS = 4;

    static LoginDetails of(HttpServletRequest request) {
        return new LoginDetails(household(request.getRemoteAddr()), browser(request));
    }

    static @Nullable String browser(HttpServletRequest request) {
        Cookie[] cookies = request.getCookies();
        return cookies == null
                ? null
                : Arrays.stream(cookies)
                        .filter(cookie -> cookie.getName().equals(COOKIE))
                        .map(Cookie::getValue)
                        .filter(value -> !value.isEmpty() && value.length() <= MAX_TOKEN)
                        .findFirst()
                        .orElse(null);
    }

    private static String household(String address) {
        String[] groups = address.split(":", -1);
        return groups.length <= HOUSEHOLD_GROUPS ? address : String.join(":", Arrays.copyOf(groups, HOUSEHOLD_GROUPS));
    }
}
