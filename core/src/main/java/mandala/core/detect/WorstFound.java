package mandala.core.detect;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.function.Consumer;

/** The worst that each detector finds, each id once; it forgets the others. Thread-safe. */
final class WorstFound implements Consumer<Detection> {

  private static final Comparator<Detection> BY_RISK =
      Comparator.comparing(Detection::risk, Comparator.reverseOrder());

  private static final Comparator<Detection> BY_WEIGHT =
      Comparator.comparing(Detection::weight, Comparator.reverseOrder());

  /** The worst first. */
  static final Comparator<Detection> WORST_FIRST =
      BY_RISK
          .thenComparing(it -> it.trouble().detector())
          .thenComparing(BY_WEIGHT)
          .thenComparing(Detection::id);

  /** A finding with its id, which takes a while to write. */
  private record Named(Detection it, String id) {}

  /** The same order among those of one detector. */
  private static final Comparator<Named> WORST_NAMED_FIRST =
      Comparator.comparing(Named::it, BY_RISK.thenComparing(BY_WEIGHT)).thenComparing(Named::id);

  /** Of one detector: the least first. */
  private static final class Kept {
    final PriorityQueue<Named> queue = new PriorityQueue<>(WORST_NAMED_FIRST.reversed());
    final Map<String, Named> byId = new HashMap<>();

    void add(Named it) {
      queue.add(it);
      byId.put(it.id(), it);
    }
  }

  private final int most;
  private final Set<Detector> cut;
  private final Map<Detector, Kept> kept = new EnumMap<>(Detector.class);

  /**
   * Begins with nothing.
   *
   * @param most how many of one detector are kept
   * @param cut gets the detectors that found more
   */
  WorstFound(int most, Set<Detector> cut) {
    this.most = most;
    this.cut = cut;
  }

  @Override
  public void accept(Detection it) {
    Named named = new Named(it, it.id());
    Detector detector = it.trouble().detector();
    synchronized (kept) {
      Kept of = kept.computeIfAbsent(detector, _ -> new Kept());
      Named same = of.byId.get(named.id());
      if (same == null) {
        of.add(named);
        if (of.queue.size() > most) {
          cut.add(detector);
          of.byId.remove(of.queue.remove().id());
        }
      } else if (WORST_NAMED_FIRST.compare(named, same) < 0) {
        of.queue.remove(same);
        of.add(named);
      }
    }
  }

  /** {@return all that is kept}, the worst first */
  List<Detection> inOrder() {
    List<Detection> all = new ArrayList<>();
    kept.values().forEach(of -> of.queue.forEach(named -> all.add(named.it())));
    all.sort(WORST_FIRST);
    return all;
  }
}
