package mandala.server.trail;

import jakarta.annotation.PreDestroy;
import mandala.server.platform.Background;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Signs the trail's head every minute in which it has moved, and at the end. */
@Component
class Signing extends Background {

  private static final Logger LOG = LoggerFactory.getLogger(Signing.class);
  private static final long PAUSE_MILLIS = 60_000;

  private final Trail trail;
  private final boolean onlyVerifying;

  Signing(Trail trail, @Value("${mandala.verify-trail:false}") boolean onlyVerifying) {
    super("trail-signing");
    this.trail = trail;
    this.onlyVerifying = onlyVerifying;
  }

  @Override
  public boolean isAutoStartup() {
    return !onlyVerifying;
  }

  @Override
  protected void go() {
    do {
      sign();
    } while (isMine() && pause(PAUSE_MILLIS));
  }

  private void sign() {
    try {
      trail.sign();
    } catch (RuntimeException e) {
      LOG.warn("The trail could not be signed for now: {}", e.toString());
    }
  }

  @PreDestroy
  void last() {
    if (!onlyVerifying) {
      sign();
    }
  }
}
