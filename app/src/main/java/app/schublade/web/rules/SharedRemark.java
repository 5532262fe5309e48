package app.schublade.web.rules;

import app.schublade.core.sieve.SieveWriter.WritingRemark;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What is to be said of one rule, or of several alike, when they are written as a script.
 *
 * @param rules their names: {@code "Loans"}, {@code "Loans, Insurance and 298 more"}
 * @param said {@code "is left out: it is switched off"}
 */
public record SharedRemark(String rules, String said) {
    private static final int NAMED = 3;

    static List<SharedRemark> of(List<WritingRemark> remarks) {
        Map<String, List<WritingRemark>> alike = new LinkedHashMap<>();
        remarks.forEach(one -> alike.computeIfAbsent(one.leftOut() + one.what(), what -> new ArrayList<>())
                .add(one));
        return alike.values().stream().map(SharedRemark::ofAlike).toList();
    }

    private static SharedRemark ofAlike(List<WritingRemark> alike) {
        List<String> names = alike.stream().map(one -> one.rule().name()).toList();
        int more = names.size() - NAMED;
        String named = more <= 0
                ? String.join(", ", names)
                : "%s and %,d more".formatted(String.join(", ", names.subList(0, NAMED)), more);
        WritingRemark first = alike.get(0);
        String out = names.size() == 1 ? "is left out: " : "are left out, each for this: ";
        return new SharedRemark(named, (first.leftOut() ? out : "") + first.what());
    }
}
