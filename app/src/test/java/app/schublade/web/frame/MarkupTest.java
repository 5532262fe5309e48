package app.schublade.web.frame;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;

class MarkupTest {
    @Test
    void elementsStandInEachOther() {
        Markup markup = new Markup().open("ul", "labs").open("li").text("Sails").close();
        assertThat(markup.element("b", "n", 3).close())
                .hasToString("<ul class=\"labs\"><li>Sails</li><b class=\"n\">3</b></ul>");
    }

    @Test
    void whatComesFromOutsideCannotLeaveItsPlace() {
        Markup markup = new Markup()
                .open("a")
                .attribute("title", "\"><script>alert('x')</script>")
                .text("<b>&amp;</b>");
        assertThat(markup.close())
                .hasToString("<a title=\"&quot;&gt;&lt;script&gt;alert(&#39;x&#39;)&lt;/script&gt;\">"
                        + "&lt;b&gt;&amp;amp;&lt;/b&gt;</a>");
    }

    @Test
    void whatIsNullIsNotWritten() {
        assertThat(new Markup().open("i").attribute("title", null).text(null).close())
                .hasToString("<i></i>");
    }

    @Test
    void mistakesOfTheCallerAreTold() {
        assertThatThrownBy(() -> new Markup().open("i").text("x").attribute("title", "late"))
                .isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("title");
        assertThatThrownBy(() -> new Markup().open("i").toString()).hasMessageContaining("i");
    }
}
