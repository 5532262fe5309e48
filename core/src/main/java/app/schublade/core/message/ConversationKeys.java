package app.schublade.core.message;

import app.schublade.core.words.Fold;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * What the messages of one conversation find each other by, whichever comes first.
 *
 * <p>Messages that name the same id, as their own or as one that they answer, belong together (RFC 5322, section 3.6.4;
 * the grouping of RFC 5256, section 3, without its order). Programs that answer without naming what they answer are
 * joined by the subject, but only with mail of the same correspondent: many things are called "Hello".
 *
 * <p>A key is 64 bits of a digest: two among ten million are alike with a chance of one in 400,000, and nobody can make
 * one on purpose.
 *
 * @param ids of the message and of those that it answers: all of them lead to its conversation from now on
 * @param subjects its subject with each correspondent: they lead to the conversation that was the last to have them
 * @param asksSubjects whether it looks for its conversation by the subject too
 */
public record ConversationKeys(Set<Long> ids, Set<Long> subjects, boolean asksSubjects) {
    private static final int MAX_REFERENCES = 60;
    private static final int MAX_CORRESPONDENTS = 12;

    public ConversationKeys {
        ids = Set.copyOf(ids);
        subjects = Set.copyOf(subjects);
    }

    /**
     * @param id of the message itself
     * @param references ids of messages that it answers, the oldest first
     * @param correspondents addresses of the sender and the recipients
     * @param own those among them that are the user's
     */
    public static ConversationKeys of(
            String id,
            List<String> references,
            String subject,
            Collection<String> correspondents,
            Collection<String> own) {
        Set<Long> ids = new LinkedHashSet<>();
        ids.add(digest("id", id));
        // Of an endless chain the beginning and the end: one of them is in every other message of the conversation.
        for (int i = 0; i < references.size(); i++) {
            if (i < MAX_REFERENCES / 2 || i >= references.size() - MAX_REFERENCES / 2) {
                ids.add(digest("id", references.get(i)));
            }
        }
        String bare = SubjectStem.withoutPrefixes(subject);
        Set<Long> subjects = new LinkedHashSet<>();
        if (!bare.isBlank()) {
            correspondents.stream()
                    .filter(address -> !address.isEmpty() && !own.contains(address))
                    .limit(MAX_CORRESPONDENTS)
                    .forEach(address -> subjects.add(digest("subject", Fold.text(bare) + '\0' + address)));
        }
        return new ConversationKeys(ids, subjects, references.isEmpty() && SubjectStem.isAnswer(subject));
    }

    private static long digest(String kind, String text) {
        try {
            byte[] digest =
                    MessageDigest.getInstance("SHA-256").digest((kind + ':' + text).getBytes(StandardCharsets.UTF_8));
            return ByteBuffer.wrap(digest).getLong();
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("Every Java has SHA-256", e);
        }
    }
}
