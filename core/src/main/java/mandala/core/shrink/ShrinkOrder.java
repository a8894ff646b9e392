package mandala.core.shrink;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.excess.Use;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/**
 * What to make a smaller model of, and how small.
 *
 * @param use what was used within the window
 * @param acted what was done for others within the window, each once
 * @param selection only what gives something to one who has one of these subjects is touched; empty
 *     for all
 * @param untouched what stays as it is of assignments, bridges, groups and guest memberships
 * @param tight from 0, where only what nobody needs goes, to 1, where all is trimmed to what is
 *     needed
 * @param split whether a group's assignment may be replaced by some to its members
 * @param clauses how many clauses a scope that is narrowed may come to, at least 1
 */
public record ShrinkOrder(
    UseWindow window,
    Use use,
    List<Acted> acted,
    List<Subject> selection,
    Predicate<Thing> untouched,
    double tight,
    boolean split,
    int clauses) {

  /** How many clauses a narrowed scope has at most, where nothing else is said. */
  public static final int CLAUSES = 24;

  /**
   * Copies its lists, and checks its figures.
   *
   * @throws IllegalArgumentException if one is out of its range
   */
  public ShrinkOrder {
    acted = List.copyOf(acted);
    selection = List.copyOf(selection);
    if (!(tight >= 0 && tight <= 1)) {
      throw new IllegalArgumentException(tight + " is no tightness; write a number from 0 to 1");
    }
    if (clauses < 1) {
      throw new IllegalArgumentException(
          clauses + " clauses are no scope; write 1 or more clauses");
    }
  }

  /** Something that one principal did for another. */
  public record Acted(
      PrincipalKey actor, PrincipalKey whose, PermissionKey permission, ResourceKey resource) {}

  /** {@return an order for everybody, trimmed to what is needed} */
  public static ShrinkOrder of(UseWindow window, Use use, List<Acted> acted) {
    return new ShrinkOrder(window, use, acted, List.of(), _ -> false, 1, true, CLAUSES);
  }

  /** {@return what some records within a window say was done for others} */
  public static List<Acted> acted(Iterable<UseRecord> records, UseWindow window) {
    Set<Acted> acted = new LinkedHashSet<>();
    for (UseRecord it : records) {
      if (it.actingFor() != null && window.contains(it.day())) {
        acted.add(new Acted(it.principal(), it.actingFor(), it.permission(), it.resource()));
      }
    }
    return new ArrayList<>(acted);
  }

  /** {@return the same for some only} */
  public ShrinkOrder only(List<Subject> some) {
    return new ShrinkOrder(window, use, acted, some, untouched, tight, split, clauses);
  }

  /** {@return the same, more or less tight} */
  public ShrinkOrder tight(double another) {
    return new ShrinkOrder(window, use, acted, selection, untouched, another, split, clauses);
  }

  /** {@return the same, in which a group's assignment may be replaced by some to its members} */
  public ShrinkOrder splitting(boolean may) {
    return new ShrinkOrder(window, use, acted, selection, untouched, tight, may, clauses);
  }

  /** {@return the same with another maximum number of clauses} */
  public ShrinkOrder clauses(int most) {
    return new ShrinkOrder(window, use, acted, selection, untouched, tight, split, most);
  }

  /** {@return the same, and these stay as they are} */
  public ShrinkOrder without(Predicate<Thing> some) {
    return new ShrinkOrder(
        window, use, acted, selection, untouched.or(some), tight, split, clauses);
  }
}
