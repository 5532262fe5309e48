package app.schublade.web.frame;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.support.SessionFlashMapManager;

/**
 * Keeps what a page is to say after a redirect for that page: a list that is fetched anew at the same address in the
 * meantime, in another window perhaps, does not take it away. The last few are kept, as the session is read at each request.
 */
@Component("flashMapManager")
class NoticeForPages extends SessionFlashMapManager {
    static final int MOST = 8;

    @Override
    protected void updateFlashMaps(List<FlashMap> kept, HttpServletRequest request, HttpServletResponse response) {
        super.updateFlashMaps(
                new CopyOnWriteArrayList<>(kept.subList(Math.max(0, kept.size() - MOST), kept.size())),
                request,
                response);
    }

    @Override
    protected boolean isFlashMapForRequest(FlashMap said, HttpServletRequest request) {
        boolean isPart = request.getHeader("HX-Target") != null;
        return !isPart && super.isFlashMapForRequest(said, request);
    }
}
