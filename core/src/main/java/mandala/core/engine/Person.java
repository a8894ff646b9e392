package mandala.core.engine;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.List;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Principal.Level;
import mandala.core.model.Subject;
import org.jspecify.annotations.Nullable;

/**
 * One principal at one instant, compiled: what is allowed and denied where, as pieces.
 *
 * <p>1. {@link #cover} the accounts it belongs to. 2. {@link #join} the groups that contain it. 3.
 * {@link #take} the assignments of all its subjects that are in force, and the bridges of its
 * groups; each clause becomes spans, cut for allows to live accounts that it belongs to. Gates are
 * not read here: they ask for the whole (section 6).
 *
 * <p>The result holds as long as {@link #good} says. Immutable once built.
 */
final class Person {

  final boolean active;

  /** Allows of standing assignments and bridges; allows of activated just-in-time assignments. */
  final Pieces standing = new Pieces();

  final Pieces activated = new Pieces();
  final Pieces denies = new Pieces();

  /** Assignments and bridges in force, activated or not. */
  final List<Gives> held = new ArrayList<>();

  final Snapshot.Time good;

  private final Snapshot it;
  private final int id;
  private final @Nullable Principal principal;
  private final int home;
  private final Validity validity;
  private final BitSet guestOf = new BitSet();
  private final BitSet groups = new BitSet();
  private final Spans live;
  private @Nullable Spans belongs;
  private @Nullable Spans fullUnits;
  private @Nullable Spans viewUnits;
  private @Nullable Spans self;
  private @Nullable Spans team;

  /**
   * Compiles a principal.
   *
   * @param id the principal, or -1 for anonymous
   * @param at seconds since the epoch
   */
  Person(Snapshot it, int id, long at) {
    this.it = it;
    this.id = id;
    this.live = it.live;
    validity = new Validity(at);
    principal = id < 0 ? null : it.directory.principals.get(id);
    home = principal == null ? -1 : Snapshot.id(it.directory.accountId, principal.account());
    active =
        principal == null
            || (principal.status() == Principal.Status.ACTIVE
                && validity.holds(Snapshot.Time.of(principal.window()))
                && it.directory.live[home]);
    cover();
    join();
    takeAll();
    good = validity.span();
  }

  /** {@return whether the principal belongs to an account} (section 2) */
  boolean belongsTo(int account) {
    return principal != null && (it.directory.isAtOrBelow(account, home) || guestOf.get(account));
  }

  private void cover() {
    if (principal == null) {
      return;
    }
    for (Guest guest : it.directory.guestships.get(id)) {
      if (validity.holds(Snapshot.Time.of(guest.window()))) {
        int account = Snapshot.id(it.directory.accountId, guest.account());
        PreOrder order = it.directory.accountOrder;
        int from = order.rank[account];
        int to = guest.withSubaccounts() ? order.end[from] : from + 1;
        for (int rank = from; rank < to; rank++) {
          guestOf.set(order.node[rank]);
        }
      }
    }
  }

  /** {@return the live accounts that the principal belongs to} */
  private Spans reachable() {
    if (belongs == null) {
      BitSet accounts = new BitSet();
      accounts.or(guestOf);
      if (home >= 0) {
        PreOrder order = it.directory.accountOrder;
        int from = order.rank[home];
        for (int rank = from; rank < order.end[from]; rank++) {
          accounts.set(order.node[rank]);
        }
      }
      Spans.Builder spans = new Spans.Builder();
      accounts.stream()
          .boxed()
          .sorted((a, b) -> Integer.compare(it.places.accountAt[a], it.places.accountAt[b]))
          .forEach(a -> spans.add(it.places.accountAt[a], it.places.ownEnd[a], Spans.NO_FLOOR));
      belongs = spans.build().and(live);
    }
    return belongs;
  }

  private void join() {
    if (principal == null) {
      return;
    }
    Deque<Integer> open = new ArrayDeque<>();
    for (int g : it.directory.listedIn[id]) {
      enter(g, open);
    }
    byRule(home, principal, open);
    guestOf.stream().filter(account -> account != home).forEach(a -> byRule(a, principal, open));
    while (!open.isEmpty()) {
      for (int g : it.directory.nestedIn[open.remove()]) {
        enter(g, open);
      }
    }
  }

  private void byRule(int account, Principal who, Deque<Integer> open) {
    for (int g : it.directory.ruleGroups[account]) {
      Group group = it.directory.groups.get(g);
      if (group.rule() != null && !groups.get(g) && it.catalogue.passes(group.rule(), who)) {
        enter(g, open);
      }
    }
  }

  private void enter(int g, Deque<Integer> open) {
    if (!it.directory.groups.get(g).retired() && !groups.get(g)) {
      groups.set(g);
      open.add(g);
    }
  }

  private void takeAll() {
    takePublic(Subject.Public.ANYONE);
    if (principal == null) {
      takePublic(Subject.Public.ANONYMOUS);
      return;
    }
    takePublic(Subject.Public.SIGNED_IN);
    it.byPrincipal.get(id).forEach(this::take);
    if (principal.pattern() != null) {
      it.byPattern.getOrDefault(principal.pattern(), List.of()).forEach(this::take);
    }
    BitSet accounts = new BitSet();
    accounts.or(guestOf);
    accounts.set(home);
    accounts.stream().forEach(a -> it.byAccount.get(a).forEach(this::take));
    for (int g = groups.nextSetBit(0); g >= 0; g = groups.nextSetBit(g + 1)) {
      it.byGroup.get(g).forEach(this::take);
      it.bridges.get(g).forEach(this::take);
    }
  }

  private void takePublic(Subject.Public who) {
    it.byPublic.getOrDefault(who, List.of()).forEach(this::take);
  }

  private void take(Snapshot.Grant grant) {
    if (!validity.holds(grant.time())) {
      return;
    }
    held.add(grant.assignment().gives());
    Given given = grant.given();
    if (given.denies) {
      grant.scope().forEach(clause -> deny(clause, null, given));
    }
    if (!given.allows || (grant.justInTime() && !activated(grant))) {
      return;
    }
    Pieces into = grant.justInTime() ? activated : standing;
    Spans cut = grant.widely() ? live : reachable();
    grant.scope().forEach(clause -> allow(clause, cut, given, into));
    grant.viewScope().forEach(clause -> allowView(clause, cut, given, into));
  }

  private boolean activated(Snapshot.Grant grant) {
    boolean active = false;
    for (Snapshot.Active activation : it.activations.getOrDefault(id, List.of())) {
      active |=
          activation.assignment().equals(grant.assignment().key())
              && validity.holds(activation.time());
    }
    return active;
  }

  private void take(Snapshot.BridgeGrant bridge) {
    if (!belongsTo(bridge.source()) || !validity.holds(bridge.time())) {
      return;
    }
    held.add(bridge.bridge().gives());
    for (Scopes.Compiled clause : bridge.scope()) {
      if (bridge.given().denies) {
        deny(clause, bridge.cut(), bridge.given());
      }
      if (bridge.given().allows) {
        allow(clause, bridge.cut().and(live), bridge.given(), standing);
      }
    }
  }

  private void allow(Scopes.Compiled clause, Spans cut, Given given, Pieces into) {
    Spans where = relative(clause).and(cut);
    if (!clause.ownUnit()) {
      into.add(where, clause.type(), given.free, given.all);
      return;
    }
    into.add(where.and(units(Level.FULL)), clause.type(), given.free, given.all);
    into.add(where.and(units(Level.VIEW)), clause.type(), given.freeView, given.allView);
  }

  private void allowView(Scopes.Compiled clause, Spans cut, Given given, Pieces into) {
    Spans where = relative(clause).and(cut);
    if (!clause.ownUnit()) {
      into.add(where, clause.type(), given.freeView, given.allView);
      return;
    }
    for (Level level : Level.values()) {
      into.add(where.and(units(level)), clause.type(), given.freeView, given.allView);
    }
  }

  private void deny(Scopes.Compiled clause, @Nullable Spans cut, Given given) {
    covered(clause, cut, denies, given.deny);
  }

  /** Adds a row wherever a clause covers, seals aside and every reach in full. */
  void covered(Scopes.Compiled clause, @Nullable Spans cut, Pieces into, long[] row) {
    Spans where = relative(clause);
    if (cut != null) {
      where = where.and(cut);
    }
    if (!clause.ownUnit()) {
      into.add(where.through(), clause.type(), row, row);
      return;
    }
    for (Level level : Level.values()) {
      into.add(where.and(units(level)).through(), clause.type(), row, row);
    }
  }

  /** A clause's spans with all its relative terms but the own unit. */
  private Spans relative(Scopes.Compiled clause) {
    Spans where = clause.fixed();
    if (clause.ownAccount()) {
      where = home < 0 ? Spans.EMPTY : where.and(it.places.own(home));
    }
    if (clause.self()) {
      where = where.and(owned(false));
    }
    if (clause.team()) {
      where = where.and(owned(true));
    }
    return where;
  }

  private Spans owned(boolean withTeam) {
    Spans known = withTeam ? team : self;
    if (known == null) {
      known = id < 0 ? Spans.EMPTY : Scopes.owned(it.places, it.directory, id, withTeam);
      if (withTeam) {
        team = known;
      } else {
        self = known;
      }
    }
    return known;
  }

  private Spans units(Level level) {
    Spans known = level == Level.FULL ? fullUnits : viewUnits;
    if (known == null) {
      Ints units = new Ints();
      if (principal != null) {
        if (level == Level.FULL && principal.unit() != null) {
          units.add(Snapshot.id(it.directory.unitId, principal.unit()));
        }
        principal.reach().stream()
            .filter(reach -> reach.level() == level)
            .forEach(reach -> units.add(Snapshot.id(it.directory.unitId, reach.unit())));
      }
      known = Scopes.units(it.places, it.directory, units.toArray());
      if (level == Level.FULL) {
        fullUnits = known;
      } else {
        viewUnits = known;
      }
    }
    return known;
  }
}
