package app.schublade.web.frame;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Set;
import org.junit.jupiter.api.Test;

class CompactTest {
    @Test
    void commentsAndIndentsAreLeftOutAndNothingElse() {
        assertThat(Compact.lines("""
                        /* What it is. */
                        (() => {
                          // Why.
                          const a = 'http://x'; // stays
                          /**
                           * More.
                           */
                          const b = a /* too */ + 1;

                        })();
                        """))
                .isEqualTo("(() => {\nconst a = 'http://x'; // stays\nconst b = a /* too */ + 1;\n})();\n");
    }

    @Test
    void onlyRulesWhoseClassesCanOccurAreKept() {
        String styles = "@charset \"UTF-8\";:root{--a:1}body{margin:0}.btn{x:1}.btn:hover,.card:hover{x:2}"
                + ".btn .card{x:3}.form-check:is(.a,.b){x:4}@media (min-width:1px){.card{x:5}.btn{x:6}}"
                + "@media print{.card{x:7}}@keyframes spin{to{x:8}}";
        assertThat(Compact.used(styles, Set.of("btn")))
                .isEqualTo("@charset \"UTF-8\";:root{--a:1}body{margin:0}.btn{x:1}.btn:hover{x:2}"
                        + "@media (min-width:1px){.btn{x:6}}@keyframes spin{to{x:8}}");
    }

    @Test
    void aStyleSheetThatDoesNotEndIsRefused() {
        assertThatThrownBy(() -> Compact.used(".btn{x:1", Set.of("btn"))).hasMessageContaining("not closed");
    }
}
