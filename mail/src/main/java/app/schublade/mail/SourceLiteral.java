package app.schublade.mail;

import java.io.IOException;
import java.io.OutputStream;
import org.eclipse.angus.mail.iap.Literal;

/** A message's source as it is sent. */
@SuppressWarnings("ArrayRecordComponent") // handed on once, never compared
record SourceLiteral(byte[] source) implements Literal {
    @Override
    public int size() {
        return source.length;
    }

    @Override
    public void writeTo(OutputStream out) throws IOException {
        out.write(source);
    }
}
