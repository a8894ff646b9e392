package mandala.server.transfer;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.concurrent.locks.ReentrantLock;
import mandala.core.engine.Engine;
import mandala.core.question.Session;
import mandala.document.DocumentReader;
import mandala.document.DocumentWriter;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.job.Job;
import mandala.server.job.JobAnswers;
import mandala.server.job.JobOrders;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.CurrentPrincipal;
import mandala.server.session.SignIn;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The whole model as a document: export, and import in place of what is there. */
@RestController
@RequestMapping("/api/model")
class TransferController {

  /** The largest document that is read, in bytes. */
  static final long LARGEST = 64L << 20;

  private final LiveModel model;
  private final CurrentPrincipal viewer;
  private final SignIn signIn;
  private final Trail trail;
  private final AuditContext auditContext;
  private final JobOrders jobs;
  private final JobAnswers answers;
  private final ReentrantLock reading = new ReentrantLock();

  TransferController(
      LiveModel model,
      CurrentPrincipal viewer,
      SignIn signIn,
      Trail trail,
      AuditContext auditContext,
      JobOrders jobs,
      JobAnswers answers) {
    this.signIn = signIn;
    this.model = model;
    this.viewer = viewer;
    this.trail = trail;
    this.auditContext = auditContext;
    this.jobs = jobs;
    this.answers = answers;
  }

  @GetMapping
  void export(HttpServletResponse response) throws IOException {
    Engine engine = model.engine();
    TransferRights.requireExport(engine, viewer.session());
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.EXPORTED, TransferRights.accounts(engine), "Exported the whole model"));
    response.setContentType(MediaType.APPLICATION_JSON_VALUE);
    response.setHeader("Content-Disposition", "attachment; filename=\"mandala.model.json\"");
    DocumentWriter.write(engine.catalogue().model(), response.getOutputStream());
  }

  /**
   * Begins to replace the model: a document that has no fault is judged and put in place by a job.
   *
   * @param base the revision that the importer has seen: a newer one in between is a clash
   * @param proof the current code of the second factor; the password where one is not enrolled
   */
  @PutMapping
  Job replace(
      @RequestParam long base,
      @RequestHeader(name = "Mandala-Proof", defaultValue = "") String proof,
      HttpServletRequest request)
      throws IOException {
    TransferRights.requireImport(model.engine(), viewer.session());
    if (request.getContentLengthLong() > LARGEST) {
      throw tooLarge();
    }
    if (!reading.tryLock()) {
      throw Problem.conflict(
          "Another document is being read",
          "Nothing of this one was read. Wait until the other has been read, then send it again.");
    }
    try {
      byte[] document = read(request.getInputStream());
      // reading took its time: who may, and what there is, is judged now
      Session session = viewer.session();
      TransferRights.requireImport(model.engine(), session);
      ModelImportJob.requireBase(base, model.state().revision());
      boolean factor = signIn.prove(session, proof);
      return jobs.begin(
          ModelImportJob.NAME,
          "Import of a whole model",
          new ModelImportJob.Order(base, AuditContext.address()),
          factor || session.mfa(),
          document);
    } finally {
      reading.unlock();
    }
  }

  /** What an import did, when it is done. */
  @GetMapping("/imports/{job}")
  ModelImportJob.Imported imported(@PathVariable String job) {
    return answers.of(job, ModelImportJob.NAME, ModelImportJob.Imported.class);
  }

  /** {@return whether a document is being read} */
  boolean isReading() {
    return reading.isLocked();
  }

  private static Problem tooLarge() {
    return Problem.tooLarge(
        "Documents of up to 64 MiB are read here. Nothing was changed. Split the document, or leave"
            + " out what is not needed.");
  }

  private static byte[] read(InputStream in) throws IOException {
    byte[] bytes = in.readNBytes((int) LARGEST + 1);
    if (bytes.length > LARGEST) {
      throw tooLarge();
    }
    DocumentReader.Result result = DocumentReader.read(new ByteArrayInputStream(bytes));
    if (!result.faults().isEmpty()) {
      int count = result.faults().size();
      throw Problem.faulty(
          count == 1 ? "The document has a fault" : "The document has " + count + " faults",
          result.faults());
    }
    return bytes;
  }
}
