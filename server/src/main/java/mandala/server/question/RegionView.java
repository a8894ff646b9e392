package mandala.server.question;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Region;
import mandala.document.Naming;

/**
 * A region as the API gives it.
 *
 * @param shape tree, itself, account, organisation or alike
 * @param resource its top, or the first of several alike
 * @param note how many of what it has, as people say it
 * @param door whether it lies in another account than the one looked at
 * @param members names of the first of several alike; else empty
 * @param more whether there are regions within that are told only when asked for
 */
record RegionView(
    String shape,
    String resource,
    String name,
    String account,
    String note,
    int size,
    boolean door,
    boolean sealed,
    List<String> members,
    List<CellView> cells,
    List<RegionView> below,
    boolean more) {

  private static final int NAMED_MEMBERS = 40;

  /** In a region with more cells, those in which nothing is held are left out. */
  private static final int MOST_CELLS = 60;

  /** About the size of a cell and of a region without its cells as JSON, in bytes. */
  private static final int CELL_SIZE = 110;

  private static final int REGION_SIZE = 260;

  /** About the size that the regions of one answer may have, in bytes. */
  static final int MOST_SIZE = 220_000;

  /** One permission in a region, counted in resources. */
  record CellView(
      String permission, int applicable, int allowed, int blocked, int denied, String sample) {}

  /**
   * {@return regions as far as they may be named}: those in which something is held, and those of
   * accounts that the viewer may read
   */
  static List<RegionView> of(List<Region> regions, Telling telling) {
    List<RegionView> views = new ArrayList<>();
    for (Region region : regions) {
      boolean readable = telling.readable().contains(region.account());
      if (readable || telling.isHeld(region)) {
        views.add(view(region, of(region.below(), telling), readable, telling));
      } else if (region.more()) {
        views.addAll(of(telling.access().inside(telling.extent(), region.top(), 0), telling));
      } else {
        views.addAll(of(region.below(), telling));
      }
    }
    return views;
  }

  /**
   * {@return the regions, those that lie deep folded where all of them would be too large for one
   * answer}: level by level from the top, as long as there is room; what is folded has {@code more}
   */
  static List<RegionView> fitting(List<RegionView> regions, int size) {
    int room = size - sizeOf(regions);
    Set<RegionView> whole = Collections.newSetFromMap(new IdentityHashMap<>());
    Deque<RegionView> waiting = new ArrayDeque<>(regions);
    while (!waiting.isEmpty()) {
      RegionView it = waiting.remove();
      int below = sizeOf(it.below);
      if (below <= room) {
        room -= below;
        whole.add(it);
        waiting.addAll(it.below);
      }
    }
    return folded(regions, whole);
  }

  private static int sizeOf(List<RegionView> regions) {
    return regions.stream()
        .mapToInt(it -> REGION_SIZE + it.cells.size() * CELL_SIZE + 20 * it.members.size())
        .sum();
  }

  private static List<RegionView> folded(List<RegionView> regions, Set<RegionView> whole) {
    return regions.stream()
        .map(it -> {
          boolean folds = !whole.contains(it) && !it.below.isEmpty();
          return new RegionView(
              it.shape,
              it.resource,
              it.name,
              it.account,
              it.note,
              it.size,
              it.door,
              it.sealed,
              it.members,
              it.cells,
              folds ? List.of() : folded(it.below, whole),
              it.more || folds);
        })
        .toList();
  }

  /**
   * How regions are told.
   *
   * @param extent of which they are the regions
   * @param naming what may be named
   * @param readable the accounts that the viewer may read
   */
  record Telling(Access access, Extent extent, Naming naming, Set<AccountKey> readable) {

    Catalogue catalogue() {
      return access.catalogue();
    }

    /**
     * Whether the principal is allowed something on the region's place, or on each place of a kind
     * in one that is all alike: then it may be told of by name (section 11).
     */
    private boolean isHeld(Region region) {
      boolean whole = region.below().isEmpty() && !region.more();
      return region.cells().stream()
          .filter(it -> it.allowed() > 0)
          .anyMatch(it -> naming.tells(whole ? it.sample() : region.top()));
    }

    private List<String> members(Region region, boolean isReadable) {
      return region.members().stream()
          .filter(it -> isReadable || naming.tells(it))
          .limit(NAMED_MEMBERS)
          .map(catalogue()::nameOf)
          .toList();
    }
  }

  private static RegionView view(
      Region region, List<RegionView> below, boolean readable, Telling telling) {
    Catalogue catalogue = telling.catalogue();
    AccountKey in = telling.extent().in();
    boolean door = in != null && !catalogue.isAtOrBelow(region.account(), in);
    int size = region.counts().values().stream().mapToInt(Integer::intValue).sum();
    boolean many = region.cells().size() > MOST_CELLS;
    return new RegionView(
        FigureView.word(region.shape()),
        region.top().value(),
        (door ? catalogue.nameOf(ResourceKey.of(region.account())) + " · " : "")
            + name(region, catalogue),
        region.account().value(),
        note(region, telling),
        size,
        door,
        region.sealed(),
        telling.members(region, readable),
        region.cells().stream()
            .filter(cell -> !many || cell.allowed() + cell.blocked() + cell.denied() > 0)
            .filter(cell -> readable || telling.naming().tells(cell.sample()))
            .map(cell ->
                new CellView(
                    cell.permission().value(),
                    cell.applicable(),
                    cell.allowed(),
                    cell.blocked(),
                    cell.denied(),
                    cell.sample().value()))
            .toList(),
        below,
        region.more());
  }

  private static String name(Region region, Catalogue catalogue) {
    return switch (region.shape()) {
      case TREE, ACCOUNT -> catalogue.nameOf(region.top());
      case ITSELF -> "This place itself";
      case ORGANISATION -> "The account itself";
      case ALIKE -> {
        int others = region.members().size() - 1;
        yield catalogue.nameOf(region.top())
            + " and "
            + others
            + (others == 1 ? " other" : " others");
      }
    };
  }

  private static String note(Region region, Telling telling) {
    Catalogue catalogue = telling.catalogue();
    if (region.shape() == Region.Shape.ACCOUNT) {
      int size = region.counts().values().stream().mapToInt(Integer::intValue).sum();
      return size + " resources";
    }
    if (region.shape() == Region.Shape.ITSELF) {
      return "";
    }
    TypeKey own = catalogue.typeOf(region.top());
    return region.counts().entrySet().stream()
        .map(entry ->
            Map.entry(
                entry.getKey(),
                region.shape() == Region.Shape.TREE && entry.getKey().equals(own)
                    ? entry.getValue() - 1
                    : entry.getValue()))
        .filter(entry -> entry.getValue() > 0)
        .sorted(Map.Entry.<TypeKey, Integer>comparingByValue().reversed())
        .limit(3)
        .map(entry -> entry.getValue() + " × " + typeName(entry.getKey(), telling))
        .collect(Collectors.joining(" · "));
  }

  private static String typeName(TypeKey type, Telling telling) {
    if (!telling.naming().tells(Kind.RESOURCE_TYPES, type.value())) {
      return "resource";
    }
    return telling.catalogue().find(Kind.RESOURCE_TYPES, type.value()).stream()
        .map(listed -> listed.about().nameOr(type).toLowerCase(java.util.Locale.ROOT))
        .findFirst()
        .orElse(type.value());
  }

  /** {@return the permissions that any of the regions speaks of} */
  static Set<String> permissionsIn(List<RegionView> regions) {
    Set<String> permissions = new HashSet<>();
    for (RegionView region : regions) {
      region.cells.forEach(cell -> permissions.add(cell.permission));
      permissions.addAll(permissionsIn(region.below));
    }
    return permissions;
  }
}
