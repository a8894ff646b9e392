package mandala.server.job;

import mandala.core.question.Session;
import mandala.server.session.CurrentPrincipal;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Makes the orders of whoever calls, and begins them. */
@Component
public class JobOrders {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Jobs jobs;
  private final CurrentPrincipal viewer;

  JobOrders(Jobs jobs, CurrentPrincipal viewer) {
    this.jobs = jobs;
    this.viewer = viewer;
  }

  /**
   * Begins a job for whoever calls, with the rights that they look with.
   *
   * @param details what exactly; written as JSON, which the kind reads
   * @throws mandala.server.platform.Problem if they have too many that run
   */
  public Job begin(String kind, String title, Object details) {
    return begin(kind, title, details, viewer.session().mfa(), new byte[0]);
  }

  /**
   * The same, of work on something that they sent.
   *
   * @param secondFactor whether they have shown their second factor
   * @param input what they sent; kept until the job ends
   */
  public Job begin(String kind, String title, Object details, boolean secondFactor, byte[] input) {
    Session seen = viewer.session();
    Session own = viewer.signedIn();
    return jobs.begin(
        new JobOrder(
            kind,
            own.principal().value(),
            title,
            JSON.valueToTree(details),
            seen.principal().value(),
            seen.principal().equals(own.principal()) && seen.at().equals(own.at())
                ? null
                : seen.at(),
            secondFactor),
        input);
  }
}
