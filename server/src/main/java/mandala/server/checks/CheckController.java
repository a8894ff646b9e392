package mandala.server.checks;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mandala.core.analysis.Finding;
import mandala.core.analysis.Findings;
import mandala.core.analysis.Proposals;
import mandala.core.engine.Breach;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.document.FindingText;
import mandala.document.ThingDocument;
import mandala.document.ThingText;
import mandala.server.access.Sight;
import mandala.server.access.Sights;
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

  private final Sights sights;
  private final RuleWatch watch;
  private @Nullable Known known;

  private record Known(Engine engine, Instant at, List<Finding> findings) {}

  private @Nullable Proposed proposed;

  private record Proposed(
      Engine engine, Key.Account account, Instant at, List<Expectation> proposals) {}

  CheckController(Sights sights, RuleWatch watch) {
    this.sights = sights;
    this.watch = watch;
  }

  /**
   * The rules that do not hold, as far as the viewer may know.
   *
   * @param at when they were checked
   * @param hidden how many are about people whom the viewer may not ask about
   */
  record CheckAnswer(Instant at, List<CheckedFinding> findings, int hidden) {}

  /**
   * One.
   *
   * @param kind {@code exclusion}, {@code expectation}, {@code prerequisite} or {@code holders}
   * @param cases who breaks it and where: each can be asked about
   * @param since when that was first seen, and {@code revision} after which; null of a draft or of
   *     the past, and until it is looked at
   */
  record CheckedFinding(
      String kind,
      String key,
      String name,
      String said,
      List<CheckedCase> cases,
      int moreCases,
      @Nullable Instant since,
      @Nullable Long revision) {}

  /** Who, what and where; {@code permission} and {@code resource} null where it is about a role. */
  record CheckedCase(
      @Nullable String principal,
      @Nullable String name,
      @Nullable String permission,
      @Nullable String permissionName,
      @Nullable String resource,
      @Nullable String resourceName,
      String said) {}

  @GetMapping
  CheckAnswer check(
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    Sights.Look look = sights.look(draft, revision);
    Catalogue catalogue = look.asked().engine().catalogue();
    if (!look.sight().mayReadAnybody()) {
      throw Problem.forbidden(
          "Your access does not cover the rules of any account. Ask a security administrator.");
    }
    Instant at = look.sight().now();
    FindingText text = new FindingText(catalogue, catalogue);
    List<CheckedFinding> told = new ArrayList<>();
    int hidden = 0;
    Map<String, RuleWatch.Since> since = watch.since();
    for (Finding finding : findings(look.asked().engine(), at)) {
      CheckedFinding it =
          view(finding, text, look.sight(), catalogue, since.get(RuleWatch.about(finding)));
      if (it == null) {
        hidden++;
      } else {
        told.add(it);
      }
    }
    return new CheckAnswer(at, told, hidden);
  }

  /** Findings of the model asked about last are kept for a minute: windows begin and end. */
  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  private synchronized List<Finding> findings(Engine engine, Instant at) {
    Known last = known;
    if (last != null && last.engine() == engine && last.at().plusSeconds(60).isAfter(at)) {
      return last.findings();
    }
    List<Finding> found = Findings.of(engine, at);
    known = new Known(engine, at, found);
    return found;
  }

  private static @Nullable CheckedFinding view(
      Finding finding,
      FindingText text,
      Sight sight,
      Catalogue catalogue,
      RuleWatch.@Nullable Since since) {
    Instant when = since == null ? null : since.at();
    Long revision = since == null ? null : since.revision();
    List<CheckedCase> cases = new ArrayList<>();
    int all;
    switch (finding) {
      case Finding.ExclusionBroken(Key.Exclusion key, var conflict) -> {
        Exclusion exclusion =
            catalogue.model().exclusions().stream()
                .filter(it -> it.key().equals(key))
                .findFirst()
                .orElseThrow();
        all = 1;
        if (isAskable(conflict.principal(), sight, catalogue)) {
          for (int side : conflict.sides()) {
            cases.add(
                asCase(
                    conflict.principal(),
                    exclusion.sides().get(side).getFirst(),
                    conflict.where(),
                    "side " + (side + 1),
                    catalogue));
          }
        }
      }
      case Finding.ExpectationFails(var _, List<Breach> breaches) -> {
        all = breaches.size();
        for (Breach breach : breaches) {
          Key.Principal who = breach.principal();
          if (cases.size() < MOST && (who == null || isAskable(who, sight, catalogue))) {
            cases.add(
                asCase(who, breach.permission(), breach.resource(), text.of(breach), catalogue));
          }
        }
      }
      case Finding.PrerequisiteMissing(Key.Principal who, var _, var _) -> {
        all = 1;
        if (isAskable(who, sight, catalogue)) {
          cases.add(asCase(who, null, null, "", catalogue));
        }
      }
      case Finding.HolderLimit _ -> {
        FindingText.Told it = text.of(finding);
        return new CheckedFinding(
            it.kind(), it.key(), it.name(), it.said(), cases, 0, when, revision);
      }
    }
    if (cases.isEmpty()) {
      return null;
    }
    FindingText.Told it = text.of(finding);
    int more = finding instanceof Finding.ExpectationFails ? all - cases.size() : 0;
    return new CheckedFinding(
        it.kind(), it.key(), it.name(), it.said(), cases, more, when, revision);
  }

  private static boolean isAskable(Key.Principal key, Sight sight, Catalogue catalogue) {
    Principal it = catalogue.principals().get(key);
    return key.equals(Key.Principal.ANONYMOUS)
        || (it != null && sight.cutFor(it) instanceof Sight.Cut.Whole);
  }

  private static CheckedCase asCase(
      Key.@Nullable Principal who,
      Key.@Nullable Permission what,
      Key.@Nullable Resource where,
      String said,
      Catalogue catalogue) {
    Principal principal = who == null ? null : catalogue.principals().get(who);
    var permission = what == null ? null : catalogue.permissions().get(what);
    return new CheckedCase(
        principal == null ? null : principal.key().value(),
        principal == null ? null : principal.about().nameOr(principal.key()),
        what == null ? null : what.value(),
        permission == null ? null : permission.about().nameOr(permission.key()),
        where == null ? null : where.value(),
        where == null || !catalogue.has(where) ? null : catalogue.nameOf(where),
        said);
  }

  /** An expectation that holds now, and could be kept so. */
  record Proposal(String said, @Schema(type = "object") JsonNode thing) {}

  @GetMapping("/proposals")
  List<Proposal> proposals(@RequestParam String account) {
    Sights.Look look = sights.look();
    Engine engine = look.state().engine();
    Key.Account in = new Key.Account(account.isBlank() ? "?" : account);
    if (!engine.catalogue().accounts().containsKey(in)
        || !look.sight().may(Supplied.ACCESS_ASK, Key.Resource.of(in))) {
      throw Problem.notFound("There is no account '" + account + "' that you may ask about.");
    }
    ThingText text = new ThingText(engine.catalogue());
    return proposals(engine, in, look.sight().now()).stream()
        .map(it -> new Proposal(text.of(it), JSON.readTree(ThingDocument.write(it))))
        .toList();
  }

  /** What was proposed last is kept for a minute, as findings are. */
  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  private synchronized List<Expectation> proposals(Engine engine, Key.Account account, Instant at) {
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
