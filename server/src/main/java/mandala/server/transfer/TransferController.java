package mandala.server.transfer;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.locks.ReentrantLock;
import mandala.core.authority.Authority;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Draft;
import mandala.core.change.ModelDifference;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.document.DocumentReader;
import mandala.document.DocumentWriter;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.draft.ChangeLines;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.CurrentPrincipal;
import mandala.server.session.SignIn;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
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
  private final ReentrantLock importing = new ReentrantLock();

  TransferController(
      LiveModel model,
      CurrentPrincipal viewer,
      SignIn signIn,
      Trail trail,
      AuditContext auditContext) {
    this.signIn = signIn;
    this.model = model;
    this.viewer = viewer;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /** What an import did. */
  record Imported(long revision, int things) {}

  @GetMapping
  void export(HttpServletResponse response) throws IOException {
    Engine engine = model.engine();
    Session session = viewer.session();
    for (AccountKey account : engine.catalogue().accounts().keySet()) {
      requireOn(engine, session, Supplied.DIRECTORY_READ, account, "export the model");
    }
    trail.writeAlone(
        auditContext.by(AuditEvent.Act.EXPORTED, accounts(engine), "Exported the whole model"));
    response.setContentType(MediaType.APPLICATION_JSON_VALUE);
    response.setHeader("Content-Disposition", "attachment; filename=\"mandala.model.json\"");
    DocumentWriter.write(engine.catalogue().model(), response.getOutputStream());
  }

  /**
   * Replaces the model.
   *
   * @param base the revision that the importer has seen: a newer one in between is a clash
   * @param proof the current code of the second factor; the password where one is not enrolled
   */
  @PutMapping
  Imported replace(
      @RequestParam long base,
      @RequestHeader(name = "Mandala-Proof", defaultValue = "") String proof,
      HttpServletRequest request)
      throws IOException {
    requireAll(model.engine(), viewer.session());
    if (request.getContentLengthLong() > LARGEST) {
      throw tooLarge();
    }
    if (!importing.tryLock()) {
      throw Problem.conflict(
          "Another import is running",
          "Nothing of this one was read. Wait until the other has ended, then send it again.");
    }
    try {
      AccessModel read = read(request.getInputStream());
      // reading took its time: who may, and what there is, is judged now
      Session session = viewer.session();
      requireAll(model.engine(), session);
      requireStillOwned(session, read);
      requireBase(base);
      boolean factor = signIn.prove(session, proof);
      Session proven =
          new Session(session.principal(), session.at(), factor || session.mfa(), null);
      return imported(read, base, proven);
    } finally {
      importing.unlock();
    }
  }

  private void requireBase(long base) {
    long newest = model.state().revision();
    if (base != newest) {
      throw Problem.conflict(
          "The model has changed since you looked",
          "You import over revision "
              + base
              + "; the newest is "
              + newest
              + ". Nothing was changed. Export it again, join the two, and import that.");
    }
  }

  private Imported imported(AccessModel read, long base, Session session) {
    LiveModel.State before = model.state();
    Draft draft = new Draft(ModelDifference.between(before.engine().catalogue().model(), read));
    Engine after = Engine.of(read.sorted());
    Catalogue was = before.engine().catalogue();
    if (!draft.isEmpty()
        && !new SecondApproval(before.engine()).reasons(after, draft, session).isEmpty()) {
      throw Problem.conflict(
          "A second person must approve this import",
          "It widens what you may do, or gives somebody a critical permission. Nothing was changed."
              + " Make these changes in a draft and have it approved, or leave them out of the"
              + " document.");
    }
    Authority authority = Authority.of(before.engine(), draft, session);
    // a demo stays one: its people's passwords are known to everybody
    LiveModel.State state =
        model.replace(
            read,
            before.demo(),
            new RevisionCause(session.principal().value(), "Imported a whole model", null, null),
            (_, revision) -> {
              if (revision != base + 1) {
                throw Problem.conflict(
                    "The model has changed since you looked",
                    "Somebody made revision " + (revision - 1) + " just now. Nothing was changed.");
              }
              List<AuditEvent> lines = new ArrayList<>();
              lines.add(
                  auditContext.by(
                      AuditEvent.Act.IMPORTED,
                      accounts(before.engine()),
                      "Imported a whole model of " + read.size() + " things"));
              lines.addAll(
                  ChangeLines.of(
                      draft.changes(),
                      authority,
                      was,
                      after.catalogue(),
                      revision,
                      AuditContext.address()));
              trail.write(lines);
            });
    return new Imported(state.revision(), read.size());
  }

  private static List<String> accounts(Engine engine) {
    return engine.catalogue().accounts().keySet().stream().map(Key::value).toList();
  }

  /** {@return whether an import is running} */
  boolean running() {
    return importing.isLocked();
  }

  private static Problem tooLarge() {
    return Problem.tooLarge(
        "Documents of up to 64 MiB are read here. Nothing was changed. Split the document, or leave"
            + " out what is not needed.");
  }

  private static AccessModel read(InputStream in) throws IOException {
    byte[] bytes = in.readNBytes((int) LARGEST + 1);
    if (bytes.length > LARGEST) {
      throw tooLarge();
    }
    DocumentReader.Result result = DocumentReader.read(new java.io.ByteArrayInputStream(bytes));
    if (!result.faults().isEmpty()) {
      int count = result.faults().size();
      throw Problem.faulty(
          count == 1 ? "The document has a fault" : "The document has " + count + " faults",
          result.faults());
    }
    return result.model();
  }

  /** Replacing everything asks for every administering right on every account. */
  private static void requireAll(Engine engine, Session session) {
    for (AccountKey account : engine.catalogue().accounts().keySet()) {
      for (Permission permission :
          Supplied.permissions(engine.catalogue().model().resourceTypes())) {
        if (permission.accessClass() == Permission.AccessClass.ADMINISTER) {
          requireOn(engine, session, permission.key(), account, "replace the model");
        }
      }
    }
  }

  private static void requireOn(
      Engine engine, Session session, PermissionKey permission, AccountKey account, String what) {
    ResourceKey resource = ResourceKey.of(account);
    if (!engine.decide(session.asks(permission, resource)).allowed()) {
      // which account it is, and that there is one, is not told to who may not read it
      throw Problem.forbidden(
          "To "
              + what
              + " you need '"
              + permission
              + "' on every account. Ask an owner of all of them"
              + (session.mfa() ? "." : ", or show your second factor and try again."));
    }
  }

  /** After an import the importer must still be able to import: nobody locks all owners out. */
  private static void requireStillOwned(Session session, AccessModel read) {
    Engine after = Engine.of(read);
    boolean there = after.catalogue().principals().containsKey(session.principal());
    boolean owned =
        there
            && read.accounts().stream()
                .filter(account -> account.parent() == null)
                .allMatch(account ->
                    after
                        .decide(
                            session.asks(
                                new PermissionKey("mandala.account.manage"),
                                ResourceKey.of(account.key())))
                        .allowed());
    if (!owned || read.things(Kind.ACCOUNTS).isEmpty()) {
      throw Problem.conflict(
          "The document would lock you out",
          "After it '"
              + session.principal()
              + "' would not own every root account. Nothing was changed. Add an assignment of"
              + " role:mandala.owner for an enrolled person, and import again.");
    }
  }
}
