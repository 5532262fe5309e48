package app.schublade.web.login;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.testing.Office;
import app.schublade.testing.Office.Extension;
import java.util.Objects;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.session.Session;

@ExtendWith(Extension.class)
class CalmSessionsTest {
    private final CalmSessions<?> sessions;
    private final JdbcClient jdbc;

    CalmSessionsTest(Office office) {
        sessions = office.bean(CalmSessions.class);
        jdbc = office.bean(JdbcClient.class);
    }

    /** As another version of Schublade may have left it. */
    @Test
    void aSessionThatCannotBeReadIsEndedAndNoErrorForEver() {
        String id = kept(sessions);
        Session found = Objects.requireNonNull(sessions.findById(id));
        assertThat(found.<String>getAttribute("browser")).isEqualTo("Linux");
        int changed = jdbc.sql("""
                        update spring_session_attributes set attribute_bytes = '\\xaced0005737200046f6c6421'::bytea
                        where session_primary_id = (select primary_id from spring_session where session_id = ?)
                        """).param(id).update();
        assertThat(changed).isEqualTo(1);
        assertThat(sessions.findById(id)).isNull();
        assertThat(jdbc.sql("select count(*) from spring_session where session_id = ?")
                        .param(id)
                        .query(Integer.class)
                        .single())
                .isZero();
    }

    private static <S extends Session> String kept(CalmSessions<S> sessions) {
        CalmSessions.Calm<S> session = sessions.createSession();
        session.setAttribute("browser", "Linux");
        sessions.save(session);
        return session.getId();
    }
}
