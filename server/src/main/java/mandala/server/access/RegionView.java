package mandala.server.access;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.engine.Region;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import org.jspecify.annotations.Nullable;

/**
 * A region as the API gives it.
 *
 * @param shape tree, account, organisation or alike
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

  /** One permission in a region, counted in resources. */
  record CellView(
      String permission, int applicable, int allowed, int blocked, int denied, String sample) {}

  /**
   * {@return regions as far as they may be named}: those in which something is held, and those of
   * accounts that the viewer may read
   */
  static List<RegionView> of(
      List<Region> regions,
      Catalogue catalogue,
      Set<Key.Account> readable,
      Key.@Nullable Account in) {
    List<RegionView> views = new ArrayList<>();
    for (Region region : regions) {
      boolean told = readable.contains(region.account());
      List<RegionView> below = of(region.below(), catalogue, readable, in);
      if (told || region.held()) {
        views.add(view(region, below, catalogue, in));
      } else {
        views.addAll(below);
      }
    }
    return views;
  }

  private static RegionView view(
      Region region, List<RegionView> below, Catalogue catalogue, Key.@Nullable Account in) {
    boolean door = in != null && !catalogue.isAtOrBelow(region.account(), in);
    int size = region.counts().values().stream().mapToInt(Integer::intValue).sum();
    List<String> members =
        region.members().stream().limit(NAMED_MEMBERS).map(catalogue::nameOf).toList();
    return new RegionView(
        FigureView.word(region.shape()),
        region.top().value(),
        (door ? catalogue.nameOf(Key.Resource.of(region.account())) + " · " : "")
            + name(region, catalogue),
        region.account().value(),
        note(region, catalogue),
        size,
        door,
        region.sealed(),
        members,
        region.cells().stream()
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

  private static String note(Region region, Catalogue catalogue) {
    if (region.shape() == Region.Shape.ACCOUNT) {
      int size = region.counts().values().stream().mapToInt(Integer::intValue).sum();
      return size + " resources";
    }
    Key.Type own = catalogue.typeOf(region.top());
    return region.counts().entrySet().stream()
        .map(entry ->
            Map.entry(
                entry.getKey(),
                region.shape() == Region.Shape.TREE && entry.getKey().equals(own)
                    ? entry.getValue() - 1
                    : entry.getValue()))
        .filter(entry -> entry.getValue() > 0)
        .sorted(Map.Entry.<Key.Type, Integer>comparingByValue().reversed())
        .limit(3)
        .map(entry -> entry.getValue() + " × " + typeName(entry.getKey(), catalogue))
        .collect(Collectors.joining(" · "));
  }

  private static String typeName(Key.Type type, Catalogue catalogue) {
    return catalogue.find(Kind.RESOURCE_TYPES, type.value()).stream()
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
