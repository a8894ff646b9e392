package mandala.core.explain;

import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.rule.GroupRules;
import mandala.core.rule.Guests;
import mandala.core.rule.Membership;
import org.jspecify.annotations.Nullable;

/** Which subjects a principal has at an instant, and by which way (section 2). */
final class SubjectPaths {

  /** A way into a group: its steps, and the first retired group on it. */
  record Way(List<SubjectStep> steps, @Nullable GroupKey retired) {}

  private final RouteIndex index;
  private final @Nullable Principal principal;
  private final Instant at;
  private final Set<AccountKey> guestOf = new HashSet<>();
  private final Map<GroupKey, Way> active = new LinkedHashMap<>();
  private final Map<GroupKey, Way> any = new LinkedHashMap<>();
  private final Map<GroupKey, Long> counts = new HashMap<>();
  private final List<Subject> subjects;

  SubjectPaths(RouteIndex index, @Nullable Principal principal, Instant at) {
    this.index = index;
    this.principal = principal;
    this.at = at;
    if (principal != null) {
      for (Guest guest : index.guests(principal.key())) {
        if (guest.window().holdsAt(at)) {
          for (AccountKey account : index.catalogue().accounts().keySet()) {
            if (Guests.covers(guest, account, index.catalogue())) {
              guestOf.add(account);
            }
          }
        }
      }
      List<Group> byRule = byRule(principal);
      walk(principal, byRule, active, true);
      walk(principal, byRule, any, false);
    }
    subjects = listed();
  }

  /** Breadth first, so that the first way found is a shortest one. */
  private void walk(
      Principal who, List<Group> byRule, Map<GroupKey, Way> into, boolean activeOnly) {
    Deque<GroupKey> open = new ArrayDeque<>();
    Way start = new Way(List.of(new SubjectStep.Oneself(who.key())), null);
    for (Group group : index.listing(who.key())) {
      enter(group, false, start, into, activeOnly, open);
    }
    for (Group group : byRule) {
      enter(group, true, start, into, activeOnly, open);
    }
    while (!open.isEmpty()) {
      GroupKey inner = open.remove();
      for (Group outer : index.nesting(inner)) {
        enter(outer, false, way(into, inner), into, activeOnly, open);
      }
    }
  }

  private static Way way(Map<GroupKey, Way> ways, GroupKey group) {
    Way way = ways.get(group);
    if (way == null) {
      throw new IllegalStateException("Impossible state: no way into " + group);
    }
    return way;
  }

  private List<Group> byRule(Principal who) {
    List<Group> groups = new ArrayList<>();
    Set<AccountKey> tested = new LinkedHashSet<>(guestOf);
    tested.add(who.account());
    for (AccountKey account : tested) {
      for (Group group : index.ruled(account)) {
        if (group.rule() != null && GroupRules.passes(group.rule(), who, index.catalogue())) {
          groups.add(group);
        }
      }
    }
    groups.sort(Comparator.comparing(group -> group.key().value()));
    return groups;
  }

  private static void enter(
      Group group,
      boolean byRule,
      Way before,
      Map<GroupKey, Way> into,
      boolean activeOnly,
      Deque<GroupKey> open) {
    if (into.containsKey(group.key()) || (activeOnly && group.retired())) {
      return;
    }
    List<SubjectStep> steps = new ArrayList<>(before.steps());
    steps.add(new SubjectStep.InGroup(group.key(), byRule));
    GroupKey retired =
        before.retired() != null ? before.retired() : group.retired() ? group.key() : null;
    into.put(group.key(), new Way(List.copyOf(steps), retired));
    open.add(group.key());
  }

  /** {@return whether the principal belongs to an account} */
  boolean belongsTo(AccountKey account) {
    return principal != null && Membership.belongs(principal, account, at, index.catalogue());
  }

  /** {@return the way to a subject}, null where the principal does not have it */
  @Nullable Way to(Subject subject) {
    if (principal == null) {
      return subject == Subject.Public.ANYONE || subject == Subject.Public.ANONYMOUS
          ? through(PrincipalKey.ANONYMOUS, new SubjectStep.Publicly((Subject.Public) subject))
          : null;
    }
    PrincipalKey self = principal.key();
    return switch (subject) {
      case Subject.OfPrincipal(var _, PrincipalKey key) ->
          key.equals(self) ? new Way(List.of(new SubjectStep.Oneself(self)), null) : null;
      case Subject.OfGroup(GroupKey key) ->
          active.containsKey(key) ? active.get(key) : any.get(key);
      case Subject.OfPattern(PatternKey key) ->
          key.equals(principal.pattern()) ? through(self, new SubjectStep.WithPattern(key)) : null;
      case Subject.OfAccount(AccountKey key) -> {
        boolean home = key.equals(principal.account());
        yield home || guestOf.contains(key)
            ? through(self, new SubjectStep.AtAccount(key, !home))
            : null;
      }
      case Subject.Public who ->
          who == Subject.Public.ANONYMOUS ? null : through(self, new SubjectStep.Publicly(who));
    };
  }

  private static Way through(PrincipalKey who, SubjectStep step) {
    return new Way(List.of(new SubjectStep.Oneself(who), step), null);
  }

  /** {@return in how many ways a group contains the principal}, retired groups apart */
  long ways(GroupKey group) {
    Long known = counts.get(group);
    if (known != null || principal == null) {
      return known == null ? 0 : known;
    }
    Group it = index.catalogue().groups().get(group);
    long ways = 0;
    if (it != null && active.containsKey(group)) {
      ways += times(index.listing(principal.key()), group);
      for (GroupKey inner : active.keySet()) {
        long steps = times(index.nesting(inner), group);
        ways += steps == 0 ? 0 : steps * ways(inner);
      }
      boolean tested = it.account().equals(principal.account()) || guestOf.contains(it.account());
      if (tested
          && it.rule() != null
          && GroupRules.passes(it.rule(), principal, index.catalogue())) {
        ways++;
      }
    }
    counts.put(group, ways);
    return ways;
  }

  private static long times(List<Group> groups, GroupKey key) {
    return groups.stream().filter(group -> group.key().equals(key)).count();
  }

  /** {@return every subject that the principal has or would have}, through retired groups too */
  List<Subject> subjects() {
    return subjects;
  }

  private List<Subject> listed() {
    List<Subject> subjects = new ArrayList<>();
    subjects.add(Subject.Public.ANYONE);
    if (principal == null) {
      subjects.add(Subject.Public.ANONYMOUS);
      return subjects;
    }
    subjects.add(Subject.Public.SIGNED_IN);
    subjects.add(new Subject.OfPrincipal(principal.kind(), principal.key()));
    any.keySet().forEach(key -> subjects.add(new Subject.OfGroup(key)));
    if (principal.pattern() != null) {
      subjects.add(new Subject.OfPattern(principal.pattern()));
    }
    Set<AccountKey> accounts = new LinkedHashSet<>(guestOf);
    accounts.add(principal.account());
    accounts.forEach(key -> subjects.add(new Subject.OfAccount(key)));
    return subjects;
  }
}
