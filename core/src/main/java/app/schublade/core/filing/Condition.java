package app.schublade.core.filing;

import app.schublade.core.message.Fold;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** One line of a rule's When or Unless. Every kind takes several values and holds if any of them does. */
public sealed interface Condition {

    /** What held, in words for the user; null if the condition does not hold. */
    @Nullable
    String heldBy(Matter matter);

    /** As part of a sentence: {@code "sent to loans@lanternquay.example"}. */
    String sentence();

    /** The sender's address, or a whole domain written without the part before the {@code @}. */
    record Sender(List<String> values) implements Condition {
        public Sender {
            values = lower(values);
        }

        @Override
        public @Nullable String heldBy(Matter matter) {
            for (String value : values) {
                if (matter.senderIs(value)) {
                    return "from " + value;
                }
            }
            return null;
        }

        @Override
        public String sentence() {
            return "from " + String.join(" or ", values);
        }
    }

    /** Each value is one or more whole words that all stand in the subject, in any order. */
    record SubjectHas(List<String> values, List<Set<String>> words) implements Condition {
        public SubjectHas(List<String> values) {
            this(values, values.stream().map(Fold::words).toList());
        }

        public SubjectHas {
            values = List.copyOf(values);
            words = List.copyOf(words);
        }

        @Override
        public @Nullable String heldBy(Matter matter) {
            for (int i = 0; i < words.size(); i++) {
                if (!words.get(i).isEmpty() && matter.subjectWords().containsAll(words.get(i))) {
                    return "subject has “%s”".formatted(values.get(i));
                }
            }
            return null;
        }

        @Override
        public String sentence() {
            return values.stream().map("“%s”"::formatted).collect(Collectors.joining(" or ", "subject has ", ""));
        }
    }

    /** One of the account's own addresses that the message was sent to, by envelope, To or Cc. */
    record SentTo(List<String> values) implements Condition {
        public SentTo {
            values = lower(values);
        }

        @Override
        public @Nullable String heldBy(Matter matter) {
            for (String value : values) {
                if (matter.message().sentTo().contains(value)) {
                    return "sent to " + value;
                }
            }
            return null;
        }

        @Override
        public String sentence() {
            return "sent to " + String.join(" or ", values);
        }
    }

    /** The mailing list's identifier (RFC 2919). */
    record MailingList(List<String> values) implements Condition {
        public MailingList {
            values = lower(values);
        }

        @Override
        public @Nullable String heldBy(Matter matter) {
            String list = matter.message().listId();
            return list != null && values.contains(list) ? "mailing list " + list : null;
        }

        @Override
        public String sentence() {
            return "mailing list " + String.join(" or ", values);
        }
    }

    /** The account that the message came to. */
    record InAccount(List<AccountRef> accounts) implements Condition {
        public InAccount {
            accounts = List.copyOf(accounts);
        }

        @Override
        public @Nullable String heldBy(Matter matter) {
            for (AccountRef account : accounts) {
                if (account.id() == matter.message().account()) {
                    return "account " + account.name();
                }
            }
            return null;
        }

        @Override
        public String sentence() {
            return accounts.stream().map(AccountRef::name).collect(Collectors.joining(" or ", "account ", ""));
        }
    }

    /** An account by its identity and its present name. */
    record AccountRef(long id, String name) {}

    private static List<String> lower(List<String> values) {
        return values.stream().map(value -> value.toLowerCase(Locale.ROOT)).toList();
    }
}
