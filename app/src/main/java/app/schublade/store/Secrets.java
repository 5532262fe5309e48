package app.schublade.store;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Base64;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Seals passwords of accounts with AES-256-GCM (NIST SP 800-38D). The key lies in a file outside the database, made at
 * the first start, readable by its owner only.
 */
@Component
public class Secrets {
    private static final int NONCE_BYTES = 12;
    private static final int TAG_BITS = 128;
    private static final int KEY_BYTES = 32;

    private final SecretKeySpec key;
    private final SecureRandom random = new SecureRandom();

    public Secrets(@Value("${schublade.key-file}") Path file) throws IOException {
        this.key = new SecretKeySpec(Files.exists(file) ? read(file) : make(file), "AES");
    }

    /** Nonce, then what was sealed, then the tag. */
    public byte[] seal(String secret) {
        byte[] nonce = new byte[NONCE_BYTES];
        random.nextBytes(nonce);
        byte[] sealed = cipher(Cipher.ENCRYPT_MODE, nonce, secret.getBytes(StandardCharsets.UTF_8));
        return ByteBuffer.allocate(nonce.length + sealed.length)
                .put(nonce)
                .put(sealed)
                .array();
    }

    /** Opens what {@link #seal} returned; throws if it was changed or sealed with another key. */
    public String open(byte[] sealed) {
        ByteBuffer buffer = ByteBuffer.wrap(sealed);
        byte[] nonce = new byte[NONCE_BYTES];
        buffer.get(nonce);
        byte[] rest = new byte[buffer.remaining()];
        buffer.get(rest);
        return new String(cipher(Cipher.DECRYPT_MODE, nonce, rest), StandardCharsets.UTF_8);
    }

    private byte[] cipher(int mode, byte[] nonce, byte[] input) {
        try {
            Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
            cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
            return cipher.doFinal(input);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(
                    "An account's password cannot be opened with this key file. Put the right key file back, or enter"
                            + " the account's password again.",
                    e);
        }
    }

    private static byte[] read(Path file) throws IOException {
        byte[] key = Base64.getDecoder().decode(Files.readString(file).strip());
        if (key.length != KEY_BYTES) {
            throw new IOException("The key file %s holds %d bytes, not %d. Put the right one back."
                    .formatted(file, key.length, KEY_BYTES));
        }
        return key;
    }

    private byte[] make(Path file) throws IOException {
        byte[] key = new byte[KEY_BYTES];
        random.nextBytes(key);
        Files.createDirectories(file.toAbsolutePath().getParent());
        Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        Files.writeString(file, Base64.getEncoder().encodeToString(key) + "\n", StandardOpenOption.WRITE);
        return key;
    }
}
