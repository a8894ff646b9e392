package mandala.core.compiled.rights;

import java.util.Arrays;

/**
 * The gates of one lane (section 6): which of its bits are open by its own bits alone, and which
 * ask for a look elsewhere.
 *
 * <p>A gate is near where it is a bit of the same lane: then gate and gated are decided on the same
 * resource and one look-up by the compressed gate bits says what is open. A bit is far where some
 * gate of it, or of its gates in turn, lies in another lane or on a resource above.
 */
public final class GateTable {

  /** So many bits are looked up in a table; more are walked. */
  private static final int MOST = 12;

  /** Bits that have gates, near or far. */
  final long gated;

  /** Bits that some gate outside of the lane decides. */
  public final long far;

  private final long deciding;
  private final long[] open;
  private final long[] needs;
  private final int[] order;

  GateTable(Rights rights, int type, int word) {
    needs = new long[64];
    long gatedBits = 0;
    long farBits = 0;
    int[] inOrder = new int[64];
    int size = 0;
    for (int p : rights.gated[type]) {
      int bit = rights.bit[type][p];
      if (bit >> 6 == word) {
        gatedBits |= 1L << bit;
        inOrder[size++] = bit & 63;
        for (int gate : rights.gates[p]) {
          int at = rights.bit[type][gate];
          if (at >= 0 && at >> 6 == word) {
            needs[bit & 63] |= 1L << at;
          } else {
            farBits |= 1L << bit;
          }
        }
        farBits |= (needs[bit & 63] & farBits) != 0 ? 1L << bit : 0;
      }
    }
    gated = gatedBits;
    far = farBits;
    order = Arrays.copyOf(inOrder, size);
    long bits = gated;
    for (int bit : order) {
      bits |= needs[bit];
    }
    deciding = bits;
    open = new long[Long.bitCount(deciding) <= MOST ? 1 << Long.bitCount(deciding) : 0];
    for (int i = 0; i < open.length; i++) {
      open[i] = walk(Long.expand(i, deciding));
    }
  }

  /** Gated bits stand in an order in which each comes after its gates. */
  private long walk(long granted) {
    long usable = granted;
    for (int bit : order) {
      if ((usable & needs[bit]) != needs[bit]) {
        usable &= ~(1L << bit);
      }
    }
    return usable;
  }

  /** {@return what of a granted mask the near gates let through}; far gates are not looked at */
  public long near(long granted) {
    if ((granted & gated) == 0) {
      return granted;
    }
    if (open.length == 0) {
      return walk(granted);
    }
    return (granted & ~gated) | (open[(int) Long.compress(granted, deciding)] & gated & granted);
  }
}
