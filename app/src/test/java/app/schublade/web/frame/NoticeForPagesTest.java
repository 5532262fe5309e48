package app.schublade.web.frame;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.web.servlet.FlashMap;

class NoticeForPagesTest {
    private final NoticeForPages notices = new NoticeForPages();
    private final MockHttpServletRequest request = new MockHttpServletRequest("POST", "/labels");

    private void say(String text) {
        FlashMap said = new FlashMap();
        said.setTargetRequestPath("/labels");
        said.put("notice", Notice.done(text));
        notices.saveOutputFlashMap(said, request, new MockHttpServletResponse());
    }

    @SuppressWarnings("NullAway") // A session that something was said in is there.
    private List<?> kept() {
        return (List<?>) request.getSession(false)
                .getAttribute("org.springframework.web.servlet.support.SessionFlashMapManager.FLASH_MAPS");
    }

    /** Somebody who posts on and on, and never looks at what comes of it. */
    @Test
    void aSessionDoesNotGrowByWhatNobodyHears() {
        for (int i = 1; i <= 50; i++) {
            say("Label " + i);
        }
        assertThat(kept()).hasSize(NoticeForPages.MOST);
        MockHttpServletRequest list = new MockHttpServletRequest("GET", "/labels");
        list.setSession(request.getSession());
        list.addHeader("HX-Target", "rows");
        Map<String, Object> heard = notices.retrieveAndUpdate(list, new MockHttpServletResponse());
        assertThat(heard).as("a part of a page takes none away").isNull();
        list.removeHeader("HX-Target");
        heard = notices.retrieveAndUpdate(list, new MockHttpServletResponse());
        assertThat(heard).containsEntry("notice", Notice.done("Label 43"));
        assertThat(kept()).hasSize(NoticeForPages.MOST - 1);
    }

    @Test
    void aNoticeQuotesNoBook() {
        assertThat(Notice.told("x".repeat(100_000)).text()).hasSize(600).endsWith("x…");
        assertThat(Notice.told("🛥".repeat(100_000)).text().codePoints())
                .hasSize(600)
                .doesNotContain(0xd83d);
        assertThat(Notice.told("y".repeat(600)).text()).doesNotContain("…");
    }
}
