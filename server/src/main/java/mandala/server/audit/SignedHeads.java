package mandala.server.audit;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.security.Signature;
import java.security.spec.PKCS8EncodedKeySpec;
import java.security.spec.X509EncodedKeySpec;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import mandala.server.platform.Secrets;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Heads of the trail, signed with a key that the database does not know (Ed25519, RFC 8032), and
 * kept beside that key: whoever writes the whole trail anew, or cuts its end off, can neither sign
 * what they made nor take back what was signed. Each signed head is logged as well; written down
 * elsewhere, it shows later what even somebody with the server's files has altered. Thread-safe.
 */
@Component
public class SignedHeads {

  private static final Logger LOG = LoggerFactory.getLogger(SignedHeads.class);
  private static final String ALGORITHM = "Ed25519";

  /** So many of the newest heads are kept where there would be twice as many. */
  static final int KEPT = 1_000;

  private final Secrets secrets;
  private final String database;
  private @Nullable KeyPair keys;

  SignedHeads(Secrets secrets, @Value("${spring.datasource.url}") String url) {
    this.secrets = secrets;
    this.database = DigestUtils.sha256Hex(url.substring(url.lastIndexOf('/') + 1)).substring(0, 12);
  }

  /** A head that was signed. */
  public record Signed(long seq, String hash, Instant at, String signature) {
    private String text() {
      return "mandala-trail/2 " + seq + " " + hash + " " + at;
    }

    private String line() {
      return seq + " " + hash + " " + at + " " + signature;
    }
  }

  private Path file() {
    return secrets.folder().resolve("trail-heads-" + database);
  }

  /** {@return the public half of the key}, in Base64 of its X.509 form */
  public String publicKey() {
    return Base64.getEncoder().encodeToString(keys().getPublic().getEncoded());
  }

  private synchronized KeyPair keys() {
    KeyPair known = keys;
    if (known == null) {
      known = readOrMake();
      keys = known;
      LOG.info(
          "The trail is signed with the key {}",
          Base64.getEncoder().encodeToString(known.getPublic().getEncoded()));
    }
    return known;
  }

  private KeyPair readOrMake() {
    Path file = secrets.folder().resolve("trail-signing.key");
    try {
      KeyPair fresh = KeyPairGenerator.getInstance(ALGORITHM).generateKeyPair();
      Base64.Encoder text = Base64.getEncoder();
      try {
        Secrets.write(
            file,
            text.encodeToString(fresh.getPrivate().getEncoded())
                + "\n"
                + text.encodeToString(fresh.getPublic().getEncoded())
                + "\n");
        return fresh;
      } catch (FileAlreadyExistsException _) {
        List<String> lines = Files.readAllLines(file);
        KeyFactory factory = KeyFactory.getInstance(ALGORITHM);
        PrivateKey signing =
            factory.generatePrivate(
                new PKCS8EncodedKeySpec(Base64.getDecoder().decode(lines.get(0))));
        PublicKey shown =
            factory.generatePublic(
                new X509EncodedKeySpec(Base64.getDecoder().decode(lines.get(1))));
        return new KeyPair(shown, signing);
      }
    } catch (IOException e) {
      throw new UncheckedIOException("The key of the trail cannot be read: " + file, e);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("The key of the trail is damaged: " + file, e);
    }
  }

  /** Signs a head and keeps it; one that was signed last is not signed again. */
  synchronized void sign(long seq, String hash, Instant now) {
    List<Signed> kept = kept();
    if (!kept.isEmpty() && kept.getLast().seq() >= seq) {
      return;
    }
    Signed bare = new Signed(seq, hash, now.truncatedTo(ChronoUnit.SECONDS), "");
    try {
      Signed signed = new Signed(seq, hash, bare.at(), signatureOf(bare.text()));
      Files.writeString(
          file(),
          signed.line() + "\n",
          StandardOpenOption.CREATE,
          StandardOpenOption.APPEND,
          StandardOpenOption.SYNC);
      if (kept.size() + 1 >= 2 * KEPT) {
        keepNewest(signed, kept);
      }
      LOG.info("The trail is signed up to line {}: {} {}", seq, hash, signed.signature());
    } catch (IOException e) {
      throw new UncheckedIOException("The signed head cannot be kept", e);
    }
  }

  /** {@return the signature of a text}, in Base64 */
  String signatureOf(String text) {
    try {
      Signature signer = Signature.getInstance(ALGORITHM);
      signer.initSign(keys().getPrivate());
      signer.update(text.getBytes(StandardCharsets.UTF_8));
      return Base64.getEncoder().encodeToString(signer.sign());
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("This cannot be signed: " + text, e);
    }
  }

  private void keepNewest(Signed last, List<Signed> before) throws IOException {
    List<String> lines = new ArrayList<>();
    before.subList(before.size() - KEPT + 1, before.size()).forEach(it -> lines.add(it.line()));
    lines.add(last.line());
    Path fresh = file().resolveSibling(file().getFileName() + ".new");
    Files.writeString(fresh, String.join("\n", lines) + "\n", StandardOpenOption.CREATE);
    Files.move(fresh, file(), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
  }

  /**
   * {@return the heads that were signed}, in the order in which they were; none in the beginning
   */
  List<Signed> kept() {
    if (!Files.exists(file())) {
      return List.of();
    }
    try {
      List<Signed> signed = new ArrayList<>();
      for (String line : Files.readAllLines(file())) {
        String[] parts = line.split(" ");
        if (parts.length == 4) {
          signed.add(
              new Signed(Long.parseLong(parts[0]), parts[1], Instant.parse(parts[2]), parts[3]));
        }
      }
      return signed;
    } catch (IOException e) {
      throw new UncheckedIOException("The signed heads cannot be read: " + file(), e);
    }
  }

  /** {@return whether this server's key signed it} */
  boolean isGenuine(Signed signed) {
    return isGenuine(signed.text(), signed.signature());
  }

  /** {@return whether a signature is this server's of a text} */
  boolean isGenuine(String text, String signature) {
    try {
      Signature check = Signature.getInstance(ALGORITHM);
      check.initVerify(keys().getPublic());
      check.update(text.getBytes(StandardCharsets.UTF_8));
      return check.verify(Base64.getDecoder().decode(signature));
    } catch (GeneralSecurityException | IllegalArgumentException _) {
      return false;
    }
  }
}
