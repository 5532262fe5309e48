package app.schublade.web.rules;

import app.schublade.core.filing.Term.TermKind;
import app.schublade.core.message.SubjectStem;
import app.schublade.store.message.ListRow;
import app.schublade.store.message.RuleInputStore;
import java.util.ArrayList;
import java.util.List;

/** Fills a new rule from a message: what may be typical of it, to be changed or taken out. */
final class RuleFromMessage {
    private RuleFromMessage() {}

    static RuleForm from(RuleInputStore.RuleCandidate subject) {
        ListRow row = subject.row();
        List<ConditionLine> when = new ArrayList<>();
        if (row.listId() != null) {
            when.add(new ConditionLine(TermKind.LIST, row.listId()));
        } else if (!row.sender().email().isEmpty()) {
            when.add(new ConditionLine(TermKind.SENDER, row.sender().key()));
        }
        if (row.alias() != null) {
            when.add(new ConditionLine(TermKind.SENT_TO, row.alias()));
        }
        String stem = SubjectStem.of(row.subject()).replace(",", "");
        if (!stem.isBlank()) {
            when.add(new ConditionLine(TermKind.SUBJECT, stem));
        }
        return new RuleForm(
                0, "", true, when, List.of(), List.of(new RuleForm.ActionLine(RuleForm.RuleAction.FILE, "")), false);
    }
}
