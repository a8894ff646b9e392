package mandala.core.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.Permission.Risk;
import org.jspecify.annotations.Nullable;

/**
 * Draws up figures. 1. {@link #facts} says once for each signature what it means for each class. 2.
 * {@link #petal} adds them up over an area. Cost: one look at each position told of.
 */
final class Figures {

  private static final int CLASSES = AccessClass.values().length;

  private final Access access;
  private final Snapshot it;
  private final Signatures signatures;
  private final List<Facts> facts = new ArrayList<>();

  /** What a signature means for one class. */
  private record Fact(
      boolean applies, boolean reached, boolean blocked, boolean denied, int risk) {}

  private record Facts(List<Fact> byClass) {}

  private Figures(Access access, Signatures signatures) {
    this.access = access;
    this.it = access.it;
    this.signatures = signatures;
    for (int s = 0; s < signatures.count(); s++) {
      facts.add(facts(s));
    }
  }

  static Figure of(Access access, Outlook outlook) {
    Snapshot it = access.it;
    Signatures signatures = new Signatures(access, Spans.of(0, it.places.count, Spans.NO_FLOOR));
    Figures figures = new Figures(access, signatures);
    Set<Integer> only = Areas.only(it, outlook);
    List<Figure.Sector> sectors = new ArrayList<>();
    int[] tops = Areas.tops(it, outlook);
    for (int top : tops) {
      if (outlook.in() == null && tops.length > 1) {
        int at = it.places.accountAt[top];
        Areas.Area whole = new Areas.Area(Areas.Kind.ACCOUNT, at, it.places.under(top));
        figures.add(whole, false, only, sectors);
        continue;
      }
      Areas.of(it, top).forEach(area -> figures.add(area, false, only, sectors));
    }
    if (outlook.doors()) {
      for (int other : Areas.others(it, outlook)) {
        Areas.of(it, other).stream()
            .filter(area -> area.kind() != Areas.Kind.ACCOUNT)
            .forEach(area -> figures.add(area, true, only, sectors));
      }
    }
    long rights = sectors.isEmpty() ? 0 : access.rights(outlook);
    return new Figure(sectors, rights);
  }

  private void add(
      Areas.Area area, boolean door, @Nullable Set<Integer> only, List<Figure.Sector> sectors) {
    Spans where = Areas.within(it, area.where(), only);
    if (where.size() == 0) {
      return;
    }
    int[] tally = signatures.tally(where);
    List<Figure.Petal> petals = new ArrayList<>();
    boolean reached = false;
    for (int c = 0; c < CLASSES; c++) {
      Figure.Petal petal = petal(c, tally);
      reached |= petal.reached() > 0;
      petals.add(petal);
    }
    if (!door || reached) {
      int account = it.places.account[area.top()];
      sectors.add(
          new Figure.Sector(
              it.places.key[area.top()],
              area.kind() == Areas.Kind.ORGANISATION,
              it.directory.accounts.get(account).key(),
              door,
              where.length(),
              petals));
    }
  }

  private Figure.Petal petal(int c, int[] tally) {
    int applicable = 0;
    int reached = 0;
    int blocked = 0;
    int denied = 0;
    int risk = -1;
    for (int s = 0; s < tally.length; s++) {
      Fact fact = facts.get(s).byClass().get(c);
      if (tally[s] > 0 && fact.applies()) {
        applicable += tally[s];
        reached += fact.reached() ? tally[s] : 0;
        blocked += fact.blocked() && !fact.reached() ? tally[s] : 0;
        denied += fact.denied() ? tally[s] : 0;
        risk = Math.max(risk, fact.risk());
      }
    }
    return new Figure.Petal(
        AccessClass.values()[c],
        applicable,
        reached,
        blocked,
        denied,
        risk < 0 ? null : Risk.values()[risk]);
  }

  private Facts facts(int signature) {
    int at = signatures.first.get(signature);
    int type = signatures.type.get(signature);
    boolean[] applies = new boolean[CLASSES];
    boolean[] reached = new boolean[CLASSES];
    boolean[] blocked = new boolean[CLASSES];
    boolean[] denied = new boolean[CLASSES];
    int[] risk = {-1, -1, -1};
    int[] permissions = it.rights.ofType[type];
    for (int bit = 0; bit < permissions.length; bit++) {
      Permission permission = it.rights.permissions.get(permissions[bit]);
      int c = permission.accessClass().ordinal();
      applies[c] = true;
      switch (access.bit(at, bit)) {
        case ALLOWED -> {
          reached[c] = true;
          risk[c] = Math.max(risk[c], permission.risk().ordinal());
        }
        case BLOCKED -> blocked[c] = true;
        case DENIED -> denied[c] = true;
        case ERROR, INACTIVE, NO_DELEGATION, NOT_APPLICABLE, NONE -> {
          // nothing to add
        }
      }
    }
    List<Fact> byClass = new ArrayList<>();
    for (int c = 0; c < CLASSES; c++) {
      byClass.add(new Fact(applies[c], reached[c], blocked[c], denied[c], risk[c]));
    }
    return new Facts(byClass);
  }
}
