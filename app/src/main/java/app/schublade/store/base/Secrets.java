package app.schublade.store.base;

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
import java.util.List;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.beans.factory.annotation.Autowired;
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

    /**
     * @throws StartProblem if the key is gone, or does not open what the database holds: with another one nothing of it
     *     could ever be opened
     */
    @Autowired
    public Secrets(@Value("${schublade.key-file}") Path file, Database database) throws IOException {
        this(file, database.sealed());
    }

    Secrets(Path file, List<byte[]> sealed) throws IOException {
        if (!Files.exists(file) && !sealed.isEmpty()) {
            throw new StartProblem(
                    "The key that opens the accounts' passwords is gone: %s".formatted(file),
                    "Restore it there, from where it was backed up. Without it the passwords have to be entered again: to"
                            + " start so, take the accounts' passwords out with: update account set secret = ''");
        }
        this.key = new SecretKeySpec(Files.exists(file) ? read(file) : make(file), "AES");
        if (!sealed.isEmpty() && !opens(sealed)) {
            throw new StartProblem(
                    "The key in %s does not open the accounts' passwords: it is another installation's, or an older one."
                            .formatted(file),
                    "Put the right one there, from where it was backed up. If a change of the key was cut off, it is %s."
                            .formatted(KeyChange.next(file)));
        }
    }

    /** Whether a key is the one of what the database holds. */
    static boolean opens(Path file, List<byte[]> sealed) throws IOException {
        return new Secrets(file, List.of()).opens(sealed);
    }

    /** One may have been spoilt; then its account asks for its password. */
    private boolean opens(List<byte[]> sealed) {
        return sealed.stream().anyMatch(one -> {
            try {
                open(one);
                return true;
            } catch (IllegalStateException e) {
                return false;
            }
        });
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
        if (sealed.length < NONCE_BYTES) {
            return ""; // None was given, or it was taken out.
        }
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
        byte[] key = decoded(Files.readString(file, StandardCharsets.ISO_8859_1).strip());
        if (key.length != KEY_BYTES) {
            throw new StartProblem(
                    "The key file %s holds %d bytes, not %d.".formatted(file, key.length, KEY_BYTES),
                    "Put the right one back, from where it was backed up.");
        }
        return key;
    }

    private static byte[] decoded(String text) {
        try {
            return Base64.getDecoder().decode(text);
        } catch (IllegalArgumentException e) {
            return new byte[0];
        }
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
