package mandala.core.present;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;
import mandala.core.evaluate.Ranges;
import mandala.core.model.Permission;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.question.Extent;
import mandala.core.question.Region;
import mandala.core.question.Verdict;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Folds the resource tree into regions of equal rights.
 *
 * <p>1. Positions get signatures ({@link Signatures}). 2. {@link #summarise} joins them upward: the
 * summary of a subtree says for each type the one signature it has there, or that they differ.
 * Joined pairs are remembered, so each position costs one look-up. 3. {@link #tree} makes rows from
 * the top: a subtree that has a summary is one row, else the place itself and what lies in it;
 * neighbours with the same summary are one row; from a depth on, rows only say that there is more.
 * 4. {@link #cells} counts each row by signatures.
 */
final class Regions {

  private static final int MIXED = -1;

  /** Containers that are alike get rows of their own up to this many. */
  private static final int FEW = 3;

  private final Access access;
  private final Snapshot it;
  private final ResourceSpace places;
  private final Signatures signatures;
  private final @Nullable Set<Integer> only;
  private final int[] summary;
  private final List<Map<Integer, Integer>> summaries = new ArrayList<>();
  private final Map<List<Long>, Integer> summaryIds = new HashMap<>();
  private final Map<Long, Integer> joined = new HashMap<>();

  private Regions(Access access, Spans where, @Nullable Set<Integer> only) {
    this.access = access;
    this.it = access.it;
    this.places = it.places;
    this.only = only;
    signatures = new Signatures(access, Areas.within(it, where, only));
    summary = new int[places.count];
    summarise(where);
  }

  /**
   * All that an extent may tell of: what lies in its tree, and accounts where something is held.
   */
  private static Spans where(Access access, Extent extent) {
    Snapshot it = access.it;
    BitSet where = new BitSet();
    for (int top : Areas.tops(it, extent)) {
      where.set(it.places.accountAt[top], it.places.end[it.places.accountAt[top]]);
    }
    if (extent.doors()) {
      for (int other : Areas.others(it, extent)) {
        if (access.accessMap.touches(it.places.accountAt[other], it.places.ownEnd[other])) {
          where.set(it.places.accountAt[other], it.places.ownEnd[other]);
        }
      }
    }
    return Ranges.runs(where);
  }

  static List<Region> inside(Access access, Extent extent, ResourceKey top, int depth) {
    int at = access.it.places.find(top);
    if (at < 0) {
      throw new IllegalArgumentException("There is no resource '" + top + "'");
    }
    Regions regions = new Regions(access, access.it.places.tree(at), Areas.only(access.it, extent));
    if (regions.summary[at] != MIXED) {
      return List.of();
    }
    int account = access.it.places.account[at];
    return access.it.places.accountAt[account] == at
        ? regions.areas(account, true, depth)
        : regions.below(at, depth);
  }

  static List<Region> of(Access access, Extent extent, int depth) {
    Regions regions = new Regions(access, where(access, extent), Areas.only(access.it, extent));
    List<Region> rows = new ArrayList<>();
    int[] tops = Areas.tops(access.it, extent);
    for (int top : tops) {
      if (extent.in() == null && tops.length > 1) {
        rows.addAll(regions.account(access.it.places.accountAt[top], depth));
      } else {
        rows.addAll(regions.areas(top, true, depth));
      }
    }
    if (extent.doors()) {
      for (int other : Areas.others(access.it, extent)) {
        regions.areas(other, false, depth).stream().filter(Region::held).forEach(rows::add);
      }
    }
    return rows;
  }

  private void summarise(Spans where) {
    int nothing = summaryOf(Map.of());
    for (int i = where.size() - 1; i >= 0; i--) {
      for (int at = where.start[i]; at < where.end[i]; at++) {
        summary[at] =
            signatures.of[at] < 0 || !places.isThere(at)
                ? nothing
                : summaryOf(Map.of(places.type[at], signatures.of[at]));
      }
      for (int at = where.end[i] - 1; at >= where.start[i]; at--) {
        int up = places.parent[at];
        if (up >= where.start[i] && places.isThere(at)) {
          summary[up] = join(summary[up], summary[at]);
        }
      }
    }
  }

  /** Found by type and signature one after the other: the hash of a map of numbers says little. */
  private int summaryOf(Map<Integer, Integer> bySignature) {
    List<Long> key =
        bySignature.entrySet().stream()
            .map(entry -> (long) entry.getKey() << 32 | entry.getValue())
            .sorted()
            .toList();
    return summaryIds.computeIfAbsent(
        key,
        _ -> {
          summaries.add(bySignature);
          return summaries.size() - 1;
        });
  }

  private int join(int a, int b) {
    if (a == MIXED || b == MIXED) {
      return MIXED;
    }
    if (a == b) {
      return a;
    }
    long pair = (long) a << 32 | b;
    Integer known = joined.get(pair);
    if (known == null) {
      Map<Integer, Integer> both = new HashMap<>(summaries.get(a));
      boolean alike =
          summaries.get(b).entrySet().stream()
              .allMatch(entry -> {
                Integer before = both.putIfAbsent(entry.getKey(), entry.getValue());
                return before == null || before.equals(entry.getValue());
              });
      known = alike ? summaryOf(both) : MIXED;
      joined.put(pair, known);
    }
    return known;
  }

  private List<Region> areas(int account, boolean withBelow, int depth) {
    List<Region> rows = new ArrayList<>();
    for (Areas.Area area : Areas.of(it, account)) {
      switch (area.kind()) {
        case ORGANISATION ->
            row(Region.Shape.ORGANISATION, area.top(), area.where(), List.of(), List.of(), false)
                .ifPresent(rows::add);
        case PLACE -> tree(area.top(), depth).ifPresent(rows::add);
        case ACCOUNT -> {
          if (withBelow) {
            rows.addAll(account(area.top(), depth));
          }
        }
      }
    }
    return rows;
  }

  private List<Region> account(int top, int depth) {
    boolean mixed = summary[top] == MIXED;
    List<Region> below =
        mixed && depth > 0 ? areas(places.account[top], true, depth - 1) : List.of();
    return row(
            Region.Shape.ACCOUNT,
            top,
            Spans.of(top, places.end[top], Spans.NO_FLOOR),
            List.of(),
            below,
            mixed && depth <= 0)
        .map(List::of)
        .orElse(List.of());
  }

  private java.util.Optional<Region> tree(int top, int depth) {
    boolean mixed = summary[top] == MIXED;
    List<Region> below = mixed && depth > 0 ? below(top, depth - 1) : List.of();
    return row(
        Region.Shape.TREE,
        top,
        Spans.of(top, places.end[top], Spans.NO_FLOOR),
        List.of(),
        below,
        mixed && depth <= 0);
  }

  private record Alike(int summary, boolean leaf) {}

  private List<Region> below(int top, int depth) {
    Map<Alike, IntList> groups = new LinkedHashMap<>();
    List<Integer> order = new ArrayList<>();
    int limit = places.end[top];
    List<Integer> children = new ArrayList<>();
    for (int at = places.skip(top + 1, limit);
        at < limit;
        at = places.skip(places.end[at], limit)) {
      children.add(at);
    }
    if (places.moved) {
      children.sort(Comparator.comparing(at -> places.key(at).value()));
    }
    for (int at : children) {
      if (summary[at] == MIXED) {
        order.add(at);
        continue;
      }
      Alike alike = new Alike(summary[at], places.end[at] == at + 1);
      IntList members = groups.get(alike);
      if (members == null) {
        members = new IntList();
        groups.put(alike, members);
        order.add(at);
      }
      members.add(at);
    }
    List<Region> rows = new ArrayList<>();
    row(
            Region.Shape.ITSELF,
            top,
            Spans.of(top, top + 1, Spans.NO_FLOOR),
            List.of(),
            List.of(),
            false)
        .ifPresent(rows::add);
    for (int at : order) {
      IntList members =
          summary[at] == MIXED
              ? null
              : groups.get(new Alike(summary[at], places.end[at] == at + 1));
      if (members == null || members.size() == 1) {
        tree(at, depth).ifPresent(rows::add);
      } else if (places.end[at] > at + 1 && members.size() <= FEW) {
        for (int each : members.toArray()) {
          tree(each, depth).ifPresent(rows::add);
        }
      } else {
        alike(members.toArray()).ifPresent(rows::add);
      }
    }
    return rows;
  }

  private java.util.Optional<Region> alike(int[] members) {
    Spans.Builder where = new Spans.Builder();
    for (int at : members) {
      where.add(at, places.end[at], Spans.NO_FLOOR);
    }
    List<ResourceKey> keys = Arrays.stream(members).mapToObj(at -> places.key(at)).toList();
    return row(Region.Shape.ALIKE, members[0], where.build(), keys, List.of(), false);
  }

  private java.util.Optional<Region> row(
      Region.Shape shape,
      int top,
      Spans where,
      List<ResourceKey> members,
      List<Region> below,
      boolean more) {
    Spans told = Areas.within(it, where, only);
    if (told.size() == 0) {
      return java.util.Optional.empty();
    }
    int[] tally = signatures.tally(told);
    int[] ofType = new int[it.rights.types.size()];
    for (int s = 0; s < tally.length; s++) {
      ofType[signatures.type.get(s)] += tally[s];
    }
    Map<TypeKey, Integer> counts = new LinkedHashMap<>();
    for (int t = 0; t < ofType.length; t++) {
      if (ofType[t] > 0) {
        counts.put(it.rights.types.get(t), ofType[t]);
      }
    }
    return java.util.Optional.of(
        new Region(
            shape,
            places.key(top),
            it.catalogue.accounts().the(places.account[top]).key(),
            members,
            counts,
            places.seal[top] == top,
            cells(tally, told),
            List.copyOf(below),
            more));
  }

  /** Counts of one permission, and the position with the strongest verdict so far. */
  private static final class Count {
    int applicable;
    int allowed;
    int blocked;
    int denied;
    Verdict strongest = Verdict.NONE;
    int signature;
  }

  private List<Region.Cell> cells(int[] tally, Spans where) {
    Map<Integer, Count> counts = new HashMap<>();
    for (int s = 0; s < tally.length; s++) {
      if (tally[s] > 0) {
        count(s, tally[s], counts);
      }
    }
    int[] firstOf = new int[tally.length];
    Arrays.fill(firstOf, -1);
    for (int i = 0; i < where.size(); i++) {
      for (int at = where.start[i]; at < where.end[i]; at++) {
        int s = signatures.of[at];
        if (s >= 0 && firstOf[s] < 0) {
          firstOf[s] = at;
        }
      }
    }
    return counts.entrySet().stream()
        .sorted(Comparator.comparingInt(entry -> shown(entry.getKey())))
        .map(entry -> {
          Count count = entry.getValue();
          return new Region.Cell(
              it.rights.permissions.get(entry.getKey()).key(),
              count.applicable,
              count.allowed,
              count.blocked,
              count.denied,
              places.key(firstOf[count.signature]));
        })
        .toList();
  }

  /** The one fixed order of permissions: by class, then risk, then as the model lists them. */
  private int shown(int permission) {
    Permission p = it.rights.permissions.get(permission);
    return (p.accessClass().ordinal() * 4 + p.risk().ordinal()) << 20 | permission;
  }

  private void count(int signature, int many, Map<Integer, Count> counts) {
    int at = signatures.first.get(signature);
    int[] permissions = it.rights.ofType[signatures.type.get(signature)];
    for (int bit = 0; bit < permissions.length; bit++) {
      Count count = counts.get(permissions[bit]);
      Verdict verdict = access.bit(at, bit);
      if (count == null) {
        count = new Count();
        count.signature = signature;
        counts.put(permissions[bit], count);
      }
      count.applicable += many;
      switch (verdict) {
        case ALLOWED -> count.allowed += many;
        case BLOCKED -> count.blocked += many;
        case DENIED -> count.denied += many;
        case ERROR, INACTIVE, NO_DELEGATION, NOT_APPLICABLE, NONE -> {
          // only applicable
        }
      }
      if (strength(verdict) > strength(count.strongest)) {
        count.strongest = verdict;
        count.signature = signature;
      }
    }
  }

  private static int strength(Verdict verdict) {
    return switch (verdict) {
      case ALLOWED -> 3;
      case BLOCKED -> 2;
      case DENIED -> 1;
      case ERROR, INACTIVE, NO_DELEGATION, NOT_APPLICABLE, NONE -> 0;
    };
  }
}
