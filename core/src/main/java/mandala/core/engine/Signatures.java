package mandala.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The distinct answers of an access: positions of one type with the same masks share a signature,
 * so that what is told of many places is computed once for each signature.
 */
final class Signatures {

  /** By position: its signature, or -1 where the position was not looked at. */
  final int[] of;

  /** By signature: the first position that has it. */
  final Ints first = new Ints();

  /** By signature: the resource type. */
  final Ints type = new Ints();

  private record Masks(int type, List<Long> words) {}

  Signatures(Access access, Spans where) {
    Places places = access.it.places;
    of = new int[places.count];
    Arrays.fill(of, -1);
    Map<Masks, Integer> known = new HashMap<>();
    for (int i = 0; i < where.size(); i++) {
      for (int at = where.start[i]; at < where.end[i]; at++) {
        of[at] = signature(access, at, known);
      }
    }
  }

  private int signature(Access access, int at, Map<Masks, Integer> known) {
    int t = access.it.places.type[at];
    int words = access.it.rights.words[t];
    List<Long> masks = new ArrayList<>(words * 3);
    for (int w = 0; w < words; w++) {
      masks.add(access.word(Verdict.ALLOWED, at, w));
      masks.add(access.word(Verdict.BLOCKED, at, w));
      masks.add(access.word(Verdict.DENIED, at, w));
    }
    return known.computeIfAbsent(
        new Masks(t, masks),
        _ -> {
          first.add(at);
          type.add(t);
          return first.size() - 1;
        });
  }

  int count() {
    return first.size();
  }

  /** {@return by signature: how many positions of these have it} */
  int[] tally(Spans where) {
    int[] counts = new int[count()];
    for (int i = 0; i < where.size(); i++) {
      for (int at = where.start[i]; at < where.end[i]; at++) {
        if (of[at] >= 0) {
          counts[of[at]]++;
        }
      }
    }
    return counts;
  }
}
