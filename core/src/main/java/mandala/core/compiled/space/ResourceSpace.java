package mandala.core.compiled.space;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.rights.Rights;
import mandala.core.model.Catalogue;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.UnitKey;
import mandala.core.table.IntList;
import mandala.core.table.Numbers;
import mandala.core.table.Table;

/**
 * All resources, implicit ones included, in one pre-order with gaps: a resource and all below it
 * are the positions from its own up to, not including, its end. Under an account its own resources
 * come first, then a gap, then its sub-accounts, so that what is in an account alone is one span
 * too. Gaps let resources come and move without renumbering others; a position in a gap has the
 * type -1, and its parent is the resource whose gap it is.
 *
 * <p>Positions and numbers are the snapshot's own and never leave the package. Immutable once
 * published; {@link ResourceSpaceEdit} makes the next one of it.
 */
public final class ResourceSpace {

  /** In {@link #node}: what kind of thing a position is, in the top two bits. */
  static final int RESOURCE = 0;

  static final int GROUP = 1 << 29;
  static final int UNIT = 2 << 29;
  static final int ACCOUNT = 3 << 29;
  private static final int KIND = 3 << 29;

  final Catalogue catalogue;

  /** How many positions there are, gaps included. */
  public final int count;

  /** Something came or moved, so that neighbours need not stand in the order of their keys. */
  public boolean moved;

  /** By position: the kind and number of what stands there; -1 in a gap. */
  public int[] node;

  public int[] end;
  public int[] parent;
  public int[] type;
  public int[] account;

  /** The nearest sealed resource at or above; -1 where there is none. */
  public int[] seal;

  /** The next sealed resource at or after; {@link #count} where there is none. */
  public int[] nextSeal;

  public int[] unit;
  public int[] owner;
  public int[] labels;

  /**
   * By position of a resource with others below: what is in its subtree, as pairs of lane and
   * count. Null where there is nothing below.
   */
  public int[][] kinds;

  /** Distinct effective labels; only ever grows. */
  public List<Map<String, String>> labelSets;

  /** By account: the position of its resource, and where its own resources end. */
  public final int[] accountAt;

  public final int[] ownEnd;

  /** By the number of a unit, a group, a resource: its position. */
  int[] unitAt;

  Numbers groupAt;
  Numbers resourceAt;

  /** By type: its positions, ascending. */
  public int[][] ofType;

  /** By principal: the positions of what it owns, ascending. */
  public Table<int[]> owned;

  /** By unit: where the effective unit is that one or below it. */
  public Table<Spans> inUnit;

  public ResourceSpace(Catalogue catalogue, Directory directory, Rights rights) {
    this.catalogue = catalogue;
    ResourceSpaceBuild build = new ResourceSpaceBuild(catalogue, directory, rights);
    count = build.count;
    node = build.node;
    end = build.end;
    parent = build.parent;
    accountAt = build.accountAt;
    ownEnd = build.ownEnd;
    unitAt = build.unitAt;
    groupAt = Numbers.of(build.groupAt);
    resourceAt = Numbers.of(build.resourceAt);
    type = new int[count];
    account = new int[count];
    seal = new int[count];
    unit = new int[count];
    owner = new int[count];
    labels = new int[count];
    labelSets = new ArrayList<>();
    Map<Map<String, String>, Integer> labelIds = new HashMap<>();
    for (int at = 0; at < count; at++) {
      new ResourceFacts(this, directory, rights).read(at, labelIds);
    }
    nextSeal = nextSeals(seal);
    kinds = ResourceSpaceBuild.kinds(this, rights);
    ofType = ResourceSpaceBuild.ofType(this, rights);
    owned = ResourceSpaceBuild.owned(this, catalogue.principals().numbers());
    inUnit = ResourceSpaceBuild.inUnit(this, directory);
  }

  /** A copy to be changed before it is published. */
  public ResourceSpace(ResourceSpace before, Catalogue catalogue) {
    this.catalogue = catalogue;
    count = before.count;
    moved = before.moved;
    node = before.node;
    end = before.end;
    parent = before.parent;
    type = before.type;
    account = before.account;
    seal = before.seal;
    nextSeal = before.nextSeal;
    unit = before.unit;
    owner = before.owner;
    labels = before.labels;
    kinds = before.kinds;
    labelSets = before.labelSets;
    accountAt = before.accountAt;
    ownEnd = before.ownEnd;
    unitAt = before.unitAt;
    groupAt = before.groupAt;
    resourceAt = before.resourceAt;
    ofType = before.ofType;
    owned = before.owned;
    inUnit = before.inUnit;
  }

  static int[] nextSeals(int[] seal) {
    int[] next = new int[seal.length + 1];
    next[seal.length] = seal.length;
    for (int at = seal.length - 1; at >= 0; at--) {
      next[at] = seal[at] == at ? at : next[at + 1];
    }
    return next;
  }

  /** {@return the position of a resource}, or -1 where there is none */
  public int find(ResourceKey resource) {
    String text = resource.value();
    int colon = text.indexOf(':');
    if (colon < 0) {
      int number = catalogue.resources().number(resource);
      return number < 0 ? -1 : resourceAt.get(number);
    }
    if (text.substring(colon + 1).isBlank()) {
      return -1;
    }
    String rest = text.substring(colon + 1);
    switch (text.substring(0, colon)) {
      case "account" -> {
        int number = catalogue.accounts().number(new AccountKey(rest));
        return number < 0 ? -1 : accountAt[number];
      }
      case "unit" -> {
        int number = catalogue.units().number(new UnitKey(rest));
        return number < 0 ? -1 : unitAt[number];
      }
      case "group" -> {
        int number = catalogue.groups().number(new GroupKey(rest));
        return number < 0 ? -1 : groupAt.get(number);
      }
      default -> {
        return -1;
      }
    }
  }

  /** {@return the position of a resource that a checked model must have} */
  public int require(ResourceKey resource) {
    int at = find(resource);
    if (at < 0) {
      throw new IllegalStateException("Impossible state: a checked model lacks " + resource);
    }
    return at;
  }

  /** {@return the key of the resource at a position} */
  public ResourceKey key(int at) {
    int number = number(at);
    return switch (kind(at)) {
      case RESOURCE -> catalogue.resources().the(number).key();
      case GROUP -> ResourceKey.of(catalogue.groups().the(number).key());
      case UNIT -> ResourceKey.of(catalogue.units().the(number).key());
      default -> ResourceKey.of(catalogue.accounts().the(number).key());
    };
  }

  int kind(int at) {
    return node[at] & KIND;
  }

  /** {@return the number of the thing at a position in the catalogue's register of its kind} */
  int number(int at) {
    return node[at] & ~KIND;
  }

  public boolean implicit(int at) {
    return kind(at) != RESOURCE;
  }

  /** {@return whether there is a resource at a position}, not a gap */
  public boolean isThere(int at) {
    return type[at] >= 0;
  }

  /** {@return the first position from one on, before a limit, that is no gap}, else the limit */
  public int skip(int from, int limit) {
    int at = from;
    while (at < limit && type[at] < 0) {
      at++;
    }
    return at;
  }

  /** {@return how many resources of a type lie in a stretch} */
  public int count(int ofThisType, int from, int to) {
    int[] positions = ofType[ofThisType];
    return IntList.lowerBound(positions, to) - IntList.lowerBound(positions, from);
  }

  /** {@return how many resources lie in some spans} */
  public int count(Spans where) {
    int sum = 0;
    for (int i = 0; i < where.size(); i++) {
      for (int at = where.start[i]; at < where.end[i]; at++) {
        sum += type[at] >= 0 ? 1 : 0;
      }
    }
    return sum;
  }

  public Spans tree(int at) {
    return Spans.of(at, end[at], at);
  }

  /** {@return the resources of an account alone} */
  public Spans own(int accountNumber) {
    return Spans.of(accountAt[accountNumber], ownEnd[accountNumber], accountAt[accountNumber]);
  }

  /** {@return an account and all below it, naming nothing} */
  public Spans under(int accountNumber) {
    int at = accountAt[accountNumber];
    return Spans.of(at, end[at], Spans.NO_FLOOR);
  }

  /** {@return the resource of a gate for a position}, or -1 where there is none (section 6) */
  public int gateAt(Rights rights, int gate, int at) {
    int home = account[at];
    int here = at;
    while (here >= 0 && account[here] == home) {
      if (rights.bit[type[here]][gate] >= 0) {
        return here;
      }
      here = parent[here];
    }
    return -1;
  }

  /** {@return whether the same stands at a position of other places, its seal aside} */
  public boolean isSameButForSeal(ResourceSpace other, int at) {
    return node[at] == other.node[at]
        && parent[at] == other.parent[at]
        && type[at] == other.type[at]
        && unit[at] == other.unit[at]
        && owner[at] == other.owner[at]
        && labels[at] == other.labels[at];
  }

  boolean isAccount(int at) {
    return kind(at) == ACCOUNT;
  }

  /** {@return positions as spans of one}, each with a floor */
  public static Spans points(int[] ascending, java.util.function.IntUnaryOperator floor) {
    Spans.Builder spans = new Spans.Builder();
    int before = -1;
    for (int at : ascending) {
      if (at != before) {
        spans.add(at, at + 1, floor.applyAsInt(at));
      }
      before = at;
    }
    return spans.build();
  }

  public static int[] merged(int[] list, int size) {
    int[] sorted = Arrays.copyOf(list, size);
    Arrays.sort(sorted);
    return sorted;
  }
}
