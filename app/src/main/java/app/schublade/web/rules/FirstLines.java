package app.schublade.web.rules;

import app.schublade.core.filing.Term.Kind;
import app.schublade.core.message.SubjectStem;
import app.schublade.store.ListRow;
import app.schublade.store.SubjectStore;
import java.util.ArrayList;
import java.util.List;

/** Fills a new rule from a message: what may be typical of it, to be changed or taken out. */
final class FirstLines {
    private FirstLines() {}

    static RuleForm from(SubjectStore.Subject subject) {
        ListRow row = subject.row();
        List<Line> when = new ArrayList<>();
        if (row.listId() != null) {
            when.add(new Line(Kind.LIST, row.listId()));
        } else if (!row.sender().email().isEmpty()) {
            when.add(new Line(Kind.SENDER, row.sender().key()));
        }
        if (row.alias() != null) {
            when.add(new Line(Kind.SENT_TO, row.alias()));
        }
        String stem = SubjectStem.of(row.subject()).replace(",", "");
        if (!stem.isBlank()) {
            when.add(new Line(Kind.SUBJECT, stem));
        }
        return new RuleForm(0, "", true, when, List.of(), List.of(new RuleForm.Doing(RuleForm.Deed.FILE, "")), false);
    }
}
