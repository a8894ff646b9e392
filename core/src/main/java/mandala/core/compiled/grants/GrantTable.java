package mandala.core.compiled.grants;

import java.util.Arrays;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * A growing list of grant entries, sorted into tables at the end by counting: by subject, each
 * subject's grant entries by first position; and by where who-can finds them.
 *
 * <p>A subject's grant entries are one array: all spans, then all whats, then all refs. Found from
 * a place or a compiled clause, grant entries are one array too: all (subject, given), then all
 * (ref), then all spans.
 */
public final class GrantTable {

  private int size;
  private int[] subject = new int[1024];
  private long[] span = new long[1024];
  private long[] what = new long[1024];
  private int[] ref = new int[1024];

  public void add(int itsSubject, long itsSpan, long itsWhat, int itsRef) {
    if (size == span.length) {
      subject = Arrays.copyOf(subject, size * 2);
      span = Arrays.copyOf(span, size * 2);
      what = Arrays.copyOf(what, size * 2);
      ref = Arrays.copyOf(ref, size * 2);
    }
    subject[size] = itsSubject;
    span[size] = itsSpan;
    what[size] = itsWhat;
    ref[size++] = itsRef;
  }

  int size() {
    return size;
  }

  /** {@return the grant entries in one array, as one subject's} */
  long[] ofOneSubject() {
    return of(
        byStart(
            size == 0
                ? 0
                : Arrays.stream(span, 0, size).mapToInt(GrantEntry::start).max().orElse(0) + 1),
        0,
        size);
  }

  private int[] byStart(int positions) {
    int[] order = new int[size];
    for (int i = 0; i < size; i++) {
      order[i] = i;
    }
    return sorted(order, i -> GrantEntry.start(span[i]), positions);
  }

  /** A stable counting sort. */
  private static int[] sorted(int[] order, java.util.function.IntUnaryOperator key, int range) {
    int[] from = new int[range + 1];
    for (int i : order) {
      from[key.applyAsInt(i) + 1]++;
    }
    for (int k = 0; k < range; k++) {
      from[k + 1] += from[k];
    }
    int[] sorted = new int[order.length];
    for (int i : order) {
      sorted[from[key.applyAsInt(i)]++] = i;
    }
    return sorted;
  }

  private long[] of(int[] order, int from, int to) {
    int n = to - from;
    long[] lines = new long[n * 3];
    for (int i = 0; i < n; i++) {
      int line = order[from + i];
      lines[i] = span[line];
      lines[n + i] = what[line];
      lines[2 * n + i] = ref[line];
    }
    return lines;
  }

  /**
   * {@return by kind of subject, by its number: its grant entries}
   *
   * @param numbers by kind: how many numbers there are
   */
  public Table<long[]>[] bySubject(int positions, int[] numbers) {
    int[] base = new int[numbers.length + 1];
    for (int kind = 0; kind < numbers.length; kind++) {
      base[kind + 1] = base[kind] + numbers[kind];
    }
    int[] dense = new int[size];
    for (int i = 0; i < size; i++) {
      dense[i] = base[GrantEntry.kind(subject[i])] + GrantEntry.number(subject[i]);
    }
    int[] order = sorted(byStart(positions), i -> dense[i], base[numbers.length]);
    @SuppressWarnings({"unchecked", "rawtypes"}) // filled with tables of long[] only
    Table<long[]>[] tables = new Table[numbers.length];
    int next = 0;
    for (int kind = 0; kind < numbers.length; kind++) {
      long[] @Nullable [] lists = new long[numbers[kind]][];
      for (int number = 0; number < lists.length; number++) {
        int from = next;
        while (next < size && dense[order[next]] == base[kind] + number) {
          next++;
        }
        lists[number] = from == next ? null : of(order, from, next);
      }
      tables[kind] = Table.of(lists);
    }
    return tables;
  }

  /** {@return by position: the plain grant entries that begin there} */
  public Table<long[]> byPosition(int positions) {
    return reverse(
        i -> GrantEntry.ground(what[i]) == 0 ? GrantEntry.start(span[i]) : -1, positions);
  }

  /** {@return by compiled clause: the grant entries that have it} */
  public Table<long[]> byGround(int grounds) {
    return reverse(i -> GrantEntry.ground(what[i]) == 0 ? -1 : GrantEntry.ground(what[i]), grounds);
  }

  private Table<long[]> reverse(java.util.function.IntUnaryOperator key, int range) {
    int[] chosen = new int[size];
    int many = 0;
    for (int i = 0; i < size; i++) {
      if (key.applyAsInt(i) >= 0) {
        chosen[many++] = i;
      }
    }
    int[] order = sorted(Arrays.copyOf(chosen, many), key, range);
    long[][] lists = new long[range][];
    int next = 0;
    while (next < many) {
      int at = key.applyAsInt(order[next]);
      int from = next;
      while (next < many && key.applyAsInt(order[next]) == at) {
        next++;
      }
      int n = next - from;
      long[] list = new long[3 * n];
      for (int i = 0; i < n; i++) {
        int line = order[from + i];
        list[i] = holder(subject[line], what[line]);
        list[n + i] = ref[line];
        list[2 * n + i] = span[line];
      }
      lists[at] = list;
    }
    return Table.of(lists);
  }

  static long holder(int subject, long what) {
    return ((long) subject << 32) | (what & 0xFFFFFFFFL);
  }

  // ---- one grant entry into, or all of a ref out of, an array

  /** {@return a subject's grant entries with one more}, in the order of first positions */
  public static long[] with(long @Nullable [] lines, long span, long what, int ref) {
    long[] old = lines == null ? new long[0] : lines;
    int n = old.length / 3;
    int at = 0;
    while (at < n && GrantEntry.start(old[at]) <= GrantEntry.start(span)) {
      at++;
    }
    long[] changed = new long[old.length + 3];
    long[] values = {span, what, ref};
    for (int part = 0; part < 3; part++) {
      System.arraycopy(old, part * n, changed, part * (n + 1), at);
      changed[part * (n + 1) + at] = values[part];
      System.arraycopy(old, part * n + at, changed, part * (n + 1) + at + 1, n - at);
    }
    return changed;
  }

  /** {@return a subject's grant entries without those of a ref}, null where none are left */
  public static long @Nullable [] without(long[] lines, int ref) {
    return filtered(lines, 3, 2, value -> (int) value != ref);
  }

  /** {@return a list from the other side with one more grant entry} */
  public static long[] withHolder(
      long @Nullable [] list, int subject, long span, long what, int ref) {
    long[] old = list == null ? new long[0] : list;
    int n = old.length / 3;
    long[] changed = new long[old.length + 3];
    long[] values = {holder(subject, what), ref, span};
    for (int part = 0; part < 3; part++) {
      System.arraycopy(old, part * n, changed, part * (n + 1), n);
      changed[part * (n + 1) + n] = values[part];
    }
    return changed;
  }

  /**
   * {@return a list from the other side without the grant entries of a ref}, null where none are
   * left
   */
  public static long @Nullable [] withoutHolder(long[] list, int ref) {
    return filtered(list, 3, 1, value -> (int) value != ref);
  }

  private static long @Nullable [] filtered(
      long[] list, int parts, int decides, java.util.function.LongPredicate stays) {
    int n = list.length / parts;
    int kept = 0;
    for (int i = 0; i < n; i++) {
      kept += stays.test(list[decides * n + i]) ? 1 : 0;
    }
    if (kept == n) {
      return list;
    }
    if (kept == 0) {
      return null;
    }
    long[] changed = new long[kept * parts];
    int next = 0;
    for (int i = 0; i < n; i++) {
      if (stays.test(list[decides * n + i])) {
        for (int part = 0; part < parts; part++) {
          changed[part * kept + next] = list[part * n + i];
        }
        next++;
      }
    }
    return changed;
  }
}
