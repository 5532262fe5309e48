package app.schublade.demo;

import app.schublade.mail.discovery.Directory;
import app.schublade.mail.discovery.NetDirectory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Whom to ask about domains: the world, or, in the demo, its stand-in. */
@Configuration
class DirectoryConfiguration {
    @Bean
    Directory directory(@Value("${schublade.demo-directory:}") String standin) {
        return standin.isEmpty() ? new NetDirectory() : new PublishedDirectory(standin);
    }
}
