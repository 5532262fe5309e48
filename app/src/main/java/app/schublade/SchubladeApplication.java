package app.schublade;

import java.time.Clock;
import java.time.ZoneId;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.annotation.Bean;

/** Schublade: several mail accounts in one cabinet, and mail that files itself. */
@SpringBootApplication
public class SchubladeApplication {
    public static void main(String[] arguments) {
        SpringApplication.run(SchubladeApplication.class, arguments);
    }

    /** The time, in the zone of this machine: the one its users live in. */
    @Bean
    Clock clock() {
        return Clock.system(ZoneId.systemDefault());
    }
}
