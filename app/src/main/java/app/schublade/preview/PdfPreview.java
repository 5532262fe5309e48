package app.schublade.preview;

import java.io.ByteArrayInputStream;
import java.io.DataInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Pictures of the pages of a PDF, made in a process of their own with an end to memory, time and output. */
@Component
public class PdfPreview {
    private static final Logger LOG = LoggerFactory.getLogger(PdfPreview.class);
    private static final Duration LONGEST = Duration.ofSeconds(20);
    private static final int MOST_IN = 30_000_000;
    private static final int MOST_OUT = 15_000_000;
    private static final int MOST_PAGES = 100_000;
    /** So many processes run at once; the others wait for their turn. */
    private static final int AT_ONCE = 2;

    private final Semaphore turns = new Semaphore(AT_ONCE);

    /**
     * A page.
     *
     * @param pages how many there are
     * @param png its picture; empty if none was asked for
     */
    @SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
    public record PdfPage(int pages, byte[] png) {}

    /**
     * Empty if it is no PDF, is locked or damaged, or needs more than it is given.
     *
     * @param number of the page, from 1; 0 for none
     */
    public Optional<PdfPage> page(byte[] pdf, int number) {
        if (pdf.length > MOST_IN || number < 0 || number > MOST_PAGES) {
            return Optional.empty();
        }
        try {
            if (!turns.tryAcquire(LONGEST.toSeconds(), TimeUnit.SECONDS)) {
                return Optional.empty();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        }
        try {
            return made(pdf, number);
        } catch (IOException e) {
            LOG.info("A PDF was not shown: {}", e.getMessage());
            return Optional.empty();
        } finally {
            turns.release();
        }
    }

    private static Optional<PdfPage> made(byte[] pdf, int number) throws IOException {
        Process process = new ProcessBuilder(List.of(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx300m",
                        "-XX:+UseSerialGC",
                        "-XX:TieredStopAtLevel=1",
                        "-XX:-UsePerfData",
                        "-Djava.awt.headless=true",
                        "-Dpdfbox.fontcache=" + System.getProperty("java.io.tmpdir"),
                        "-cp",
                        System.getProperty("java.class.path"),
                        PdfPages.class.getName(),
                        String.valueOf(number)))
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        process.onExit()
                .orTimeout(LONGEST.toSeconds(), TimeUnit.SECONDS)
                .whenComplete((ended, late) -> process.destroyForcibly());
        try {
            try (OutputStream in = process.getOutputStream()) {
                in.write(pdf);
            }
            byte[] out = process.getInputStream().readNBytes(MOST_OUT + 1);
            return out.length > MOST_OUT ? Optional.empty() : read(out, number > 0);
        } finally {
            process.destroyForcibly();
        }
    }

    private static Optional<PdfPage> read(byte[] out, boolean withPicture) throws IOException {
        if (out.length < Integer.BYTES || (withPicture && out.length == Integer.BYTES)) {
            return Optional.empty();
        }
        try (DataInputStream in = new DataInputStream(new ByteArrayInputStream(out))) {
            return Optional.of(new PdfPage(in.readInt(), in.readAllBytes()));
        }
    }
}
