package app.schublade.web.desk;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class DeskAddressTest {
    private static final DeskAddress INBOX = new DeskAddress("/mail/inbox", null, false, false, false, null);

    private static final DeskAddress MUSEUM = new DeskAddress("/mail/inbox", "MU", false, false, false, null);

    @Test
    void everythingThatNarrowsStandsInTheAddress() {
        DeskAddress narrow = MUSEUM.toggleUnread().toggleFlagged().toggleFiles();
        assertThat(narrow.here()).isEqualTo("/mail/inbox?account=MU&unread=on&flagged=on&files=on");
        assertThat(narrow.narrowing()).isEqualTo("unread and flagged and with files");
        assertThat(narrow.whole().here()).isEqualTo("/mail/inbox?account=MU");
        assertThat(narrow.toggleUnread().toggleFlagged().toggleFiles()).isEqualTo(MUSEUM);
        assertThat(INBOX.open(7)).isEqualTo("/mail/inbox?open=7");
        assertThat(INBOX.toggleUnread().after("1.2.3")).isEqualTo("/mail/inbox?unread=on&after=1.2.3");
    }

    @Test
    void wordsAreWrittenSoThatNoneIsLost() {
        DeskAddress found = new DeskAddress("/mail/find", "MU", true, false, false, "a&b=c {d} 100% ü+#");
        assertThat(found.everywhere()).isEqualTo("/mail/find?words=a%26b%3Dc%20%7Bd%7D%20100%25%20%C3%BC%2B%23");
        assertThat(found.open(7)).endsWith("&account=MU&unread=on&open=7");
    }
}
