package mandala.core.change;

import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import mandala.core.model.About;
import mandala.core.model.Group;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.Key;
import org.jspecify.annotations.Nullable;

/**
 * Joins two alterations of one thing. A field that only one side altered is that side's; lists of
 * keys and members, and maps, are joined entry by entry; of all else that both altered in different
 * ways there is a clash, for joining two scopes would give what neither meant.
 */
final class Merge {

  private final List<String> clashes = new ArrayList<>();

  private Merge() {}

  /**
   * What came of it.
   *
   * @param thing with the fields of both; of clashing ones with mine
   * @param clashes the names of the fields that both altered differently
   */
  record Result(Thing thing, List<String> clashes) {}

  /** {@return the alterations from {@code base} to both of the others, joined} */
  static Result of(Thing base, Thing mine, Thing theirs) {
    Merge merge = new Merge();
    Record joined = merge.record((Record) base, (Record) mine, (Record) theirs, "");
    return new Result((Thing) joined, List.copyOf(merge.clashes));
  }

  private Record record(Record base, Record mine, Record theirs, String path) {
    RecordComponent[] parts = base.getClass().getRecordComponents();
    @Nullable Object[] values = new Object[parts.length];
    try {
      for (int i = 0; i < parts.length; i++) {
        values[i] =
            value(
                parts[i].getAccessor().invoke(base),
                parts[i].getAccessor().invoke(mine),
                parts[i].getAccessor().invoke(theirs),
                path + parts[i].getName());
      }
      Class<?>[] types =
          Arrays.stream(parts).map(RecordComponent::getType).toArray(Class<?>[]::new);
      return base.getClass().getDeclaredConstructor(types).newInstance(values);
    } catch (ReflectiveOperationException e) {
      throw new IllegalStateException("Impossible state: a record cannot be made of its parts", e);
    }
  }

  private @Nullable Object value(
      @Nullable Object base, @Nullable Object mine, @Nullable Object theirs, String path) {
    if (Objects.equals(theirs, base) || Objects.equals(mine, theirs)) {
      return mine;
    }
    if (Objects.equals(mine, base)) {
      return theirs;
    }
    if (base instanceof About || base instanceof Window) {
      return record(
          (Record) base,
          (Record) Objects.requireNonNull(mine),
          (Record) Objects.requireNonNull(theirs),
          "");
    }
    if (base instanceof List<?> was
        && mine instanceof List<?> my
        && theirs instanceof List<?> their
        && joinable(was)
        && joinable(my)
        && joinable(their)) {
      return list(was, my, their);
    }
    if (base instanceof Map<?, ?> was
        && mine instanceof Map<?, ?> my
        && theirs instanceof Map<?, ?> their) {
      return map(was, my, their, path);
    }
    clashes.add(path);
    return mine;
  }

  /** Entries that mean something each for itself. */
  private static boolean joinable(List<?> list) {
    return list.stream().allMatch(it -> it instanceof Key || it instanceof Group.Member);
  }

  private static List<?> list(List<?> base, List<?> mine, List<?> theirs) {
    Set<Object> joined = new LinkedHashSet<>(mine);
    theirs.stream().filter(it -> !base.contains(it)).forEach(joined::add);
    joined.removeIf(it -> base.contains(it) && !theirs.contains(it));
    return List.copyOf(joined);
  }

  private Map<?, ?> map(Map<?, ?> base, Map<?, ?> mine, Map<?, ?> theirs, String path) {
    Set<Object> names = new LinkedHashSet<>(base.keySet());
    names.addAll(mine.keySet());
    names.addAll(theirs.keySet());
    Map<Object, Object> joined = new TreeMap<>();
    for (Object name : names) {
      Object value = value(base.get(name), mine.get(name), theirs.get(name), path + "." + name);
      if (value != null) {
        joined.put(name, value);
      }
    }
    return joined;
  }
}
