package app.schublade.web.frame;

import jakarta.servlet.http.HttpServletRequest;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.support.SessionFlashMapManager;

/**
 * Keeps what a page is to say after a redirect for that page: a list that is fetched anew at the same address in the
 * meantime, in another window perhaps, does not take it away.
 */
@Component("flashMapManager")
class NoticeForPages extends SessionFlashMapManager {
    @Override
    protected boolean isFlashMapForRequest(FlashMap said, HttpServletRequest request) {
        boolean isPart = request.getHeader("HX-Target") != null;
        return !isPart && super.isFlashMapForRequest(said, request);
    }
}
