package mandala.bench;

import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.About;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ResourceKey;

/** Assignments, activations, bridges and delegations of a settlement. */
final class Grants {

  private final Settlement s;
  private final Map<Clause, List<Clause>> scopes = new HashMap<>();
  private final Map<Subject, Subject> subjects = new HashMap<>();

  Grants(Settlement settlement) {
    this.s = settlement;
  }

  void make() {
    for (int i = 0; i < s.size.assignments; i++) {
      assignment(i);
    }
    for (int i = 0; i < Math.max(4, s.size.assignments / 5_000); i++) {
      bridge(i);
    }
    for (int i = 0; i < Math.max(5, s.size.people / 100); i++) {
      delegation(i);
    }
  }

  private List<Clause> scope(Term... terms) {
    Clause clause = Clause.of(terms);
    return scopes.computeIfAbsent(clause, List::of);
  }

  private ResourceKey place(int a) {
    int here = s.chance(95) ? a : s.anyAccount();
    return s.chance(30) || s.leaves.get(here).isEmpty()
        ? s.any(s.containers.get(here))
        : s.any(s.leaves.get(here));
  }

  private ResourceKey container(int a) {
    return s.any(s.containers.get(a));
  }

  private List<Clause> anyScope(int a) {
    double dice = s.random.nextDouble() * 100;
    if (dice < 85) {
      return scope(new Term.Tree(place(a)));
    }
    if (dice < 88) {
      return scope(new Term.Only(place(a)));
    }
    if (dice < 91) {
      return scope(new Term.OwnUnit(), new Term.Tree(container(a)));
    }
    if (dice < 94) {
      return scope(new Term.OwnedBy(Term.Owner.SELF));
    }
    if (dice < 97) {
      return scope(new Term.OwnedBy(Term.Owner.TEAM));
    }
    if (dice < 98) {
      return scope(new Term.OwnAccount(), new Term.OfType(s.definitions.anyLeaf()));
    }
    if (dice < 98.4) {
      return scope(new Term.InUnit(s.any(s.units.get(a))));
    }
    if (dice < 98.8) {
      return scope(new Term.InCollection(s.any(s.collections)));
    }
    if (dice < 99.1) {
      return scope(
          new Term.Labelled(Map.of(s.any(Definitions.LABELS), "v" + s.random.nextInt(4))),
          new Term.Tree(container(a)));
    }
    if (dice < 99.9) {
      return scope(new Term.OfType(s.definitions.anyLeaf()), new Term.Tree(container(a)));
    }
    return scope(new Term.InAccount(s.accounts.get(a)));
  }

  private Gives gives() {
    double dice = s.random.nextDouble() * 100;
    return dice < 60
        ? s.definitions.roles.get(s.skewed(s.definitions.roles.size() - 1))
        : dice < 85 ? s.any(s.definitions.sets) : s.any(s.definitions.single);
  }

  private Subject subject(int a, double dice) {
    Subject subject;
    if (dice < 80) {
      subject = new Subject.OfGroup(s.any(s.groups.get(a)));
    } else if (dice < 98 || s.patterns.isEmpty()) {
      Principal who = s.any(s.people.get(a));
      subject = new Subject.OfPrincipal(who.kind(), who.key());
    } else if (dice < 99) {
      subject = new Subject.OfAccount(s.accounts.get(a));
    } else {
      subject = new Subject.OfPattern(s.any(s.patterns));
    }
    return subjects.computeIfAbsent(subject, it -> it);
  }

  private void assignment(int i) {
    int a = s.anyAccount();
    boolean open = i % 20_000 == 17;
    double dice = s.random.nextDouble() * 100;
    boolean wide = dice >= 98 && !s.chance(100.0 * 20_000 / s.size.assignments);
    Subject subject = subject(a, wide ? 40 : dice);
    Gives gives = gives();
    boolean deny = gives instanceof Gives.OfPermission && s.chance(12);
    boolean jit = !open && s.chance(2);
    AssignmentKey key = new AssignmentKey("a-" + i);
    s.model.add(
        new Assignment(
            key,
            About.NONE,
            open ? s.any(List.of(Subject.Public.values())) : subject,
            gives,
            deny ? Assignment.Effect.DENY : Assignment.Effect.ALLOW,
            open ? scope(new Term.Only(place(a))) : anyScope(a),
            !deny && !open && s.chance(3) ? anyScope(a) : List.of(),
            s.window(4),
            jit ? Assignment.Mode.JUST_IN_TIME : Assignment.Mode.STANDING,
            s.chance(1)));
    if (jit && s.chance(30)) {
      s.model.add(
          new Activation(
              About.NONE,
              s.any(s.people.get(a)).key(),
              key,
              new Window(null, Settlement.NOW.plus(Duration.ofHours(s.random.nextInt(9) - 4)))));
    }
  }

  private void bridge(int i) {
    int source = s.anyAccount();
    int target = s.random.nextInt(s.size.accounts);
    if (source != target) {
      s.model.add(
          new Bridge(
              new BridgeKey("b-" + i),
              About.NONE,
              s.accounts.get(target),
              s.any(s.groups.get(source)),
              gives(),
              scope(new Term.Tree(container(target))),
              s.window(10),
              s.chance(80) ? Bridge.Status.ACCEPTED : Bridge.Status.OFFERED));
    }
  }

  private void delegation(int i) {
    int a = s.anyAccount();
    Principal who = s.any(s.people.get(a));
    Principal delegate = s.any(s.people.get(a));
    if (!who.key().equals(delegate.key())) {
      s.model.add(
          new Delegation(
              new DelegationKey("d-" + i),
              About.NONE,
              who.key(),
              delegate.key(),
              s.chance(60)
                  ? new Delegation.Limit.All()
                  : new Delegation.Limit.Listed(List.of(gives(), gives())),
              s.chance(50) ? scope(new Term.Everything()) : scope(new Term.Tree(container(a))),
              s.window(20)));
    }
  }
}
