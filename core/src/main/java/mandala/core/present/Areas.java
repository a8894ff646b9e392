package mandala.core.present;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;
import mandala.core.model.key.AccountKey;
import mandala.core.question.Extent;
import org.jspecify.annotations.Nullable;

/**
 * The areas of an account, in a fixed order: the account itself with its units and groups, then
 * what hangs directly under it by key, then its sub-accounts by key.
 */
public final class Areas {

  private Areas() {}

  /** What kind of area it is. */
  enum Kind {
    ORGANISATION,
    PLACE,
    ACCOUNT
  }

  /** An area: its top position and all that it covers. */
  record Area(Kind kind, int top, Spans where) {}

  /** {@return the areas of an account, sub-accounts last} */
  static List<Area> of(Snapshot it, int account) {
    ResourceSpace places = it.places;
    int top = places.accountAt[account];
    List<Area> areas = new ArrayList<>();
    Spans.Builder organisation = new Spans.Builder().add(top, top + 1, Spans.NO_FLOOR);
    List<Area> own = new ArrayList<>();
    List<Area> below = new ArrayList<>();
    int limit = places.end[top];
    for (int at = places.skip(top + 1, limit);
        at < limit;
        at = places.skip(places.end[at], limit)) {
      Spans tree = Spans.of(at, places.end[at], Spans.NO_FLOOR);
      if (places.account[at] != account) {
        below.add(new Area(Kind.ACCOUNT, at, tree));
      } else if (places.implicit(at)) {
        organisation.add(at, at + 1, Spans.NO_FLOOR);
        unitTree(places, at, organisation, own);
      } else {
        own.add(new Area(Kind.PLACE, at, tree));
      }
    }
    areas.add(new Area(Kind.ORGANISATION, top, organisation.build()));
    own.sort(byKey(places));
    below.sort(byKey(places));
    areas.addAll(own);
    areas.addAll(below);
    return areas;
  }

  /** Positions follow keys only until something comes or moves. */
  private static Comparator<Area> byKey(ResourceSpace places) {
    return Comparator.comparing(area -> places.key(area.top()).value());
  }

  /** Units below a unit belong to the organisation; resources that hang under a unit are places. */
  private static void unitTree(ResourceSpace places, int top, Spans.Builder units, List<Area> own) {
    int limit = places.end[top];
    for (int at = places.skip(top + 1, limit); at < limit; ) {
      if (places.implicit(at)) {
        units.add(at, at + 1, Spans.NO_FLOOR);
        at = places.skip(at + 1, limit);
      } else {
        own.add(new Area(Kind.PLACE, at, Spans.of(at, places.end[at], Spans.NO_FLOOR)));
        at = places.skip(places.end[at], limit);
      }
    }
  }

  /** {@return the accounts where an extent begins}: the one it names, or every root */
  static int[] tops(Snapshot it, Extent extent) {
    if (extent.in() != null) {
      return new int[] {account(it, extent.in())};
    }
    return IntStream.range(0, it.directory.accounts())
        .filter(a -> it.catalogue.accounts().the(a).parent() == null)
        .toArray();
  }

  static int account(Snapshot it, AccountKey key) {
    int id = it.catalogue.accounts().number(key);
    if (id < 0) {
      throw new IllegalArgumentException("There is no account '" + key + "'");
    }
    return id;
  }

  /** {@return the accounts outside of an extent's tree, in pre-order} */
  static int[] others(Snapshot it, Extent extent) {
    if (extent.in() == null) {
      return new int[0];
    }
    int top = account(it, extent.in());
    return IntStream.range(0, it.directory.accounts())
        .filter(a -> !it.directory.isAtOrBelow(a, top))
        .boxed()
        .sorted((a, b) -> Integer.compare(it.places.accountAt[a], it.places.accountAt[b]))
        .mapToInt(Integer::intValue)
        .toArray();
  }

  /** {@return every area that an extent covers}, without bridges */
  static @Nullable Set<Integer> only(Snapshot it, Extent extent) {
    return extent.only() == null
        ? null
        : extent.only().stream().map(key -> account(it, key)).collect(Collectors.toSet());
  }

  /** {@return the positions of some spans that lie in these accounts} */
  static Spans within(Snapshot it, Spans where, @Nullable Set<Integer> only) {
    if (only == null) {
      return where;
    }
    int[] sorted = only.stream().mapToInt(Integer::intValue).toArray();
    int[] starts = Arrays.stream(sorted).map(a -> it.places.accountAt[a]).sorted().toArray();
    Spans.Builder allowed = new Spans.Builder();
    for (int start : starts) {
      allowed.add(start, it.places.ownEnd[it.places.account[start]], Spans.NO_FLOOR);
    }
    return where.and(allowed.build());
  }
}
