package app.schublade.web.rules;

import app.schublade.core.filing.Attached;
import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.Group;
import app.schublade.core.filing.ReceivedAt;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Text;
import app.schublade.core.query.Query;
import app.schublade.core.query.Search;
import app.schublade.core.query.Search.SearchTerm;
import app.schublade.core.query.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A rule that takes new mail like what was searched for.
 *
 * @param leftOut what was searched for and no rule can ask, for it acts on mail as it arrives; in words
 */
record RuleFromSearch(Rule rule, List<String> leftOut) {
    static RuleFromSearch of(Search search) {
        List<Condition> when = new ArrayList<>();
        List<Condition> unless = new ArrayList<>();
        List<String> leftOut = new ArrayList<>();
        if (search.alternatives().size() > 1) {
            List<Condition> any = search.alternatives().stream()
                    .map(terms -> all(terms, leftOut))
                    .flatMap(Optional::stream)
                    .toList();
            when.add(new Group(false, any));
        } else {
            for (SearchTerm term : search.terms()) {
                condition(term).ifPresentOrElse((term.wanted() ? when : unless)::add, () -> leftOut.add(term.said()));
            }
        }
        return new RuleFromSearch(new Rule(0, "", true, when, unless, List.of(), false), leftOut);
    }

    private static Optional<Condition> all(List<SearchTerm> terms, List<String> leftOut) {
        List<Condition> all = new ArrayList<>();
        for (SearchTerm term : terms) {
            Optional<Condition> one = term.wanted() ? condition(term) : Optional.empty();
            one.ifPresentOrElse(all::add, () -> leftOut.add(term.said()));
        }
        return all.isEmpty() ? Optional.empty() : Optional.of(all.size() == 1 ? all.get(0) : new Group(true, all));
    }

    /** When mail came, and where it lies by now, says nothing of what will come. */
    private static Optional<Condition> condition(SearchTerm term) {
        if (term.query() instanceof Words words) {
            return words(words);
        }
        return term.query() instanceof Query.Meets meets && !(meets.condition() instanceof ReceivedAt)
                ? Optional.of(meets.condition())
                : Optional.empty();
    }

    private static Optional<Condition> words(Words words) {
        String text = words.text();
        boolean address = text.contains("@");
        return switch (words.where()) {
            case ANYWHERE -> Optional.of(text(Text.Where.SUBJECT_OR_BODY, words));
            case SUBJECT -> Optional.of(text(Text.Where.SUBJECT, words));
            case SENDER -> Optional.of(address ? Correspondent.sender(text) : text(Text.Where.SENDER_NAME, words));
            case RECIPIENTS ->
                Stream.of(text)
                        .filter(one -> address)
                        .<Condition>map(one -> new SentTo(List.of(one)))
                        .findFirst();
            case FILES -> Optional.of(new Attached(Attached.By.NAME, List.of("*" + text + "*")));
        };
    }

    /** A short word would be found inside many others. */
    private static Text text(Text.Where where, Words words) {
        Text.Match match = words.exact()
                ? Text.Match.PHRASE
                : words.isPart(words.forms()) ? Text.Match.CONTAINS : Text.Match.WORDS;
        return new Text(where, "", match, List.of(words.text()));
    }
}
