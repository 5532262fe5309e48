package app.schublade.core.format;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import org.apache.poi.hmef.Attachment;
import org.apache.poi.hmef.HMEFMessage;

/** Takes the files out of a TNEF wrapper, which some programs send as {@code winmail.dat}. */
final class WrappedFiles {
    private static final int MOST = 200;

    private WrappedFiles() {}

    /** @throws IOException if it cannot be read */
    static List<ExtractedFile> of(InputStream wrapper) throws IOException {
        List<ExtractedFile> files = new ArrayList<>();
        try {
            for (Attachment one : new HMEFMessage(wrapper).getAttachments()) {
                if (files.size() < MOST) {
                    files.add(file(one));
                }
            }
        } catch (RuntimeException e) {
            throw new IOException("The library throws unchecked errors on broken wrappers", e);
        }
        return files;
    }

    private static ExtractedFile file(Attachment one) {
        String name = one.getLongFilename();
        name = name == null || name.isBlank() ? one.getFilename() : name;
        return new ExtractedFile(name == null ? "" : name, one.getContents());
    }
}
