package app.schublade.web;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.store.account.Account;
import app.schublade.testing.Cabinet;
import app.schublade.testing.Cabinet.TestMail;
import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.net.CookieManager;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jsoup.Jsoup;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.core.MethodParameter;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.RequestMappingInfo;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/** All routes that the application has, asked for what no page asks for: never an error here, and nothing of Java in any text. */
@ExtendWith(Office.Extension.class)
class EveryRouteTest {
    private static final Set<String> LEFT_OUT = Set.of("/live", "/logout");
    private static final List<String> NONSENSE = List.of(
            "",
            "-1",
            "9223372036854775807",
            "99999999999999999999",
            "x",
            "a\0b",
            "\ud83d",
            "%00",
            "../../etc",
            "[0]",
            "true",
            "2026-99-99",
            "x".repeat(100_000),
            "ö🛥",
            "<script>",
            "a,b,,c",
            "text/1",
            "folder/-1");

    private static final List<String> OF_JAVA =
            List.of("java.", "Exception", "No enum", "org.spring", "app.schublade.", "Tomcat", "For input string");

    private final Office office;
    private final CurrentUser person;
    private final HttpClient client = HttpClient.newBuilder()
            .cookieHandler(new CookieManager())
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();
    private String token = "";

    EveryRouteTest(Office office) {
        this.office = office;
        person = office.person();
    }

    private record Route(String method, String path, List<String> parameters) {
        /** Whether it makes a difference what it is asked with. */
        boolean takesValues() {
            return path.contains("{") || path.contains("*") || !parameters.isEmpty();
        }
    }

    private List<Route> routes() {
        List<Route> routes = new ArrayList<>();
        Map<RequestMappingInfo, HandlerMethod> all = office.context()
                .getBean("requestMappingHandlerMapping", RequestMappingHandlerMapping.class)
                .getHandlerMethods();
        all.forEach((info, handler) -> {
            List<String> parameters = new ArrayList<>();
            for (MethodParameter parameter : handler.getMethodParameters()) {
                parameter.initParameterNameDiscovery(new org.springframework.core.DefaultParameterNameDiscoverer());
                RequestParam named = parameter.getParameterAnnotation(RequestParam.class);
                if (named != null) {
                    parameters.add(
                            named.name().isEmpty() ? String.valueOf(parameter.getParameterName()) : named.name());
                } else if (parameter.getParameterType().isRecord()
                        && parameter.getParameterType() != CurrentUser.class) {
                    for (var component : parameter.getParameterType().getRecordComponents()) {
                        parameters.add(component.getName());
                    }
                }
            }
            Set<RequestMethod> methods = info.getMethodsCondition().getMethods();
            for (String path : info.getPathPatternsCondition() == null
                    ? Set.<String>of()
                    : info.getPathPatternsCondition().getPatternValues()) {
                if (path.startsWith("/error") || path.startsWith("/actuator") || LEFT_OUT.contains(path)) {
                    continue;
                }
                for (RequestMethod method : methods.isEmpty() ? Set.of(RequestMethod.GET) : methods) {
                    routes.add(new Route(method.name(), path, parameters));
                }
            }
        });
        return routes;
    }

    private HttpResponse<String> send(String method, String path, String form, boolean fromPage) throws Exception {
        boolean get = method.equals("GET");
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(
                        office.address() + path + (get && !form.isEmpty() && form.length() < 6000 ? "?" + form : "")))
                .timeout(Duration.ofSeconds(60));
        if (fromPage) {
            request.header("HX-Request", "true");
        }
        if (get) {
            request.GET();
        } else {
            request.header("Content-Type", "application/x-www-form-urlencoded")
                    .method(
                            method,
                            HttpRequest.BodyPublishers.ofString(form + (form.isEmpty() ? "" : "&") + "_csrf=" + token));
        }
        return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private void logIn() throws Exception {
        token = Jsoup.parse(send("GET", "/login", "", false).body())
                .select("input[name=_csrf]")
                .val();
        send("POST", "/login", "username=" + person.login() + "&password=" + encoded(Office.PASSWORD), false);
        token = Jsoup.parse(send("GET", "/mail/inbox", "", false).body())
                .select("meta[name=csrf]")
                .attr("content");
        assertThat(token).isNotEmpty();
    }

    private static String encoded(String value) {
        return URLEncoder.encode(value, StandardCharsets.UTF_8);
    }

    /** A NUL in a path never gets past the container; everywhere else nonsense is tried as it is. */
    private static String path(String pattern, String value) {
        String safe = value.isEmpty() || value.length() > 3000
                ? "0"
                : encoded(value).replace("+", "%20").replace("%00", "%01").replace("%2F", "-");
        StringBuilder path = new StringBuilder();
        int depth = 0;
        for (int i = 0; i < pattern.length(); i++) {
            char sign = pattern.charAt(i);
            depth += sign == '{' ? 1 : 0;
            if (depth == 0) {
                path.append(sign == '*' ? "x" : String.valueOf(sign));
            }
            depth -= sign == '}' ? 1 : 0;
            if (sign == '}' && depth == 0) {
                path.append(safe);
            }
        }
        return path.toString();
    }

    @Test
    void nonsenseIsRefusedInPlainWords() throws Exception {
        Cabinet cabinet = Cabinet.of(office);
        Account account = cabinet.account(person.id(), "RR");
        long message = cabinet.arrives(account, TestMail.from("anna@wharf.example", "Here"));
        CurrentUser other = office.person();
        long theirs = cabinet.arrives(cabinet.account(other.id(), "OO"), TestMail.from("anna@wharf.example", "Theirs"));
        logIn();
        Map<String, String> wrong = new TreeMap<>();
        Set<String> asked = new TreeSet<>();
        for (Route route : routes()) {
            List<String> values = new ArrayList<>(route.takesValues() ? NONSENSE : List.of(""));
            if (route.takesValues()) {
                values.addAll(List.of(String.valueOf(message), String.valueOf(theirs)));
            }
            for (String value : values) {
                List<String> forms = new ArrayList<>();
                StringBuilder all = new StringBuilder();
                for (String parameter : route.parameters()) {
                    all.append(all.isEmpty() ? "" : "&")
                            .append(parameter)
                            .append('=')
                            .append(encoded(value));
                }
                forms.add(all.toString());
                if (value.equals("x")) {
                    forms.add("");
                    forms.add(all + "&" + all);
                    forms.add(all.toString().replace("=", "[0]=").replace("&", "&a.b."));
                }
                for (String form : forms) {
                    check(wrong, route, path(route.path(), value), form);
                }
            }
            asked.add(route.method() + " " + route.path());
        }
        assertThat(asked).hasSizeGreaterThan(80);
        assertThat(wrong).isEmpty();
    }

    private void check(Map<String, String> wrong, Route route, String path, String form) throws Exception {
        String asked = route.method() + " " + path + " " + form.substring(0, Math.min(form.length(), 120));
        HttpResponse<String> answer = send(route.method(), path, form, true);
        String body = answer.body();
        String trouble = answer.statusCode() >= 500
                ? "status " + answer.statusCode()
                : answer.headers().firstValue("Content-Security-Policy").isEmpty()
                        ? "no policy, status " + answer.statusCode()
                        : OF_JAVA.stream().anyMatch(body::contains) && !path.contains("bundle")
                                ? "Java in the text: " + Jsoup.parse(body).text()
                                : "";
        if (!trouble.isEmpty()) {
            wrong.putIfAbsent(
                    route.method() + " " + route.path() + ": " + trouble.substring(0, Math.min(200, trouble.length())),
                    asked);
        }
    }

    @Test
    void namesThatTheServerDoesNotHaveAreNotBelieved() throws Exception {
        for (String host : List.of("evil.example", "localhost.evil.example")) {
            try (java.net.Socket socket = new java.net.Socket(
                    java.net.InetAddress.getLoopbackAddress(),
                    URI.create(office.address()).getPort())) {
                socket.setSoTimeout(10_000);
                socket.getOutputStream()
                        .write(
                                ("GET /login HTTP/1.1\r\nHost: %s\r\nX-Forwarded-Host: localhost\r\nConnection: close\r\n\r\n"
                                                .formatted(host))
                                        .getBytes(StandardCharsets.US_ASCII));
                String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
                assertThat(answer)
                        .startsWith("HTTP/1.1 421")
                        .contains("Content-Security-Policy", "does not answer to that name");
            }
        }
    }

    /** Half of something, sent by strangers in great number, stops nobody. */
    @Test
    void halfSentBodiesStopNobody() throws Exception {
        logIn();
        int port = URI.create(office.address()).getPort();
        List<java.net.Socket> half = new ArrayList<>();
        try {
            for (int i = 0; i < 350; i++) {
                java.net.Socket socket = new java.net.Socket(java.net.InetAddress.getLoopbackAddress(), port);
                half.add(socket);
                socket.getOutputStream()
                        .write(
                                "POST /login HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 1000\r\n\r\nusername="
                                        .getBytes(StandardCharsets.US_ASCII));
                socket.getOutputStream().flush();
            }
            long begun = System.nanoTime();
            assertThat(send("GET", "/mail/inbox", "", false).statusCode()).isEqualTo(200);
            assertThat(send("POST", "/cabinet/unread-only", "on=true", true).statusCode())
                    .isEqualTo(200);
            assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(Duration.ofSeconds(8));
        } finally {
            for (java.net.Socket socket : half) {
                socket.close();
            }
        }
        assertThat(send("POST", "/act", "x=" + "y".repeat(9_000_000), true).statusCode())
                .isEqualTo(413);
    }

    @Test
    void beforeTheLoginABodyIsSmall() throws Exception {
        assertThat(send("POST", "/login", "x=" + "y".repeat(100_000), false).statusCode())
                .isEqualTo(413);
    }
}
