package mandala.core.engine;

import java.util.IdentityHashMap;
import java.util.List;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Key;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import org.jspecify.annotations.Nullable;

/**
 * Reads assignments and bridges as lines. What is given and the grounds get numbers; where a number
 * is new to the snapshot, what it comes to is read and put there. What covers nothing has a line of
 * no positions, for it is held all the same.
 */
final class LineReader {

  /** Where lines go. */
  interface Sink {
    void line(boolean deny, int subject, long span, long what, int ref);
  }

  private final Snapshot it;
  private final GroundReader grounds;
  private final GivenReader givens;
  private final Sink sink;

  /** What was read before; models share what is the same, so it is found by identity. */
  private final IdentityHashMap<Subject, Integer> subjects = new IdentityHashMap<>();

  private final IdentityHashMap<Clause, Long> plains = new IdentityHashMap<>();
  private final IdentityHashMap<Gives, Integer> gifts = new IdentityHashMap<>();
  private final IdentityHashMap<Gives, Integer> denials = new IdentityHashMap<>();

  /** Told of grounds that are new to the snapshot. */
  private final java.util.function.ObjIntConsumer<Ground> newGround;

  /** Told of things given that are new to the snapshot. */
  private final java.util.function.ObjIntConsumer<Given> newGiven;

  LineReader(
      Snapshot it,
      Sink sink,
      java.util.function.ObjIntConsumer<Ground> newGround,
      java.util.function.ObjIntConsumer<Given> newGiven) {
    this.newGiven = newGiven;
    this.it = it;
    this.sink = sink;
    this.newGround = newGround;
    grounds = new GroundReader(it.catalogue, it.places, it.rights);
    givens = new GivenReader(it.catalogue, it.rights);
  }

  /** Reads the assignment with a number. */
  void read(int ref, Assignment assignment) {
    if (!isAlways(assignment.window())) {
      it.times = it.times.with(ref, Times.of(assignment.window()));
    }
    int subject =
        subjects.computeIfAbsent(assignment.subject(), key -> Line.code(key, it.catalogue));
    boolean denying =
        assignment.effect() == Assignment.Effect.DENY
            && assignment.gives() instanceof Gives.OfPermission;
    int given = given(assignment.gives(), denying);
    int flags = isAlways(assignment.window()) ? 0 : Line.SPECIAL;
    int allowFlags =
        (assignment.mode() == Assignment.Mode.JUST_IN_TIME
                ? Line.SPECIAL | Line.JUST_IN_TIME
                : flags)
            | (assignment.crossesSeals() ? Line.CROSSES : 0);
    int home = homeOf(assignment.subject());
    Given what = it.given.require(given);
    if (what.denies) {
      scope(assignment.scope(), home, true, subject, given, flags | Line.CROSSES, ref);
    }
    if (!denying && assignment.scope().isEmpty() && assignment.viewScope().isEmpty()) {
      sink.line(false, subject, allowFlags | Line.SPECIAL, Line.what(0, given), ref);
    } else if (!denying) {
      scope(assignment.scope(), home, false, subject, given, allowFlags, ref);
      scope(assignment.viewScope(), home, false, subject, given, allowFlags | Line.VIEW, ref);
    }
  }

  /** Only an accepted bridge of a live source account has lines. */
  void read(Bridge bridge) {
    Group group = it.catalogue.groups().the(it.catalogue.groups().require(bridge.group()));
    int source = it.catalogue.accounts().require(group.account());
    if (bridge.status() != Bridge.Status.ACCEPTED || !it.directory.live[source]) {
      return;
    }
    int ref = ~it.catalogue.bridges().require(bridge.key());
    int subject = Line.code(new Subject.OfGroup(bridge.group()), it.catalogue);
    int given = given(bridge.gives(), false);
    int target = it.catalogue.accounts().require(bridge.account());
    int flags = Line.SPECIAL | Line.BRIDGE;
    if (bridge.scope().isEmpty()) {
      sink.line(false, subject, flags, Line.what(0, given), ref);
    }
    for (Clause clause : bridge.scope()) {
      int ground = ground(clause, target);
      if (it.given.require(given).denies) {
        put(true, subject, given, flags | Line.CROSSES, ground, ref);
      }
      put(false, subject, given, flags, ground, ref);
    }
  }

  /** {@return a delegation in numbers} */
  Cover read(Delegation delegation) {
    Ints given = null;
    if (delegation.limit() instanceof Delegation.Limit.Listed(List<Gives> listed)) {
      given = new Ints();
      for (Gives gives : listed) {
        given.add(given(gives, false));
      }
    }
    Ints covered = new Ints();
    for (Clause clause : delegation.scope()) {
      covered.add(ground(clause, -1));
    }
    return new Cover(
        it.catalogue.principals().require(delegation.delegate()),
        Times.of(delegation.window()),
        given == null ? null : given.toArray(),
        covered.toArray());
  }

  /** {@return the delegations in which a principal is acted for}, in numbers; null for none */
  @Nullable List<Cover> covers(int principal) {
    List<Delegation> delegations = it.catalogue.links().delegations(principal);
    return delegations.isEmpty() ? null : delegations.stream().map(this::read).toList();
  }

  static boolean isAlways(Window window) {
    return window.from() == null && window.until() == null;
  }

  /** The account where relative terms of an assignment to a subject stay (section 4), or -1. */
  private int homeOf(Subject subject) {
    return switch (subject) {
      case Subject.OfGroup(Key.Group key) ->
          it.catalogue
              .accounts()
              .require(it.catalogue.groups().the(it.catalogue.groups().require(key)).account());
      case Subject.OfAccount(Key.Account key) -> it.catalogue.accounts().require(key);
      case Subject.OfPattern(Key.Pattern key) -> {
        Key.Account account =
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
    GivenReader.Name name = new GivenReader.Name(gives, deny);
    int number = it.vocabulary.given(name);
    if (it.given.get(number) == null) {
      Given read = givens.read(name);
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
        sink.line(deny, subject, plain | flags, Line.what(0, given), ref);
      } else {
        put(deny, subject, given, flags, ground(clause, clause.relative() ? home : -1), ref);
      }
    }
  }

  /** {@return the number of a clause's ground} */
  int ground(Clause clause, int within) {
    int number = it.vocabulary.ground(clause, within);
    if (it.grounds.get(number) == null) {
      Ground read = grounds.read(clause, within);
      it.grounds = it.grounds.with(number, read);
      newGround.accept(read, number);
    }
    return number;
  }

  private void put(boolean deny, int subject, int given, int flags, int ground, int ref) {
    Ground read = it.grounds.require(ground);
    sink.line(deny, subject, read.bounds() | flags | read.flags(), Line.what(ground, given), ref);
  }
}
