package app.schublade.web.frame;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.store.base.Database;
import app.schublade.testing.Office;
import app.schublade.web.frame.DatabaseAwayTest.Chain;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import java.io.IOException;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.jdbc.CannotGetJdbcConnectionException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.mock.web.MockHttpServletResponse;

@ExtendWith(Office.Extension.class)
class DatabaseAwayTest {
    private final Database database;
    private final DatabaseAway filter;
    private final AtomicInteger asked = new AtomicInteger();

    DatabaseAwayTest(Office office) {
        database = new Database(office.bean(JdbcClient.class));
        filter = new DatabaseAway(office.bean(Bundle.class), database);
    }

    interface Chain {
        void run() throws IOException, ServletException;
    }

    private MockHttpServletResponse ask(MockHttpServletRequest request, Chain rest) throws Exception {
        MockHttpServletResponse response = new MockHttpServletResponse();
        FilterChain chain = (asking, answering) -> {
            asked.incrementAndGet();
            rest.run();
        };
        filter.doFilter(request, response, chain);
        return response;
    }

    private static void away() throws ServletException {
        throw new ServletException(new CannotGetJdbcConnectionException(
                "Failed to obtain JDBC Connection", new SQLTransientConnectionException("timed out")));
    }

    @Test
    void pagesSayItAndAskAgain() throws Exception {
        MockHttpServletResponse page = ask(new MockHttpServletRequest("GET", "/mail/inbox"), DatabaseAwayTest::away);
        assertThat(page.getStatus()).isEqualTo(503);
        assertThat(page.getHeader("Retry-After")).isEqualTo("3");
        assertThat(page.getContentAsString())
                .contains("The database does not answer", "http-equiv=\"refresh\" content=\"3\"")
                .doesNotContain("JDBC");
    }

    @Test
    void partsAreToldThatNothingWasBegun() throws Exception {
        MockHttpServletRequest act = new MockHttpServletRequest("POST", "/act");
        act.addHeader("HX-Request", "true");
        MockHttpServletResponse answer = ask(act, DatabaseAwayTest::away);
        assertThat(answer.getStatus()).isEqualTo(503);
        assertThat(answer.getHeader(DatabaseAway.NOT_BEGUN)).isEqualTo("yes");
        assertThat(answer.getContentAsString()).doesNotContain("<");
    }

    /** Each would wait for as long as the first one did, and hold a thread meanwhile. */
    @Test
    void theOthersDoNotWaitForIt() throws Exception {
        ask(new MockHttpServletRequest("GET", "/mail/inbox"), DatabaseAwayTest::away);
        assertThat(ask(new MockHttpServletRequest("GET", "/mail/inbox"), () -> {})
                        .getStatus())
                .isEqualTo(503);
        assertThat(asked).hasValue(1);
        MockHttpServletRequest style = new MockHttpServletRequest("GET", "/bundle/app.css");
        style.setServletPath("/bundle/app.css");
        assertThat(ask(style, () -> {}).getStatus()).isEqualTo(200);
    }

    /** Of what has been begun nobody knows whether it was done. */
    @Test
    void whatHasBeenBegunIsNotSaidToHaveNot() throws Exception {
        MockHttpServletRequest act = new MockHttpServletRequest("POST", "/act");
        assertThat(ask(act, DatabaseAwayTest::breaks).getHeader(DatabaseAway.NOT_BEGUN))
                .as("its session could not be read")
                .isEqualTo("yes");
        filter.preHandle(act, new MockHttpServletResponse(), this);
        MockHttpServletResponse answer = ask(act, DatabaseAwayTest::breaks);
        assertThat(answer.getStatus()).isEqualTo(503);
        assertThat(answer.getHeader(DatabaseAway.NOT_BEGUN)).isNull();
        MockHttpServletRequest page = new MockHttpServletRequest("GET", "/mail/inbox");
        filter.preHandle(page, new MockHttpServletResponse(), this);
        assertThat(ask(page, DatabaseAwayTest::breaks).getHeader(DatabaseAway.NOT_BEGUN))
                .isEqualTo("yes");
    }

    private static void breaks() {
        throw new DataAccessResourceFailureException(
                "broken", new SQLException("terminating connection due to administrator command", "57P01"));
    }

    /** Its transaction was taken back, so that it can be said what was not kept; asking again would not help. */
    @Test
    void aFullDiskIsSaid() throws Exception {
        MockHttpServletRequest act = new MockHttpServletRequest("POST", "/act");
        act.addHeader("HX-Request", "true");
        filter.preHandle(act, new MockHttpServletResponse(), this);
        MockHttpServletResponse answer = ask(act, DatabaseAwayTest::full);
        assertThat(answer.getStatus()).isEqualTo(503);
        assertThat(answer.getContentAsString())
                .isEqualTo("The disk of the database is full. What you did last was not kept; nothing else is lost.");
        assertThat(answer.getHeader(DatabaseAway.NOT_BEGUN)).isNull();
        assertThat(ask(new MockHttpServletRequest("GET", "/mail/inbox"), DatabaseAwayTest::full)
                        .getContentAsString())
                .contains("<h1>The disk of the database is full</h1>");
        assertThat(database.isFull()).isTrue();
    }

    private static void full() {
        throw new DataAccessResourceFailureException("no room", new SQLException("disk full", "53100"));
    }

    @Test
    void otherProblemsAreNone() {
        assertThatThrownBy(() -> ask(new MockHttpServletRequest("GET", "/"), () -> {
                    throw new DataAccessResourceFailureException("memory", new SQLException("out of memory", "53200"));
                }))
                .isInstanceOf(DataAccessResourceFailureException.class);
        assertThat(database.isFull()).isFalse();
    }
}
