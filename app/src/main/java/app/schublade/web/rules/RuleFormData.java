package app.schublade.web.rules;

import app.schublade.web.frame.Choice;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.util.MultiValueMap;

/** The rule's form as the page sends it. Read without conversion, which would split texts at their commas. */
record RuleFormData(MultiValueMap<String, String> fields) {
    RuleForm form() {
        return new RuleForm(
                Choice.number(one("id", "0")),
                one("name", ""),
                !List.of("off").equals(fields.get("on")),
                lines("when"),
                lines("unless"),
                RuleForm.doings(all("thenKind"), all("thenText")),
                has("last"));
    }

    private List<ConditionLine> lines(String part) {
        return ConditionLine.lines(
                all(part + "Kind"), all(part + "Match"), all(part + "Not"), all(part + "Text"), all(part + "Depth"));
    }

    private List<String> all(String field) {
        return fields.getOrDefault(field, List.of());
    }

    private String one(String field, String usual) {
        return fields.getOrDefault(field, List.of(usual)).get(0);
    }

    boolean has(String field) {
        return fields.containsKey(field);
    }

    /** The mail that the trial run goes over. */
    ChosenMail over() {
        return new ChosenMail(one("over", ChosenMail.RECEIVED), one("overWords", ""));
    }

    /** The trial run that the page shows, or null. */
    @Nullable
    String scan() {
        return fields.getFirst("scan");
    }

    /** Messages whose tick the user took away: those that were listed with one and come back without. */
    Set<Long> unticked() {
        Set<Long> unticked = ids("listed");
        unticked.removeAll(ids("ticked"));
        return unticked;
    }

    private Set<Long> ids(String field) {
        return all(field).stream().map(Long::valueOf).collect(Collectors.toCollection(HashSet::new));
    }
}
