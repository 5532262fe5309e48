package app.schublade.core.message;

import java.time.LocalDateTime;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A message as the rules see it.
 *
 * @param account the account it came to
 * @param from the first author
 * @param replyTo where answers are wanted; empty if nowhere else
 * @param subject decoded; empty where there is none
 * @param body as plain text; empty if nobody asks for it
 * @param headers every header field that somebody may ask for, by its name in lower case, decoded
 * @param sentTo the account's own addresses that it was sent to, in lower case: by envelope, To or Cc
 * @param recipients all addresses that it was sent to, in lower case, plus-tags and all: by envelope, To or Cc
 * @param addressees the first of those that it was sent to by To or Cc, as they are shown, names and all
 * @param thread Message-IDs of the message and of those that it answers, without angle brackets
 * @param listId the list's identifier (RFC 2919), in lower case, or null
 * @param attachments what a reader would call attachments
 * @param size of the whole source, in bytes
 * @param received when it arrived, as the user's clock showed it
 * @param traits what is known of it
 * @param groups the user's groups of people that the sender is in
 */
public record Message(
        long account,
        Address from,
        List<Address> replyTo,
        String subject,
        String body,
        Map<String, List<String>> headers,
        List<String> sentTo,
        List<String> recipients,
        String addressees,
        Set<String> thread,
        @Nullable String listId,
        List<Attachment> attachments,
        int size,
        LocalDateTime received,
        Set<Trait> traits,
        Set<String> groups) {
    public Message {
        replyTo = List.copyOf(replyTo);
        headers = Map.copyOf(headers);
        sentTo = List.copyOf(sentTo);
        recipients = List.copyOf(recipients);
        thread = Set.copyOf(thread);
        attachments = List.copyOf(attachments);
        traits = Set.copyOf(traits);
        groups = Set.copyOf(groups);
    }

    /**
     * Something attached.
     *
     * @param type its media type in lower case, such as {@code application/pdf} (RFC 2046)
     * @param size in bytes
     */
    public record Attachment(String name, String type, int size) {}

    /** Begins with a message of which nothing more is known than who wrote it and what about. */
    public static Builder from(long account, Address from, String subject) {
        return new Builder(account, from, subject);
    }

    /** The values of a header field, whatever case its name is written in. */
    public List<String> header(String name) {
        return headers.getOrDefault(name.toLowerCase(Locale.ROOT), List.of());
    }

    public boolean is(Trait trait) {
        return traits.contains(trait);
    }

    /** Puts a message together. */
    public static final class Builder {
        private final long account;
        private final Address from;
        private final String subject;
        private List<Address> replyTo = List.of();
        private String body = "";
        private Map<String, List<String>> headers = Map.of();
        private List<String> sentTo = List.of();
        private List<String> recipients = List.of();
        private String addressees = "";
        private Set<String> thread = Set.of();
        private @Nullable String listId;
        private List<Attachment> attachments = List.of();
        private int size;
        private LocalDateTime received = LocalDateTime.MIN;
        private Set<Trait> traits = Set.of();
        private Set<String> groups = Set.of();

        private Builder(long account, Address from, String subject) {
            this.account = account;
            this.from = from;
            this.subject = subject;
        }

        public Builder replyTo(List<Address> value) {
            replyTo = value;
            return this;
        }

        public Builder body(String value) {
            body = value;
            return this;
        }

        public Builder headers(Map<String, List<String>> value) {
            headers = value;
            return this;
        }

        public Builder sentTo(List<String> own, List<String> all) {
            sentTo = own;
            recipients = all;
            return this;
        }

        public Builder addressees(String value) {
            addressees = value;
            return this;
        }

        public Builder thread(Collection<String> ids) {
            thread = Set.copyOf(ids);
            return this;
        }

        public Builder list(@Nullable String id) {
            listId = id;
            return this;
        }

        public Builder attachments(List<Attachment> value) {
            attachments = value;
            return this;
        }

        public Builder size(int bytes) {
            size = bytes;
            return this;
        }

        public Builder received(LocalDateTime value) {
            received = value;
            return this;
        }

        public Builder traits(Set<Trait> value) {
            traits = value;
            return this;
        }

        public Builder groups(Set<String> value) {
            groups = value;
            return this;
        }

        public Message build() {
            return new Message(
                    account,
                    from,
                    replyTo,
                    subject,
                    body,
                    headers,
                    sentTo,
                    recipients,
                    addressees,
                    thread,
                    listId,
                    attachments,
                    size,
                    received,
                    traits,
                    groups);
        }
    }
}
