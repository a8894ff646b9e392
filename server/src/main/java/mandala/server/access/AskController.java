package mandala.server.access;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mandala.core.engine.Access;
import mandala.core.engine.Outlook;
import mandala.core.engine.Question;
import mandala.core.engine.Session;
import mandala.core.engine.Verdict;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.route.Explanation;
import mandala.core.route.Route;
import mandala.document.RouteText;
import mandala.server.platform.Problem;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What can this principal do here, then, signed in so, acting as that one? */
@RestController
@RequestMapping("/api/ask")
class AskController {

  private static final int MOST_NEAR = 20;

  /** Of so many resources all regions are told in one answer. */
  private static final int TOLD_AT_ONCE = 4_000;

  private final Sights sights;
  private final Trail trail;
  private final Trace trace;

  AskController(Sights sights, Trail trail, Trace trace) {
    this.sights = sights;
    this.trail = trail;
    this.trace = trace;
  }

  /**
   * The answer.
   *
   * @param refusal why there is no access at all, {@code inactive} or {@code no-delegation}, or
   *     null
   * @param limited whether the viewer is told of some accounts only
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
      FigureView figure,
      List<RegionView> regions,
      List<PermissionView> permissions) {}

  /** A thing by key and name. */
  record Named(String key, String name) {}

  /** A permission that the answer speaks of. */
  record PermissionView(
      String key, String name, @Nullable String description, String accessClass, String risk) {}

  @GetMapping("/access")
  AccessAnswer access(
      @RequestParam String principal,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(defaultValue = "false") boolean doors,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "false") boolean secondFactor,
      @RequestParam(required = false) @Nullable String actingFor,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    Sights.Look look = sights.look(draft, revision);
    Catalogue catalogue = look.asked().engine().catalogue();
    Asked asked = Asked.of(look.sight(), catalogue, principal, actingFor);
    Key.Account account = in == null ? null : account(catalogue, in);
    Session session = session(look, asked, at, secondFactor);
    note(look, asked, "What they can do");
    Access access = look.asked().engine().access(session);
    Set<Key.Account> only = asked.only();
    Outlook outlook = new Outlook(account, doors, only);
    Set<Key.Account> readable = look.sight().readableAccounts();
    List<RegionView> regions =
        access.refusal().isPresent()
            ? List.of()
            : RegionView.of(
                access.regions(outlook, depth(access, outlook)), catalogue, readable, account);
    Set<String> mentioned = RegionView.permissionsIn(regions);
    return new AccessAnswer(
        named(asked.principal()),
        asked.actingFor() == null ? null : named(asked.actingFor()),
        account == null
            ? null
            : new Named(account.value(), catalogue.nameOf(Key.Resource.of(account))),
        session.at(),
        secondFactor,
        asked.principal().mfa() && asked.principal().kind() == Principal.Kind.PERSON,
        access.refusal().map(Verdict::word).orElse(null),
        only != null,
        FigureView.of(access.figure(outlook), catalogue),
        regions,
        catalogue.permissions().values().stream()
            .filter(it -> mentioned.contains(it.key().value()))
            .map(it ->
                new PermissionView(
                    it.key().value(),
                    it.about().nameOr(it.key()),
                    it.about().description(),
                    FigureView.word(it.accessClass()),
                    FigureView.word(it.risk())))
            .toList());
  }

  /** Questions about another person stand in the trail. */
  private void note(Sights.Look look, Asked asked, String said) {
    Principal whom = asked.principal();
    if (!whom.key().equals(look.sight().viewer())) {
      Catalogue catalogue = look.state().engine().catalogue();
      trail.writeAlone(
          trace
              .by(Happening.Act.ASKED, List.of(whom.account().value()), said)
              .about(
                  Kind.PRINCIPALS.field(),
                  whom.key().value(),
                  whom.about().nameOr(whom.key()),
                  Places.above(whom.place(), catalogue)));
    }
  }

  private static Session session(
      Sights.Look look, Asked asked, @Nullable Instant at, boolean secondFactor) {
    return new Session(
        asked.principal().key(),
        at == null ? look.sight().now() : at,
        secondFactor,
        asked.actingForKey());
  }

  /** A key may not be blank; no resource is called so. */
  private static Key.Resource resource(String key) {
    return new Key.Resource(key.isBlank() ? "?" : key);
  }

  /** The account of a resource that may be asked about, null where there is none. */
  private static Key.@Nullable Account askable(
      Asked asked, Catalogue catalogue, Key.Resource resource) {
    Key.Account account = catalogue.accountOf(resource);
    return account == null || (asked.only() != null && !asked.only().contains(account))
        ? null
        : account;
  }

  /** In a larger account, what lies inside of an area is told when it is asked for. */
  private static int depth(Access access, Outlook outlook) {
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
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    Sights.Look look = sights.look(draft, revision);
    Catalogue catalogue = look.asked().engine().catalogue();
    Asked asked = Asked.of(look.sight(), catalogue, principal, actingFor);
    Key.Account account = in == null ? null : account(catalogue, in);
    Key.Resource top = resource(resource);
    if (askable(asked, catalogue, top) == null) {
      throw Problem.notFound("There is no '" + resource + "' to ask about here.");
    }
    Access access = look.asked().engine().access(session(look, asked, at, secondFactor));
    return access.refusal().isPresent()
        ? List.of()
        : RegionView.of(
            access.inside(new Outlook(account, false, asked.only()), top, 0),
            catalogue,
            look.sight().readableAccounts(),
            account);
  }

  /**
   * Why, and why not.
   *
   * @param moreNear how many more would give it but do not
   */
  record RoutesAnswer(
      String verdict,
      Named permission,
      Named resource,
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
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    Sights.Look look = sights.look(draft, revision);
    Catalogue catalogue = look.asked().engine().catalogue();
    Asked asked = Asked.of(look.sight(), catalogue, principal, actingFor);
    Key.Resource where = resource(resource);
    Key.Account account = askable(asked, catalogue, where);
    Permission what =
        permission.isBlank() ? null : catalogue.permissions().get(new Key.Permission(permission));
    if (account == null || what == null) {
      throw Problem.notFound(
          "There is no '" + (what == null ? permission : resource) + "' to ask about here.");
    }
    Question question = session(look, asked, at, secondFactor).asks(what.key(), where);
    note(look, asked, "Why, or why not: " + what.key() + " on " + where);
    Verdict verdict = look.asked().engine().decide(question).verdict();
    boolean named = verdict == Verdict.ALLOWED || look.sight().mayRead(account);
    if (verdict == Verdict.NOT_APPLICABLE) {
      throw Problem.badRequest(
          "Nothing to explain",
          "'" + what.about().nameOr(what.key()) + "' is not an action on such a resource.");
    }
    Explanation explanation = look.asked().routes().explain(question);
    RouteText text = new RouteText(catalogue);
    List<Route> near = named ? explanation.near() : mine(explanation.near());
    return new RoutesAnswer(
        verdict.word(),
        new Named(what.key().value(), what.about().nameOr(what.key())),
        new Named(where.value(), catalogue.nameOf(where)),
        explanation.live().stream().map(route -> view(route, text)).toList(),
        near.stream().limit(MOST_NEAR).map(route -> view(route, text)).toList(),
        Math.max(0, near.size() - MOST_NEAR) + (named ? explanation.more() : 0));
  }

  /**
   * Of routes in accounts that the viewer may not read, those of which the person has the subject.
   */
  private static List<Route> mine(List<Route> routes) {
    return routes.stream().filter(route -> !route.subjectPath().isEmpty()).toList();
  }

  private static RouteView view(Route route, RouteText text) {
    return new RouteView(
        text.steps(route),
        route.otherPaths(),
        route.delegation() == null ? null : route.delegation().value(),
        route.obstacles().stream().map(text::obstacle).toList());
  }

  static Key.Account account(Catalogue catalogue, String key) {
    return Optional.of(key)
        .filter(it -> !it.isBlank())
        .map(Key.Account::new)
        .filter(catalogue.accounts()::containsKey)
        .orElseThrow(
            () -> Problem.notFound("There is no account '" + key + "'. Choose one from the list."));
  }

  private static Named named(Principal principal) {
    return new Named(principal.key().value(), principal.about().nameOr(principal.key()));
  }
}
