package mandala.core.tidy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.ModelDifference;
import mandala.core.change.Rewritten;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.rights.Rights;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Thing;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;
import mandala.core.rule.GroupRules;

/**
 * Takes out of a model what changes nothing by going (section 12, a tidier model). Each step is
 * right by itself, for everybody, every instant from one on and every choice of what is activated:
 *
 * <ol>
 *   <li>entries of sets, sets and juniors of roles, without which these come to the same;
 *   <li>listed members that a group has by its rule or by a group within it, whatever the time;
 *   <li>standing assignments that are over, or that another one to the same subject covers;
 *   <li>roles that give exactly what another one gives, which then takes their place;
 *   <li>denies that take nothing from anybody: these the engine tells, one after the other;
 *   <li>where it is asked for, what many are given one by one, which a role or group then gives
 *       ({@link RoleMining}).
 * </ol>
 */
public final class Tidier {

  private final Rights rights;
  private final Instant at;
  private final Bounds bounds;
  private final List<TidyStep> steps = new ArrayList<>();
  private Catalogue now;
  private GivenContents contents;

  private Tidier(Catalogue catalogue, Instant at, Bounds bounds) {
    this.now = catalogue;
    this.at = at;
    this.bounds = bounds;
    rights = new Rights(catalogue);
    contents = new GivenContents(catalogue, rights);
  }

  /**
   * What came of it.
   *
   * @param after the tidier model
   * @param steps in an order in which each fits the model that the one before left
   */
  public record Answer(AccessModel after, ModelSize before, ModelSize size, List<TidyStep> steps) {
    /** Copies its steps. */
    public Answer {
      steps = List.copyOf(steps);
    }
  }

  /** What else to look for. */
  public enum Also {
    /** Nothing. */
    NOTHING,
    /** Roles and groups in who holds what. */
    ROLES
  }

  /**
   * What a search keeps to.
   *
   * @param touches what may be changed
   * @param names what may be named as a reason
   * @param denies whether denies are tried, which tells something of everybody's access
   * @param watch called now and then; what it throws ends the search
   */
  public record Bounds(
      Predicate<Thing> touches, Predicate<Thing> names, boolean denies, Runnable watch) {

    /** Everything may change. */
    public static final Bounds NONE = new Bounds(_ -> true, _ -> true, true, () -> {});
  }

  /**
   * {@return a model that means the same with less}, the same one where nothing can go
   *
   * @param at instants before it do not count
   * @throws IllegalStateException if the tidier model does not mean the same: nothing is given then
   */
  public static Answer of(Engine engine, Instant at, Also also) {
    return of(engine, at, also, Bounds.NONE);
  }

  /** The same, of a part of the model. */
  public static Answer of(Engine engine, Instant at, Also also, Bounds bounds) {
    AccessModel before = engine.catalogue().model();
    Tidier tidier = new Tidier(engine.catalogue(), at, bounds);
    int found;
    do {
      found = tidier.steps.size();
      tidier.run();
      if (bounds.denies()) {
        tidier.denies(engine);
      }
    } while (tidier.steps.size() > found);
    if (!tidier.steps.isEmpty() && !tidier.meansTheSameAs(engine)) {
      throw new IllegalStateException("Impossible state: a tidier model means something else");
    }
    if (also == Also.ROLES) {
      tidier.mine(engine);
    }
    AccessModel after = tidier.now.model();
    return new Answer(after, ModelSize.of(before), ModelSize.of(after), tidier.steps);
  }

  private boolean meansTheSameAs(Engine engine) {
    return SameMeaning.isKept(engine, after(engine), at);
  }

  private Engine after(Engine engine) {
    return engine.after(ModelDifference.between(engine.catalogue().model(), now.model()));
  }

  // ---- denies -----------------------------------------------------------------------------------

  /** More denies than these are not tried. */
  private static final int MOST_DENIES = 200;

  /** Denies are tried one by one: the engine tells whether one takes anything from anybody. */
  private void denies(Engine engine) {
    Engine last = steps.isEmpty() ? engine : after(engine);
    List<Change> tries = new ArrayList<>();
    for (Assignment it : now.model().assignments()) {
      if (it.effect() == Assignment.Effect.DENY
          && it.mode() == Assignment.Mode.STANDING
          && bounds.touches.test(it)) {
        tries.add(new Change.Removed(it));
      }
    }
    for (Change change : tries.subList(0, Math.min(MOST_DENIES, tries.size()))) {
      last = takeIfSame(last, change);
    }
    for (PermissionSet listed : touched(now.model().permissionSets())) {
      PermissionSet it = listed;
      for (PermissionKey each : listed.deny()) {
        PermissionSet less =
            Rewritten.content(it, it.allow(), without(it.deny(), each), it.includes());
        Engine next = takeIfSame(last, new Change.Altered(it, less));
        it = next.equals(last) ? it : less;
        last = next;
      }
    }
  }

  private Engine takeIfSame(Engine last, Change change) {
    bounds.watch.run();
    Engine next = last.after(List.of(change));
    if (!SameMeaning.isKept(last, next, at)) {
      return last;
    }
    take(List.of(change), new TidyStep.Why.TakesNothing());
    return next;
  }

  // ---- roles and groups -------------------------------------------------------------------------

  /**
   * Roles and groups that exist or are made: both are right by themselves, but for a new group,
   * which somebody may have rights on. So new groups come last, and go again where it matters.
   */
  private void mine(Engine engine) {
    mine(false);
    if (!meansTheSameAs(engine)) {
      throw new IllegalStateException("Impossible state: mined roles mean something else");
    }
    Catalogue mined = now;
    int found = steps.size();
    mine(true);
    if (steps.size() > found && !meansTheSameAs(engine)) {
      now = mined;
      contents = new GivenContents(now, rights);
      steps.subList(found, steps.size()).clear();
    }
  }

  private void mine(boolean freshGroups) {
    TidyStep step;
    do {
      bounds.watch.run();
      step = new RoleMining(now, bounds.touches).group(freshGroups);
      step = step == null ? new RoleMining(now, bounds.touches).role() : step;
      if (step != null) {
        take(step.changes(), step.why());
      }
    } while (step != null);
  }

  private void run() {
    int found;
    do {
      found = steps.size();
      touched(now.model().permissionSets()).forEach(this::set);
      touched(now.model().roles()).forEach(this::role);
      touched(now.model().groups()).forEach(this::group);
      assignments();
      while (mergeTwins()) {
        // names have changed: others may be alike now
      }
    } while (steps.size() > found);
  }

  private <T extends Thing> List<T> touched(List<T> things) {
    return things.stream().filter(bounds.touches).toList();
  }

  private void take(List<Change> changes, TidyStep.Why why) {
    take(changes, why, Draft.of(changes).appliedUnchecked(now));
  }

  private void take(List<Change> changes, TidyStep.Why why, Catalogue after) {
    now = after;
    contents = new GivenContents(now, rights);
    steps.add(new TidyStep(changes, why));
  }

  /** {@return less of a thing where that still gives the same, and else the thing} */
  private <T extends Thing> T lessIfSame(T it, T less, Gives gives) {
    bounds.watch.run();
    EffectiveRights was = contents.of(gives);
    Change change = new Change.Altered(it, less);
    Catalogue after = Draft.of(List.of(change)).appliedUnchecked(now);
    if (!new GivenContents(after, rights).of(gives).equalsRows(was)) {
      return it;
    }
    take(List.of(change), new TidyStep.Why.LeftTheSame(), after);
    return less;
  }

  // ---- sets and roles ---------------------------------------------------------------------------

  private void set(PermissionSet listed) {
    PermissionSet it = listed;
    Gives gives = new Gives.OfSet(it.key());
    for (PermissionKey each : listed.allow()) {
      it =
          lessIfSame(
              it,
              Rewritten.content(it, without(it.allow(), each), it.deny(), it.includes()),
              gives);
    }
    for (PermissionKey each : listed.deny()) {
      it =
          lessIfSame(
              it,
              Rewritten.content(it, it.allow(), without(it.deny(), each), it.includes()),
              gives);
    }
    for (PermissionSetKey each : listed.includes()) {
      it =
          lessIfSame(
              it,
              Rewritten.content(it, it.allow(), it.deny(), without(it.includes(), each)),
              gives);
    }
  }

  /** One fewer of an entry, which may be listed twice. */
  private static <T> List<T> without(List<T> list, T one) {
    List<T> rest = new ArrayList<>(list);
    rest.remove(one);
    return rest;
  }

  private void role(Role listed) {
    if (listed.retired()) {
      return;
    }
    Role it = listed;
    Gives gives = new Gives.OfRole(it.key());
    for (PermissionSetKey each : listed.sets()) {
      it = lessIfSame(it, Rewritten.content(it, without(it.sets(), each), it.inherits()), gives);
    }
    for (RoleKey each : listed.inherits()) {
      if (contents.watched(new Gives.OfRole(each)).isEmpty()) {
        it = lessIfSame(it, Rewritten.content(it, it.sets(), without(it.inherits(), each)), gives);
      }
    }
  }

  // ---- groups -----------------------------------------------------------------------------------

  private void group(Group listed) {
    if (listed.retired()) {
      return;
    }
    Group it = listed;
    // people before groups: a group may stand for many of them
    List<Group.Member> members = new ArrayList<>(listed.members());
    members.sort(Comparator.comparing(each -> each instanceof Group.Member.OfGroup));
    for (Group.Member member : members) {
      Group less = Rewritten.members(it, without(it.members(), member));
      if (isStillIn(member, less)) {
        take(List.of(new Change.Altered(it, less)), new TidyStep.Why.LeftTheSame());
        it = less;
      }
    }
  }

  /** Whether a group has a member without naming it, whatever the time. */
  private boolean isStillIn(Group.Member member, Group less) {
    return switch (member) {
      case Group.Member.OfPrincipal(var _, var key) -> {
        Principal who = now.principals().get(key);
        yield who != null && has(less, who, new HashSet<>());
      }
      case Group.Member.OfGroup(GroupKey key) -> lists(less, key, new HashSet<>());
    };
  }

  private boolean has(Group group, Principal who, Set<GroupKey> seen) {
    if (!seen.add(group.key())) {
      return false;
    }
    if (group.lists(who)
        || (group.rule() != null
            && who.account().equals(group.account())
            && GroupRules.passes(group.rule(), who, now))) {
      return true;
    }
    return within(group).stream().anyMatch(inner -> has(inner, who, seen));
  }

  private boolean lists(Group group, GroupKey key, Set<GroupKey> seen) {
    return seen.add(group.key())
        && (group.members().contains(new Group.Member.OfGroup(key))
            || within(group).stream().anyMatch(inner -> lists(inner, key, seen)));
  }

  /** The active groups that are listed in a group. */
  private List<Group> within(Group group) {
    List<Group> inner = new ArrayList<>();
    for (Group.Member member : group.members()) {
      if (member instanceof Group.Member.OfGroup(GroupKey key)) {
        Group it = now.groups().get(key);
        if (it != null && !it.retired()) {
          inner.add(it);
        }
      }
    }
    return inner;
  }

  // ---- assignments ------------------------------------------------------------------------------

  private void assignments() {
    List<TidyStep> found = new ArrayList<>();
    new Covering(now, contents, at)
        .needless(now.model().assignments(), bounds)
        .forEach((it, by) ->
            found.add(
                new TidyStep(
                    List.of(new Change.Removed(it)),
                    new TidyStep.Why.Covered(by.map(Assignment::key).orElse(null)))));
    bounds.watch.run();
    found.forEach(step -> take(step.changes(), step.why()));
  }

  // ---- twin roles -------------------------------------------------------------------------------

  private boolean mergeTwins() {
    List<Role> roles = now.model().roles().stream().filter(this::mayBeTwin).toList();
    Map<Integer, List<Role>> alike = new HashMap<>();
    for (Role it : roles) {
      alike
          .computeIfAbsent(
              contents.of(new Gives.OfRole(it.key())).hashRows(), _ -> new ArrayList<>())
          .add(it);
    }
    for (List<Role> some : alike.values()) {
      for (int i = 0; i < some.size(); i++) {
        for (int j = i + 1; j < some.size(); j++) {
          if (merged(some.get(i), some.get(j))) {
            return true;
          }
        }
      }
    }
    return false;
  }

  /** Whether nothing but what it gives matters of a role. */
  private boolean mayBeTwin(Role it) {
    return !it.retired()
        && it.prerequisites().isEmpty()
        && it.maxHolders() == null
        && !contents.isWatched(it.key())
        && bounds.names.test(it);
  }

  private boolean alike(Role one, Role two) {
    return contents
        .of(new Gives.OfRole(one.key()))
        .equalsRows(contents.of(new Gives.OfRole(two.key())));
  }

  private boolean merged(Role one, Role two) {
    boolean first = two.sets().size() + two.inherits().size() > 0 && !comesTo(one, two);
    return alike(one, two)
        && (replaced(first ? two : one, first ? one : two)
            || replaced(first ? one : two, first ? two : one));
  }

  private boolean replaced(Role gone, Role kept) {
    boolean nothing = gone.sets().isEmpty() && gone.inherits().isEmpty();
    boolean elsewhere = kept.account() != null && !kept.account().equals(gone.account());
    if (nothing || elsewhere || comesTo(kept, gone)) {
      return false;
    }
    List<Change> changes = TwinRoles.renamed(now, gone, kept);
    if (changes.stream().anyMatch(it -> !bounds.touches.test(it.things().getFirst()))) {
      return false;
    }
    take(changes, new TidyStep.Why.Twin(kept.key()));
    return true;
  }

  /** Whether a role inherits another, however far. */
  private boolean comesTo(Role role, Role other) {
    return role.inherits().stream()
        .anyMatch(key -> {
          Role junior = now.roles().get(key);
          return key.equals(other.key()) || (junior != null && comesTo(junior, other));
        });
  }
}
