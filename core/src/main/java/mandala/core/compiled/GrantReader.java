package mandala.core.compiled;

import java.util.IdentityHashMap;
import java.util.List;
import mandala.core.compiled.directory.TimeSpan;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.rights.EffectiveRightsReader;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Reads assignments and bridges as grant entries. What is given and the compiled clauses get
 * numbers; where a number is new to the snapshot, what it comes to is read and put there. What
 * covers nothing has a grant entry of no positions, for it is held all the same.
 */
final class GrantReader {

  /** Where grant entries go. */
  interface Sink {
    void line(boolean deny, int subject, long span, long what, int ref);
  }

  private final Snapshot it;
  private final ClauseCompiler grounds;
  private final EffectiveRightsReader givens;
  private final Sink sink;

  /** What was read before; models share what is the same, so it is found by identity. */
  private final IdentityHashMap<Subject, Integer> subjects = new IdentityHashMap<>();

  private final IdentityHashMap<Clause, Long> plains = new IdentityHashMap<>();
  private final IdentityHashMap<Gives, Integer> gifts = new IdentityHashMap<>();
  private final IdentityHashMap<Gives, Integer> denials = new IdentityHashMap<>();

  /** Told of compiled clauses that are new to the snapshot. */
  private final java.util.function.ObjIntConsumer<CompiledClause> newGround;

  /** Told of things given that are new to the snapshot. */
  private final java.util.function.ObjIntConsumer<EffectiveRights> newGiven;

  GrantReader(
      Snapshot it,
      Sink sink,
      java.util.function.ObjIntConsumer<CompiledClause> newGround,
      java.util.function.ObjIntConsumer<EffectiveRights> newGiven) {
    this.newGiven = newGiven;
    this.it = it;
    this.sink = sink;
    this.newGround = newGround;
    grounds = new ClauseCompiler(it.catalogue, it.places, it.rights);
    givens = new EffectiveRightsReader(it.catalogue, it.rights);
  }

  /** Reads the assignment with a number. */
  void read(int ref, Assignment assignment) {
    if (!isAlways(assignment.window())) {
      it.times = it.times.with(ref, TimeSpan.of(assignment.window()));
    }
    int subject =
        subjects.computeIfAbsent(assignment.subject(), key -> GrantEntry.code(key, it.catalogue));
    boolean denying =
        assignment.effect() == Assignment.Effect.DENY
            && assignment.gives() instanceof Gives.OfPermission;
    int given = given(assignment.gives(), denying);
    int flags = isAlways(assignment.window()) ? 0 : GrantEntry.SPECIAL;
    int allowFlags =
        (assignment.mode() == Assignment.Mode.JUST_IN_TIME
                ? GrantEntry.SPECIAL | GrantEntry.JUST_IN_TIME
                : flags)
            | (assignment.crossesSeals() ? GrantEntry.CROSSES : 0);
    int home = homeOf(assignment.subject());
    EffectiveRights what = it.given.require(given);
    if (what.denies) {
      scope(assignment.scope(), home, true, subject, given, flags | GrantEntry.CROSSES, ref);
    }
    if (!denying && assignment.scope().isEmpty() && assignment.viewScope().isEmpty()) {
      sink.line(false, subject, allowFlags | GrantEntry.SPECIAL, GrantEntry.what(0, given), ref);
    } else if (!denying) {
      scope(assignment.scope(), home, false, subject, given, allowFlags, ref);
      scope(assignment.viewScope(), home, false, subject, given, allowFlags | GrantEntry.VIEW, ref);
    }
  }

  /** Only an accepted bridge of a live source account has grant entries. */
  void read(Bridge bridge) {
    Group group = it.catalogue.groups().the(it.catalogue.groups().require(bridge.group()));
    int source = it.catalogue.accounts().require(group.account());
    if (bridge.status() != Bridge.Status.ACCEPTED || !it.directory.live[source]) {
      return;
    }
    int ref = ~it.catalogue.bridges().require(bridge.key());
    int subject = GrantEntry.code(new Subject.OfGroup(bridge.group()), it.catalogue);
    int given = given(bridge.gives(), false);
    int target = it.catalogue.accounts().require(bridge.account());
    int flags = GrantEntry.SPECIAL | GrantEntry.BRIDGE;
    if (bridge.scope().isEmpty()) {
      sink.line(false, subject, flags, GrantEntry.what(0, given), ref);
    }
    for (Clause clause : bridge.scope()) {
      int ground = ground(clause, target);
      if (it.given.require(given).denies) {
        put(true, subject, given, flags | GrantEntry.CROSSES, ground, ref);
      }
      put(false, subject, given, flags, ground, ref);
    }
  }

  /** {@return a delegation in numbers} */
  CompiledDelegation read(Delegation delegation) {
    IntList given = null;
    if (delegation.limit() instanceof Delegation.Limit.Listed(List<Gives> listed)) {
      given = new IntList();
      for (Gives gives : listed) {
        given.add(given(gives, false));
      }
    }
    IntList covered = new IntList();
    for (Clause clause : delegation.scope()) {
      covered.add(ground(clause, -1));
    }
    return new CompiledDelegation(
        it.catalogue.principals().require(delegation.delegate()),
        TimeSpan.of(delegation.window()),
        given == null ? null : given.toArray(),
        covered.toArray());
  }

  /** {@return the delegations in which a principal is acted for}, in numbers; null for none */
  @Nullable List<CompiledDelegation> covers(int principal) {
    List<Delegation> delegations = it.catalogue.links().delegations(principal);
    return delegations.isEmpty() ? null : delegations.stream().map(this::read).toList();
  }

  static boolean isAlways(Window window) {
    return window.from() == null && window.until() == null;
  }

  /** The account where relative terms of an assignment to a subject stay (section 4), or -1. */
  private int homeOf(Subject subject) {
    return switch (subject) {
      case Subject.OfGroup(GroupKey key) ->
          it.catalogue
              .accounts()
              .require(it.catalogue.groups().the(it.catalogue.groups().require(key)).account());
      case Subject.OfAccount(AccountKey key) -> it.catalogue.accounts().require(key);
      case Subject.OfPattern(PatternKey key) -> {
        AccountKey account =
            it.catalogue.patterns().the(it.catalogue.patterns().require(key)).account();
        yield account == null ? -1 : it.catalogue.accounts().require(account);
      }
      case Subject.OfPrincipal _, Subject.Public _ -> -1;
    };
  }

  private int given(Gives gives, boolean deny) {
    return (deny ? denials : gifts).computeIfAbsent(gives, key -> read(key, deny));
  }

  private int read(Gives gives, boolean deny) {
    EffectiveRightsReader.Name name = new EffectiveRightsReader.Name(gives, deny);
    int number = it.grantIds.given(name);
    if (it.given.get(number) == null) {
      EffectiveRights read = givens.read(name);
      it.given = it.given.with(number, read);
      newGiven.accept(read, number);
    }
    return number;
  }

  private void scope(
      List<Clause> scope, int home, boolean deny, int subject, int given, int flags, int ref) {
    for (Clause clause : scope) {
      long plain = plains.computeIfAbsent(clause, grounds::plain);
      if (plain >= 0) {
        sink.line(deny, subject, plain | flags, GrantEntry.what(0, given), ref);
      } else {
        put(deny, subject, given, flags, ground(clause, clause.relative() ? home : -1), ref);
      }
    }
  }

  /** {@return the number of a clause's compiled clause} */
  int ground(Clause clause, int within) {
    int number = it.grantIds.ground(clause, within);
    if (it.grounds.get(number) == null) {
      CompiledClause read = grounds.read(clause, within);
      it.grounds = it.grounds.with(number, read);
      newGround.accept(read, number);
    }
    return number;
  }

  private void put(boolean deny, int subject, int given, int flags, int ground, int ref) {
    CompiledClause read = it.grounds.require(ground);
    sink.line(
        deny, subject, read.bounds() | flags | read.flags(), GrantEntry.what(ground, given), ref);
  }
}
