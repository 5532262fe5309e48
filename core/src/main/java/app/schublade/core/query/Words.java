package app.schublade.core.query;

import app.schublade.core.filing.Condition.Need;
import app.schublade.core.filing.RuleInput;
import app.schublade.core.message.Message;
import app.schublade.core.words.WordSplitter;
import app.schublade.core.words.WordSplitter.SplitWord;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Those that have words, in the order in which they are given.
 *
 * @param where of a message they must be
 * @param text the words; without any, no message has them
 * @param exact whether they must be whole words; else the last may go on, and a single one of some length may be a part of
 *     another
 */
public record Words(WordField where, String text, boolean exact) implements Query {
    /** From how many signs on a word is looked for inside others, too. */
    public static final int SHORTEST_PART = 4;

    /** WordField in a message. */
    public enum WordField {
        ANYWHERE(""),
        SUBJECT(" in the subject"),
        SENDER(" in the sender’s name"),
        RECIPIENTS(" in a recipient’s name"),
        FILES(" in the name of a file");

        private final String words;

        WordField(String words) {
            this.words = words;
        }
    }

    public Words {
        text = text.strip();
    }

    /** The forms of each word. */
    public List<List<String>> forms() {
        return WordSplitter.of(text).stream().map(SplitWord::forms).toList();
    }

    /** Whether this is one word that may be a part of others. */
    public boolean isPart(List<List<String>> forms) {
        return !exact
                && forms.size() == 1
                && forms.get(0).stream().allMatch(form -> form.codePointCount(0, form.length()) >= SHORTEST_PART);
    }

    @Override
    public boolean holds(RuleInput message) {
        List<List<String>> forms = forms();
        return !forms.isEmpty() && texts(message.message()).anyMatch(one -> place(forms, WordSplitter.of(one)) >= 0);
    }

    /** The number of the first word of a text from which on these words stand there; -1 if they do not. */
    int placeIn(List<SplitWord> tokens) {
        List<List<String>> forms = forms();
        return forms.isEmpty() ? -1 : place(forms, tokens);
    }

    private Stream<String> texts(Message message) {
        Stream<String> files = message.attachments().stream().map(Message.Attachment::name);
        String sender = message.from().name() + " " + message.from().email();
        Stream<String> recipients = Stream.concat(Stream.of(message.addressees()), message.recipients().stream());
        return switch (where) {
            case SUBJECT -> Stream.of(message.subject());
            case SENDER -> Stream.of(sender);
            case RECIPIENTS -> recipients;
            case FILES -> files;
            case ANYWHERE ->
                Stream.of(Stream.of(message.subject(), sender, message.body()), recipients, files)
                        .flatMap(all -> all);
        };
    }

    private int place(List<List<String>> forms, List<SplitWord> tokens) {
        int last = forms.size() - 1;
        for (int begin = 0; begin + last < tokens.size(); begin++) {
            int same = 0;
            while (same < last && tokens.get(begin + same).is(forms.get(same))) {
                same++;
            }
            if (same == last && ends(forms, tokens.get(begin + last))) {
                return begin;
            }
        }
        return -1;
    }

    private boolean ends(List<List<String>> forms, SplitWord token) {
        List<String> last = forms.get(forms.size() - 1);
        return exact ? token.is(last) : isPart(forms) ? token.has(last) : token.beginsWith(last);
    }

    @Override
    public Set<Need> needs() {
        return where == WordField.ANYWHERE ? Set.of(Need.BODY) : Set.of();
    }

    @Override
    public String sentence() {
        return "with “%s”%s".formatted(text, where.words);
    }

    @Override
    public <T> T accept(Query.QueryVisitor<T> visitor) {
        return visitor.words(this);
    }
}
