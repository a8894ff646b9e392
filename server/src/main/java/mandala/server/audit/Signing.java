package mandala.server.audit;

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
    super("trail-signing", PAUSE_MILLIS);
    this.trail = trail;
    this.onlyVerifying = onlyVerifying;
  }

  @Override
  public boolean isAutoStartup() {
    return !onlyVerifying;
  }

  @Override
  protected void run() {
    trail.sign();
  }

  @PreDestroy
  void last() {
    if (!onlyVerifying) {
      try {
        trail.sign();
      } catch (RuntimeException e) {
        LOG.warn("The trail's last lines are not signed: {}", e.toString());
      }
    }
  }
}
