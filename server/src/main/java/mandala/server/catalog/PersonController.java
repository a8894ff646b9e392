package mandala.server.catalog;

import java.time.Instant;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.mail.Mails;
import mandala.server.platform.Costly;
import mandala.server.platform.Problem;
import mandala.server.question.FigureView;
import mandala.server.session.SeenTimes;
import mandala.server.session.SignInFacts;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** A person or service: facts, groups, assignments, sign-in, and what the viewer may do. */
@RestController
@RequestMapping("/api/rights")
class PersonController {

  private final RequestContexts contexts;
  private final SignInFacts signIns;
  private final Mails mails;
  private final SeenTimes seen;

  PersonController(RequestContexts contexts, SignInFacts signIns, Mails mails, SeenTimes seen) {
    this.seen = seen;
    this.mails = mails;
    this.contexts = contexts;
    this.signIns = signIns;
  }

  /** Something by name; {@code key} is null where the viewer may not open it. */
  record Linked(@Nullable String key, String name) {}

  /**
   * A group that somebody is in.
   *
   * @param account the name of its account
   * @param direct whether they are listed themselves, not found by its rule or through another
   * @param cannot why the viewer may not change its members, null where they may
   */
  record MembershipView(
      String key, String name, String account, boolean direct, @Nullable String cannot) {}

  /**
   * What the viewer may not do with a person, each with the reason in one sentence; null where they
   * may (section 11).
   *
   * @param edit change details, suspend, remove
   * @param assign assign them access, anywhere
   * @param viewAs begin an impersonated view
   * @param ask ask about their access
   */
  record Hindrances(
      @Nullable String edit,
      @Nullable String assign,
      @Nullable String viewAs,
      @Nullable String ask) {}

  /**
   * A person's page, besides their access.
   *
   * @param state {@code active}, else why they have no access: {@code invited}, {@code suspended},
   *     {@code left}, {@code not yet}, {@code over}, or {@code account suspended}
   * @param lastSeen here or elsewhere; null where never
   * @param groups in which they are, directly or not
   * @param assignments of any subject that they have
   * @param signIn null where the viewer may neither manage them nor is they
   * @param mailRefusal why the last mail to them was refused; null where it was not, or as before
   */
  record PersonPage(
      ThingView person,
      String state,
      @Nullable Instant lastSeen,
      @Nullable Linked account,
      @Nullable Linked unit,
      @Nullable Linked manager,
      @Nullable Linked sponsor,
      List<MembershipView> groups,
      List<ThingView> guests,
      List<RightsController.Reference> reports,
      List<AssignmentView> assignments,
      SignInFacts.@Nullable SignInView signIn,
      @Nullable String mailRefusal,
      Hindrances cannot) {}

  @GetMapping("/people/{key}")
  PersonPage person(
      @PathVariable String key, @RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    Principal person = find(key, context);
    Instant now = context.readPolicy().now();
    Hindrances cannot = cannot(person, context);
    boolean self = context.readPolicy().isViewer(person.key());
    seen.refresh();
    return new PersonPage(
        ThingView.of(person, context),
        state(person, engine, now),
        seen.of(person),
        linked(Kind.ACCOUNTS, person.account(), context),
        linked(Kind.UNITS, person.unit(), context),
        linked(Kind.PRINCIPALS, person.manager(), context),
        linked(Kind.PRINCIPALS, person.sponsor(), context),
        catalogue.groups().values().stream()
            .filter(it ->
                !it.retired()
                    && engine.hasSubject(person.key(), new Subject.OfGroup(it.key()), now)
                    && context.naming().tells(Kind.GROUPS, it.key().value()))
            .map(it -> membership(it, person, context))
            .toList(),
        catalogue.find(Kind.GUESTS, key).stream()
            .filter(it -> context.readPolicy().mayRead(it, catalogue))
            .map(it -> ThingView.of((Thing) it, context))
            .toList(),
        catalogue.principals().values().stream()
            .filter(it -> person.key().equals(it.manager()) && context.readPolicy().mayRead(it))
            .map(
                it -> new RightsController.Reference(it.key().value(), it.about().nameOr(it.key())))
            .toList(),
        // everyone may read what they hold themselves (section 11)
        catalogue.assignments().values().stream()
            .filter(it -> engine.hasSubject(person.key(), it.subject(), now))
            .filter(it ->
                self
                    ? context.naming().tells(Kind.ASSIGNMENTS, it.key().value())
                    : context.readPolicy().mayRead(it, catalogue))
            .map(it -> AssignmentView.of(it, context))
            .toList(),
        self || cannot.edit() == null ? signIns.of(person.key()) : null,
        self || cannot.edit() == null ? mails.refusalOf(key).orElse(null) : null,
        cannot);
  }

  private static Principal find(String key, RequestContext context) {
    Principal person =
        context
            .asked()
            .engine()
            .catalogue()
            .principals()
            .get(new PrincipalKey(key.isBlank() ? "?" : key));
    if (person == null || !context.readPolicy().mayRead(person)) {
      throw Problem.notFound("There is nobody called '" + key + "'. Choose from the list.");
    }
    return person;
  }

  private static String state(Principal person, Engine engine, Instant now) {
    if (person.status() != Principal.Status.ACTIVE) {
      return FigureView.word(person.status());
    }
    Instant from = person.window().from();
    if (!person.window().holdsAt(now)) {
      return from != null && now.isBefore(from) ? "not yet" : "over";
    }
    return engine.isActive(person.key(), now) ? "active" : "account suspended";
  }

  private static @Nullable Linked linked(Kind kind, @Nullable Key key, RequestContext context) {
    if (key == null) {
      return null;
    }
    boolean told = context.naming().tells(kind, key.value());
    return new Linked(told ? key.value() : null, context.text().name(kind, key.value()));
  }

  private static MembershipView membership(Group group, Principal person, RequestContext context) {
    return new MembershipView(
        group.key().value(),
        group.about().nameOr(group.key()),
        context.text().name(Kind.ACCOUNTS, group.account().value()),
        group.lists(person),
        context.cannotChange(group));
  }

  private static Hindrances cannot(Principal person, RequestContext context) {
    ResourceKey place = person.place();
    boolean self = context.readPolicy().isViewer(person.key());
    boolean assigns =
        context.readPolicy().may(Supplied.ACCESS_ASSIGN, place)
            || context.state().engine().catalogue().accounts().keySet().stream()
                .anyMatch(
                    it -> context.readPolicy().may(Supplied.ACCESS_ASSIGN, ResourceKey.of(it)));
    return new Hindrances(
        context.cannotChange(person),
        assigns ? null : context.needs(Supplied.ACCESS_ASSIGN, place),
        self
            ? "This is you."
            : context.readPolicy().may(Supplied.ACCESS_IMPERSONATE, place)
                ? null
                : context.needs(Supplied.ACCESS_IMPERSONATE, place),
        self || !(context.readPolicy().cutFor(person) instanceof ReadPolicy.Cut.Nothing)
            ? null
            : context.needs(Supplied.ACCESS_ASK, place));
  }

  /**
   * What ends with an assignment, for somebody and for others whom the viewer may ask about.
   *
   * @param own how many rights the person loses or gains; null where the viewer may not ask
   * @param people how many others lose or gain something, and {@code rights} how much together
   * @param elsewhere whether it concerns others, too, of whom the viewer may not know
   * @param group the group that has the assignment, where it could be left instead
   * @param leavable whether the person is listed in that group and the viewer may change it
   */
  record EndingView(
      @Nullable Long own,
      int people,
      long rights,
      boolean elsewhere,
      @Nullable Linked group,
      boolean leavable) {}

  /** What removing an assignment would end, before it is added to the draft. */
  @Costly
  @GetMapping("/people/{key}/ending")
  EndingView ending(
      @PathVariable String key,
      @RequestParam String assignment,
      @RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Engine engine = context.asked().engine();
    Principal person = find(key, context);
    Assignment it =
        engine
            .catalogue()
            .assignments()
            .get(new AssignmentKey(assignment.isBlank() ? "?" : assignment));
    if (it == null || !context.readPolicy().mayRead(it, engine.catalogue())) {
      throw Problem.notFound("There is no assignment '" + assignment + "'. Reload the page.");
    }
    List<Change> changes = List.of(new Change.Removed(it));
    Impact impact =
        engine.impact(
            engine.after(changes),
            changes,
            context.readPolicy().now(),
            true,
            Impact.Watch.TO_THE_END);
    Long own = context.readPolicy().maySeeAllOf(person.key()) ? 0L : null;
    int people = 0;
    long rights = 0;
    boolean elsewhere = false;
    for (Impact.Person each : impact.people()) {
      if (!each.differs()) {
        continue;
      }
      if (each.principal().equals(person.key())) {
        own = own == null ? null : Long.valueOf(each.gained() + each.lost());
      } else if (context.readPolicy().maySeeAllOf(each.principal())) {
        people++;
        rights += each.gained() + each.lost();
      } else {
        elsewhere = true;
      }
    }
    Group group =
        it.subject() instanceof Subject.OfGroup(GroupKey named)
            ? engine.catalogue().groups().get(named)
            : null;
    return new EndingView(
        own,
        people,
        rights,
        elsewhere,
        group == null ? null : linked(Kind.GROUPS, group.key(), context),
        group != null && group.lists(person) && context.cannotChange(group) == null);
  }
}
