package app.schublade.standin;

import app.schublade.standin.world.World;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import jakarta.mail.MessagingException;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/**
 * Commands for the mail hosts over HTTP, on loopback only: {@code POST /deliver?from=&to=&subject=&text=},
 * {@code /offline?account=MU&on=true}, {@code /delay?account=MU&millis=500}, {@code /cut?account=MU},
 * {@code /life?on=false}, and {@code GET /status}. What the domains publish of their servers is asked with {@code GET
 * /srv?name=} and {@code /document?url=}; a mailing list is left with {@code GET /leave?url=}.
 */
final class Controls implements AutoCloseable {
    private final HttpServer server;
    private final Standin standin;

    Controls(Standin standin, int port) throws IOException {
        this.standin = standin;
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 8);
        server.createContext("/", this::handle);
        server.start();
    }

    int port() {
        return server.getAddress().getPort();
    }

    private void handle(HttpExchange exchange) throws IOException {
        if (exchange.getRequestURI().getPath().equals("/picture")) {
            byte[] picture = World.picture(parameters(exchange).getOrDefault("url", ""));
            exchange.sendResponseHeaders(200, picture.length);
            exchange.getResponseBody().write(picture);
            exchange.close();
            return;
        }
        int status = 200;
        String answer;
        try {
            answer = carryOut(exchange.getRequestURI().getPath(), parameters(exchange));
        } catch (IllegalArgumentException | MessagingException e) {
            status = 400;
            answer = e.getMessage() + "\n";
        }
        byte[] bytes = answer.getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().set("Content-Type", "text/plain; charset=utf-8");
        exchange.sendResponseHeaders(status, bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    private String carryOut(String command, Map<String, String> with) throws MessagingException {
        switch (command) {
            case "/status" -> {}
            case "/deliver" -> {
                return standin.deliver(need(with, "from"), need(with, "to"), need(with, "subject"), need(with, "text"))
                        + "\n";
            }
            case "/srv" -> {
                return standin.services(need(with, "name"));
            }
            case "/document" -> {
                return standin.document(need(with, "url"))
                        .orElseThrow(() -> new IllegalArgumentException("Nothing is published there."));
            }
            case "/leave" -> {
                return need(with, "url") + " was left.\n";
            }
            case "/offline" -> standin.setOffline(need(with, "account"), Boolean.parseBoolean(need(with, "on")));
            case "/delay" -> standin.setDelay(need(with, "account"), Integer.parseInt(need(with, "millis")));
            case "/cut" -> standin.cut(need(with, "account"));
            case "/life" -> standin.setLively(Boolean.parseBoolean(need(with, "on")));
            default ->
                throw new IllegalArgumentException(
                        "Unknown command " + command
                                + "; there are /status, /deliver, /offline, /delay, /cut, /life, /srv, /document, /leave and /picture.");
        }
        return standin.status();
    }

    private static String need(Map<String, String> with, String name) {
        String value = with.get(name);
        if (value == null) {
            throw new IllegalArgumentException("The parameter " + name + " is missing.");
        }
        return value;
    }

    private static Map<String, String> parameters(HttpExchange exchange) {
        Map<String, String> parameters = new HashMap<>();
        String query = exchange.getRequestURI().getRawQuery();
        for (String pair : query == null ? new String[0] : query.split("&", -1)) {
            String[] sides = pair.split("=", 2);
            parameters.put(sides[0], sides.length < 2 ? "" : URLDecoder.decode(sides[1], StandardCharsets.UTF_8));
        }
        return parameters;
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
