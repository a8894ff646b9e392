package mandala.server.compliance;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Proposals;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.ExpectationViolation;
import mandala.document.ChangeText;
import mandala.document.FindingText;
import mandala.document.ThingDocument;
import mandala.document.ThingText;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Rules that do not hold now, each with whom to ask about; and proposals of what to keep so. */
@RestController
@RequestMapping("/api/checks")
class CheckController {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int MOST = 50;

  private final RequestContexts contexts;
  private final BrokenRules rules;
  private @Nullable Proposed proposed;

  private record Proposed(
      Engine engine, AccountKey account, Instant at, List<Expectation> proposals) {}

  CheckController(RequestContexts contexts, BrokenRules rules) {
    this.contexts = contexts;
    this.rules = rules;
  }

  /**
   * The rules that do not hold, as far as the viewer may know.
   *
   * @param at when they were checked
   * @param elsewhere whether rules are broken of which the viewer may not know more
   */
  record CheckAnswer(Instant at, List<CheckedFinding> findings, boolean elsewhere) {}

  /**
   * One.
   *
   * @param id by which lists of findings know it
   * @param kind {@code exclusion}, {@code expectation}, {@code prerequisite} or {@code holders}
   * @param cases who breaks it and where: each can be asked about
   * @param elsewhere whether others break it, too, whom the viewer may not ask about
   * @param since when that began, as the history tells it; null of a draft or of the past, and
   *     until it is looked at
   * @param revision the one that began it; null where a window's beginning or end did
   */
  record CheckedFinding(
      String id,
      String kind,
      String key,
      String name,
      String said,
      List<CheckedCase> cases,
      int moreCases,
      boolean elsewhere,
      @Nullable Instant since,
      @Nullable Long revision) {}

  /**
   * Who, what and where; {@code permission} and {@code resource} null where it is about a role.
   *
   * @param account name of the account that the principal belongs to
   */
  record CheckedCase(
      @Nullable String principal,
      @Nullable String name,
      @Nullable String account,
      @Nullable String permission,
      @Nullable String permissionName,
      @Nullable String resource,
      @Nullable String resourceName,
      String said) {}

  @GetMapping
  CheckAnswer check(
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    RequestContext context = contexts.context(draft, revision);
    Catalogue catalogue = context.asked().engine().catalogue();
    if (!context.readPolicy().mayReadAnybody()) {
      throw Problem.forbidden(
          "Your access does not cover the rules of any account. Ask a security administrator.");
    }
    Instant at = context.readPolicy().now();
    SeenFindings seen = rules.seen(context);
    FindingText text = new FindingText(catalogue, catalogue, context.naming());
    Map<String, BrokenRules.Since> since = rules.since();
    return new CheckAnswer(
        at,
        seen.told().stream()
            .map(it -> view(it, text, context, since.get(it.whole().id())))
            .toList(),
        seen.elsewhere());
  }

  private static CheckedFinding view(
      SeenFindings.Seen seen,
      FindingText text,
      RequestContext context,
      BrokenRules.@Nullable Since since) {
    Catalogue catalogue = context.asked().engine().catalogue();
    List<CheckedCase> cases = new ArrayList<>();
    int all = 0;
    switch (seen.finding()) {
      case Finding.ExclusionBroken(ExclusionKey key, var conflict) -> {
        Exclusion exclusion =
            catalogue.model().exclusions().stream()
                .filter(it -> it.key().equals(key))
                .findFirst()
                .orElseThrow();
        for (int side : conflict.sides()) {
          cases.add(
              asCase(
                  conflict.principal(),
                  exclusion.sides().get(side).getFirst(),
                  conflict.where(),
                  "side " + (side + 1),
                  context));
        }
      }
      case Finding.ExpectationFails(var _, List<ExpectationViolation> breaches) -> {
        all = breaches.size();
        breaches.stream()
            .limit(MOST)
            .forEach(it ->
                cases.add(
                    asCase(it.principal(), it.permission(), it.resource(), text.of(it), context)));
      }
      case Finding.PrerequisiteMissing(PrincipalKey who, var _, var _) ->
          cases.add(asCase(who, null, null, "", context));
      case Finding.HolderLimit _ -> {
        // of a role, not of somebody
      }
    }
    FindingText.Told it = text.of(seen.finding());
    return new CheckedFinding(
        seen.whole().id(),
        it.kind(),
        it.key(),
        it.name(),
        it.said(),
        cases,
        Math.max(0, all - cases.size()),
        seen.elsewhere(),
        since == null ? null : since.at(),
        since == null ? null : since.revision());
  }

  private static CheckedCase asCase(
      @Nullable PrincipalKey who,
      @Nullable PermissionKey what,
      @Nullable ResourceKey where,
      String said,
      RequestContext context) {
    ChangeText text = context.text();
    boolean named = where != null && context.naming().tells(where);
    Principal principal =
        who == null || who.equals(PrincipalKey.ANONYMOUS)
            ? null
            : context.asked().engine().catalogue().principals().get(who);
    return new CheckedCase(
        principal == null ? null : principal.key().value(),
        principal == null ? null : text.name(Kind.PRINCIPALS, principal.key().value()),
        principal == null ? null : text.name(Kind.ACCOUNTS, principal.account().value()),
        what == null || !context.naming().tells(Kind.PERMISSIONS, what.value())
            ? null
            : what.value(),
        what == null ? null : text.name(Kind.PERMISSIONS, what.value()),
        named && where != null ? where.value() : null,
        where == null ? null : text.place(where),
        said);
  }

  /** An expectation that holds now, and could be kept so. */
  record Proposal(String said, JsonNode thing) {}

  @Costly
  @GetMapping("/proposals")
  List<Proposal> proposals(@RequestParam String account) {
    RequestContext context = contexts.context();
    Engine engine = context.state().engine();
    AccountKey in = new AccountKey(account.isBlank() ? "?" : account);
    if (!engine.catalogue().accounts().containsKey(in)
        || !context.readPolicy().may(Supplied.ACCESS_ASK, ResourceKey.of(in))) {
      throw Problem.notFound("There is no account '" + account + "' that you may ask about.");
    }
    ThingText text = context.things();
    return proposals(engine, in, context.readPolicy().now()).stream()
        .filter(context::tellsAllOf)
        .map(it -> new Proposal(text.of(it), JSON.readTree(ThingDocument.write(it))))
        .toList();
  }

  /** What was proposed last is kept for a minute, as findings are. */
  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  private synchronized List<Expectation> proposals(Engine engine, AccountKey account, Instant at) {
    Proposed last = proposed;
    if (last != null
        && last.engine() == engine
        && last.account().equals(account)
        && last.at().plusSeconds(60).isAfter(at)) {
      return last.proposals();
    }
    List<Expectation> found = Proposals.of(engine, account, at);
    proposed = new Proposed(engine, account, at, found);
    return found;
  }
}
