package mandala.server.job;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import mandala.server.session.CurrentPrincipal;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;
import tools.jackson.databind.JsonNode;

/** One's own long work: how far it is, and what came of it. */
@RestController
@RequestMapping("/api/jobs")
class JobController {

  private final Jobs jobs;
  private final JobTables tables;
  private final JobAnswers answers;
  private final CurrentPrincipal viewer;

  JobController(Jobs jobs, JobTables tables, JobAnswers answers, CurrentPrincipal viewer) {
    this.answers = answers;
    this.jobs = jobs;
    this.tables = tables;
    this.viewer = viewer;
  }

  /** One's own jobs, the newest first. */
  record JobList(List<Job> jobs) {}

  /** One's own jobs. */
  @GetMapping
  JobList list() {
    return new JobList(jobs.of(owner()));
  }

  /** One of them. */
  @GetMapping("/{id}")
  Job job(@PathVariable String id) {
    return jobs.require(id, owner());
  }

  /** Cancels one that waits or runs; forgets one that is over. */
  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cancel(@PathVariable String id) {
    jobs.cancel(id, owner());
  }

  /** What a job answered. */
  @GetMapping("/{id}/answer")
  JsonNode answer(@PathVariable String id) {
    return answers.of(id);
  }

  /** What a job answered, as a file. */
  @GetMapping("/{id}/answer/export")
  void export(@PathVariable String id, @RequestParam String format, HttpServletResponse response)
      throws IOException {
    ExportTable table = jobs.kind(jobs.require(id, owner()).kind()).table(answers.of(id));
    if (table == null) {
      throw Problem.badRequest("This answer is no table", "Read it as JSON from 'answer'.");
    }
    table.send(format, response);
  }

  /** The file that a job wrote. */
  @GetMapping("/{id}/file")
  ResponseEntity<StreamingResponseBody> file(@PathVariable String id) {
    Job job = jobs.require(id, owner());
    answers.requireStillReadable(
        tables.mayReadOf(id, owner()).orElseThrow(() -> JobAnswers.nothingYet(job, "file")));
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + job.file() + "\"")
        .contentType(MediaType.parseMediaType(tables.mediaType(id)))
        .contentLength(job.bytes())
        .body(into -> tables.copy(id, into));
  }

  private String owner() {
    return viewer.signedIn().principal().value();
  }
}
