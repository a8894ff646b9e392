package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.remediation.Additions;
import mandala.core.remediation.Remediation;
import mandala.core.remediation.Removals;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.document.ThingDocument;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.authorization.Visibility;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What would give an access, and what must go for it to end; each ready to go into the draft. */
@RestController
@RequestMapping("/api/ask/ways")
class RemediationController {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final RequestContexts contexts;

  private final QuestionAudit asking;

  RemediationController(RequestContexts contexts, QuestionAudit asking) {
    this.contexts = contexts;
    this.asking = asking;
  }

  /**
   * The ways; of those that would change what the viewer may not read nothing is told.
   *
   * @param give what would give it where it is not allowed, with the least else first
   * @param end what must go where it is allowed: what removes before what denies, the cheapest
   *     first
   * @param bySecondFactor whether signing in with a second factor would be enough
   * @param hidden whether there are other ways
   */
  record WaysAnswer(
      String verdict,
      List<WayView> give,
      List<WayView> end,
      boolean bySecondFactor,
      boolean hidden) {}

  /**
   * One way.
   *
   * @param said its changes as sentences
   * @param edits the same as edits for {@code /api/drafts/open/edits}
   * @param own how many rights of the principal it changes, what was asked for included
   * @param others how many rights of how many {@code people} else it changes, of whom the viewer
   *     may ask
   * @param elsewhere whether it changes rights of others, too
   * @param denies whether it leaves a deny behind, which overrides what is granted later too
   */
  record WayView(
      List<String> said,
      List<WayEdit> edits,
      long own,
      long others,
      int people,
      boolean elsewhere,
      boolean denies) {}

  /** An edit of one thing, as the draft takes it. */
  record WayEdit(
      String kind,
      @Nullable String key,
      @Nullable JsonNode before,
      @Nullable JsonNode after,
      @Nullable Boolean remove) {}

  @GetMapping
  WaysAnswer ways(
      @RequestParam String principal,
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable List<String> on,
      @RequestParam(required = false) @Nullable String draft) {
    AccessQuestion inquiry =
        AccessQuestion.of(contexts.context(draft, null), principal, at, secondFactor, actingFor, on)
            .requirePresent();
    RequestContext context = inquiry.context();
    Engine engine = inquiry.engine();
    Catalogue catalogue = engine.catalogue();
    AskablePrincipal asked = inquiry.asked();
    Key.Resource where = new Key.Resource(resource.isBlank() ? "?" : resource);
    Naming naming = inquiry.naming(inquiry.held().access());
    Key.Account account = naming.tells(where) ? catalogue.accountOf(where) : null;
    boolean known =
        account != null
            && (asked.only() == null || asked.only().contains(account))
            && Visibility.permission(permission, catalogue, naming) != null;
    if (!known || account == null) {
      throw Problem.notFound(
          "There is no '" + permission + "' on '" + resource + "' to ask about here.");
    }
    Key.Permission what = new Key.Permission(permission);
    asking.about(
        context, asked.principal(), "What would give or end: " + what + " on " + where, account);
    Question question = inquiry.sessionFor(what, where).asks(what, where);
    Verdict verdict = engine.decide(question).verdict();
    if (verdict == Verdict.NOT_APPLICABLE) {
      throw Problem.badRequest(
          "Nothing to give or to end",
          "'" + permission + "' is not an action on such a resource. Choose one that is.");
    }
    boolean allowed = verdict == Verdict.ALLOWED;
    List<Remediation> ways =
        allowed ? Removals.of(engine, question) : Additions.of(engine, question);
    List<WayView> told =
        ways.stream()
            .filter(way -> isReadable(way, context, catalogue))
            .map(way -> view(way, context, catalogue))
            .toList();
    return new WaysAnswer(
        verdict.word(),
        allowed ? List.of() : told,
        allowed ? told : List.of(),
        Additions.bySecondFactor(engine, question),
        ways.size() > told.size());
  }

  /** The same as a file: a line for each way. */
  @GetMapping("/export")
  void export(
      @RequestParam String principal,
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable List<String> on,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    WaysAnswer answer =
        ways(principal, permission, resource, at, secondFactor, actingFor, on, draft);
    List<List<Object>> rows = new ArrayList<>();
    answer.give().forEach(it -> rows.add(row("would give it", it)));
    answer.end().forEach(it -> rows.add(row("would end it", it)));
    new ExportTable(
            "ways",
            List.of("what it does", "changes", "rights of theirs", "rights of others", "others"),
            rows)
        .send(format, response);
  }

  private static List<Object> row(String does, WayView it) {
    return List.of(does, String.join("; ", it.said()), it.own(), it.others(), it.people());
  }

  private static boolean isReadable(Remediation way, RequestContext context, Catalogue catalogue) {
    return way.draft().changes().stream().allMatch(it -> context.tellsAllOf(it, catalogue));
  }

  private static WayView view(Remediation way, RequestContext context, Catalogue before) {
    ChangeText text = context.text(before, way.draft().appliedUnchecked(before));
    List<Impact.Person> seen =
        way.touched().stream()
            .filter(it -> context.readPolicy().maySeeAllOf(it.principal()))
            .toList();
    List<String> said = new ArrayList<>();
    List<WayEdit> edits = new ArrayList<>();
    for (Change change : way.draft().inOrder()) {
      said.addAll(text.sentences(change));
      edits.add(edit(change));
    }
    return new WayView(
        said,
        edits,
        way.own(),
        seen.stream().mapToLong(it -> it.gained() + it.lost()).sum(),
        seen.size(),
        seen.size() < way.people(),
        way.leavesDeny());
  }

  private static WayEdit edit(Change change) {
    Thing first = change.things().getFirst();
    Key key = first.key();
    String kind = Kind.of(first).field();
    String named = key == null ? null : key.value();
    return switch (change) {
      case Change.Added(Thing it) -> new WayEdit(kind, null, null, json(it), null);
      case Change.Altered(Thing was, Thing is) ->
          new WayEdit(kind, named, named == null ? json(was) : null, json(is), null);
      case Change.Removed(Thing it) ->
          new WayEdit(kind, named, named == null ? json(it) : null, null, true);
    };
  }

  private static JsonNode json(Thing thing) {
    return JSON.readTree(ThingDocument.write(thing));
  }
}
