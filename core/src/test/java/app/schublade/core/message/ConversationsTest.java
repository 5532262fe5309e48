package app.schublade.core.message;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

class ConversationsTest {
    private static final Set<String> OWN = Set.of("me@quay.example");

    private static ConversationKeys letter(String id, String subject, String from, String... references) {
        return ConversationKeys.of(id, List.of(references), subject, List.of(from, "me@quay.example"), OWN);
    }

    private static Map<Long, Long> joined(ConversationKeys... letters) {
        Conversations conversations = new Conversations(Map.of());
        for (int i = 0; i < letters.length; i++) {
            conversations.join(i + 1, letters[i]);
        }
        return conversations.ofMessages();
    }

    @Test
    void anAnswerBelongsToWhatItAnswersWhicheverComesFirst() {
        ConversationKeys question = letter("a", "Crate sizes", "o@grebe.example");
        ConversationKeys answer = letter("b", "Re: Crate sizes", "p@petrel.example", "a");
        assertThat(joined(question, answer)).isEqualTo(Map.of(1L, 1L, 2L, 1L));
        assertThat(joined(answer, question)).isEqualTo(Map.of(1L, 1L, 2L, 1L));
    }

    @Test
    void whatLiesBetweenBringsTwoConversationsTogether() {
        assertThat(joined(
                        letter("a", "Crates", "o@grebe.example"),
                        letter("c", "Crates", "p@petrel.example", "b"),
                        letter("b", "Crates", "p@petrel.example", "a")))
                .isEqualTo(Map.of(1L, 1L, 2L, 1L, 3L, 1L));
    }

    @Test
    void anAnswerThatNamesNothingIsFoundByItsSubjectAndCorrespondent() {
        ConversationKeys question = letter("a", "Crate sizes", "o@grebe.example");
        assertThat(joined(question, letter("b", "AW: Crate sizes", "o@grebe.example")))
                .containsEntry(2L, 1L);
        assertThat(joined(question, letter("b", "Re: Crate sizes", "else@where.example")))
                .containsEntry(2L, 2L);
        assertThat(joined(question, letter("b", "Crate sizes", "o@grebe.example")))
                .containsEntry(2L, 2L);
        assertThat(joined(question, letter("b", "Re: Crate sizes", "o@grebe.example", "unknown")))
                .containsEntry(2L, 2L);
    }

    @Test
    void whatIsWrittenToAListAgainIsNoAnswer() {
        ConversationKeys notice = letter("a", "[rowers] Slipway", "list@rowers.example");
        assertThat(joined(notice, letter("b", "[rowers] Slipway", "list@rowers.example")))
                .containsEntry(2L, 2L);
        assertThat(joined(notice, letter("b", "[rowers] Re: Slipway", "list@rowers.example")))
                .containsEntry(2L, 1L);
        assertThat(joined(notice, letter("b", "Fwd: Slipway", "list@rowers.example")))
                .containsEntry(2L, 2L);
    }

    @Test
    void mailWithoutASubjectIsNotJoinedByIt() {
        assertThat(joined(letter("a", "", "o@grebe.example"), letter("b", "Re: ", "o@grebe.example")))
                .containsEntry(2L, 2L);
    }

    @Test
    void anEndlessChainIsCutInItsMiddle() {
        String[] chain = IntStream.range(0, 5000).mapToObj(i -> "x" + i).toArray(String[]::new);
        ConversationKeys keys = letter("last", "Re: Re: Re:", "o@grebe.example", chain);
        assertThat(keys.ids()).hasSize(61);
        assertThat(joined(letter("x0", "One", "a@b.example"), letter("x4999", "Two", "c@d.example"), keys))
                .isEqualTo(Map.of(1L, 1L, 2L, 1L, 3L, 1L));
    }

    /** Random trees of answers, in random order and in batches: each tree is one conversation, and nothing else is. */
    @RepeatedTest(20)
    void treesComeTogetherInAnyOrder(RepetitionInfo repetition) {
        Random random = new Random(repetition.getCurrentRepetition());
        List<ConversationKeys> letters = new ArrayList<>();
        List<Integer> trees = new ArrayList<>();
        for (int i = 0; i < 120; i++) {
            int parent = i < 10 ? -1 : random.nextInt(i);
            trees.add(parent < 0 ? i : trees.get(parent));
            String[] references = parent < 0 ? new String[0] : new String[] {"n" + parent};
            letters.add(letter("n" + i, "Matter " + i, "a" + i + "@b.example", references));
        }
        List<Integer> order = new ArrayList<>(IntStream.range(0, 120).boxed().toList());
        Collections.shuffle(order, random);
        Map<Long, Long> keys = new HashMap<>();
        Map<Long, Long> found = new HashMap<>();
        for (int from = 0; from < 120; from += 17) {
            Conversations batch = new Conversations(keys);
            order.subList(from, Math.min(120, from + 17)).forEach(i -> batch.join(i + 1000, letters.get(i)));
            found.replaceAll((message, conversation) -> batch.merged().getOrDefault(conversation, conversation));
            keys.replaceAll((key, conversation) -> batch.merged().getOrDefault(conversation, conversation));
            found.putAll(batch.ofMessages());
            keys.putAll(batch.keys());
        }
        Map<Integer, Set<Long>> conversations = new HashMap<>();
        found.forEach((message, conversation) -> conversations
                .computeIfAbsent(trees.get((int) (message - 1000)), tree -> new HashSet<>())
                .add(conversation));
        assertThat(conversations)
                .hasSize(10)
                .allSatisfy((tree, ids) -> assertThat(ids).hasSize(1));
        assertThat(new HashSet<>(found.values())).hasSize(10);
    }
}
