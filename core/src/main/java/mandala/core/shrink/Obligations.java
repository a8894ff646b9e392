package mandala.core.shrink;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntPredicate;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import mandala.core.evaluate.Givers;
import mandala.core.excess.ExcessStudy;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.PrincipalKey;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * What must be given to whom, and by which assignments and bridges it can be: of the givers of each
 * obligation at least one must stay. Obligations are a right now, without a second factor, at a
 * later edge, for those who act for the person, and where all is switched on, as far as each is so
 * before (section 12).
 *
 * <p>A giver is the number of an assignment, or that of a bridge after all of these.
 */
final class Obligations {

  private final Catalogue catalogue;
  private final Instant at;
  private final int assignments;
  final List<PrincipalKey> people;

  /** By person: cells, each followed by the number of its givers and these. */
  private final Row[] rows;

  /** By giver: whether it stays. */
  private final BitSet staying = new BitSet();

  /** What one person's obligations are. */
  private static final class Row {
    /** Each: position, permission, number of givers, the givers. */
    final IntList obligations = new IntList();

    long[] cells = {};
  }

  /**
   * Finds what must be given.
   *
   * @param on the study of the model in which all is switched on
   * @param switching who could switch something on
   */
  Obligations(
      Catalogue catalogue,
      ShrinkOrder order,
      ExcessStudy study,
      ExcessStudy on,
      Predicate<PrincipalKey> switching) {
    this.catalogue = catalogue;
    at = order.window().at();
    assignments = catalogue.assignments().numbers();
    people = study.everybody();
    Set<PrincipalKey> actedFor = new HashSet<>();
    order.acted().forEach(it -> actedFor.add(it.whose()));
    rows = new Row[people.size()];
    IntStream.range(0, rows.length)
        .parallel()
        .forEach(i -> {
          PrincipalKey who = people.get(i);
          rows[i] = row(who, study, switching.test(who) ? on : study, actedFor.contains(who));
        });
  }

  private Row row(PrincipalKey who, ExcessStudy study, ExcessStudy on, boolean actedFor) {
    Row row = new Row();
    Set<Long> cells = new TreeSet<>();
    study.eachKept(
        who,
        (permission, position, givers) -> {
          cells.add(Cells.cell(permission, position));
          now(row, who, permission, position, givers, actedFor);
        });
    if (!on.equals(study)) {
      Set<Long> more = new TreeSet<>();
      on.eachKept(
          who,
          (permission, position, givers) -> {
            long cell = Cells.cell(permission, position);
            if (!cells.contains(cell) && more.add(cell)) {
              add(row, permission, position, givers, _ -> true);
            }
          });
    }
    row.cells = cells.stream().mapToLong(it -> it).toArray();
    return row;
  }

  private void now(
      Row row, PrincipalKey who, int permission, int position, Givers givers, boolean actedFor) {
    add(row, permission, position, givers, givers::now);
    add(row, permission, position, givers, i -> givers.now(i) && givers.free(i));
    if (actedFor) {
      add(row, permission, position, givers, i -> givers.now(i) && isStanding(givers.ref(i)));
      add(
          row,
          permission,
          position,
          givers,
          i -> givers.now(i) && givers.free(i) && isStanding(givers.ref(i)));
    }
    for (Instant edge : edges(who, givers)) {
      add(row, permission, position, givers, i -> isInForce(who, givers.ref(i), edge));
      add(
          row,
          permission,
          position,
          givers,
          i -> givers.free(i) && isInForce(who, givers.ref(i), edge));
    }
  }

  /** Adds an obligation that some of the givers meet, but for one that none does. */
  private void add(Row row, int permission, int position, Givers givers, IntPredicate which) {
    int[] found =
        IntStream.range(0, givers.size())
            .filter(which)
            .map(i -> giver(givers.ref(i)))
            .sorted()
            .distinct()
            .toArray();
    if (found.length == 0 || isLast(row, permission, position, found)) {
      return;
    }
    row.obligations.add(position);
    row.obligations.add(permission);
    row.obligations.add(found.length);
    Arrays.stream(found).forEach(row.obligations::add);
  }

  /** Whether it was the last that was added: mostly all of a right's obligations are one. */
  private static boolean isLast(Row row, int permission, int position, int[] found) {
    int from = row.obligations.size() - found.length - 3;
    if (from < 0
        || row.obligations.get(from) != position
        || row.obligations.get(from + 1) != permission
        || row.obligations.get(from + 2) != found.length) {
      return false;
    }
    for (int i = 0; i < found.length; i++) {
      if (row.obligations.get(from + 3 + i) != found[i]) {
        return false;
      }
    }
    return true;
  }

  private int giver(int ref) {
    return ref >= 0 ? ref : assignments + ~ref;
  }

  /** {@return the assignment or bridge that a giver is} */
  Thing thing(int giver) {
    return giver < assignments
        ? catalogue.assignments().the(giver)
        : catalogue.bridges().the(giver - assignments);
  }

  private boolean isStanding(int ref) {
    return ref < 0 || catalogue.assignments().the(ref).mode() == Assignment.Mode.STANDING;
  }

  private Window window(int ref) {
    return ref < 0
        ? catalogue.bridges().the(~ref).window()
        : catalogue.assignments().the(ref).window();
  }

  private Set<Instant> edges(PrincipalKey who, Givers givers) {
    @Nullable Set<Instant> edges = null;
    for (int i = 0; i < givers.size(); i++) {
      List<Window> windows = new ArrayList<>(List.of(window(givers.ref(i))));
      windows.addAll(activations(who, givers.ref(i)));
      for (Window it : windows) {
        for (Instant edge : Arrays.asList(it.from(), it.until())) {
          if (edge != null && edge.isAfter(at)) {
            edges = edges == null ? new TreeSet<>() : edges;
            edges.add(edge);
          }
        }
      }
    }
    return edges == null ? Set.of() : edges;
  }

  private List<Window> activations(PrincipalKey who, int ref) {
    if (isStanding(ref) || who.equals(PrincipalKey.ANONYMOUS)) {
      return List.of();
    }
    int number = catalogue.principals().require(who);
    var key = catalogue.assignments().the(ref).key();
    return catalogue.links().activations(number).stream()
        .filter(it -> it.assignment().equals(key))
        .map(Activation::window)
        .toList();
  }

  private boolean isInForce(PrincipalKey who, int ref, Instant instant) {
    return window(ref).holdsAt(instant)
        && (isStanding(ref) || activations(who, ref).stream().anyMatch(it -> it.holdsAt(instant)));
  }

  // ---- who stays --------------------------------------------------------------------------------

  /** Takes an obligation. */
  private interface Visitor {
    void take(int person, long cell, int[] givers);
  }

  private void each(Visitor visitor) {
    for (int person = 0; person < rows.length; person++) {
      IntList all = rows[person].obligations;
      int i = 0;
      while (i < all.size()) {
        int[] givers = new int[all.get(i + 2)];
        for (int g = 0; g < givers.length; g++) {
          givers[g] = all.get(i + 3 + g);
        }
        visitor.take(person, Cells.cell(all.get(i + 1), all.get(i)), givers);
        i += 3 + givers.length;
      }
    }
  }

  /**
   * Chooses givers so that all obligations are met: those that stay anyway, those that alone meet
   * one, and then few more.
   *
   * @param fixed givers that stay anyway
   * @param narrows whether those that fewest have are better, for what stays is narrowed; else
   *     those that meet most are
   * @param holders how many have a giver
   */
  void choose(BitSet fixed, boolean narrows, Map<Integer, Integer> holders) {
    staying.clear();
    staying.or(fixed);
    Map<Integer, Integer> counts = new HashMap<>();
    each((_, _, givers) -> {
      if (givers.length == 1) {
        staying.set(givers[0]);
      } else {
        Arrays.stream(givers).forEach(it -> counts.merge(it, 1, Integer::sum));
      }
    });
    Comparator<Integer> most = Comparator.comparingInt(it -> -counts.getOrDefault(it, 0));
    each((_, _, givers) -> {
      if (Arrays.stream(givers).noneMatch(staying::get)) {
        staying.set(
            Arrays.stream(givers)
                .boxed()
                .min(
                    narrows
                        ? Comparator.<Integer>comparingInt(it -> holders.getOrDefault(it, 0))
                            .thenComparing(most)
                        : most)
                .orElseThrow());
      }
    });
  }

  boolean stays(int giver) {
    return staying.get(giver);
  }

  /** What is chosen for each obligation. */
  static final class Chosen {
    /** By giver: the cells that are needed of it. */
    final Map<Integer, Cells> cells = new HashMap<>();

    /** By person: the givers that it needs. */
    final Map<Integer, Set<Integer>> givers = new HashMap<>();

    /** By giver that does not stay: how many keep by others what it gave them. */
    final Map<Integer, Set<Integer>> otherwise = new HashMap<>();
  }

  /**
   * {@return by which of the givers that stay each obligation is met}: by one that stays as it is,
   * by one that is needed for the same right already, else by one that fewest have
   *
   * @param fixed givers that stay as they are
   * @param holders how many have a giver
   */
  Chosen chosen(BitSet fixed, Map<Integer, Integer> holders) {
    Chosen chosen = new Chosen();
    each((person, cell, givers) -> {
      if (Arrays.stream(givers).filter(staying::get).count() == 1) {
        put(chosen, person, cell, first(givers, staying::get));
      }
      for (int it : givers) {
        if (!staying.get(it)) {
          chosen.otherwise.computeIfAbsent(it, _ -> new HashSet<>()).add(person);
        }
      }
    });
    each((person, cell, givers) -> {
      if (Arrays.stream(givers)
          .filter(staying::get)
          .anyMatch(it -> chosen.cells.getOrDefault(it, NONE).of(person).contains(cell))) {
        return; // another obligation of the same right has it
      }
      int free = first(givers, it -> staying.get(it) && fixed.get(it));
      int same =
          first(givers, it -> staying.get(it) && chosen.cells.getOrDefault(it, NONE).has(cell));
      int few =
          Arrays.stream(givers)
              .filter(staying::get)
              .boxed()
              .min(Comparator.comparingInt(it -> holders.getOrDefault(it, 0)))
              .orElseThrow();
      put(chosen, person, cell, free >= 0 ? free : same >= 0 ? same : few);
    });
    return chosen;
  }

  private static final Cells NONE = new Cells();

  private static int first(int[] givers, IntPredicate which) {
    return Arrays.stream(givers).filter(which).findFirst().orElse(-1);
  }

  private static void put(Chosen chosen, int person, long cell, int giver) {
    chosen.cells.computeIfAbsent(giver, _ -> new Cells()).add(person, cell);
    chosen.givers.computeIfAbsent(person, _ -> new HashSet<>()).add(giver);
  }

  /** {@return whether a right must stay a person's} */
  boolean isKept(int person, long cell) {
    return Arrays.binarySearch(rows[person].cells, cell) >= 0;
  }

  long[] cells(int person) {
    return rows[person].cells;
  }
}
