package app.schublade.core.learn;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LikelyPlacesTest {
    private static final Set<Long> OPEN = Set.of(1L, 2L, 3L, 4L, 5L);

    private final LikelyPlaces likely = new LikelyPlaces();

    private static List<Trace> letter(String sender, String subject, String body) {
        return letter(sender, subject, body, 0);
    }

    private static List<Trace> letter(String sender, String subject, String body, long conversation) {
        return Trace.of(
                Message.from(1, new Address("", sender), subject)
                        .body(body)
                        .sentTo(List.of("me@quay.example"), List.of("me@quay.example"))
                        .build(),
                conversation);
    }

    private List<Likely> of(List<Trace> letter) {
        return likely.of(letter, OPEN, 3);
    }

    private void learn(int times, List<Trace> letter, long place) {
        for (int i = 0; i < times; i++) {
            likely.learn(letter, place);
        }
    }

    @Test
    void nothingSpeaksForAnythingWhileNothingWasFiled() {
        assertThat(of(letter("a@wharf.example", "Crates", "Two crates")))
                .allSatisfy(one -> assertThat(one.because()).isNull());
    }

    @Test
    void whatASenderWritesIsFiledWhereItWasBefore() {
        learn(8, letter("anna@wharf.example", "Crates", "Two crates"), 1);
        learn(1, letter("anna@wharf.example", "Dinner", "At eight"), 2);
        learn(9, letter("bo@shop.example", "Receipt", "Thank you"), 3);
        Likely first = of(letter("anna@wharf.example", "Ropes", "New ropes")).get(0);
        assertThat(first.place()).isEqualTo(1);
        assertThat(Objects.requireNonNull(first.because()).kind()).isEqualTo(Trace.TraceKind.SENDER);
        assertThat(first.there()).isEqualTo(8);
        assertThat(first.all()).isEqualTo(9);
    }

    @Test
    void aConversationSaysMoreThanItsSender() {
        learn(8, letter("anna@wharf.example", "Crates", "Two crates"), 1);
        learn(8, letter("bo@shop.example", "Receipt", "Thank you"), 3);
        likely.learn(letter("anna@wharf.example", "Dinner", "At eight", 7), 2);
        Likely first =
                of(letter("anna@wharf.example", "Re: Dinner", "Gladly", 7)).get(0);
        assertThat(first.place()).isEqualTo(2);
        assertThat(Objects.requireNonNull(first.because()).kind()).isEqualTo(Trace.TraceKind.CONVERSATION);
    }

    @Test
    void aNewHabitWinsOverAnOldOne() {
        learn(4000, letter("anna@wharf.example", "Crates", "Two crates"), 1);
        learn(4000, letter("bo@shop.example", "Receipt", "Thank you"), 2);
        learn(2000, letter("anna@wharf.example", "Crates", "Two crates"), 3);
        assertThat(of(letter("anna@wharf.example", "Crates", "Two crates"))
                        .get(0)
                        .place())
                .isEqualTo(3);
    }

    @Test
    void whatIsNoFolderAnyMoreIsNotLikely() {
        learn(8, letter("anna@wharf.example", "Crates", "Two crates"), 9);
        assertThat(of(letter("anna@wharf.example", "Crates", "Two crates")))
                .extracting(Likely::place)
                .doesNotContain(9L);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8})
    void whatIsTakenBackAtOnceWasNeverLearnt(int seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 200; i++) {
            likely.learn(random(random), 1 + random.nextInt(5));
        }
        List<Trace> asked = random(random);
        List<Likely> before = of(asked);
        List<Trace> wrong = random(random);
        likely.learn(wrong, 4);
        likely.unlearn(wrong, 4);
        List<Likely> after = of(asked);
        assertThat(after)
                .extracting(Likely::place)
                .isEqualTo(before.stream().map(Likely::place).toList());
        for (int i = 0; i < before.size(); i++) {
            assertThat(after.get(i).share()).isCloseTo(before.get(i).share(), within(0.01));
            assertThat(after.get(i).there()).isEqualTo(before.get(i).there());
        }
    }

    @Test
    void unlearningWhatWasNeverLearntDoesNoHarm() {
        learn(3, letter("anna@wharf.example", "Crates", "Two crates"), 1);
        for (int i = 0; i < 5; i++) {
            likely.unlearn(letter("anna@wharf.example", "Other", "Else"), 1);
            likely.unlearn(letter("bo@shop.example", "Other", "Else"), 2);
        }
        assertThat(of(letter("anna@wharf.example", "Crates", "Two crates")))
                .allSatisfy(one -> assertThat(one.share()).isBetween(0.0, 1.0));
    }

    private static List<Trace> random(Random random) {
        String sender = "writer%d@wharf%d.example".formatted(random.nextInt(20), random.nextInt(5));
        return letter(sender, "subject" + random.nextInt(30), "word" + random.nextInt(50), random.nextInt(40));
    }

    @Test
    void whatIsWrittenIsReadAgain() throws IOException {
        Random random = new Random(3);
        for (int i = 0; i < 300; i++) {
            likely.learn(random(random), 1 + random.nextInt(5));
        }
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        likely.write(new DataOutputStream(bytes));
        LikelyPlaces read = LikelyPlaces.read(new DataInputStream(new ByteArrayInputStream(bytes.toByteArray())));
        for (int i = 0; i < 50; i++) {
            List<Trace> asked = random(random);
            assertThat(Objects.requireNonNull(read).of(asked, OPEN, 3)).isEqualTo(of(asked));
        }
    }

    /** Four matters with words of their own, about which the same people write. */
    @Test
    void mattersAreToldApartByTheirWords() {
        Random random = new Random(5);
        int right = 0;
        for (int i = 0; i < 1000; i++) {
            int matter = 1 + random.nextInt(4);
            List<String> words = new ArrayList<>();
            for (int j = 0; j < 30; j++) {
                words.add(
                        random.nextInt(8) == 0
                                ? "m%dw%d".formatted(matter, random.nextInt(15))
                                : "w" + random.nextInt(400));
            }
            List<Trace> letter = letter(
                    "writer" + random.nextInt(6) + "@wharf.example",
                    "w" + random.nextInt(400),
                    String.join(" ", words));
            right += i >= 200 && of(letter).get(0).place() == matter ? 1 : 0;
            likely.learn(letter, matter);
        }
        assertThat(right).as("of 800").isGreaterThan(720);
    }

    @Test
    void hugeAndHostileTextsLeaveLittleBehind() {
        String huge = "Ünïcode \u0000 ".repeat(200_000);
        assertThat(letter("x".repeat(5000), huge, huge)).hasSizeLessThan(200);
        assertThat(letter("", "", "")).extracting(Trace::value).doesNotContain("");
    }
}
