package mandala.server.session;

import io.github.bucket4j.distributed.BucketProxy;
import java.time.Duration;
import java.util.Locale;
import mandala.server.platform.Buckets;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;

/**
 * Slows down guessing, counted in the database so that all instances count together. Passwords are
 * limited by name and by address; a right password gives the name its failures back. Codes have a
 * limit of their own per person, whichever way they are tried, which only a right code gives back.
 * Who is signed in with a second factor has a further limit for proving who they are once more:
 * nobody outside can use it up.
 */
@Component
public class Throttle {

  private static final int FAILURES_A_NAME = 5;
  private static final int FAILURES_AN_ADDRESS = 50;
  private static final int LINKS_A_NAME = 3;
  private static final int WRONG_CODES = 5;
  private static final int WRONG_PROOFS = 10;
  private static final Duration WHILE = Duration.ofMinutes(10);

  private final Buckets buckets;

  Throttle(Buckets buckets) {
    this.buckets = buckets;
  }

  private BucketProxy bucket(String id, int capacity) {
    return buckets.of(id, capacity, WHILE);
  }

  private BucketProxy byName(String name) {
    return bucket("name:" + name, FAILURES_A_NAME);
  }

  private BucketProxy byAddress(String address) {
    return bucket("address:" + address, FAILURES_AN_ADDRESS);
  }

  /**
   * Takes one attempt; it is given back by {@link #succeeded}.
   *
   * @throws Problem if there were too many failures
   */
  public void attempt(String name, String address) {
    if (!byName(name).tryConsume(1) || !byAddress(address).tryConsume(1)) {
      throw Problem.tooMany(
          "After too many failed attempts sign-in rests for some minutes. Wait two minutes, then"
              + " try again.");
    }
  }

  /**
   * Counts a wrong token.
   *
   * @throws Problem if there were too many from this address
   */
  public void wrongToken(String address) {
    if (!bucket("token-address:" + address, FAILURES_AN_ADDRESS).tryConsume(1)) {
      throw Problem.tooMany(
          "After too many wrong tokens no more are looked at for some minutes. Wait two minutes,"
              + " then try again.");
    }
  }

  /**
   * Counts a link that somebody asks for by mail.
   *
   * @throws Problem if there were too many of this name, or from this address
   */
  public void link(String name, String address) {
    String asked = name.strip().toLowerCase(Locale.ROOT);
    if (!bucket("link:" + asked, LINKS_A_NAME).tryConsume(1) || !byAddress(address).tryConsume(1)) {
      throw Problem.tooMany(
          "So many links were asked for that no more are sent for some minutes. Wait ten minutes,"
              + " then try again.");
    }
  }

  /** A right password: the name and the address get their failures back. */
  public void succeeded(String name, String address) {
    byName(name).reset();
    byAddress(address).addTokens(1);
  }

  private BucketProxy codes(String principal) {
    return bucket("code:" + principal, WRONG_CODES);
  }

  /**
   * Takes one try of a code; only {@link #rightCode} gives it back.
   *
   * @throws Problem if there were too many wrong ones
   */
  public void code(String principal) {
    if (!codes(principal).tryConsume(1)) {
      throw Problem.tooMany(
          "After "
              + WRONG_CODES
              + " wrong codes no more are taken for some minutes. Wait two minutes, then try again.");
    }
  }

  /** A right code: the person gets all tries back. */
  public void rightCode(String principal) {
    codes(principal).reset();
  }

  private BucketProxy proofs(String principal) {
    return bucket("proof:" + principal, WRONG_PROOFS);
  }

  /**
   * Takes one try of somebody who is signed in to prove who they are once more; {@link #proven}
   * gives it back.
   *
   * @param withFactor whether the session has shown a second factor; else the tries are those of
   *     codes, which whoever knows the password alone can use up
   * @throws Problem if there were too many wrong ones
   */
  public void proof(String principal, boolean withFactor) {
    if (!withFactor) {
      code(principal);
    } else if (!proofs(principal).tryConsume(1)) {
      throw Problem.tooMany(
          "After "
              + WRONG_PROOFS
              + " wrong codes nothing is applied for some minutes. Wait two minutes, then try again.");
    }
  }

  /** It was right. */
  public void proven(String principal, boolean withFactor) {
    if (withFactor) {
      proofs(principal).reset();
    } else {
      rightCode(principal);
    }
  }
}
