package app.schublade.store.base;

import static org.assertj.core.api.Assertions.assertThat;

import app.schublade.testing.Cabinet;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.core.type.TypeReference;

/** Nothing that is no text reaches the database, by whatever way. */
@ExtendWith(Cabinet.Extension.class)
class TextGateTest {
    private static final String BAD = "a\0b \ud83d c \udee5 \\u0000 🛥";
    private static final String GOOD = "ab ? c ? \\u0000 🛥";

    private final Cabinet cabinet;

    TextGateTest(Cabinet cabinet) {
        this.cabinet = cabinet;
    }

    @Test
    void textInAnyParameter() {
        assertThat(cabinet.jdbc
                        .sql("select ?::text")
                        .param(BAD)
                        .query(String.class)
                        .single())
                .isEqualTo(GOOD);
        assertThat(cabinet.jdbc
                        .sql("select :x::text")
                        .param("x", BAD)
                        .query(String.class)
                        .single())
                .isEqualTo(GOOD);
        assertThat(cabinet.jdbc
                        .sql("select x from unnest(?::text[]) x")
                        .params(List.of((Object) new String[] {BAD, "c"}))
                        .query(String.class)
                        .list())
                .containsExactly(GOOD, "c");
        assertThat(cabinet.jdbc
                        .sql("select (?::jsonb)->>'x'")
                        .param(Json.write(Map.of("x", BAD)))
                        .query(String.class)
                        .single())
                .isEqualTo(GOOD);
    }

    @Test
    void documentsAreReadAsTheyWereWritten() {
        assertThat(Json.read(Json.write(List.of(BAD, "x\\u0000y")), new TypeReference<List<String>>() {}))
                .containsExactly(GOOD, "x\\u0000y");
    }
}
