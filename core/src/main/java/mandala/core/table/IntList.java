package mandala.core.table;

import java.util.Arrays;

/** A growing list of ints. */
public final class IntList {

  private int[] values = new int[8];
  private int size;

  public void add(int value) {
    if (size == values.length) {
      values = Arrays.copyOf(values, size * 2);
    }
    values[size++] = value;
  }

  public int get(int index) {
    return values[index];
  }

  public int size() {
    return size;
  }

  /** Puts a value where another one is. */
  public void set(int index, int value) {
    values[index] = value;
  }

  /** Keeps the first values only. */
  public void cut(int many) {
    size = many;
  }

  /** Takes the last value off, which there must be. */
  public int removeLast() {
    return values[--size];
  }

  /** Empties it. */
  public void clear() {
    size = 0;
  }

  public int[] toArray() {
    return Arrays.copyOf(values, size);
  }

  /** {@return how many values of an ascending array are less than one} */
  public static int lowerBound(int[] ascending, int value) {
    int low = 0;
    int high = ascending.length;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (ascending[middle] < value) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }
}
