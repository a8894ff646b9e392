package mandala.core.compiled.directory;

import java.util.Arrays;
import java.util.BitSet;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Principal.Level;
import mandala.core.model.Unit;
import mandala.core.model.key.Key;
import mandala.core.rule.GroupRules;
import mandala.core.table.IntList;
import mandala.core.table.PreOrder;
import mandala.core.table.Register;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * Accounts, units, principals and groups in numbers, and who is where (section 2). Immutable once
 * published; {@link DirectoryEdit} makes the next one of it, sharing what did not change.
 */
public final class Directory {

  public static final int[] NONE = new int[0];

  public final Catalogue catalogue;
  public final PreOrder accountOrder;
  final PreOrder unitOrder;

  /** By account: it and all above it are active. */
  public final boolean[] live;

  /** By principal. */
  public Table<Profile> profiles;

  /** By manager: who reports to it directly. */
  public Table<int[]> reports;

  /** By account: whose home it is. By pattern: who names it. Ascending. */
  public Table<int[]> staff;

  public Table<int[]> patternPeople;

  /** By group: principals that it lists or takes in from its own account by its rule, ascending. */
  public Table<int[]> members;

  /** By group: the groups that it lists. */
  public Table<int[]> inner;

  public Directory(Catalogue catalogue) {
    this.catalogue = catalogue;
    accountOrder = PreOrder.of(parents(catalogue.accounts(), Account::parent));
    unitOrder = PreOrder.of(parents(catalogue.units(), Unit::parent));
    live = new boolean[catalogue.accounts().numbers()];
    for (int a = 0; a < live.length; a++) {
      live[a] = catalogue.isLive(catalogue.accounts().the(a).key());
    }
    profiles = Table.empty();
    reports = Table.empty();
    staff = Table.empty();
    patternPeople = Table.empty();
    members = Table.empty();
    inner = Table.empty();
    new DirectoryBuild(this).run();
  }

  /**
   * A copy to be changed before it is published, of a catalogue with the same accounts and units.
   */
  public Directory(Directory before, Catalogue catalogue) {
    this.catalogue = catalogue;
    accountOrder = before.accountOrder;
    unitOrder = before.unitOrder;
    live = before.live;
    profiles = before.profiles;
    reports = before.reports;
    staff = before.staff;
    patternPeople = before.patternPeople;
    members = before.members;
    inner = before.inner;
  }

  private static <K extends Key, T> int[] parents(
      Register<K, T> things, java.util.function.Function<T, @Nullable K> parent) {
    int[] above = new int[things.numbers()];
    for (int i = 0; i < above.length; i++) {
      K up = parent.apply(things.the(i));
      above[i] = up == null ? -1 : things.require(up);
    }
    return above;
  }

  public int accounts() {
    return live.length;
  }

  /** {@return a principal in numbers, without its groups} */
  Profile profile(Principal it) {
    int home = catalogue.accounts().require(it.account());
    int unit = it.unit() == null ? -1 : catalogue.units().require(it.unit());
    IntList full = new IntList();
    IntList view = new IntList();
    if (unit >= 0) {
      full.add(unit);
    }
    for (Principal.Reach reach : it.reach()) {
      (reach.level() == Level.FULL ? full : view).add(catalogue.units().require(reach.unit()));
    }
    return new Profile(
        it,
        home,
        unit,
        it.manager() == null ? -1 : catalogue.principals().require(it.manager()),
        it.pattern() == null ? -1 : catalogue.patterns().require(it.pattern()),
        it.status() == Principal.Status.ACTIVE && live[home],
        NONE,
        full.size() == 0 ? NONE : full.toArray(),
        view.size() == 0 ? NONE : view.toArray());
  }

  public boolean retired(int group) {
    return catalogue.groups().the(group).retired();
  }

  /** {@return whether a principal passes the rule of a group, whatever its account} */
  public boolean passes(int group, Principal who) {
    Group it = catalogue.groups().the(group);
    return it.rule() != null && GroupRules.passes(it.rule(), who, catalogue);
  }

  /**
   * {@return the active groups that contain a principal apart from time}: listed, by a rule at
   * home, and through nesting
   */
  public int[] groupsOf(int principal, Profile profile) {
    Closure closure = new Closure();
    for (int g : catalogue.links().listing(principal)) {
      closure.enter(g);
    }
    for (int g : catalogue.links().ruled(profile.home)) {
      if (passes(g, profile.principal)) {
        closure.enter(g);
      }
    }
    return closure.close();
  }

  /**
   * {@return the same with what guest memberships add}
   *
   * @param guestOf the accounts that memberships in force cover
   */
  public int[] groupsOf(Profile profile, BitSet guestOf) {
    Closure closure = new Closure();
    for (int g : profile.groups) {
      closure.enter(g);
    }
    for (int a = guestOf.nextSetBit(0); a >= 0; a = guestOf.nextSetBit(a + 1)) {
      for (int g : catalogue.links().ruled(a)) {
        if (passes(g, profile.principal)) {
          closure.enter(g);
        }
      }
    }
    return closure.close();
  }

  /** Groups entered so far, and all that list them; a handful, so searched in order. */
  private final class Closure {
    private int[] found = new int[16];
    private int size;

    void enter(int group) {
      for (int i = 0; i < size; i++) {
        if (found[i] == group) {
          return;
        }
      }
      if (!retired(group)) {
        if (size == found.length) {
          found = Arrays.copyOf(found, size * 2);
        }
        found[size++] = group;
      }
    }

    int[] close() {
      for (int i = 0; i < size; i++) {
        for (int outer : catalogue.links().nesting(found[i])) {
          enter(outer);
        }
      }
      return size == 0 ? NONE : Arrays.copyOf(found, size);
    }
  }

  /** {@return whether an account is another or below it} */
  public boolean isAtOrBelow(int account, int top) {
    int rank = accountOrder.rank[account];
    int from = accountOrder.rank[top];
    return from <= rank && rank < accountOrder.end[from];
  }

  /** {@return whether a unit is another or below it} */
  public boolean unitIsAtOrBelow(int unit, int top) {
    int rank = unitOrder.rank[unit];
    int from = unitOrder.rank[top];
    return from <= rank && rank < unitOrder.end[from];
  }
}
