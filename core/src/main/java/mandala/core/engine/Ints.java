package mandala.core.engine;

import java.util.Arrays;

/** A growing list of ints. */
final class Ints {

  private int[] values = new int[8];
  private int size;

  void add(int value) {
    if (size == values.length) {
      values = Arrays.copyOf(values, size * 2);
    }
    values[size++] = value;
  }

  int get(int index) {
    return values[index];
  }

  int size() {
    return size;
  }

  int[] toArray() {
    return Arrays.copyOf(values, size);
  }
}
