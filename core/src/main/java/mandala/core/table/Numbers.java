package mandala.core.table;

import java.util.Arrays;

/**
 * Numbers ≥ 0 by a dense number, in chunks, as {@link Table} without boxes: {@link #with} copies
 * one chunk and the list of chunks and shares the rest. Immutable.
 */
public final class Numbers {

  /** What stands where there is no number. */
  public static final int NONE = -1;

  private static final int BITS = 9;
  private static final int WIDTH = 1 << BITS;
  private static final int MASK = WIDTH - 1;

  private final int[][] chunks;

  private Numbers(int[][] chunks) {
    this.chunks = chunks;
  }

  /** {@return numbers by their index}; the array is copied, {@link #NONE} where there is none */
  public static Numbers of(int[] values) {
    int[][] chunks = new int[(values.length + MASK) >> BITS][];
    for (int c = 0; c < chunks.length; c++) {
      chunks[c] = empty();
      int from = c << BITS;
      System.arraycopy(values, from, chunks[c], 0, Math.min(WIDTH, values.length - from));
    }
    return new Numbers(chunks);
  }

  private static int[] empty() {
    int[] chunk = new int[WIDTH];
    Arrays.fill(chunk, NONE);
    return chunk;
  }

  /** {@return the number at an index ≥ 0}, {@link #NONE} where there is none */
  public int get(int index) {
    int c = index >> BITS;
    return c < chunks.length ? chunks[c][index & MASK] : NONE;
  }

  /** {@return numbers that differ at one index}; {@link #NONE} takes one away */
  public Numbers with(int index, int number) {
    int c = index >> BITS;
    int[][] changed = Arrays.copyOf(chunks, Math.max(chunks.length, c + 1));
    for (int i = chunks.length; i < changed.length; i++) {
      changed[i] = empty();
    }
    changed[c] = changed[c].clone();
    changed[c][index & MASK] = number;
    return new Numbers(changed);
  }
}
