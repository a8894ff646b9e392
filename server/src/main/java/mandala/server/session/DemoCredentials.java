package mandala.server.session;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import mandala.core.model.key.PrincipalKey;
import org.apache.commons.codec.binary.Base32;
import org.apache.commons.codec.digest.DigestUtils;

/** The demo people's password and secrets, which are no secrets: the sign-in page shows them. */
public final class DemoCredentials {

  /** The password of everybody in the demo. */
  public static final String PASSWORD = "larkmoor-demo";

  private DemoCredentials() {}

  /** {@return the TOTP secret of a demo person}, the same at every start */
  public static String secretOf(PrincipalKey principal) {
    byte[] digest =
        DigestUtils.sha1(("larkmoor " + principal.value()).getBytes(StandardCharsets.UTF_8));
    return new Base32().encodeToString(digest);
  }

  /** {@return the code of a demo person at an instant} */
  public static String codeOf(PrincipalKey principal, Instant at) {
    return Totp.code(secretOf(principal), at);
  }
}
