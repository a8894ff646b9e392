package mandala.core.table;

import java.util.AbstractMap;
import java.util.AbstractSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Things by key, each with a number that stays its own as long as it is there. A changed register
 * shares all but a few chunks with the one before. Immutable; in the order of the numbers, which is
 * that of coming in.
 *
 * <p>Keys are found by open addressing: a slot holds a hash (upper half) and a number plus one, 0
 * where it is free. Slots of things taken away stay taken until the slots are laid out anew, at
 * half full.
 *
 * @param <K> the type of the keys
 * @param <T> the type of the things
 */
public final class Register<K, T> extends AbstractMap<K, T> {

  private static final int BITS = 10;
  private static final int MASK = (1 << BITS) - 1;

  private final Function<T, K> keyOf;
  private final Table<T> things;
  private final long[][] slots;

  /** Numbers given so far, and things that are there. */
  private final int numbers;

  private final int live;

  private Register(Function<T, K> keyOf, Table<T> things, long[][] slots, int numbers, int live) {
    this.keyOf = keyOf;
    this.things = things;
    this.slots = slots;
    this.numbers = numbers;
    this.live = live;
  }

  /** {@return a register of things}; of equal keys the first counts */
  public static <K, T> Register<K, T> of(List<? extends T> list, Function<T, K> keyOf) {
    long[][] slots = laidOut(list.size());
    @SuppressWarnings("unchecked") // read back as T only
    @Nullable T[] values = (T[]) new Object[list.size()];
    int next = 0;
    for (T thing : list) {
      K key = keyOf.apply(thing);
      int hash = hash(key);
      if (find(slots, key, hash, number -> values[number], keyOf) < 0) {
        values[next] = thing;
        put(slots, free(slots, hash), hash, next++);
      }
    }
    return new Register<>(keyOf, Table.of(values), slots, next, next);
  }

  private static long[][] laidOut(int size) {
    int chunks = Integer.highestOneBit(Math.max(1, (size * 2) >> BITS)) << 1;
    return new long[chunks][MASK + 1];
  }

  private static void put(long[][] slots, int slot, int hash, int number) {
    slots[slot >> BITS][slot & MASK] = (long) hash << 32 | number + 1;
  }

  private static int hash(Object key) {
    int hash = key.hashCode() * 0x9E3779B9;
    return hash ^ hash >>> 15;
  }

  /** The first free slot for a hash. */
  private static int free(long[][] slots, int hash) {
    int last = (slots.length << BITS) - 1;
    int slot = hash & last;
    while (slots[slot >> BITS][slot & MASK] != 0) {
      slot = slot + 1 & last;
    }
    return slot;
  }

  private static <K, T> int find(
      long[][] slots,
      Object key,
      int hash,
      java.util.function.IntFunction<@Nullable T> things,
      Function<T, K> keyOf) {
    int last = (slots.length << BITS) - 1;
    int slot = hash & last;
    while (true) {
      long word = slots[slot >> BITS][slot & MASK];
      if (word == 0) {
        return -1;
      }
      if ((int) (word >>> 32) == hash) {
        T thing = things.apply((int) word - 1);
        if (thing != null && isSame(keyOf.apply(thing), key)) {
          return (int) word - 1;
        }
      }
      slot = slot + 1 & last;
    }
  }

  @SuppressWarnings("ReferenceEquality") // mostly the very same key: equal without a look inside
  private static boolean isSame(Object known, Object key) {
    return known == key || known.equals(key);
  }

  /** {@return the number of the thing with a key}, or -1 where there is none */
  public int number(Object key) {
    return find(slots, key, hash(key), things::get, keyOf);
  }

  /**
   * {@return the number of the thing with a key that must be there}
   *
   * @throws IllegalStateException if it is not
   */
  public int require(Object key) {
    int number = number(key);
    if (number < 0) {
      throw new IllegalStateException("Impossible state: a checked model lacks " + key);
    }
    return number;
  }

  /** {@return the thing with a number}, null where it was taken away */
  public @Nullable T at(int number) {
    return things.get(number);
  }

  /**
   * {@return the thing with a number that is there}
   *
   * @throws IllegalStateException if it is not
   */
  public T the(int number) {
    return things.require(number);
  }

  /** {@return how many numbers were given}: every number is less */
  public int numbers() {
    return numbers;
  }

  /** {@return a register with a thing added, or put where one of its key stood} */
  public Register<K, T> with(T thing) {
    K key = keyOf.apply(thing);
    int known = number(key);
    if (known >= 0) {
      return new Register<>(keyOf, things.with(known, thing), slots, numbers, live);
    }
    if ((numbers + 1) * 2 > slots.length << BITS) {
      return grown().with(thing);
    }
    int hash = hash(key);
    int slot = free(slots, hash);
    long[][] changed = slots.clone();
    changed[slot >> BITS] = changed[slot >> BITS].clone();
    put(changed, slot, hash, numbers);
    return new Register<>(keyOf, things.with(numbers, thing), changed, numbers + 1, live + 1);
  }

  private Register<K, T> grown() {
    long[][] wider = laidOut(numbers * 2 + 2);
    for (int number = 0; number < numbers; number++) {
      T thing = things.get(number);
      if (thing != null) {
        int hash = hash(keyOf.apply(thing));
        put(wider, free(wider, hash), hash, number);
      }
    }
    return new Register<>(keyOf, things, wider, numbers, live);
  }

  /** {@return a register without the thing of a key} */
  public Register<K, T> without(Object key) {
    int number = number(key);
    return number < 0
        ? this
        : new Register<>(keyOf, things.with(number, null), slots, numbers, live - 1);
  }

  @Override
  public @Nullable T get(Object key) {
    int number = number(key);
    return number < 0 ? null : things.get(number);
  }

  @Override
  public boolean containsKey(Object key) {
    return number(key) >= 0;
  }

  @Override
  public int size() {
    return live;
  }

  @Override
  public Set<Entry<K, T>> entrySet() {
    return new AbstractSet<>() {
      @Override
      public Iterator<Entry<K, T>> iterator() {
        return entries();
      }

      @Override
      public int size() {
        return live;
      }
    };
  }

  private Iterator<Entry<K, T>> entries() {
    return new Iterator<>() {
      private int next = 0;

      @Override
      public boolean hasNext() {
        while (next < numbers && things.get(next) == null) {
          next++;
        }
        return next < numbers;
      }

      @Override
      public Entry<K, T> next() {
        if (!hasNext()) {
          throw new NoSuchElementException("No more things");
        }
        T thing = things.require(next++);
        return Map.entry(keyOf.apply(thing), thing);
      }
    };
  }
}
