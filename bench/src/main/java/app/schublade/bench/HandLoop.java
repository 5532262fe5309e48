package app.schublade.bench;

import app.schublade.core.filing.Condition;
import app.schublade.core.filing.Correspondent;
import app.schublade.core.filing.FromList;
import app.schublade.core.filing.Rule;
import app.schublade.core.filing.SentTo;
import app.schublade.core.filing.Text;
import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import app.schublade.core.words.Fold;
import java.util.List;

/**
 * What one would write by hand for the rules of {@link FilingMix}: one after the other, each compared as its kind asks and in no
 * other way, with the message's texts folded once.
 */
final class HandLoop {
    private enum Kind {
        SENDER,
        DOMAIN,
        SUBJECT,
        BODY,
        SUBJECT_LINE,
        BODY_LINE,
        NAME,
        FIELD,
        RECIPIENT,
        LIST,
        REPLY
    }

    private final Kind[] kinds;
    private final String[] keys;

    HandLoop(List<Rule> rules) {
        kinds = new Kind[rules.size()];
        keys = new String[rules.size()];
        for (int i = 0; i < kinds.length; i++) {
            Condition one = rules.get(i).when().get(0);
            if (one instanceof Correspondent sender) {
                keys[i] = sender.values().get(0);
                kinds[i] = sender.role() == Correspondent.Role.REPLY_TO
                        ? Kind.REPLY
                        : keys[i].contains("@") ? Kind.SENDER : Kind.DOMAIN;
            } else if (one instanceof Text text) {
                kinds[i] = kind(text);
                keys[i] = text.match() == Text.Match.CONTAINS
                        ? Fold.line(text.values().get(0))
                        : Fold.phrase(text.values().get(0));
            } else if (one instanceof SentTo to) {
                kinds[i] = Kind.RECIPIENT;
                keys[i] = to.values().get(0);
            } else if (one instanceof FromList list) {
                kinds[i] = Kind.LIST;
                keys[i] = list.values().get(0);
            } else {
                throw new IllegalArgumentException("The mix has no such rule: " + one);
            }
        }
    }

    private static Kind kind(Text text) {
        boolean line = text.match() == Text.Match.CONTAINS;
        return switch (text.where()) {
            case SUBJECT -> line ? Kind.SUBJECT_LINE : Kind.SUBJECT;
            case BODY -> line ? Kind.BODY_LINE : Kind.BODY;
            case SENDER_NAME -> Kind.NAME;
            case HEADER -> Kind.FIELD;
            case SUBJECT_OR_BODY -> throw new IllegalArgumentException("The mix has no such rule: " + text);
        };
    }

    /** How many rules take a message. */
    int count(Message message) {
        String sender = message.from().key();
        String domain = message.from().domain();
        String name = Fold.phraseInAllForms(message.from().name());
        String subject = Fold.phraseInAllForms(message.subject());
        String subjectLine = Fold.line(message.subject());
        String body = Fold.phraseInAllForms(message.body());
        String bodyLine = Fold.line(message.body());
        String field = message.header("x-project").stream()
                .findFirst()
                .map(Fold::phraseInAllForms)
                .orElse("");
        String recipient = message.sentTo().get(0);
        String list = String.valueOf(message.listId());
        String reply =
                message.replyTo().stream().findFirst().map(Address::domain).orElse("");
        int count = 0;
        for (int i = 0; i < kinds.length; i++) {
            String key = keys[i];
            boolean takes = switch (kinds[i]) {
                case SENDER -> sender.equals(key);
                case DOMAIN -> domain.equals(key);
                case SUBJECT -> subject.contains(key);
                case BODY -> body.contains(key);
                case SUBJECT_LINE -> subjectLine.contains(key);
                case BODY_LINE -> bodyLine.contains(key);
                case NAME -> name.contains(key);
                case FIELD -> field.contains(key);
                case RECIPIENT -> recipient.equals(key);
                case LIST -> list.equals(key);
                case REPLY -> reply.equals(key);
            };
            count += takes ? 1 : 0;
        }
        return count;
    }
}
