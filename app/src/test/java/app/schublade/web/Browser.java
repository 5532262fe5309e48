package app.schublade.web;

import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.security.test.web.servlet.setup.SecurityMockMvcConfigurers.springSecurity;

import app.schublade.testing.Office;
import app.schublade.web.frame.CurrentUser;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.mock.web.MockHttpSession;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;
import org.springframework.test.web.servlet.setup.MockMvcBuilders;
import org.springframework.web.context.WebApplicationContext;

/** Asks for pages as somebody who is logged in. */
public final class Browser {
    private final MockMvc mvc;
    private final CurrentUser person;
    private final MockHttpSession session = new MockHttpSession();
    /** By which the server knows this window from others. */
    private final String window = UUID.randomUUID().toString();

    public Browser(Office office, CurrentUser person) {
        this.person = person;
        this.mvc = MockMvcBuilders.webAppContextSetup((WebApplicationContext) office.context())
                .apply(springSecurity())
                .build();
    }

    /** An answer, with its HTML. */
    public record Answer(MockHttpServletResponse response) {
        int status() {
            return response.getStatus();
        }

        String header(String name) {
            return String.valueOf(response.getHeader(name));
        }

        public String text() {
            try {
                return response.getContentAsString(StandardCharsets.UTF_8);
            } catch (java.io.UnsupportedEncodingException e) {
                throw new AssertionError(e);
            }
        }

        public Document page() {
            return Jsoup.parse(text());
        }

        /** What the filing strip says. */
        String notice() {
            return page().select("#notice .told").text();
        }
    }

    /** A trial run of a rule, followed to its end, which takes longer than a page waits on a busy machine. */
    Document trial(Object... rule) {
        Document part = post("/rules/trial", rule).page();
        while (part.select("#trial").attr("data-scanning").equals("true")) {
            List<Object> fields = new ArrayList<>(List.of(rule));
            fields.addAll(List.of("scan", part.select("input[name=scan]").attr("value"), "follow", "on"));
            part = post("/rules/trial", fields.toArray()).page();
        }
        return part;
    }

    public Answer get(String address) {
        return answer(MockMvcRequestBuilders.get(java.net.URI.create(address)));
    }

    /** A part of a page, asked for by a page that is open. */
    Answer part(String address, String target) {
        return answer(MockMvcRequestBuilders.get(java.net.URI.create(address))
                .header("HX-Request", "true")
                .header("HX-Target", target));
    }

    /** @param fields names and values in turn; a name may come more than once */
    public Answer post(String address, Object... fields) {
        return answer(posted(address, fields));
    }

    /** What is posted for a part of a page that is open. */
    Answer postFor(String target, String address, Object... fields) {
        return answer(posted(address, fields).header("HX-Target", target));
    }

    private MockHttpServletRequestBuilder posted(String address, Object... fields) {
        MockHttpServletRequestBuilder request = MockMvcRequestBuilders.post(java.net.URI.create(address))
                .header("HX-Request", "true")
                .header("Schublade-Window", window)
                .with(csrf());
        for (int i = 0; i < fields.length; i += 2) {
            request.param(String.valueOf(fields[i]), String.valueOf(fields[i + 1]));
        }
        return request;
    }

    /** Sends bytes as they are. */
    Answer upload(String address, byte[] content) {
        return answer(MockMvcRequestBuilders.post(java.net.URI.create(address))
                .header("HX-Request", "true")
                .contentType("application/octet-stream")
                .content(content)
                .with(csrf()));
    }

    private Answer answer(MockHttpServletRequestBuilder request) {
        try {
            return new Answer(mvc.perform(request.session(session).with(user(person)))
                    .andReturn()
                    .getResponse());
        } catch (Exception e) {
            throw new AssertionError("The request failed", e);
        }
    }

    /** What a form would send as it stands, with some fields changed: names and values in turn. */
    static Object[] filled(Document page, String form, Object... changes) {
        List<Object> fields = new ArrayList<>();
        List<Object> names = new ArrayList<>();
        for (int i = 0; i < changes.length; i += 2) {
            names.add(changes[i]);
        }
        for (Element field : page.select(form + " [name]")) {
            boolean unchecked = field.attr("type").equals("checkbox") && !field.hasAttr("checked");
            if (!unchecked
                    && !names.contains(field.attr("name"))
                    && !field.attr("name").equals("_csrf")) {
                fields.add(field.attr("name"));
                Element chosen = field.selectFirst("option[selected]");
                fields.add(chosen != null ? chosen.val() : field.val());
            }
        }
        fields.addAll(Arrays.asList(changes));
        return fields.toArray();
    }
}
