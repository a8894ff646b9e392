package mandala.core.compiled.rights;

import java.util.Arrays;

/** Lists of pairs of lane and count, ascending by lane: what is in a subtree. */
public final class WordCounts {

  private WordCounts() {}

  /** {@return the list with so many more of a type}; what falls to 0 goes */
  public static int[] plus(int[] list, Rights rights, int type, int many) {
    int[] one = new int[rights.words[type] * 2];
    for (int w = 0; w < rights.words[type]; w++) {
      one[w * 2] = rights.offset[type] + w;
      one[w * 2 + 1] = many;
    }
    return plus(list, one);
  }

  /** {@return both lists added up} */
  public static int[] plus(int[] a, int[] b) {
    int[] sum = new int[a.length + b.length];
    int size = 0;
    int i = 0;
    int j = 0;
    while (i < a.length || j < b.length) {
      int lane;
      int many = 0;
      if (j == b.length || (i < a.length && a[i] < b[j])) {
        lane = a[i];
        many = a[i + 1];
        i += 2;
      } else if (i == a.length || b[j] < a[i]) {
        lane = b[j];
        many = b[j + 1];
        j += 2;
      } else {
        lane = a[i];
        many = a[i + 1] + b[j + 1];
        i += 2;
        j += 2;
      }
      if (many != 0) {
        sum[size++] = lane;
        sum[size++] = many;
      }
    }
    return Arrays.copyOf(sum, size);
  }
}
