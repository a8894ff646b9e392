package mandala.core.shrink;

import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.rule.Guests;
import org.jspecify.annotations.Nullable;

/**
 * What is known of one model before moves are made on it: who holds what, what must stay, and by
 * which assignments and bridges it does.
 */
final class Round {

  final Engine now;
  final Catalogue catalogue;
  private final ShrinkOrder order;
  private final Instant at;
  final Obligations obligations;
  final ExcessStudy study;
  final BitSet fixed = new BitSet();
  final Map<Integer, List<Integer>> holders = new HashMap<>();
  final Map<PrincipalKey, Integer> people = new HashMap<>();
  final @Nullable Set<Integer> selected;
  final Obligations.Chosen chosen;

  Round(Engine now, Engine then, ShrinkOrder order, Soundness soundness) {
    this.now = now;
    this.order = order;
    at = order.window().at();
    catalogue = now.catalogue();
    study = now.excess(then, order.use(), order.window());
    Engine on = soundness.switchedOn(now);
    ExcessStudy onStudy = on.equals(now) ? study : on.excess(on, order.use(), order.window());
    obligations = new Obligations(catalogue, order, study, onStudy, soundness::mightSwitchOn);
    for (int i = 0; i < obligations.people.size(); i++) {
      people.put(obligations.people.get(i), i);
    }
    selected = selected();
    int givers = catalogue.assignments().numbers();
    catalogue.assignments().values().forEach(it -> look(it, it.subject()));
    catalogue.bridges().values().forEach(it -> look(it, new Subject.OfGroup(it.group())));
    for (int i = 0; i < givers; i++) {
      if (catalogue.assignments().at(i) == null) {
        fixed.set(i);
      }
    }
    Map<Integer, Integer> counts = new HashMap<>();
    holders.forEach((giver, some) -> counts.put(giver, some.size()));
    obligations.choose(fixed, order.tight() > 0, counts);
    chosen = obligations.chosen(fixed, counts);
  }

  private void look(Thing it, Subject subject) {
    int giver = giver(it);
    List<Integer> some = having(subject);
    holders.put(giver, some);
    boolean touched = selected == null || some.stream().anyMatch(selected::contains);
    boolean gives =
        it instanceof Assignment assignment
            ? assignment.effect() == Assignment.Effect.ALLOW
            : it instanceof Bridge bridge && bridge.status() == Bridge.Status.ACCEPTED;
    if (!touched || !gives || isUntouched(it)) {
      fixed.set(giver);
    }
  }

  boolean isUntouched(Thing it) {
    return order.untouched().test(it);
  }

  int giver(Thing it) {
    return it instanceof Bridge bridge
        ? catalogue.assignments().numbers() + catalogue.bridges().require(bridge.key())
        : catalogue.assignments().require(((Assignment) it).key());
  }

  private @Nullable Set<Integer> selected() {
    if (order.selection().isEmpty()) {
      return null;
    }
    Set<Integer> some = new HashSet<>();
    order.selection().forEach(it -> some.addAll(having(it)));
    return some;
  }

  /** Who has a subject, active, as numbers; everybody of a public one. */
  List<Integer> having(Subject subject) {
    List<Integer> some = new ArrayList<>();
    if (subject instanceof Subject.Public open) {
      for (int i = 0; i < obligations.people.size(); i++) {
        boolean anonymous = obligations.people.get(i).equals(PrincipalKey.ANONYMOUS);
        if (open == Subject.Public.ANYONE || anonymous == (open == Subject.Public.ANONYMOUS)) {
          some.add(i);
        }
      }
      return some;
    }
    for (Principal it : now.having(subject, at)) {
      Integer number = people.get(it.key());
      if (number != null && now.isActive(it.key(), at)) {
        some.add(number);
      }
    }
    return some;
  }

  /** Whether a principal has subjects as a guest that end, or begin: it must not keep them. */
  boolean isGuestForAWhile(int person) {
    Principal who = principal(person);
    return who != null
        && catalogue.links().guests(catalogue.principals().require(who.key())).stream()
            .anyMatch(it -> it.window().from() != null || it.window().until() != null);
  }

  /** Whether a principal belongs to a place's account for good. */
  boolean belongs(int person, int position) {
    Principal who = principal(person);
    AccountKey account = catalogue.accountOf(study.resource(position));
    return who != null
        && account != null
        && (catalogue.isAtOrBelow(account, who.account())
            || catalogue.links().guests(catalogue.principals().require(who.key())).stream()
                .anyMatch(it ->
                    Guests.covers(it, account, catalogue)
                        && it.window().until() == null
                        && it.window().holdsAt(at)));
  }

  @Nullable Principal principal(int person) {
    return catalogue.principals().get(obligations.people.get(person));
  }

  /** {@return why what a giver gives may go} */
  ShrinkStep.Why unneeded(int giver) {
    Set<Integer> keeping = chosen.otherwise.getOrDefault(giver, Set.of());
    return keeping.isEmpty()
        ? new ShrinkStep.Why.NobodyNeedsIt(holders.getOrDefault(giver, List.of()).size())
        : new ShrinkStep.Why.KeptOtherwise(keeping.size());
  }

  /** {@return who is in a group by one of its members}, as numbers */
  List<Integer> whom(Group.Member member) {
    return switch (member) {
      case Group.Member.OfPrincipal(var _, var key) -> {
        Integer person = people.get(key);
        yield person == null ? List.of() : List.of(person);
      }
      case Group.Member.OfGroup(GroupKey key) -> having(new Subject.OfGroup(key));
    };
  }

  /** By group: itself and all groups that contain it, however far. */
  static Map<GroupKey, Set<GroupKey>> within(Catalogue catalogue) {
    Map<GroupKey, Set<GroupKey>> parents = new LinkedHashMap<>();
    for (Group group : catalogue.groups().values()) {
      for (Group.Member member : group.members()) {
        if (!group.retired() && member instanceof Group.Member.OfGroup(GroupKey key)) {
          parents.computeIfAbsent(key, _ -> new HashSet<>()).add(group.key());
        }
      }
    }
    Map<GroupKey, Set<GroupKey>> within = new HashMap<>();
    for (GroupKey key : catalogue.groups().keySet()) {
      Set<GroupKey> all = new HashSet<>();
      climb(key, parents, all);
      within.put(key, all);
    }
    return within;
  }

  private static void climb(GroupKey key, Map<GroupKey, Set<GroupKey>> parents, Set<GroupKey> all) {
    if (all.add(key)) {
      parents.getOrDefault(key, Set.of()).forEach(it -> climb(it, parents, all));
    }
  }
}
