package mandala.core.detect;

import java.util.Comparator;
import java.util.List;
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

  /**
   * In the order in which they are made: what takes long comes last, and {@link UnusedSearch}
   * before those that go by what it read of everybody.
   */
  private static final List<Search> ALL =
      List.of(
          (basis, found, _) -> ThingSearch.search(basis, found),
          (basis, found, _) -> PeopleSearch.search(basis, found),
          (basis, found, _) -> LeftOvers.search(basis, found),
          DenySearch::search,
          (basis, found, _) -> AlikeRoles.search(basis, found),
          UnusedSearch::search,
          AssignmentSearch::search,
          AssignmentUse::search,
          ReachSearch::search);

  /** Maximum number of findings of one detector: of more, the worst. */
  public static final int MOST = 5_000;

  /** The worst first. */
  public static final Comparator<Detection> WORST_FIRST = WorstFound.WORST_FIRST;

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
    WorstFound found = new WorstFound(MOST, basis.cut);
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
        ALL.get(i).search(basis, found, part);
      }
    }
    return new Answer(found.inOrder(), basis.cut, on[0]);
  }
}
