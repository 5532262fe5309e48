package app.schublade.web.frame;

import app.schublade.store.base.Zones;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Locale;
import java.util.TimeZone;
import org.jspecify.annotations.Nullable;
import org.springframework.context.i18n.LocaleContext;
import org.springframework.context.i18n.TimeZoneAwareLocaleContext;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.i18n.AbstractLocaleContextResolver;

/** Pages are in English, with times in the zone of whom they are for. */
@Component("localeResolver")
class CurrentUserZone extends AbstractLocaleContextResolver {
    private final Zones zones;

    CurrentUserZone(Zones zones) {
        this.zones = zones;
    }

    @Override
    public LocaleContext resolveLocaleContext(HttpServletRequest request) {
        return new TimeZoneAwareLocaleContext() {
            @Override
            public Locale getLocale() {
                return Locale.ENGLISH;
            }

            @Override
            public @Nullable TimeZone getTimeZone() {
                Authentication login = SecurityContextHolder.getContext().getAuthentication();
                return login != null && login.getPrincipal() instanceof CurrentUser person
                        ? TimeZone.getTimeZone(zones.of(person.id()))
                        : null;
            }
        };
    }

    @Override
    public void setLocaleContext(
            HttpServletRequest request, @Nullable HttpServletResponse response, @Nullable LocaleContext context) {
        throw new UnsupportedOperationException("The zone is chosen on the page of the desk.");
    }
}
