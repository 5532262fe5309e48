package app.schublade.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.schublade.core.problem.InputProblem;
import java.time.Duration;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** A scan shows how far it is, can be stopped, and belongs to one user. */
class ScanTest {
    private static final Duration LONG = Duration.ofSeconds(20);

    private final Scans scans = new Scans(new Background());

    @AfterEach
    void end() {
        scans.stop();
    }

    private static Integer through(Scan<Integer> scan, int messages) {
        for (int i = 1; i <= messages; i++) {
            int number = i;
            scan.step(() -> number);
        }
        return messages;
    }

    /** One that goes on until it is stopped; it has begun when the latch is open. */
    private Scan<Integer> endless(CountDownLatch begun) {
        return scans.begin(1, Integer.MAX_VALUE, null, scan -> {
            for (int i = 1; true; i++) {
                int number = i;
                scan.step(() -> number);
                begun.countDown();
            }
        });
    }

    @Test
    void whatWasFoundIsThereAtTheEnd() {
        Scan<Integer> scan = scans.begin(1, 2000, null, one -> through(one, 2000));
        assertThat(scan.await(LONG).found()).isEqualTo(2000);
        assertThat(scan.seen()).isEqualTo(2000);
        assertThat(scan.isRunning()).isFalse();
        assertThat(scan.isCutShort()).isFalse();
    }

    @Test
    void whatWasFoundSoFarIsThereWhileItGoesOnAndAfterItWasStopped() throws InterruptedException {
        CountDownLatch begun = new CountDownLatch(1);
        Scan<Integer> scan = endless(begun);
        begun.await();
        for (int i = 0; i < 200 && scan.found() == null; i++) {
            scan.await(Duration.ofMillis(20));
        }
        assertThat(scan.found()).isPositive();
        assertThat(scan.isRunning()).isTrue();
        scan.stop();
        scan.await(LONG);
        assertThat(scan.isRunning()).isFalse();
        assertThat(scan.isCutShort()).isTrue();
        assertThat(scan.found()).isEqualTo(scan.seen());
    }

    @Test
    void oneIsStoppedByTheNextAndOthersCannotFindIt() throws InterruptedException {
        CountDownLatch begun = new CountDownLatch(1);
        Scan<Integer> first = endless(begun);
        begun.await();
        assertThat(scans.find(2, first.id())).isEmpty();
        scans.begin(2, 1, first.id(), one -> 1).await(LONG);
        assertThat(first.isRunning()).as("another user's scan is not stopped").isTrue();
        scans.begin(1, 1, first.id(), one -> 1);
        assertThat(first.await(LONG).isRunning()).isFalse();
        assertThat(scans.find(1, first.id())).isPresent();
    }

    @Test
    void manyOfOneUserAreNotLookedAtAnyMore() throws InterruptedException {
        CountDownLatch begun = new CountDownLatch(1);
        Scan<Integer> first = endless(begun);
        begun.await();
        for (int i = 0; i < 4; i++) {
            scans.begin(1, 1, null, one -> 1);
        }
        assertThat(first.await(LONG).isRunning()).isFalse();
        assertThat(scans.find(1, first.id())).isEmpty();
    }

    @Test
    void whatFailedSaysSo() {
        AtomicBoolean walked = new AtomicBoolean();
        Scan<Integer> scan = scans.begin(1, 1, null, one -> {
            walked.set(true);
            throw new InputProblem("There is no group “x”.");
        });
        assertThatThrownBy(() -> scan.await(LONG)).hasMessage("There is no group “x”.");
        assertThat(walked).isTrue();
    }
}
