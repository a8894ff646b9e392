package mandala.core.evaluate;

import java.util.Arrays;

/**
 * By lane, where masks change: from its start up to the next one's start a run says what is granted
 * and what is denied on resources of the lane's type. Before the first run nothing is.
 */
public final class Intervals {

  final int[][] start;
  final long[][] granted;
  final long[][] denied;
  final int[] size;

  public Intervals(int lanes) {
    start = new int[lanes][8];
    granted = new long[lanes][8];
    denied = new long[lanes][8];
    size = new int[lanes];
  }

  void clear() {
    Arrays.fill(size, 0);
  }

  /** From a position on these masks hold; positions ascend, a later word on one replaces it. */
  void put(int lane, int at, long itsGranted, long itsDenied) {
    int n = size[lane];
    if (n > 0 && start[lane][n - 1] == at) {
      n--;
    }
    boolean same =
        n > 0
            ? granted[lane][n - 1] == itsGranted && denied[lane][n - 1] == itsDenied
            : itsGranted == 0 && itsDenied == 0;
    if (!same) {
      if (n == start[lane].length) {
        start[lane] = Arrays.copyOf(start[lane], n * 2);
        granted[lane] = Arrays.copyOf(granted[lane], n * 2);
        denied[lane] = Arrays.copyOf(denied[lane], n * 2);
      }
      start[lane][n] = at;
      granted[lane][n] = itsGranted;
      denied[lane][n++] = itsDenied;
    }
    size[lane] = n;
  }

  /** {@return which run of a lane holds at a position}, or -1 before the first */
  int find(int lane, int at) {
    int[] starts = start[lane];
    int low = 0;
    int high = size[lane];
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (starts[middle] <= at) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low - 1;
  }

  /** {@return where the run of a lane ends that holds at a position}; far off after the last */
  public int end(int lane, int at) {
    int next = find(lane, at) + 1;
    return next < size[lane] ? start[lane][next] : Integer.MAX_VALUE;
  }

  public long grantedAt(int lane, int at) {
    int i = find(lane, at);
    return i < 0 ? 0 : granted[lane][i];
  }
}
