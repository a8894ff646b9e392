package mandala.server.job;

import mandala.core.model.key.PrincipalKey;
import mandala.server.platform.Problem;
import mandala.server.session.CurrentPrincipal;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What jobs answered, for whoever began them and may still read it. */
@Component
public class JobAnswers {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Jobs jobs;
  private final JobTables tables;
  private final CurrentPrincipal viewer;

  JobAnswers(Jobs jobs, JobTables tables, CurrentPrincipal viewer) {
    this.jobs = jobs;
    this.tables = tables;
    this.viewer = viewer;
  }

  /**
   * {@return what a job of whoever calls answered}
   *
   * @throws Problem if it is not done, its answer is not kept any more, or what the caller may read
   *     has changed since
   */
  public JsonNode of(String id) {
    String owner = viewer.signedIn().principal().value();
    Job job = jobs.require(id, owner);
    JobTables.Answer kept = tables.answerOf(id, owner).orElseThrow(() -> nothingYet(job, "answer"));
    requireStillReadable(kept.mayRead());
    return JSON.readTree(kept.json());
  }

  /**
   * The same, of a kind whose answers have a type.
   *
   * @throws Problem as before, or if the job is of another kind
   */
  public <T> T of(String id, String kind, Class<T> type) {
    Job job = jobs.require(id, viewer.signedIn().principal().value());
    if (!job.kind().equals(kind)) {
      throw nothingOf(job);
    }
    return JSON.treeToValue(of(id), type);
  }

  void requireStillReadable(@Nullable String mayRead) {
    PrincipalKey owner = viewer.signedIn().principal();
    if (!jobs.mayStillRead(mayRead, owner)) {
      throw Problem.conflict(
          "What you may read has changed since", "Start it again to see it as it is now.");
    }
  }

  private static Problem nothingOf(Job job) {
    return Problem.notFound(
        "'" + job.title() + "' has no such answer. Start the other work again.");
  }

  static Problem nothingYet(Job job, String what) {
    return job.isOver()
        ? Problem.notFound("This job has no " + what + ". Start it again.")
        : Problem.conflict("The job is still running", "Wait until it is done, then fetch it.");
  }
}
