package mandala.server.session;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.security.InvalidKeyException;
import java.security.SecureRandom;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalLong;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;

/** Time-based one-time passwords (RFC 6238): six digits, steps of 30 seconds, SHA-1. */
final class Totp {

  static final int STEP_SECONDS = 30;

  /** Codes of this many steps before and after now are taken too, for clocks that differ. */
  private static final int DRIFT = 1;

  private static final TimeBasedOneTimePasswordGenerator CODES =
      new TimeBasedOneTimePasswordGenerator();
  private static final SecureRandom RANDOM = new SecureRandom();

  private Totp() {}

  /** {@return a new secret in Base32} */
  static String newSecret() {
    byte[] secret = new byte[20];
    RANDOM.nextBytes(secret);
    return new Base32().encodeToString(secret);
  }

  /** {@return the code of a secret at an instant} */
  static String code(String secret, Instant at) {
    try {
      byte[] key = new Base32().decode(secret);
      return CODES.generateOneTimePasswordString(new SecretKeySpec(key, "RAW"), at);
    } catch (InvalidKeyException e) {
      throw new IllegalStateException("Impossible state: a kept secret is no key", e);
    }
  }

  /** {@return whether a text is Base32 (RFC 4648) of at least 128 bits, as RFC 4226 asks} */
  static boolean isSecret(String text) {
    return text.chars().allMatch(it -> (it >= 'A' && it <= 'Z') || (it >= '2' && it <= '7'))
        && new Base32().decode(text).length >= 16;
  }

  /** {@return the time step whose code this is}, empty where it is none near the instant */
  static OptionalLong step(String secret, String code, Instant at) {
    for (int drift = -DRIFT; drift <= DRIFT; drift++) {
      Instant near = at.plusSeconds((long) drift * STEP_SECONDS);
      if (code(secret, near).equals(code.strip())) {
        return OptionalLong.of(near.getEpochSecond() / STEP_SECONDS);
      }
    }
    return OptionalLong.empty();
  }

  /** {@return the address that an authenticator reads from a QR code} */
  static String address(String secret, String principal) {
    return "otpauth://totp/Mandala:" + principal + "?secret=" + secret + "&issuer=Mandala";
  }

  /** {@return a QR code as an SVG path on a square of {@code size} modules} */
  static Optional<Qr> qr(String text) {
    try {
      var matrix =
          new com.google.zxing.qrcode.QRCodeWriter()
              .encode(text, com.google.zxing.BarcodeFormat.QR_CODE, 0, 0);
      StringBuilder path = new StringBuilder();
      for (int y = 0; y < matrix.getHeight(); y++) {
        for (int x = 0; x < matrix.getWidth(); x++) {
          if (matrix.get(x, y)) {
            path.append('M').append(x).append(' ').append(y).append("h1v1h-1z");
          }
        }
      }
      return Optional.of(new Qr(matrix.getWidth(), path.toString()));
    } catch (com.google.zxing.WriterException _) {
      return Optional.empty();
    }
  }

  /** A QR code to draw. */
  record Qr(int size, String path) {}
}
