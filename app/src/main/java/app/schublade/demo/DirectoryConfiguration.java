package app.schublade.demo;

import app.schublade.mail.NetPictureSource;
import app.schublade.mail.NetUnsubscribeRequest;
import app.schublade.mail.PictureSource;
import app.schublade.mail.UnsubscribeRequest;
import app.schublade.mail.discovery.Directory;
import app.schublade.mail.discovery.NetDirectory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Whom to ask about domains, for pictures, and to be taken off mailing lists: the world, or, in the demo, its stand-in. */
@Configuration
class DirectoryConfiguration {
    @Bean
    Directory directory(@Value("${schublade.demo-directory:}") String standin) {
        return standin.isEmpty() ? new NetDirectory() : new PublishedDirectory(standin);
    }

    @Bean
    UnsubscribeRequest unsubscribeRequest(@Value("${schublade.demo-directory:}") String standin) {
        return standin.isEmpty() ? new NetUnsubscribeRequest() : new StandinUnsubscribeRequest(standin);
    }

    @Bean
    PictureSource pictureSource(@Value("${schublade.demo-directory:}") String standin) {
        return standin.isEmpty() ? new NetPictureSource() : new StandinPictureSource(standin);
    }
}
