package mandala.server.platform;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.HexFormat;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Secrets that are kept outside of the database, as files of the user who runs the server: whoever
 * has the database alone can neither read what they seal nor forge what they sign. Instances that
 * share a database share this folder. Thread-safe.
 */
@Component
public class Secrets {

  private final Path folder;
  private final SecureRandom random = new SecureRandom();
  private final Map<String, byte[]> known = new ConcurrentHashMap<>();

  /** Keeps secrets in a folder, which is made when it is needed. */
  public Secrets(@Value("${mandala.keys:var/keys}") Path folder) {
    this.folder = folder;
  }

  /** {@return the folder}, which is made where there is none; only its owner may enter it */
  public Path folder() {
    try {
      if (!Files.isDirectory(folder)) {
        Files.createDirectories(
            folder,
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
      }
      return folder;
    } catch (IOException e) {
      throw new UncheckedIOException("The folder for keys cannot be made: " + folder, e);
    }
  }

  /** {@return a secret of 32 bytes}, made at its first use and the same ever after */
  public byte[] secret(String name) {
    return known.computeIfAbsent(name, this::readOrMake).clone();
  }

  private byte[] readOrMake(String name) {
    Path file = folder().resolve(name + ".secret");
    byte[] fresh = new byte[32];
    random.nextBytes(fresh);
    try {
      write(file, HexFormat.of().formatHex(fresh));
    } catch (FileAlreadyExistsException _) {
      // this instance made it before, or another one did just now
    } catch (IOException e) {
      throw new UncheckedIOException("The secret cannot be kept: " + file, e);
    }
    try {
      byte[] kept = HexFormat.of().parseHex(Files.readString(file).strip());
      if (kept.length != 32) {
        throw new IllegalStateException("The secret in " + file + " is not 32 bytes long");
      }
      return kept;
    } catch (IOException e) {
      throw new UncheckedIOException("The secret cannot be read: " + file, e);
    } catch (IllegalArgumentException e) {
      throw new IllegalStateException("The secret in " + file + " is not hexadecimal", e);
    }
  }

  /**
   * Writes a file that only its owner may read, whole or not at all.
   *
   * @throws FileAlreadyExistsException if there is one already
   */
  public static void write(Path file, String content) throws IOException {
    Path fresh =
        Files.createTempFile(
            file.toAbsolutePath().getParent(),
            file.getFileName().toString(),
            ".new",
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    try {
      Files.writeString(fresh, content, StandardOpenOption.SYNC);
      Files.createLink(file, fresh); // fails where there is one, unlike a move
    } finally {
      Files.deleteIfExists(fresh);
    }
  }

  /**
   * {@return a text that stands for another, the same each time}, by HMAC-SHA-256, in hexadecimal
   */
  public String mark(String name, String text) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(secret(name), "HmacSHA256"));
      return HexFormat.of()
          .formatHex(mac.doFinal(text.getBytes(java.nio.charset.StandardCharsets.UTF_8)));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("Impossible state: no HMAC-SHA-256", e);
    }
  }
}
