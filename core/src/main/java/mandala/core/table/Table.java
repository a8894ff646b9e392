package mandala.core.table;

import java.util.Arrays;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Values by a dense number, in chunks: {@link #with} copies one chunk and the list of chunks and
 * shares the rest. Numbers never set have no value. Immutable; a read costs two look-ups.
 *
 * @param <T> the type of the values, themselves not changed once stored
 */
public final class Table<T> {

  private static final int BITS = 8;
  private static final int WIDTH = 1 << BITS;
  private static final int MASK = WIDTH - 1;

  private final @Nullable Object[][] chunks;

  /** One more than the greatest number ever set. */
  private final int size;

  private Table(@Nullable Object[][] chunks, int size) {
    this.chunks = chunks;
    this.size = size;
  }

  /** {@return a table without values} */
  public static <T> Table<T> empty() {
    return new Table<>(new Object[0][], 0);
  }

  /** {@return a table of values numbered from 0}; the array is copied, its gaps are no values */
  public static <T> Table<T> of(@Nullable T[] values) {
    Object[][] chunks = new Object[(values.length + MASK) >> BITS][];
    for (int c = 0; c < chunks.length; c++) {
      int from = c << BITS;
      chunks[c] =
          Arrays.copyOf(
              Arrays.copyOfRange(values, from, Math.min(values.length, from + WIDTH)),
              WIDTH,
              Object[].class);
    }
    return new Table<>(chunks, values.length);
  }

  /** {@return one more than the greatest number ever set} */
  public int size() {
    return size;
  }

  /** {@return the value of a number ≥ 0}, null where there is none */
  @SuppressWarnings("unchecked") // only values of T are stored
  public @Nullable T get(int number) {
    int c = number >> BITS;
    return c < chunks.length ? (T) chunks[c][number & MASK] : null;
  }

  /** {@return the value of a number, or another where there is none} */
  public T getOr(int number, T other) {
    T value = get(number);
    return value == null ? other : value;
  }

  /** {@return the value of a number that has one} */
  public T require(int number) {
    T value = get(number);
    if (value == null) {
      throw new IllegalStateException("Impossible state: nothing has the number " + number);
    }
    return value;
  }

  /** Names every value, in the order of the numbers. */
  public void forEach(Consumer<? super T> each) {
    for (int number = 0; number < size; number++) {
      T value = get(number);
      if (value != null) {
        each.accept(value);
      }
    }
  }

  /** {@return a table that differs in one value}, null to take it away */
  public Table<T> with(int number, @Nullable T value) {
    int c = number >> BITS;
    @Nullable Object[][] changed = Arrays.copyOf(chunks, Math.max(chunks.length, c + 1));
    for (int i = chunks.length; i < changed.length; i++) {
      changed[i] = new Object[WIDTH];
    }
    @Nullable Object[] chunk = Arrays.copyOf(changed[c], WIDTH);
    chunk[number & MASK] = value;
    changed[c] = chunk;
    return new Table<>(changed, Math.max(size, number + 1));
  }
}
