package mandala.server.audit;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A SHA-256 over fields, each with its kind and length before it: no two sequences of fields read
 * the same, nothing is the same as an empty text or as zero. Not thread-safe.
 */
public final class Canonical {

  private final MessageDigest sha;

  /** Begins with no field. */
  public Canonical() {
    try {
      sha = MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Impossible state: no SHA-256", e);
    }
  }

  private Canonical put(char kind, byte[] bytes) {
    sha.update((byte) kind);
    sha.update(ByteBuffer.allocate(4).putInt(bytes.length).array());
    sha.update(bytes);
    return this;
  }

  private Canonical nothing() {
    return put('n', new byte[0]);
  }

  /** Adds a text. */
  public Canonical add(@Nullable String text) {
    return text == null ? nothing() : put('t', text.getBytes(StandardCharsets.UTF_8));
  }

  /** Adds a number. */
  public Canonical add(@Nullable Long number) {
    return number == null ? nothing() : put('i', ByteBuffer.allocate(8).putLong(number).array());
  }

  /** Adds an instant, in microseconds, as PostgreSQL keeps it. */
  public Canonical add(@Nullable Instant instant) {
    return instant == null
        ? nothing()
        : put(
            'd',
            ByteBuffer.allocate(8)
                .putLong(ChronoUnit.MICROS.between(Instant.EPOCH, instant))
                .array());
  }

  /** Adds a list of texts, with its size. */
  public Canonical add(List<String> texts) {
    put('l', ByteBuffer.allocate(4).putInt(texts.size()).array());
    texts.forEach(this::add);
    return this;
  }

  /** {@return the hash of all fields so far}, in hexadecimal; then it begins anew */
  public String hex() {
    return HexFormat.of().formatHex(sha.digest());
  }
}
