package mandala.core.whocan;

import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.RoleHolder;
import mandala.core.rule.Bridges;
import mandala.core.rule.Membership;

/**
 * Who holds roles at an instant, whether activated or not (section 2): found from assignments and
 * bridges to the members of their subjects. Cost: the members of each subject once, however many
 * assignments it has. For one thread.
 */
public final class RoleHolders {

  private final Snapshot it;
  private final Instant at;
  private final PermissionHolders people;
  private final Map<Integer, BitSet> members = new HashMap<>();

  /** Looks at one instant. */
  public RoleHolders(Snapshot it, Instant at) {
    this.it = it;
    this.at = at;
    this.people = new PermissionHolders(it, at.getEpochSecond(), false);
  }

  /** {@return who has a subject}, by number; everybody for those that are everybody's */
  public BitSet having(Subject subject) {
    return members.computeIfAbsent(
        GrantEntry.code(subject, it.catalogue),
        code -> {
          BitSet found = new BitSet();
          people.members(code, new BitSet(), found::set);
          return found;
        });
  }

  /** {@return the same, ascending}, kept nowhere: for asking about each subject once */
  public int[] once(Subject subject) {
    BitSet found = new BitSet();
    people.members(GrantEntry.code(subject, it.catalogue), new BitSet(), found::set);
    return found.stream().toArray();
  }

  /** {@return who holds a role, and through what}, in the order of the principals */
  public List<RoleHolder> of(RoleKey role) {
    Map<Integer, Set<Subject>> through = new TreeMap<>();
    for (Assignment each : it.catalogue.assignments().values()) {
      if (isOf(each.gives(), role) && each.window().holdsAt(at)) {
        having(each.subject()).stream()
            .forEach(
                p -> through.computeIfAbsent(p, _ -> new LinkedHashSet<>()).add(each.subject()));
      }
    }
    BitSet bridged = new BitSet();
    for (Bridge each : it.catalogue.bridges().values()) {
      if (isOf(each.gives(), role)) {
        bridged.or(by(each));
      }
    }
    bridged.stream().forEach(p -> through.computeIfAbsent(p, _ -> new LinkedHashSet<>()));
    List<RoleHolder> holders = new ArrayList<>();
    through.forEach((p, subjects) ->
        holders.add(
            new RoleHolder(
                it.catalogue.principals().the(p).key(), List.copyOf(subjects), bridged.get(p))));
    return holders;
  }

  /** {@return by role, the numbers of its holders}; roles that nobody holds are left out */
  public Map<RoleKey, BitSet> all() {
    Map<RoleKey, BitSet> all = new LinkedHashMap<>();
    for (Assignment each : it.catalogue.assignments().values()) {
      if (each.gives() instanceof Gives.OfRole(RoleKey role) && each.window().holdsAt(at)) {
        add(each.subject(), all.computeIfAbsent(role, _ -> new BitSet()));
      }
    }
    for (Bridge each : it.catalogue.bridges().values()) {
      if (each.gives() instanceof Gives.OfRole(RoleKey role)) {
        all.computeIfAbsent(role, _ -> new BitSet()).or(by(each));
      }
    }
    all.values().removeIf(BitSet::isEmpty);
    return all;
  }

  private void add(Subject subject, BitSet to) {
    if (subject instanceof Subject.OfPrincipal(var _, PrincipalKey key)) {
      to.set(it.catalogue.principals().require(key));
    } else {
      to.or(having(subject));
    }
  }

  private static boolean isOf(Gives gives, RoleKey role) {
    return gives instanceof Gives.OfRole(RoleKey key) && key.equals(role);
  }

  /** Members of a bridge's group who belong to its source, where it is in force. */
  private BitSet by(Bridge bridge) {
    BitSet found = new BitSet();
    if (Bridges.isInForce(bridge, at, it.catalogue)) {
      AccountKey source = Bridges.sourceOf(bridge, it.catalogue);
      having(new Subject.OfGroup(bridge.group())).stream()
          .filter(p -> {
            Principal who = it.catalogue.principals().the(p);
            return Membership.belongs(who, source, at, it.catalogue);
          })
          .forEach(found::set);
    }
    return found;
  }
}
