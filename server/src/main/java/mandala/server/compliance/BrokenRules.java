package mandala.server.compliance;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Findings;
import mandala.core.engine.Engine;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The rules that do not hold now, for whoever asks. */
@Component
public class BrokenRules {

  /** For how many seconds findings are kept: windows begin and end. */
  private static final int KEPT = 60;

  private final ComplianceMonitor monitor;
  private @Nullable Known known;

  private record Known(Engine engine, Instant at, List<Finding> findings) {}

  BrokenRules(ComplianceMonitor monitor) {
    this.monitor = monitor;
  }

  /** Since when a rule is broken; the revision that began it, null where a window did. */
  public record Since(Instant at, @Nullable Long revision) {}

  /** {@return the rules of the model asked about that do not hold}, as the viewer may know them */
  public SeenFindings seen(RequestContext context) {
    return SeenFindings.of(findings(context.asked().engine(), context.readPolicy().now()), context);
  }

  /** Findings of the model asked about last are kept for a while. */
  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  private synchronized List<Finding> findings(Engine engine, Instant at) {
    Known last = known;
    if (last != null && last.engine() == engine && last.at().plusSeconds(KEPT).isAfter(at)) {
      return last.findings();
    }
    List<Finding> found = Findings.of(engine, at);
    known = new Known(engine, at, found);
    return found;
  }

  /** {@return since when each is broken}, by the id of its finding */
  public Map<String, Since> since() {
    return monitor.since();
  }
}
