package mandala.core.present;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.space.Spans;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.Permission.Risk;
import mandala.core.question.Extent;
import mandala.core.question.Figure;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Draws up figures from runs. For each area and each type, the runs within it are counted in
 * resources and their masks cut by class and risk ({@link #tally}); what has no run is only
 * applicable. Cost: areas times types, and the runs; not the resources.
 */
final class Figures {

  private static final int CLASSES = AccessClass.values().length;

  private final Access access;
  private final Snapshot it;

  private Figures(Access access) {
    this.access = access;
    this.it = access.it;
  }

  /** What is counted of a class in an area. */
  private static final class Tally {
    int applicable;
    int reached;
    int blocked;
    int denied;
    int risk = -1;
  }

  static Figure of(Access access, Extent extent) {
    Snapshot it = access.it;
    Figures figures = new Figures(access);
    Set<Integer> only = Areas.only(it, extent);
    List<Figure.Sector> sectors = new ArrayList<>();
    int[] tops = Areas.tops(it, extent);
    for (int top : tops) {
      if (extent.in() == null && tops.length > 1) {
        int at = it.places.accountAt[top];
        Areas.Area whole = new Areas.Area(Areas.Kind.ACCOUNT, at, it.places.under(top));
        figures.add(whole, false, only, sectors);
        continue;
      }
      Areas.of(it, top).forEach(area -> figures.add(area, false, only, sectors));
    }
    if (extent.doors()) {
      for (int other : Areas.others(it, extent)) {
        if (access.accessMap.touches(it.places.accountAt[other], it.places.ownEnd[other])) {
          Areas.of(it, other).stream()
              .filter(area -> area.kind() != Areas.Kind.ACCOUNT)
              .forEach(area -> figures.add(area, true, only, sectors));
        }
      }
    }
    long rights = sectors.isEmpty() ? 0 : access.rights(extent);
    return new Figure(sectors, rights);
  }

  private void add(
      Areas.Area area, boolean door, @Nullable Set<Integer> only, List<Figure.Sector> sectors) {
    Spans where = Areas.within(it, area.where(), only);
    int size = it.places.count(where);
    if (size == 0) {
      return;
    }
    Tally[] tallies = new Tally[CLASSES];
    for (int c = 0; c < CLASSES; c++) {
      tallies[c] = new Tally();
    }
    for (int t = 0; t < it.rights.types.size(); t++) {
      for (int i = 0; i < where.size(); i++) {
        tally(t, where.start[i], where.end[i], tallies);
      }
    }
    List<Figure.Petal> petals = new ArrayList<>();
    boolean reached = false;
    for (int c = 0; c < CLASSES; c++) {
      Tally tally = tallies[c];
      reached |= tally.reached > 0;
      petals.add(
          new Figure.Petal(
              AccessClass.values()[c],
              tally.applicable,
              tally.reached,
              tally.blocked,
              tally.denied,
              tally.risk < 0 ? null : Risk.values()[tally.risk]));
    }
    if (!door || reached) {
      int account = it.places.account[area.top()];
      sectors.add(
          new Figure.Sector(
              it.places.key(area.top()),
              area.kind() == Areas.Kind.ORGANISATION,
              it.catalogue.accounts().the(account).key(),
              door,
              size,
              petals));
    }
  }

  private void tally(int type, int from, int to, Tally[] tallies) {
    int all = it.places.count(type, from, to);
    if (all == 0) {
      return;
    }
    for (int c = 0; c < CLASSES; c++) {
      tallies[c].applicable += it.rights.applies(type, c) ? all : 0;
    }
    int lane = it.rights.offset[type];
    if (it.rights.words[type] == 1) {
      access.accessMap.runs(
          lane,
          from,
          to,
          (start, end, mask) -> {
            int many = it.places.count(type, start, end);
            if (many > 0) {
              tally(type, new int[] {mask}, many, tallies);
            }
          });
    } else if (it.rights.words[type] > 1) {
      int[] positions = it.places.ofType[type];
      for (int i = IntList.lowerBound(positions, from);
          i < positions.length && positions[i] < to;
          i++) {
        int[] masks = new int[it.rights.words[type]];
        for (int w = 0; w < masks.length; w++) {
          masks[w] = access.accessMap.maskAt(lane + w, positions[i]);
        }
        tally(type, masks, 1, tallies);
      }
    }
  }

  private void tally(int type, int[] masks, int many, Tally[] tallies) {
    for (int c = 0; c < CLASSES; c++) {
      boolean reached = false;
      boolean blocked = false;
      boolean denied = false;
      for (int w = 0; w < masks.length; w++) {
        int lane = it.rights.offset[type] + w;
        long bits = it.rights.classMask[c][lane];
        long allowed = access.accessMap.allowed(masks[w]) & bits;
        reached |= allowed != 0;
        blocked |= (access.accessMap.blocked(masks[w]) & bits) != 0;
        denied |= (access.accessMap.denied(masks[w]) & bits) != 0;
        for (int risk = tallies[c].risk + 1; risk < Risk.values().length; risk++) {
          if ((allowed & it.rights.riskMask[risk][lane]) != 0) {
            tallies[c].risk = risk;
          }
        }
      }
      tallies[c].reached += reached ? many : 0;
      tallies[c].blocked += blocked && !reached ? many : 0;
      tallies[c].denied += denied ? many : 0;
    }
  }
}
