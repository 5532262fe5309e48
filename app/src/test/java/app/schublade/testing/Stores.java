package app.schublade.testing;

import com.zaxxer.hikari.HikariDataSource;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import javax.sql.DataSource;
import org.springframework.context.annotation.AnnotationConfigApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.ComponentScan;
import org.springframework.core.env.MapPropertySource;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.JdbcTransactionManager;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.annotation.EnableTransactionManagement;

/** The stores on a database, without the application: no pages, and nobody who looks for mail. */
public final class Stores {
    private Stores() {}

    // No @Configuration: the application, which looks for such below its own package, would take it for its own.
    @EnableTransactionManagement
    @ComponentScan({"app.schublade.store", "app.schublade.work"})
    static class Beans {
        @Bean
        Clock clock() {
            return Clock.systemUTC();
        }

        @Bean
        PlatformTransactionManager transactionManager(DataSource source) {
            return new JdbcTransactionManager(source);
        }

        @Bean
        JdbcTemplate template(DataSource source) {
            return new JdbcTemplate(source);
        }

        @Bean
        JdbcClient client(JdbcTemplate template) {
            return JdbcClient.create(template);
        }
    }

    /**
     * @param source closed with what is returned
     * @param key where the key of what is stored lies, or is put
     */
    public static AnnotationConfigApplicationContext on(HikariDataSource source, Path key) {
        AnnotationConfigApplicationContext context = new AnnotationConfigApplicationContext();
        context.getEnvironment()
                .getPropertySources()
                .addFirst(new MapPropertySource("stores", Map.of("schublade.key-file", key.toString())));
        context.registerBean(HikariDataSource.class, () -> source);
        context.register(Beans.class);
        context.refresh();
        return context;
    }

    /** @param connections at most, at once */
    public static HikariDataSource database(String address, String user, String password, int connections) {
        HikariDataSource source = new HikariDataSource();
        source.setJdbcUrl(address);
        source.setUsername(user);
        source.setPassword(password);
        source.setMaximumPoolSize(connections);
        return source;
    }
}
