package app.schublade.mail.discovery;

import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Hashtable;
import java.util.List;
import java.util.Optional;
import javax.naming.Context;
import javax.naming.NamingEnumeration;
import javax.naming.NamingException;
import javax.naming.directory.Attribute;
import javax.naming.directory.Attributes;
import javax.naming.directory.InitialDirContext;
import org.jspecify.annotations.Nullable;

/** Asks the machine's DNS, and the web. */
public final class NetDirectory implements Directory {
    private static final int MAX_DOCUMENT = 64 * 1024;
    private static final int MAX_RECORDS = 20;
    private static final Duration PATIENCE = Duration.ofSeconds(5);

    private final HttpClient http = HttpClient.newBuilder()
            .connectTimeout(PATIENCE)
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();

    @Override
    @SuppressWarnings({"BanJNDI", "JdkObsolete"}) // Only DNS is asked, which answers with text; it wants a Hashtable.
    public List<SrvRecord> services(String name) {
        try {
            Hashtable<String, String> settings = new Hashtable<>();
            settings.put(Context.INITIAL_CONTEXT_FACTORY, "com.sun.jndi.dns.DnsContextFactory");
            settings.put("com.sun.jndi.dns.timeout.initial", "1500");
            settings.put("com.sun.jndi.dns.timeout.retries", "2");
            InitialDirContext dns = new InitialDirContext(settings);
            try {
                return records(dns.getAttributes(name, new String[] {"SRV"}));
            } finally {
                dns.close();
            }
        } catch (NamingException e) {
            return List.of();
        }
    }

    @SuppressWarnings("BanJNDI") // as above
    private static List<SrvRecord> records(Attributes answers) throws NamingException {
        Attribute all = answers.get("SRV");
        List<SrvRecord> records = new ArrayList<>();
        if (all != null) {
            for (NamingEnumeration<?> each = all.getAll(); each.hasMore() && records.size() < MAX_RECORDS; ) {
                SrvRecord record = read(String.valueOf(each.next()));
                if (record != null) {
                    records.add(record);
                }
            }
        }
        return records;
    }

    /** {@code "10 1 993 imap.quay.example."}: priority, weight, port, target (RFC 2782). Null if it is not that. */
    public static @Nullable SrvRecord read(String record) {
        String[] words = record.strip().split("\\s+", -1);
        if (words.length != 4 || !(words[0] + words[1] + words[2]).matches("\\d{3,15}")) {
            return null;
        }
        String target = words[3].length() > 1 ? words[3].replaceFirst("\\.$", "") : words[3];
        return new SrvRecord(
                Integer.parseInt(words[0]), Integer.parseInt(words[1]), Integer.parseInt(words[2]), target);
    }

    @Override
    public Optional<byte[]> document(String url) {
        try {
            HttpRequest request =
                    HttpRequest.newBuilder(URI.create(url)).timeout(PATIENCE).build();
            HttpResponse<InputStream> answer = http.send(request, HttpResponse.BodyHandlers.ofInputStream());
            try (InputStream body = answer.body()) {
                byte[] bytes = body.readNBytes(MAX_DOCUMENT + 1);
                boolean fits = answer.statusCode() == 200 && bytes.length <= MAX_DOCUMENT;
                return fits ? Optional.of(bytes) : Optional.empty();
            }
        } catch (IOException | IllegalArgumentException e) {
            return Optional.empty();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        }
    }
}
