package mandala.server;

import java.time.Duration;
import org.awaitility.Awaitility;
import org.awaitility.core.ConditionFactory;

/** Waits for what happens by itself, as long as a busy machine may take for it. */
public final class Patience {

  private Patience() {}

  /** {@return a wait that looks again and again, for two minutes} */
  public static ConditionFactory await() {
    return Awaitility.await().atMost(Duration.ofMinutes(2));
  }
}
