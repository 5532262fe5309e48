package app.schublade.web.login;

import app.schublade.store.base.Zones;
import app.schublade.store.user.LoginStore;
import app.schublade.web.frame.CurrentUser;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import org.springframework.boot.security.autoconfigure.actuate.web.servlet.EndpointRequest;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Primary;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseCookie;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.HeadersConfigurer;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;
import org.springframework.security.web.authentication.SavedRequestAwareAuthenticationSuccessHandler;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.security.web.savedrequest.HttpSessionRequestCache;
import org.springframework.security.web.util.matcher.AnyRequestMatcher;
import org.springframework.session.config.SessionRepositoryCustomizer;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.session.jdbc.PostgreSqlJdbcIndexedSessionRepositoryCustomizer;
import org.springframework.session.jdbc.config.annotation.web.http.EnableJdbcHttpSession;
import org.springframework.transaction.support.TransactionOperations;

/** Login, CSRF, and the headers that keep pages to themselves. */
@Configuration
@EnableJdbcHttpSession(maxInactiveIntervalInSeconds = 14 * 24 * 3600)
class SecurityConfiguration {
    /** Scripts, styles, pictures and fonts from here only; nothing inline; no page in a frame of others. */
    static final String CONTENT_SECURITY_POLICY =
            "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self';"
                    + " connect-src 'self'; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

    /** A page that was open when its session ended is sent to the login as a whole, not only the part it asked for. */
    private static void toLogin(
            HttpServletRequest request, HttpServletResponse response, AuthenticationException problem) {
        response.setHeader("HX-Redirect", request.getContextPath() + "/login");
        response.setStatus(HttpStatus.UNAUTHORIZED.value());
    }

    /** After the login: to the page that was wanted; the browser has told where it is. */
    private static final class Welcome extends SavedRequestAwareAuthenticationSuccessHandler {
        private final Zones zones;
        private final LoginStore logins;

        Welcome(Zones zones, LoginStore logins) {
            this.zones = zones;
            this.logins = logins;
        }

        @Override
        public void onAuthenticationSuccess(
                HttpServletRequest request, HttpServletResponse response, Authentication login)
                throws IOException, ServletException {
            if (login.getPrincipal() instanceof CurrentUser person) {
                Zones.parse(request.getParameter("zone")).ifPresent(zone -> zones.suppose(person.id(), zone));
                String token = logins.remember(person.id(), LoginDetails.browser(request));
                response.addHeader(
                        HttpHeaders.SET_COOKIE,
                        ResponseCookie.from(LoginDetails.COOKIE, token)
                                .httpOnly(true)
                                .secure(request.isSecure())
                                .sameSite("Lax")
                                .path(request.getContextPath() + "/")
                                .maxAge(KNOWN_FOR)
                                .build()
                                .toString());
                request.getSession().setAttribute(Sessions.BROWSER, Sessions.browser(request));
            }
            super.onAuthenticationSuccess(request, response, login);
        }
    }

    /** So long a browser is remembered that somebody has logged in with. */
    private static final Duration KNOWN_FOR = Duration.ofDays(180);

    /** After the login only whole pages are gone back to, not the parts that an open page asked for. */
    private static HttpSessionRequestCache wantedPages() {
        HttpSessionRequestCache cache = new HttpSessionRequestCache();
        cache.setRequestMatcher(request -> request.getMethod().equals("GET")
                && !isFromOpenPage(request)
                && String.valueOf(request.getHeader("Accept")).contains("text/html"));
        return cache;
    }

    private static boolean isFromOpenPage(HttpServletRequest request) {
        return request.getHeader("HX-Request") != null;
    }

    /** Nothing is forbidden but requests with a token of another session: their page is out of date. */
    private static void refuse(HttpServletRequest request, HttpServletResponse response, AccessDeniedException problem)
            throws IOException {
        if (isFromOpenPage(request)) {
            response.setHeader("HX-Refresh", "true");
            response.setStatus(HttpStatus.FORBIDDEN.value());
        } else {
            response.sendRedirect(request.getContextPath() + "/login");
        }
    }

    /** Two first requests of one browser at once store their session without getting in each other's way. */
    @Bean
    SessionRepositoryCustomizer<JdbcIndexedSessionRepository> sessionsAtOnce() {
        return new PostgreSqlJdbcIndexedSessionRepositoryCustomizer();
    }

    /**
     * Sessions are read at each request: without a transaction that is one way there and back in place of two. One that is
     * stored only in part by a crash is one that nobody is logged in with.
     */
    @Bean
    TransactionOperations springSessionTransactionOperations() {
        return TransactionOperations.withoutTransaction();
    }

    /** Those that requests are given. */
    @Bean
    @Primary
    CalmSessions<?> calmSessions(JdbcIndexedSessionRepository stored) {
        return new CalmSessions<>(stored);
    }

    @Bean
    PasswordEncoder passwordEncoder() {
        return new BCryptPasswordEncoder(11);
    }

    /** Metrics are served by a port of their own, which only this machine reaches; nobody logs in there. */
    @Bean
    @Order(Ordered.HIGHEST_PRECEDENCE)
    SecurityFilterChain metrics(HttpSecurity http) throws Exception {
        return http.securityMatcher(EndpointRequest.to("prometheus"))
                .authorizeHttpRequests(requests -> requests.anyRequest().permitAll())
                .build();
    }

    @Bean
    SecurityFilterChain security(HttpSecurity http, LoginStore logins, Zones zones) throws Exception {
        return http.authorizeHttpRequests(requests -> requests.requestMatchers(
                                "/login", "/welcome", "/bundle/*", "/fonts/**", "/favicon.svg", "/error", "/health")
                        .permitAll()
                        .requestMatchers(HttpMethod.TRACE)
                        .denyAll()
                        .anyRequest()
                        .authenticated())
                // The provider itself is found by Spring; named here too, it would be asked twice.
                .formLogin(form -> form.loginPage("/login")
                        .authenticationDetailsSource(LoginDetails::of)
                        .successHandler(new Welcome(zones, logins))
                        .failureHandler((request, response, problem) -> {
                            request.getSession().setAttribute(LoginController.PROBLEM, problem.getMessage());
                            request.getSession().setAttribute(LoginController.TRIED, request.getParameter("username"));
                            response.sendRedirect(request.getContextPath() + "/login");
                        }))
                .requestCache(cache -> cache.requestCache(wantedPages()))
                .exceptionHandling(problems -> problems.defaultAuthenticationEntryPointFor(
                                SecurityConfiguration::toLogin, SecurityConfiguration::isFromOpenPage)
                        .defaultAuthenticationEntryPointFor(
                                new LoginUrlAuthenticationEntryPoint("/login"), AnyRequestMatcher.INSTANCE)
                        .accessDeniedHandler(SecurityConfiguration::refuse))
                .logout(logout -> logout.logoutSuccessUrl("/login"))
                .headers(headers -> headers.contentSecurityPolicy(
                                policy -> policy.policyDirectives(CONTENT_SECURITY_POLICY))
                        .frameOptions(HeadersConfigurer.FrameOptionsConfig::sameOrigin)
                        .referrerPolicy(policy -> policy.policy(ReferrerPolicy.NO_REFERRER)))
                .build();
    }
}
