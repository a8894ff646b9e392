package mandala.core.excess;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.table.IntList;

/**
 * What was used within a window: by principal, the rights with the last day and the number of days
 * (section 12). It knows its own keys only, no model: fourteen bytes a right. Immutable.
 */
public final class Use {

  /** No use at all. */
  public static final Use NONE = new Builder().build();

  private final Map<PrincipalKey, Integer> principals;
  final List<PermissionKey> permissions;
  final List<ResourceKey> resources;

  /** By principal: where its rights begin; one more at the end. */
  private final int[] from;

  private final int[] permission;
  private final int[] resource;

  /** The last day, in days since the epoch, and the number of days. */
  private final int[] last;

  private final short[] days;

  private Use(
      Map<PrincipalKey, Integer> principals,
      List<PermissionKey> permissions,
      List<ResourceKey> resources,
      int[] from,
      int[] permission,
      int[] resource,
      int[] last,
      short[] days) {
    this.principals = principals;
    this.permissions = permissions;
    this.resources = resources;
    this.from = from;
    this.permission = permission;
    this.resource = resource;
    this.last = last;
    this.days = days;
  }

  /** {@return how many rights of all principals were used} */
  public int size() {
    return permission.length;
  }

  /** A right that was used: when last, and on how many days. */
  public record Used(PermissionKey permission, ResourceKey resource, LocalDate last, int days) {}

  /** {@return what was used of a principal's access} */
  public List<Used> of(PrincipalKey principal) {
    List<Used> all = new ArrayList<>();
    int whose = principals.getOrDefault(principal, -1);
    for (int i = begin(whose); i < end(whose); i++) {
      all.add(
          new Used(
              permissions.get(permission[i]),
              resources.get(resource[i]),
              LocalDate.ofEpochDay(last[i]),
              days[i]));
    }
    return all;
  }

  /** Takes a right that was used, by the numbers that it has here. */
  @FunctionalInterface
  interface Visitor {
    void used(int permission, int resource);
  }

  void each(PrincipalKey principal, Visitor visitor) {
    int whose = principals.getOrDefault(principal, -1);
    for (int i = begin(whose); i < end(whose); i++) {
      visitor.used(permission[i], resource[i]);
    }
  }

  private int begin(int whose) {
    return whose < 0 ? 0 : from[whose];
  }

  private int end(int whose) {
    return whose < 0 ? 0 : from[whose + 1];
  }

  /**
   * What some records tell within a window.
   *
   * @param strangers those that name somebody or something that the model does not have: without
   *     effect
   */
  public record Told(Use use, List<UseRecord> strangers) {
    /** Copies its list. */
    public Told {
      strangers = List.copyOf(strangers);
    }
  }

  private record Right(PrincipalKey whose, PermissionKey permission, ResourceKey resource) {}

  /** {@return what some records tell within a window}; those of other days do not count at all */
  public static Told of(Iterable<UseRecord> records, UseWindow window, Catalogue catalogue) {
    List<UseRecord> strangers = new ArrayList<>();
    Map<Right, BitSet> days = new LinkedHashMap<>();
    long first = window.first().toEpochDay();
    for (UseRecord it : records) {
      if (!window.contains(it.day())) {
        continue;
      }
      if (isStranger(it, catalogue)) {
        strangers.add(it);
      } else {
        days.computeIfAbsent(
                new Right(it.whose(), it.permission(), it.resource()), _ -> new BitSet())
            .set((int) (it.day().toEpochDay() - first));
      }
    }
    Builder builder = new Builder();
    days.forEach((right, on) ->
        builder.add(
            right.whose(),
            right.permission(),
            right.resource(),
            LocalDate.ofEpochDay(first + on.length() - 1),
            on.cardinality()));
    return new Told(builder.build(), strangers);
  }

  private static boolean isStranger(UseRecord it, Catalogue catalogue) {
    return !isKnown(it.principal(), catalogue)
        || !isKnown(it.whose(), catalogue)
        || !catalogue.permissions().containsKey(it.permission())
        || !catalogue.has(it.resource());
  }

  private static boolean isKnown(PrincipalKey key, Catalogue catalogue) {
    return key.equals(PrincipalKey.ANONYMOUS) || catalogue.principals().containsKey(key);
  }

  /** Gathers rights that were used, each told once, in any order. */
  public static final class Builder {

    private final Map<PrincipalKey, Integer> principals = new HashMap<>();
    private final Map<PermissionKey, Integer> permissions = new LinkedHashMap<>();
    private final Map<ResourceKey, Integer> resources = new LinkedHashMap<>();
    private final IntList whose = new IntList();
    private final IntList permission = new IntList();
    private final IntList resource = new IntList();
    private final IntList last = new IntList();
    private final IntList days = new IntList();

    /**
     * Adds a right that was used.
     *
     * @param lastDay the last day
     * @param onDays on how many days, from 1 to {@link UseWindow#MOST}
     */
    public void add(
        PrincipalKey principal,
        PermissionKey itsPermission,
        ResourceKey itsResource,
        LocalDate lastDay,
        int onDays) {
      whose.add(number(principals, principal));
      permission.add(number(permissions, itsPermission));
      resource.add(number(resources, itsResource));
      last.add((int) lastDay.toEpochDay());
      days.add(onDays);
    }

    private static <K> int number(Map<K, Integer> known, K key) {
      Integer number = known.get(key);
      if (number == null) {
        number = known.size();
        known.put(key, number);
      }
      return number;
    }

    /** {@return all of it} */
    public Use build() {
      int[] from = new int[principals.size() + 1];
      for (int i = 0; i < whose.size(); i++) {
        from[whose.get(i) + 1]++;
      }
      for (int i = 1; i < from.length; i++) {
        from[i] += from[i - 1];
      }
      int[] next = Arrays.copyOf(from, from.length);
      int[] itsPermission = new int[whose.size()];
      int[] itsResource = new int[whose.size()];
      int[] itsLast = new int[whose.size()];
      short[] itsDays = new short[whose.size()];
      for (int i = 0; i < whose.size(); i++) {
        int at = next[whose.get(i)]++;
        itsPermission[at] = permission.get(i);
        itsResource[at] = resource.get(i);
        itsLast[at] = last.get(i);
        itsDays[at] = (short) days.get(i);
      }
      return new Use(
          Map.copyOf(principals),
          List.copyOf(permissions.keySet()),
          List.copyOf(resources.keySet()),
          from,
          itsPermission,
          itsResource,
          itsLast,
          itsDays);
    }
  }
}
