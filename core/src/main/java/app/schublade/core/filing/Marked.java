package app.schublade.core.filing;

import app.schublade.core.place.CategoryRef;
import app.schublade.core.place.LabelRef;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the message has been marked with already.
 *
 * @param flag whether a flag will do too
 */
public record Marked(List<LabelRef> labels, List<CategoryRef> categories, boolean flag) implements Condition {
    public Marked {
        labels = List.copyOf(labels);
        categories = List.copyOf(categories);
    }

    @Override
    public @Nullable String heldBy(RuleInput matter) {
        State state = matter.state();
        for (LabelRef label : labels) {
            if (state.labels().contains(label.id())) {
                return "has the label " + label.path().shown();
            }
        }
        for (CategoryRef category : categories) {
            if (state.categories().contains(category.id())) {
                return "has the category " + category.name();
            }
        }
        return flag && state.flagged() ? "is flagged" : null;
    }

    @Override
    public String sentence() {
        List<String> all = new ArrayList<>();
        labels.forEach(label -> all.add("has the label " + label.path().shown()));
        categories.forEach(category -> all.add("has the category " + category.name()));
        if (flag) {
            all.add("is flagged");
        }
        return Condition.either(all);
    }

    @Override
    public <T, X extends Exception> T accept(ConditionVisitor<T, X> visitor) throws X {
        return visitor.marked(this);
    }
}
