package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mandala.core.explain.Explanation;
import mandala.core.explain.Route;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Question;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.document.RouteText;
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

/** What can this principal do here, then, signed in so, acting as that one? */
@RestController
@RequestMapping("/api/ask")
class AccessController {

  private static final int MOST_NEAR = 20;

  /** Of so many resources all regions are told in one answer. */
  private static final int TOLD_AT_ONCE = 4_000;

  private final RequestContexts contexts;
  private final QuestionAudit asking;

  AccessController(RequestContexts contexts, QuestionAudit asking) {
    this.contexts = contexts;
    this.asking = asking;
  }

  /**
   * The answer.
   *
   * @param refusal why there is no access at all: {@code inactive}, {@code no-delegation}, or
   *     {@code absent} where the model that is asked about lacks the principal; else null
   * @param limited whether the viewer is told of some accounts only
   * @param everybody whether it is what they hold themselves and could do for others together
   * @param through what comes from whom they may act for, where everybody was asked for
   * @param hiddenThrough how many more they may act for, of whom the viewer may not be told
   * @param switchable what they could switch on then
   * @param at the instant that was looked at
   */
  record AccessAnswer(
      Named principal,
      @Nullable Named actingFor,
      @Nullable Named in,
      Instant at,
      boolean secondFactor,
      boolean secondFactorCounts,
      @Nullable String refusal,
      boolean limited,
      boolean draftCut,
      boolean everybody,
      List<ThroughView> through,
      boolean hiddenThrough,
      List<SwitchedOn.SwitchableView> switchable,
      FigureView figure,
      List<RegionView> regions,
      List<PermissionView> permissions) {}

  /** A thing by key and name. */
  record Named(String key, String name) {}

  /**
   * What comes from somebody who is acted for.
   *
   * @param rights how many rights
   * @param more how many of these they have not themselves
   */
  record ThroughView(String key, String name, long rights, long more) {}

  /** A permission that the answer speaks of. */
  record PermissionView(
      String key, String name, @Nullable String description, String accessClass, String risk) {}

  /**
   * What somebody can do.
   *
   * @param asActive whether to answer as if they were active, where they are not
   */
  @GetMapping("/access")
  AccessAnswer access(
      @RequestParam String principal,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(defaultValue = "false") boolean doors,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable List<String> on,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam(defaultValue = "false") boolean asActive) {
    return answer(
        principal,
        in,
        doors,
        at,
        secondFactor,
        actingFor,
        on,
        draft,
        revision,
        asActive,
        RegionView.MOST_SIZE);
  }

  private RequestContext context(
      String principal, @Nullable String draft, @Nullable Long revision, boolean asActive) {
    RequestContext context = contexts.context(draft, revision);
    return asActive ? contexts.asActive(context, principal) : context;
  }

  /** The answer; regions that lie deep are folded where it would pass a size in bytes. */
  private AccessAnswer answer(
      String principal,
      @Nullable String in,
      boolean doors,
      @Nullable Instant at,
      boolean secondFactor,
      @Nullable String actingFor,
      @Nullable List<String> on,
      @Nullable String draft,
      @Nullable Long revision,
      boolean asActive,
      int size) {
    AccessQuestion inquiry =
        AccessQuestion.of(
            context(principal, draft, revision, asActive),
            principal,
            at,
            secondFactor,
            actingFor,
            on);
    Catalogue catalogue = inquiry.catalogue();
    AskablePrincipal asked = inquiry.asked();
    AccessQuestion.Held held = inquiry.held();
    Access access = held.access();
    Naming naming = inquiry.naming(access);
    ChangeText text = new ChangeText(catalogue, catalogue, naming);
    Key.Account account = in == null ? null : account(catalogue, in, naming);
    note(inquiry, "What they can do");
    Set<Key.Account> only = asked.only();
    Extent outlook = new Extent(account, doors, only);
    List<RegionView> regions =
        access.refusal().isPresent()
            ? List.of()
            : RegionView.fitting(
                RegionView.of(
                    access.regions(outlook, depth(access, outlook)),
                    telling(inquiry, access, outlook, naming)),
                size);
    Set<String> mentioned = RegionView.permissionsIn(regions);
    return new AccessAnswer(
        named(asked.principal()),
        asked.actingFor() == null ? null : named(asked.actingFor()),
        account == null
            ? null
            : new Named(account.value(), catalogue.nameOf(Key.Resource.of(account))),
        inquiry.session().at(),
        secondFactor,
        asked.principal().enrolled(),
        inquiry.refusal(access),
        only != null,
        inquiry.cut(),
        inquiry.everybody(),
        held.through().stream()
            .map(it ->
                new ThroughView(
                    it.whom().key().value(),
                    it.whom().about().nameOr(it.whom().key()),
                    it.rights(),
                    it.more()))
            .toList(),
        held.hidden(),
        inquiry.absence() != null
            ? List.of()
            : SwitchedOn.of(
                inquiry.context().asked().engine(),
                asked.principal().key(),
                inquiry.session().at(),
                naming),
        FigureView.of(access.figure(outlook), catalogue, naming, !inquiry.context().isPast()),
        regions,
        catalogue.permissions().values().stream()
            .filter(it -> mentioned.contains(it.key().value()))
            .map(it ->
                new PermissionView(
                    it.key().value(),
                    text.name(Kind.PERMISSIONS, it.key().value()),
                    naming.tells(Kind.PERMISSIONS, it.key().value())
                        ? it.about().description()
                        : null,
                    FigureView.word(it.accessClass()),
                    FigureView.word(it.risk())))
            .toList());
  }

  /** The same as a file: a line for each permission of each region that says anything. */
  @GetMapping("/access/export")
  void export(
      @RequestParam String principal,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(defaultValue = "false") boolean doors,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable List<String> on,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam(defaultValue = "false") boolean asActive,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    AccessAnswer answer =
        answer(
            principal,
            in,
            doors,
            at,
            secondFactor,
            actingFor,
            on,
            draft,
            revision,
            asActive,
            Integer.MAX_VALUE);
    Map<String, PermissionView> permissions = new HashMap<>();
    answer.permissions().forEach(it -> permissions.put(it.key(), it));
    List<List<Object>> rows = new ArrayList<>();
    answer.regions().forEach(it -> rows(it, "", permissions, rows));
    new ExportTable(
            "access",
            List.of(
                "account",
                "place",
                "key",
                "within",
                "permission",
                "name",
                "class",
                "risk",
                "verdict",
                "of these places",
                "places it applies to"),
            rows)
        .send(format, response);
  }

  /** Rows of what is told in no region below: they divide what the answer covers. */
  private static void rows(
      RegionView region,
      String within,
      Map<String, PermissionView> permissions,
      List<List<Object>> rows) {
    region.below().forEach(it -> rows(it, region.name(), permissions, rows));
    if (!region.below().isEmpty()) {
      return;
    }
    for (RegionView.CellView cell : region.cells()) {
      PermissionView it = permissions.get(cell.permission());
      Map<String, Integer> counts = new LinkedHashMap<>();
      counts.put(Verdict.ALLOWED.word(), cell.allowed());
      counts.put(Verdict.BLOCKED.word(), cell.blocked());
      counts.put(Verdict.DENIED.word(), cell.denied());
      counts.forEach((verdict, many) -> {
        if (it != null && many > 0) {
          rows.add(
              List.of(
                  region.account(),
                  region.name(),
                  region.resource(),
                  within,
                  it.key(),
                  it.name(),
                  it.accessClass(),
                  it.risk(),
                  verdict,
                  many,
                  cell.applicable()));
        }
      });
    }
  }

  private void note(AccessQuestion inquiry, String said) {
    asking.about(inquiry.context(), inquiry.asked().principal(), said);
  }

  private void note(AccessQuestion inquiry, String said, Key.Account place) {
    asking.about(inquiry.context(), inquiry.asked().principal(), said, place);
  }

  /** A key may not be blank; no resource is called so. */
  private static Key.Resource resource(String key) {
    return new Key.Resource(key.isBlank() ? "?" : key);
  }

  /** The account of a resource that may be asked about, null where there is none. */
  private static Key.@Nullable Account askable(
      AskablePrincipal asked, Catalogue catalogue, Key.Resource resource) {
    Key.Account account = catalogue.accountOf(resource);
    return account == null || (asked.only() != null && !asked.only().contains(account))
        ? null
        : account;
  }

  /** In a larger account, what lies inside of an area is told when it is asked for. */
  private static int depth(Access access, Extent outlook) {
    return access.size(outlook) > TOLD_AT_ONCE ? 0 : Integer.MAX_VALUE;
  }

  /** What lies inside of a region that said there is more, one level of it. */
  @GetMapping("/inside")
  List<RegionView> inside(
      @RequestParam String principal,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable List<String> on,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam(defaultValue = "false") boolean asActive) {
    AccessQuestion inquiry =
        AccessQuestion.of(
            context(principal, draft, revision, asActive),
            principal,
            at,
            secondFactor,
            actingFor,
            on);
    Catalogue catalogue = inquiry.catalogue();
    AskablePrincipal asked = inquiry.asked();
    Access access = inquiry.held().access();
    Naming naming = inquiry.naming(access);
    Key.Account account = in == null ? null : account(catalogue, in, naming);
    Key.Resource top = resource(resource);
    if (askable(asked, catalogue, top) == null || !naming.tells(top)) {
      throw Problem.notFound("There is no '" + resource + "' to ask about here.");
    }
    note(inquiry, "What they can do in " + top);
    Extent outlook = new Extent(account, false, asked.only());
    return access.refusal().isPresent()
        ? List.of()
        : RegionView.of(access.inside(outlook, top, 0), telling(inquiry, access, outlook, naming));
  }

  private static RegionView.Telling telling(
      AccessQuestion inquiry, Access access, Extent outlook, Naming naming) {
    return new RegionView.Telling(
        access, outlook, naming, inquiry.context().readPolicy().readableAccounts());
  }

  /**
   * Why, and why not.
   *
   * @param actingFor for whom, where somebody is acted for
   * @param moreNear how many more would give it but do not
   */
  record RoutesAnswer(
      String verdict,
      Named principal,
      Named permission,
      Named resource,
      @Nullable Named actingFor,
      List<RouteView> live,
      List<RouteView> near,
      int moreNear) {}

  /** A route: its steps from the person to the place, and what stands against it. */
  record RouteView(
      List<RouteText.Told> steps,
      long otherPaths,
      @Nullable String delegation,
      List<String> obstacles) {}

  @GetMapping("/routes")
  RoutesAnswer routes(
      @RequestParam String principal,
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable List<String> on,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam(defaultValue = "false") boolean asActive) {
    AccessQuestion inquiry =
        AccessQuestion.of(
            context(principal, draft, revision, asActive),
            principal,
            at,
            secondFactor,
            actingFor,
            on);
    Catalogue catalogue = inquiry.catalogue();
    Naming naming = inquiry.naming(inquiry.held().access());
    Key.Resource where = resource(resource);
    Key.Account account = naming.tells(where) ? askable(inquiry.asked(), catalogue, where) : null;
    Permission what = Visibility.permission(permission, catalogue, naming);
    if (account == null || what == null) {
      throw Problem.notFound(
          "There is no '" + (what == null ? permission : resource) + "' to ask about here.");
    }
    String absence = inquiry.absence();
    if (absence != null) {
      note(inquiry, "Why, or why not: " + what.key() + " on " + where, account);
      return new RoutesAnswer(
          absence,
          named(inquiry.asked().principal()),
          new Named(what.key().value(), what.about().nameOr(what.key())),
          new Named(where.value(), catalogue.nameOf(where)),
          inquiry.asked().actingFor() == null ? null : named(inquiry.asked().actingFor()),
          List.of(),
          List.of(),
          0);
    }
    Session session = inquiry.sessionFor(what.key(), where);
    Question question = session.asks(what.key(), where);
    note(inquiry, "Why, or why not: " + what.key() + " on " + where, account);
    Verdict verdict = inquiry.engine().decide(question).verdict();
    boolean named = inquiry.context().readPolicy().mayRead(account);
    if (verdict == Verdict.NOT_APPLICABLE) {
      throw Problem.badRequest(
          "Nothing to explain",
          "'"
              + what.about().nameOr(what.key())
              + "' is not an action on such a resource. Choose one that is.");
    }
    Principal whom =
        session.actingFor() == null ? null : catalogue.principals().get(session.actingFor());
    Explanation explanation = inquiry.routes().explain(question);
    RouteText text = new RouteText(catalogue, naming);
    List<Route> near = named ? explanation.near() : mine(explanation.near());
    return new RoutesAnswer(
        verdict.word(),
        named(inquiry.asked().principal()),
        new Named(what.key().value(), what.about().nameOr(what.key())),
        new Named(where.value(), catalogue.nameOf(where)),
        whom == null ? null : named(whom),
        explanation.live().stream().map(route -> view(route, text, naming)).toList(),
        near.stream().limit(MOST_NEAR).map(route -> view(route, text, naming)).toList(),
        named ? Math.max(0, near.size() - MOST_NEAR) + explanation.more() : 0);
  }

  /** The same as a file: a line for each step of each route. */
  @GetMapping("/routes/export")
  void exportRoutes(
      @RequestParam String principal,
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable List<String> on,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam(defaultValue = "false") boolean asActive,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    RoutesAnswer answer =
        routes(
            principal,
            permission,
            resource,
            at,
            secondFactor,
            actingFor,
            on,
            draft,
            revision,
            asActive);
    List<List<Object>> rows = new ArrayList<>();
    List<RouteView> all = new ArrayList<>(answer.live());
    all.addAll(answer.near());
    for (int i = 0; i < all.size(); i++) {
      String counts = i < answer.live().size() ? "yes" : "no";
      for (RouteText.Told step : all.get(i).steps()) {
        rows.add(
            List.of(
                i + 1,
                counts,
                step.kind(),
                step.key(),
                step.name(),
                step.remark(),
                String.join("; ", all.get(i).obstacles())));
      }
    }
    new ExportTable(
            "routes",
            List.of("route", "gives it now", "step", "key", "name", "remark", "but"),
            rows)
        .send(format, response);
  }

  /**
   * Of routes in accounts that the viewer may not read, those of which the person has the subject.
   */
  private static List<Route> mine(List<Route> routes) {
    return routes.stream().filter(route -> !route.subjectPath().isEmpty()).toList();
  }

  private static RouteView view(Route route, RouteText text, Naming naming) {
    return new RouteView(
        text.steps(route),
        route.otherPaths(),
        route.delegation() == null || !naming.tells(Kind.DELEGATIONS, route.delegation().value())
            ? null
            : text.delegation(route.delegation()),
        route.obstacles().stream().map(text::obstacle).toList());
  }

  /** {@return an account by key}; one that may not be named reads as one that there is not */
  static Key.Account account(Catalogue catalogue, String key, Naming naming) {
    return Optional.of(key)
        .filter(it -> !it.isBlank() && naming.tells(Kind.ACCOUNTS, it))
        .map(Key.Account::new)
        .filter(catalogue.accounts()::containsKey)
        .orElseThrow(
            () -> Problem.notFound("There is no account '" + key + "'. Choose one from the list."));
  }

  private static Named named(Principal principal) {
    return new Named(principal.key().value(), principal.about().nameOr(principal.key()));
  }
}
