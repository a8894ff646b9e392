package mandala.server.catalog;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Permission;
import mandala.server.question.FigureView;

/**
 * Figures of many people in a list, without names: the areas once, and of each person only what is
 * drawn.
 */
final class Thumbprints {

  /** An area of the figures; {@code door}: in another account, {@code account}: a sub-account. */
  record Area(boolean account, boolean door, int size) {}

  /**
   * One person's figure.
   *
   * @param areas positions in the list's areas, in the order in which they are drawn
   * @param petals each a position in {@code areas}, the class (0 view, 1 change, 2 administer), and
   *     the resources that it applies to, is allowed on, is blocked on and is denied on; then the
   *     highest risk from 1 (low) to 4 (critical), 0 for none. Petals with nothing are left out
   */
  record Thumbprint(long rights, List<Integer> areas, List<List<Integer>> petals) {}

  private record Identity(String key, Area area) {}

  private final Map<Identity, Integer> known = new LinkedHashMap<>();

  Thumbprint of(FigureView figure) {
    List<Integer> areas = new ArrayList<>();
    List<List<Integer>> petals = new ArrayList<>();
    for (FigureView.Sector sector : figure.sectors()) {
      Area area = new Area(sector.account(), sector.door(), sector.size());
      int position = areas.size();
      areas.add(known.computeIfAbsent(new Identity(sector.key(), area), _ -> known.size()));
      for (FigureView.Petal it : sector.petals()) {
        if (it.reached() + it.blocked() + it.denied() > 0) {
          petals.add(
              List.of(
                  position,
                  place(Permission.AccessClass.values(), it.accessClass()),
                  it.applicable(),
                  it.reached(),
                  it.blocked(),
                  it.denied(),
                  it.risk() == null ? 0 : place(Permission.Risk.values(), it.risk()) + 1));
        }
      }
    }
    return new Thumbprint(figure.rights(), areas, petals);
  }

  private static int place(Enum<?>[] values, String word) {
    for (Enum<?> it : values) {
      if (FigureView.word(it).equals(word)) {
        return it.ordinal();
      }
    }
    throw new IllegalStateException("Impossible state: no constant " + word);
  }

  /** {@return the areas of all figures so far, in the order of their positions} */
  List<Area> areas() {
    return known.keySet().stream().map(Identity::area).toList();
  }
}
