package mandala.core.detect;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.question.Impact;

/** Finds trouble in a model: what no rule of it forbids, and still should not stay. */
public final class Detectors {

  private Detectors() {}

  /** Looks for some kinds of trouble. */
  @FunctionalInterface
  private interface Search {
    void search(Basis basis, Consumer<Detection> found, Impact.Watch watch);
  }

  /** In the order in which they are made: what takes long comes last. */
  private static final List<Search> ALL =
      List.of(
          (basis, found, _) -> ThingSearch.search(basis, found),
          (basis, found, _) -> PeopleSearch.search(basis, found),
          (basis, found, _) -> LeftOvers.search(basis, found),
          (basis, found, _) -> AssignmentSearch.search(basis, found),
          (basis, found, _) -> DenySearch.search(basis, found),
          (basis, found, _) -> AlikeRoles.search(basis, found),
          UnusedSearch::search,
          AssignmentUse::search,
          ReachSearch::search);

  /** Maximum number of findings of one detector: of more, the worst. */
  public static final int MOST = 5_000;

  /** The worst first. */
  public static final Comparator<Detection> WORST_FIRST =
      Comparator.comparing(Detection::risk, Comparator.reverseOrder())
          .thenComparing(it -> it.trouble().detector())
          .thenComparing(Detection::weight, Comparator.reverseOrder())
          .thenComparing(Detection::id);

  /**
   * What was found.
   *
   * @param found the worst first, each id once
   * @param cut detectors that did not look at everything, or found more than is kept
   * @param whole false where it was broken off; then some may be missing
   */
  public record Answer(List<Detection> found, Set<Detector> cut, boolean whole) {
    /** Copies its list and its set. */
    public Answer {
      found = List.copyOf(found);
      cut = Set.copyOf(cut);
    }
  }

  /**
   * {@return all that detectors find}
   *
   * @param watch told how far it is, in hundredths, and asked whether to go on
   */
  public static Answer of(Inquiry inquiry, Impact.Watch watch) {
    Basis basis = new Basis(inquiry);
    List<Detection> found = new ArrayList<>();
    Set<String> ids = new HashSet<>();
    boolean[] on = {true};
    for (int i = 0; i < ALL.size() && on[0]; i++) {
      int done = i;
      Impact.Watch part =
          (some, of) -> {
            int share = of == 0 ? 0 : (int) (100L * some / of);
            on[0] = on[0] && watch.goOn((100 * done + share) / ALL.size(), 100);
            return on[0];
          };
      if (part.goOn(0, 1)) {
        ALL.get(i)
            .search(
                basis,
                it -> {
                  if (ids.add(it.id())) {
                    found.add(it);
                  }
                },
                part);
      }
    }
    found.sort(WORST_FIRST);
    Map<Detector, Integer> many = new EnumMap<>(Detector.class);
    found.removeIf(it -> {
      boolean over = many.merge(it.trouble().detector(), 1, Integer::sum) > MOST;
      if (over) {
        basis.cut.add(it.trouble().detector());
      }
      return over;
    });
    return new Answer(found, basis.cut, on[0]);
  }
}
