package mandala.core.excess;

import java.util.Set;
import java.util.stream.IntStream;
import mandala.core.compiled.Snapshot;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/** Which rights of a snapshot are observed over a whole window, by word and position. Immutable. */
final class Observed {

  private final long[][] bits;

  private Observed(long[][] bits) {
    this.bits = bits;
  }

  /** {@return what is observed}, null where that is everything */
  static @Nullable Observed of(UseCoverage coverage, UseWindow window, Snapshot it) {
    if (coverage.isComplete()) {
      return null;
    }
    int words = IntStream.of(it.rights.words).max().orElse(1);
    long[][] bits = new long[words][it.places.count];
    for (UseCoverage.Part part : coverage.over(window)) {
      long[][] masks = masks(part, it);
      Set<ResourceKey> places = part.places();
      if (places == null) {
        cover(bits, masks, 0, it.places.count, it);
      } else {
        for (ResourceKey place : places) {
          int at = it.places.find(place);
          if (at >= 0) {
            cover(bits, masks, at, it.places.end[at], it);
          }
        }
      }
    }
    return new Observed(bits);
  }

  /** By type: the words of the permissions that a part reports. */
  private static long[][] masks(UseCoverage.Part part, Snapshot it) {
    long[][] masks = new long[it.rights.types.size()][];
    for (int type = 0; type < masks.length; type++) {
      masks[type] = new long[it.rights.words[type]];
      int[] permissions = it.rights.ofType[type];
      for (int bit = 0; bit < permissions.length; bit++) {
        if (part.permissions() == null
            || part.permissions().contains(it.rights.permissions.get(permissions[bit]).key())) {
          masks[type][bit >> 6] |= 1L << bit;
        }
      }
    }
    return masks;
  }

  private static void cover(long[][] bits, long[][] masks, int from, int to, Snapshot it) {
    for (int at = from; at < to; at++) {
      int type = it.places.type[at];
      for (int word = 0; type >= 0 && word < masks[type].length; word++) {
        bits[word][at] |= masks[type][word];
      }
    }
  }

  /** {@return the observed rights on a position in one word of its type's row} */
  long at(int position, int word) {
    return bits[word][position];
  }
}
