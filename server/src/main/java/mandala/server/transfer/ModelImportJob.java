package mandala.server.transfer;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import mandala.core.authority.Authority;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Draft;
import mandala.core.change.ModelDifference;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.document.DocumentReader;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.draft.ChangeLines;
import mandala.server.job.JobKind;
import mandala.server.job.JobOrder;
import mandala.server.job.JobRun;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Replaces the model by a document that was read before and has no fault. */
@Component
class ModelImportJob implements JobKind {

  static final String NAME = "model-import";

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** Reading, compiling, judging, replacing. */
  private static final int STEPS = 4;

  private final LiveModel model;
  private final Trail trail;

  ModelImportJob(LiveModel model, Trail trail) {
    this.model = model;
    this.trail = trail;
  }

  /**
   * What is imported is the job's input.
   *
   * @param base the revision that the importer has seen
   * @param address from where they sent it
   */
  record Order(long base, @Nullable String address) {}

  /** What an import did. */
  record Imported(long revision, int things) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) throws IOException {
    Order order = order(run.order());
    run.progress(0, STEPS);
    AccessModel read = DocumentReader.read(new ByteArrayInputStream(run.input())).model();
    run.progress(1, STEPS);
    // it may have waited: who may, and what there is, is judged now
    Session session = run.context(null, null).readPolicy().session();
    LiveModel.State before = model.state();
    TransferRights.requireImport(before.engine(), session);
    Engine after = Engine.of(read.sorted());
    run.progress(2, STEPS);
    requireStillOwned(session, after);
    requireBase(order.base(), before.revision());
    Draft draft = new Draft(ModelDifference.between(before.engine().catalogue().model(), read));
    requireNoSecondPerson(before.engine(), after, draft, session);
    run.progress(3, STEPS);
    List<AuditEvent> lines = lines(before.engine(), after, draft, session, order);
    // a demo stays one: its people's passwords are known to everybody
    model.replace(
        read,
        before.demo(),
        new RevisionCause(session.principal().value(), "Imported a whole model", null, null),
        (_, revision) -> {
          requireBase(order.base(), revision - 1);
          trail.write(lines);
          run.end(new Imported(revision, read.size()));
        });
  }

  private static Order order(JobOrder order) {
    return JSON.treeToValue(order.details(), Order.class);
  }

  private static List<AuditEvent> lines(
      Engine before, Engine after, Draft draft, Session session, Order order) {
    Catalogue was = before.catalogue();
    Principal importer = was.principals().get(session.principal());
    List<AuditEvent> lines = new ArrayList<>();
    lines.add(
        AuditEvent.of(
            AuditEvent.Act.IMPORTED,
            session.principal().value(),
            importer == null ? null : importer.about().nameOr(importer.key()),
            TransferRights.accounts(before),
            "Imported a whole model of " + after.catalogue().model().size() + " things",
            order.address()));
    lines.addAll(
        ChangeLines.of(
            draft.changes(),
            Authority.of(before, draft, session),
            was,
            after.catalogue(),
            order.base() + 1,
            order.address()));
    return lines;
  }

  static void requireBase(long base, long newest) {
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

  private static void requireNoSecondPerson(
      Engine before, Engine after, Draft draft, Session session) {
    if (!draft.isEmpty() && !new SecondApproval(before).reasons(after, draft, session).isEmpty()) {
      throw Problem.conflict(
          "A second person must approve this import",
          "It widens what you may do, or gives somebody a critical permission. Nothing was changed."
              + " Make these changes in a draft and have it approved, or leave them out of the"
              + " document.");
    }
  }

  /** After an import the importer must still be able to import: nobody locks all owners out. */
  private static void requireStillOwned(Session session, Engine after) {
    AccessModel read = after.catalogue().model();
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
