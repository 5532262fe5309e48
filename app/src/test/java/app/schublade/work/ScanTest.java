package app.schublade.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import java.time.Duration;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** A walk shows how far it is, can be stopped, and belongs to one user. */
class ScanTest {
    private static final Duration LONG = Duration.ofSeconds(20);

    private final Scans walks = new Scans(new Background());

    @AfterEach
    void end() {
        walks.stop();
    }

    private static Integer through(Scan<Integer> walk, int messages) {
        for (int i = 1; i <= messages; i++) {
            int number = i;
            walk.step(() -> number);
        }
        return messages;
    }

    /** One that goes on until it is stopped; it has begun when the latch is open. */
    private Scan<Integer> endless(CountDownLatch begun) {
        return walks.begin(1, Integer.MAX_VALUE, null, walk -> {
            for (int i = 1; true; i++) {
                int number = i;
                walk.step(() -> number);
                begun.countDown();
            }
        });
    }

    @Test
    void whatWasFoundIsThereAtTheEnd() {
        Scan<Integer> walk = walks.begin(1, 2000, null, one -> through(one, 2000));
        assertThat(walk.await(LONG).found()).isEqualTo(2000);
        assertThat(walk.seen()).isEqualTo(2000);
        assertThat(walk.isRunning()).isFalse();
        assertThat(walk.isCutShort()).isFalse();
    }

    @Test
    void whatWasFoundSoFarIsThereWhileItGoesOnAndAfterItWasStopped() throws InterruptedException {
        CountDownLatch begun = new CountDownLatch(1);
        Scan<Integer> walk = endless(begun);
        begun.await();
        for (int i = 0; i < 200 && walk.found() == null; i++) {
            walk.await(Duration.ofMillis(20));
        }
        assertThat(walk.found()).isPositive();
        assertThat(walk.isRunning()).isTrue();
        walk.stop();
        walk.await(LONG);
        assertThat(walk.isRunning()).isFalse();
        assertThat(walk.isCutShort()).isTrue();
        assertThat(walk.found()).isEqualTo(walk.seen());
    }

    @Test
    void oneIsStoppedByTheNextAndOthersCannotFindIt() throws InterruptedException {
        CountDownLatch begun = new CountDownLatch(1);
        Scan<Integer> first = endless(begun);
        begun.await();
        assertThat(walks.find(2, first.id())).isEmpty();
        walks.begin(2, 1, first.id(), one -> 1).await(LONG);
        assertThat(first.isRunning()).as("another user's walk is not stopped").isTrue();
        walks.begin(1, 1, first.id(), one -> 1);
        assertThat(first.await(LONG).isRunning()).isFalse();
        assertThat(walks.find(1, first.id())).isPresent();
    }

    @Test
    void manyOfOneUserAreNotLookedAtAnyMore() throws InterruptedException {
        CountDownLatch begun = new CountDownLatch(1);
        Scan<Integer> first = endless(begun);
        begun.await();
        for (int i = 0; i < 4; i++) {
            walks.begin(1, 1, null, one -> 1);
        }
        assertThat(first.await(LONG).isRunning()).isFalse();
        assertThat(walks.find(1, first.id())).isEmpty();
    }

    @Test
    void whatFailedSaysSo() {
        AtomicBoolean walked = new AtomicBoolean();
        Scan<Integer> walk = walks.begin(1, 1, null, one -> {
            walked.set(true);
            throw new InputProblem("There is no group “x”.");
        });
        assertThatThrownBy(() -> walk.await(LONG)).hasMessage("There is no group “x”.");
        assertThat(walked).isTrue();
    }
}
