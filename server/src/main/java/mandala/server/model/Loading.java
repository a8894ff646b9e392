package mandala.server.model;

import java.util.List;
import java.util.Map;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.stereotype.Component;

/**
 * How far the model is read, told on the health page: out of service while it is first read, then
 * up with its revision. Thread-safe.
 */
@Component("model")
class Loading implements HealthIndicator {

  /** What is being done, and how much of it. */
  private record Step(String doing, int done, int of) {}

  private volatile Step step = new Step("waiting", 0, 1);
  private volatile long revision = -1;

  void at(String doing, int done, int of) {
    step = new Step(doing, done, of);
  }

  void done(long atRevision) {
    revision = atRevision;
  }

  @Override
  public Health health() {
    if (revision >= 0) {
      return Health.up().withDetail("revision", revision).build();
    }
    Step now = step;
    return Health.outOfService()
        .withDetails(Map.of("doing", now.doing(), "progress", List.of(now.done(), now.of())))
        .build();
  }
}
