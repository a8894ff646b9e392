package mandala.core.excess;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * What was used within a window: by principal, the rights with the last day and the number of days
 * (section 12), and what is observed at all. It knows its own keys only, no model: fourteen bytes a
 * right. Immutable.
 */
public final class Use {

  /** No use at all. */
  public static final Use NONE = new Builder().build(UseCoverage.COMPLETE);

  private final Map<PrincipalKey, Rights> principals;
  private final UseCoverage coverage;
  final List<PermissionKey> permissions;
  final List<ResourceKey> resources;

  /**
   * What one principal used, each right at the same index of all arrays.
   *
   * @param permission by the numbers of the use
   * @param resource by the numbers of the use
   * @param last the last day, in days since the epoch
   * @param days on how many days
   */
  @SuppressWarnings("ArrayRecordComponent") // seen in this file only, and never compared
  private record Rights(int[] permission, int[] resource, int[] last, short[] days) {}

  private Use(
      Map<PrincipalKey, Rights> principals,
      List<PermissionKey> permissions,
      List<ResourceKey> resources,
      UseCoverage coverage) {
    this.principals = principals;
    this.permissions = permissions;
    this.resources = resources;
    this.coverage = coverage;
  }

  /** {@return what is observed}; what is not may have been used without a record */
  public UseCoverage coverage() {
    return coverage;
  }

  /** {@return the same use, of which this is observed} */
  public Use observing(UseCoverage another) {
    return new Use(principals, permissions, resources, another);
  }

  /** {@return how many rights of all principals were used} */
  public int size() {
    return principals.values().stream().mapToInt(it -> it.days.length).sum();
  }

  /** A right that was used: when last, and on how many days. */
  public record Used(PermissionKey permission, ResourceKey resource, LocalDate last, int days) {}

  /** {@return what was used of a principal's access} */
  public List<Used> of(PrincipalKey principal) {
    List<Used> all = new ArrayList<>();
    Rights rights = principals.get(principal);
    for (int i = 0; rights != null && i < rights.days.length; i++) {
      all.add(
          new Used(
              permissions.get(rights.permission[i]),
              resources.get(rights.resource[i]),
              LocalDate.ofEpochDay(rights.last[i]),
              rights.days[i]));
    }
    return all;
  }

  /** Takes a right that was used, by the numbers that it has here. */
  @FunctionalInterface
  interface Visitor {
    void used(int permission, int resource);
  }

  void each(PrincipalKey principal, Visitor visitor) {
    Rights rights = principals.get(principal);
    for (int i = 0; rights != null && i < rights.days.length; i++) {
      visitor.used(rights.permission[i], rights.resource[i]);
    }
  }

  /**
   * {@return this use, with that of some principals replaced by another}
   *
   * @param some whose use is replaced; those who have none in the other one used nothing
   */
  public Use with(Use other, Collection<PrincipalKey> some) {
    Builder builder = new Builder(this);
    some.forEach(builder.principals::remove);
    for (PrincipalKey who : some) {
      other
          .of(who)
          .forEach(it -> builder.add(who, it.permission(), it.resource(), it.last(), it.days()));
    }
    return builder.build(coverage);
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

  private record Right(PermissionKey permission, ResourceKey resource) {}

  /** {@return what some records tell within a window}; those of other days do not count at all */
  public static Told of(Iterable<UseRecord> records, UseWindow window, Catalogue catalogue) {
    return of(records, window, catalogue, UseCoverage.COMPLETE);
  }

  /**
   * {@return what some records tell within a window}; those of other days do not count at all
   *
   * @param coverage what is observed
   */
  public static Told of(
      Iterable<UseRecord> records, UseWindow window, Catalogue catalogue, UseCoverage coverage) {
    List<UseRecord> strangers = new ArrayList<>();
    Map<PrincipalKey, Map<Right, BitSet>> days = new LinkedHashMap<>();
    long first = window.first().toEpochDay();
    for (UseRecord it : records) {
      if (!window.contains(it.day())) {
        continue;
      }
      if (isStranger(it, catalogue)) {
        strangers.add(it);
      } else {
        days.computeIfAbsent(it.whose(), _ -> new LinkedHashMap<>())
            .computeIfAbsent(new Right(it.permission(), it.resource()), _ -> new BitSet())
            .set((int) (it.day().toEpochDay() - first));
      }
    }
    Builder builder = new Builder();
    days.forEach((whose, rights) ->
        rights.forEach((right, on) ->
            builder.add(
                whose,
                right.permission(),
                right.resource(),
                LocalDate.ofEpochDay(first + on.length() - 1),
                on.cardinality())));
    return new Told(builder.build(coverage), strangers);
  }

  /** {@return whether a record names what a model lacks} (section 12) */
  public static boolean isStranger(UseRecord it, Catalogue catalogue) {
    return !isKnown(it.principal(), catalogue)
        || !isKnown(it.whose(), catalogue)
        || !catalogue.permissions().containsKey(it.permission())
        || !catalogue.has(it.resource());
  }

  private static boolean isKnown(PrincipalKey key, Catalogue catalogue) {
    return key.equals(PrincipalKey.ANONYMOUS) || catalogue.principals().containsKey(key);
  }

  /**
   * Gathers rights that were used, each told once. Those of one principal come together: it takes
   * little more memory than what comes of it.
   */
  public static final class Builder {

    private final Map<PrincipalKey, Rights> principals;
    private final Map<PermissionKey, Integer> permissions = new LinkedHashMap<>();
    private final Map<ResourceKey, Integer> resources = new LinkedHashMap<>();
    private final IntList permission = new IntList();
    private final IntList resource = new IntList();
    private final IntList last = new IntList();
    private final IntList days = new IntList();
    private @Nullable PrincipalKey whose;

    /** Begins with nothing. */
    public Builder() {
      principals = new HashMap<>();
    }

    private Builder(Use from) {
      principals = new HashMap<>(from.principals);
      from.permissions.forEach(it -> number(permissions, it));
      from.resources.forEach(it -> number(resources, it));
    }

    /**
     * Adds a right that was used.
     *
     * @param lastDay the last day
     * @param onDays on how many days, from 1 to {@link UseWindow#MOST}
     * @throws IllegalArgumentException if the principal was told of before, and others since
     */
    public void add(
        PrincipalKey principal,
        PermissionKey itsPermission,
        ResourceKey itsResource,
        LocalDate lastDay,
        int onDays) {
      if (!principal.equals(whose)) {
        close();
        if (principals.containsKey(principal)) {
          throw new IllegalArgumentException("'" + principal + "' was told of before");
        }
        whose = principal;
      }
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

    private void close() {
      if (whose != null) {
        short[] onDays = new short[days.size()];
        for (int i = 0; i < onDays.length; i++) {
          onDays[i] = (short) days.get(i);
        }
        principals.put(
            whose, new Rights(permission.toArray(), resource.toArray(), last.toArray(), onDays));
      }
      List.of(permission, resource, last, days).forEach(IntList::clear);
    }

    /**
     * {@return all of it}
     *
     * @param coverage what is observed
     */
    public Use build(UseCoverage coverage) {
      close();
      whose = null;
      return new Use(
          Map.copyOf(principals),
          List.copyOf(permissions.keySet()),
          List.copyOf(resources.keySet()),
          coverage);
    }
  }
}
