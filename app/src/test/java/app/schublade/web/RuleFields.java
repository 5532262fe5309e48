package app.schublade.web;

import java.util.ArrayList;
import java.util.List;

/** What the form of a rule sends. */
final class RuleFields {
    static final String SCHOOLS = "schools@quay.example";

    private RuleFields() {}

    /** Of a new rule that files visits into a folder of their own. */
    static Object[] visits(Object... more) {
        List<Object> all = new ArrayList<>(List.of(
                "id",
                0,
                "name",
                "Class visits",
                "on",
                "off",
                "on",
                "on",
                "whenKind",
                "SENT_TO",
                "whenText",
                SCHOOLS,
                "thenKind",
                "FILE",
                "thenText",
                "Schools / Visits",
                "thenKind",
                "CATEGORY",
                "thenText",
                "Next"));
        all.addAll(List.of(more));
        return all.toArray();
    }
}
