package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.remediation.Additions;
import mandala.core.remediation.Remediation;
import mandala.core.remediation.Removals;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.document.ThingDocument;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.Visibility;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Finds what would give or end a right, and notes that it was asked. */
@Component
class RemediationService {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final QuestionAudit audit;

  RemediationService(QuestionAudit audit) {
    this.audit = audit;
  }

  /**
   * {@return what would give the right, or end it}, as far as the viewer may read what it changes
   *
   * @throws Problem if the viewer may not ask about it there, or the permission does not apply
   */
  RemediesAnswer answer(AccessQuestion accessQuestion, RightParams right) {
    RequestContext context = accessQuestion.context();
    Engine engine = accessQuestion.engine();
    Catalogue catalogue = engine.catalogue();
    String permission = right.permission();
    ResourceKey where = right.where();
    Naming naming = accessQuestion.naming(accessQuestion.held().access());
    AccountKey account = accessQuestion.askableAccount(where, naming);
    if (account == null || Visibility.permission(permission, catalogue, naming) == null) {
      throw Problem.notFound(
          "There is no '" + permission + "' on '" + right.resource() + "' to ask about here.");
    }
    PermissionKey what = new PermissionKey(permission);
    audit.about(
        context,
        accessQuestion.asked().principal(),
        "What would give or end: " + what + " on " + where,
        account);
    Question question = accessQuestion.sessionFor(what, where).asks(what, where);
    Verdict verdict = engine.decide(question).verdict();
    if (verdict == Verdict.NOT_APPLICABLE) {
      throw Problem.badRequest(
          "Nothing to give or to end",
          "'" + permission + "' is not an action on such a resource. Choose one that is.");
    }
    boolean allowed = verdict == Verdict.ALLOWED;
    List<Remediation> remedies =
        allowed ? Removals.of(engine, question) : Additions.of(engine, question);
    List<RemediesAnswer.WayView> told =
        remedies.stream()
            .filter(remedy -> isReadable(remedy, context, catalogue))
            .map(remedy -> view(remedy, context, catalogue))
            .toList();
    return new RemediesAnswer(
        verdict.word(),
        allowed ? List.of() : told,
        allowed ? told : List.of(),
        Additions.bySecondFactor(engine, question),
        remedies.size() > told.size());
  }

  private static boolean isReadable(
      Remediation remedy, RequestContext context, Catalogue catalogue) {
    return remedy.draft().changes().stream().allMatch(it -> context.tellsAllOf(it, catalogue));
  }

  private static RemediesAnswer.WayView view(
      Remediation remedy, RequestContext context, Catalogue before) {
    ChangeText text = context.text(before, remedy.draft().appliedUnchecked(before));
    List<Impact.Person> seen =
        remedy.touched().stream()
            .filter(it -> context.readPolicy().maySeeAllOf(it.principal()))
            .toList();
    List<String> said = new ArrayList<>();
    List<RemediesAnswer.WayEdit> edits = new ArrayList<>();
    for (Change change : remedy.draft().inOrder()) {
      said.addAll(text.sentences(change));
      edits.add(edit(change));
    }
    return new RemediesAnswer.WayView(
        said,
        edits,
        remedy.own(),
        seen.stream().mapToLong(it -> it.gained() + it.lost()).sum(),
        seen.size(),
        seen.size() < remedy.people(),
        remedy.leavesDeny());
  }

  private static RemediesAnswer.WayEdit edit(Change change) {
    Thing first = change.things().getFirst();
    Key key = first.key();
    String kind = Kind.of(first).field();
    String named = key == null ? null : key.value();
    return switch (change) {
      case Change.Added(Thing it) -> new RemediesAnswer.WayEdit(kind, null, null, json(it), null);
      case Change.Altered(Thing was, Thing is) ->
          new RemediesAnswer.WayEdit(kind, named, named == null ? json(was) : null, json(is), null);
      case Change.Removed(Thing it) ->
          new RemediesAnswer.WayEdit(kind, named, named == null ? json(it) : null, null, true);
    };
  }

  private static JsonNode json(Thing thing) {
    return JSON.readTree(ThingDocument.write(thing));
  }
}
