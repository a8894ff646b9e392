package mandala.server.finding;

import java.util.List;
import mandala.core.detect.Detection;
import org.springframework.stereotype.Component;

/** What detectors found at the last look, for other features; told or not. */
@Component
public class FoundTroubles {

  private final FindingStore store;

  FoundTroubles(FindingStore store) {
    this.store = store;
  }

  /** {@return all that is not resolved}, the worst first */
  public List<Detection> all() {
    return store.known().findings().stream()
        .filter(it -> it.resolvedAt() == null)
        .map(KeptFinding::it)
        .toList();
  }
}
