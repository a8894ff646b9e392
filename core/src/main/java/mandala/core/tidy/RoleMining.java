package mandala.core.tidy;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/**
 * Finds roles in who holds what: things that many are given together, each by an assignment of its
 * own, come to one role (section 12, a tidier model). A row is one subject with one scope and
 * window, its items what it is given there. Of the sets of items that two rows share, the one that
 * saves most statements becomes a role, again and again.
 *
 * <p>Likewise groups: principals who are given the same many things, wherever, come to one group;
 * one that exists where there is one.
 */
final class RoleMining {

  /** More kinds of rows than these are not held against each other. */
  private static final int MOST_ROWS = 1_500;

  private final Catalogue catalogue;

  /** What is taken as a key of a role, a set or a group. */
  private final Set<String> keys = new HashSet<>();

  /** What may be changed, or named. */
  private final Predicate<Thing> touches;

  RoleMining(Catalogue catalogue, Predicate<Thing> touches) {
    this.catalogue = catalogue;
    this.touches = touches;
    catalogue.roles().keySet().forEach(it -> keys.add(it.value()));
    catalogue.sets().keySet().forEach(it -> keys.add(it.value()));
    catalogue.groups().keySet().forEach(it -> keys.add(it.value()));
  }

  /** All of an assignment but its key and what it gives. */
  private record Row(
      Subject subject,
      List<Clause> scope,
      List<Clause> viewScope,
      Window window,
      boolean crossesSeals) {

    static Row of(Assignment it) {
      return new Row(it.subject(), it.scope(), it.viewScope(), it.window(), it.crossesSeals());
    }
  }

  private boolean isPlain(Assignment it) {
    return it.mode() == Assignment.Mode.STANDING
        && it.effect() == Assignment.Effect.ALLOW
        && touches.test(it);
  }

  // ---- roles ------------------------------------------------------------------------------------

  /** {@return the step that saves most by a role}, null where none saves anything */
  @Nullable TidyStep role() {
    Map<Row, Map<Gives, Assignment>> rows = new LinkedHashMap<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (isPlain(it) && isActive(it.gives())) {
        rows.computeIfAbsent(Row.of(it), _ -> new LinkedHashMap<>()).putIfAbsent(it.gives(), it);
      }
    }
    Map<Set<Gives>, Integer> kinds = new LinkedHashMap<>();
    rows.values().forEach(it -> kinds.merge(new HashSet<>(it.keySet()), 1, Integer::sum));
    kinds.keySet().removeIf(it -> it.size() < 2);
    Set<Gives> best = best(kinds);
    return best.isEmpty() ? null : made(best, rows.values());
  }

  /** A retired role gives nothing; where it comes back, it must come back here only. */
  private boolean isActive(Gives gives) {
    if (!(gives instanceof Gives.OfRole(RoleKey key))) {
      return true;
    }
    Role role = catalogue.roles().get(key);
    return role != null && !role.retired();
  }

  private Set<Gives> best(Map<Set<Gives>, Integer> kinds) {
    List<Set<Gives>> all = new ArrayList<>(kinds.keySet());
    all.sort(Comparator.comparingInt(it -> -kinds.getOrDefault(it, 0)));
    List<Set<Gives>> some = all.subList(0, Math.min(MOST_ROWS, all.size()));
    Set<Set<Gives>> candidates = new LinkedHashSet<>(some);
    for (int i = 0; i < some.size(); i++) {
      for (int j = i + 1; j < some.size(); j++) {
        Set<Gives> both = new HashSet<>(some.get(i));
        both.retainAll(some.get(j));
        if (both.size() > 1) {
          candidates.add(both);
        }
      }
    }
    long most = 0;
    Set<Gives> best = Set.of();
    for (Set<Gives> it : candidates) {
      long rows =
          kinds.entrySet().stream()
              .filter(kind -> kind.getKey().containsAll(it))
              .mapToLong(Map.Entry::getValue)
              .sum();
      long saved = rows * (it.size() - 1L) - cost(it);
      if (saved > most || (saved == most && saved > 0 && it.size() > best.size())) {
        most = saved;
        best = it;
      }
    }
    return best;
  }

  /** How many statements a role of some items costs: none where there is one. */
  private int cost(Set<Gives> items) {
    if (existing(items) != null) {
      return 0;
    }
    boolean single = items.stream().anyMatch(Gives.OfPermission.class::isInstance);
    return items.size() + (single ? 1 : 0);
  }

  /** A role that is exactly these items, and whose holders do not matter. */
  private @Nullable RoleKey existing(Set<Gives> items) {
    for (Role it : catalogue.roles().values()) {
      Set<Gives> given = new HashSet<>();
      it.sets().forEach(set -> given.add(new Gives.OfSet(set)));
      it.inherits().forEach(junior -> given.add(new Gives.OfRole(junior)));
      boolean plain =
          !it.retired()
              && !it.requiresMfa()
              && it.prerequisites().isEmpty()
              && it.maxHolders() == null
              && it.minHolders() == null;
      if (plain && given.equals(items) && isNobodysPrerequisite(it.key()) && touches.test(it)) {
        return it.key();
      }
    }
    return null;
  }

  private boolean isNobodysPrerequisite(RoleKey key) {
    return catalogue.roles().values().stream().noneMatch(it -> it.prerequisites().contains(key));
  }

  private TidyStep made(Set<Gives> items, Collection<Map<Gives, Assignment>> rows) {
    List<Change> changes = new ArrayList<>();
    List<Map<Gives, Assignment>> having =
        rows.stream().filter(it -> it.keySet().containsAll(items)).toList();
    RoleKey role = existing(items);
    if (role == null) {
      role = newRole(items, having, changes);
    }
    Gives gives = new Gives.OfRole(role);
    for (Map<Gives, Assignment> row : having) {
      boolean first = !row.containsKey(gives);
      for (Gives item : sorted(items)) {
        Assignment it = row.get(item);
        if (it != null && first) {
          changes.add(new Change.Altered(it, Rewritten.gives(it, gives)));
          first = false;
        } else if (it != null) {
          changes.add(new Change.Removed(it));
        }
      }
    }
    return new TidyStep(changes, new TidyStep.Why.Role(role, having.size(), items.size()));
  }

  private RoleKey newRole(
      Set<Gives> items, List<Map<Gives, Assignment>> having, List<Change> changes) {
    List<PermissionSetKey> sets = new ArrayList<>();
    List<RoleKey> inherits = new ArrayList<>();
    Set<PermissionKey> single = new TreeSet<>(Comparator.comparing(PermissionKey::value));
    for (Gives item : sorted(items)) {
      switch (item) {
        case Gives.OfSet(PermissionSetKey key) -> sets.add(key);
        case Gives.OfRole(RoleKey key) -> inherits.add(key);
        case Gives.OfPermission(PermissionKey key) -> single.add(key);
      }
    }
    AccountKey account = commonHome(having);
    String name = String.join(" + ", sorted(items).stream().map(this::nameOf).toList());
    if (!single.isEmpty()) {
      PermissionSetKey key = new PermissionSetKey(free("mined-set"));
      changes.add(
          new Change.Added(
              new PermissionSet(
                  key, About.named(name), account, List.copyOf(single), List.of(), List.of())));
      sets.add(key);
    }
    RoleKey role = new RoleKey(free("mined-role"));
    changes.add(
        new Change.Added(
            new Role(
                role,
                About.named(name),
                account,
                null,
                null,
                false,
                sets,
                inherits,
                false,
                List.of(),
                null,
                null,
                List.of())));
    return role;
  }

  private String nameOf(Gives gives) {
    Thing it =
        switch (gives) {
          case Gives.OfSet(PermissionSetKey key) -> catalogue.sets().get(key);
          case Gives.OfRole(RoleKey key) -> catalogue.roles().get(key);
          case Gives.OfPermission(PermissionKey key) -> catalogue.permissions().get(key);
        };
    return it == null ? gives.key().value() : it.about().nameOr(gives.key());
  }

  private List<Gives> sorted(Set<Gives> items) {
    return items.stream()
        .sorted(Comparator.comparing(it -> it.getClass().getSimpleName() + " " + it.key().value()))
        .toList();
  }

  /** The account that all who get the role belong to by their home; none where it is not one. */
  private @Nullable AccountKey commonHome(List<Map<Gives, Assignment>> having) {
    Set<AccountKey> homes = new HashSet<>();
    for (Map<Gives, Assignment> row : having) {
      AccountKey home =
          row.values().stream().findFirst().map(it -> catalogue.homeOf(it.subject())).orElse(null);
      if (home == null) {
        return null;
      }
      homes.add(home);
    }
    return homes.size() == 1 ? homes.iterator().next() : null;
  }

  private String free(String stem) {
    int n = 1;
    while (!keys.add(stem + "-" + n)) {
      n++;
    }
    return stem + "-" + n;
  }

  // ---- groups -----------------------------------------------------------------------------------

  /** What a principal is given, and where: all of an assignment but its key and its subject. */
  private record Given(
      Gives gives,
      Assignment.Effect effect,
      List<Clause> scope,
      List<Clause> viewScope,
      Window window,
      boolean crossesSeals) {

    static Given of(Assignment it) {
      return new Given(
          it.gives(), it.effect(), it.scope(), it.viewScope(), it.window(), it.crossesSeals());
    }
  }

  /**
   * {@return the step that saves most by a group}, null where none saves anything
   *
   * @param fresh whether new groups may be made, which are new resources too
   */
  @Nullable TidyStep group(boolean fresh) {
    Map<Given, Map<PrincipalKey, Assignment>> holders = new LinkedHashMap<>();
    for (Assignment it : catalogue.assignments().values()) {
      boolean relative =
          it.scope().stream().anyMatch(Clause::relative)
              || it.viewScope().stream().anyMatch(Clause::relative);
      if (it.mode() == Assignment.Mode.STANDING
          && !relative
          && touches.test(it)
          && it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey who)) {
        holders.computeIfAbsent(Given.of(it), _ -> new LinkedHashMap<>()).putIfAbsent(who, it);
      }
    }
    Map<Set<PrincipalKey>, List<Map<PrincipalKey, Assignment>>> bySame = new LinkedHashMap<>();
    holders
        .values()
        .forEach(it -> {
          if (it.size() > 1) {
            bySame.computeIfAbsent(new HashSet<>(it.keySet()), _ -> new ArrayList<>()).add(it);
          }
        });
    long most = 0;
    TidyStep best = null;
    for (Map.Entry<Set<PrincipalKey>, List<Map<PrincipalKey, Assignment>>> it : bySame.entrySet()) {
      int people = it.getKey().size();
      int given = it.getValue().size();
      GroupKey there = listing(it.getKey());
      long saved = (long) (people - 1) * given - (there == null ? people : 0);
      if (saved > most && (there != null || fresh)) {
        TidyStep step = gathered(there, it.getKey(), it.getValue());
        if (step != null) {
          most = saved;
          best = step;
        }
      }
    }
    return best;
  }

  /** An active group that lists exactly these principals. */
  private @Nullable GroupKey listing(Set<PrincipalKey> people) {
    for (Group it : catalogue.groups().values()) {
      Set<PrincipalKey> listed = new HashSet<>();
      boolean plain = !it.retired() && it.rule() == null;
      for (Group.Member member : it.members()) {
        if (member instanceof Group.Member.OfPrincipal(var _, PrincipalKey key)) {
          listed.add(key);
        } else {
          plain = false;
        }
      }
      if (plain && listed.equals(people) && touches.test(it)) {
        return it.key();
      }
    }
    return null;
  }

  private @Nullable TidyStep gathered(
      @Nullable GroupKey there,
      Set<PrincipalKey> people,
      List<Map<PrincipalKey, Assignment>> given) {
    List<Change> changes = new ArrayList<>();
    GroupKey key = there;
    if (key == null) {
      Set<AccountKey> homes = new HashSet<>();
      List<Group.Member> members = new ArrayList<>();
      for (PrincipalKey who :
          people.stream().sorted(Comparator.comparing(PrincipalKey::value)).toList()) {
        Principal it = catalogue.principals().get(who);
        if (it == null) {
          return null;
        }
        homes.add(it.account());
        members.add(new Group.Member.OfPrincipal(it.kind(), who));
      }
      if (homes.size() != 1) {
        return null;
      }
      key = new GroupKey(free("mined-group"));
      changes.add(
          new Change.Added(
              new Group(
                  key,
                  About.named(people.size() + " with the same assignments"),
                  homes.iterator().next(),
                  false,
                  members,
                  null,
                  List.of())));
    }
    for (Map<PrincipalKey, Assignment> one : given) {
      Assignment first = one.values().iterator().next();
      one.values().forEach(it -> changes.add(new Change.Removed(it)));
      changes.add(new Change.Added(to(first, key)));
    }
    return new TidyStep(changes, new TidyStep.Why.Group(key, people.size(), given.size()));
  }

  private Assignment to(Assignment it, GroupKey group) {
    AssignmentKey key = new AssignmentKey(it.key().value() + ".gathered");
    for (int n = 2; catalogue.assignments().containsKey(key); n++) {
      key = new AssignmentKey(it.key().value() + ".gathered-" + n);
    }
    return new Assignment(
        key,
        it.about(),
        new Subject.OfGroup(group),
        it.gives(),
        it.effect(),
        it.scope(),
        it.viewScope(),
        it.window(),
        it.mode(),
        it.crossesSeals());
  }
}
