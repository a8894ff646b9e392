package mandala.core.excess;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Queue;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.IntStream;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.evaluate.Givers;
import mandala.core.evaluate.KeptRights;
import mandala.core.evaluate.ScopeExtents;
import mandala.core.model.Expectation;
import mandala.core.model.Permission;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Impact;
import org.jspecify.annotations.Nullable;

/**
 * Tells of people what they need, what is young and what is excess (section 12), by one model, one
 * window and the use within it. What it works out once for all of them, it keeps: ask one study
 * about many. Thread-safe.
 */
public final class ExcessStudy {

  /** Number of people between two looks at the watch. */
  private static final int BATCH = 64;

  final Snapshot it;
  final Snapshot then;
  final Use use;
  final UseWindow window;
  final PastNumbers past;

  /** What is observed; null where that is everything. */
  final @Nullable Observed observed;

  /** By number in the use: the permission and the position here, or -1. */
  final int[] permissions;

  final int[] positions;

  /** By permission: what it implies beyond itself. */
  final int[][] implied;

  final List<Demand> demands = new ArrayList<>();

  /** Those at rest; no thread keeps one, so that all of it goes when the study does. */
  private final Queue<ExcessOfOne> idle = new ConcurrentLinkedQueue<>();

  /** What an expectation of form {@code can} demands. */
  static final class Demand {
    /** Whose it is, as codes. */
    private final Set<Integer> subjects;

    /** By number. */
    final int[] permissions;

    /** Where, seals aside. */
    final BitSet places;

    Demand(Set<Integer> subjects, int[] permissions, BitSet places) {
      this.subjects = subjects;
      this.permissions = permissions;
      this.places = places;
    }

    boolean isOf(int[] held) {
      return Arrays.stream(held).anyMatch(subjects::contains);
    }
  }

  /**
   * Begins a study.
   *
   * @param then the model in force when the window began
   */
  public ExcessStudy(Snapshot it, Snapshot then, Use use, UseWindow window) {
    this.it = it;
    this.then = then;
    this.use = use;
    this.window = window;
    past = PastNumbers.of(it, then);
    observed = Observed.of(use.coverage(), window, it);
    permissions =
        use.permissions.stream()
            .mapToInt(key -> it.rights.permissionId.getOrDefault(key, -1))
            .toArray();
    positions = use.resources.stream().mapToInt(it.places::find).toArray();
    implied =
        IntStream.range(0, it.rights.permissions.size())
            .mapToObj(p -> it.rights.implied(p).filter(q -> q != p).toArray())
            .toArray(int[][]::new);
    for (Expectation each : it.catalogue.expectations().values()) {
      if (each.form() == Expectation.Form.CAN) {
        demands.add(demand(each));
      }
    }
  }

  private Demand demand(Expectation expectation) {
    Set<Integer> subjects = new LinkedHashSet<>();
    expectation.subjects().forEach(each -> subjects.add(GrantEntry.code(each, it.catalogue)));
    return new Demand(
        subjects,
        expectation.permissions().stream()
            .mapToInt(key -> it.rights.permissionId.getOrDefault(key, -1))
            .filter(p -> p >= 0)
            .toArray(),
        new ScopeExtents(it).places(expectation.scope()));
  }

  /**
   * {@return how much of a principal's access is excess}
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public Excess of(PrincipalKey principal) {
    return with(it -> it.of(principal));
  }

  private <T> T with(Function<ExcessOfOne, T> work) {
    ExcessOfOne rested = idle.poll();
    ExcessOfOne one = rested == null ? new ExcessOfOne(this) : rested;
    T result = work.apply(one);
    idle.add(one);
    return result;
  }

  /**
   * {@return the rights of a principal that are excess}, by permission, then by resource
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public List<Excess.Right> rights(PrincipalKey principal) {
    List<Excess.Right> rights =
        with(one -> {
          List<Excess.Right> found = new ArrayList<>();
          one.each(principal, found::add);
          return found;
        });
    rights.sort(
        Comparator.comparing((Excess.Right right) -> right.permission().value())
            .thenComparing(right -> right.resource().value()));
    return rights;
  }

  /**
   * Somebody's access in shares, as figures show it.
   *
   * @param effective all of it
   * @param needed what of it is needed or young
   * @param kept the same, and what is not observed; the rest is excess
   */
  public record Shares(Access effective, Access needed, Access kept) {}

  /**
   * {@return the access of a principal in shares}
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public Shares shares(PrincipalKey principal) {
    return with(it -> it.shares(principal));
  }

  /**
   * Somebody's rights by the number of their permission.
   *
   * @param effective how many there are
   * @param excess how many of these are excess
   * @param held all of them
   */
  @SuppressWarnings("ArrayRecordComponent") // made for one reader, and never compared
  public record ByPermission(long[] effective, long[] excess, Access held) {}

  /**
   * {@return the rights of a principal by permission} (see {@link #permission})
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public ByPermission byPermission(PrincipalKey principal) {
    return with(it -> it.byPermission(principal));
  }

  /**
   * {@return the same}, after a visit to what must stay of them (see {@link #eachKept})
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public ByPermission byPermission(PrincipalKey principal, KeptVisitor visitor) {
    return with(one -> {
      one.eachKept(principal, visitor);
      return one.byPermission(principal);
    });
  }

  /** {@return how many permissions there are} */
  public int permissions() {
    return it.rights.permissions.size();
  }

  /** Takes a right that must stay, by numbers, and what gives it. */
  @FunctionalInterface
  public interface KeptVisitor {
    /**
     * Called once for each right.
     *
     * @param permission see {@link ExcessStudy#permission}
     * @param position see {@link ExcessStudy#resource}
     * @param givers good until the visitor returns
     */
    void kept(int permission, int position, Givers givers);
  }

  /**
   * Visits the rights of a principal that are needed, young or not observed: all that must stay, in
   * no order.
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public void eachKept(PrincipalKey principal, KeptVisitor visitor) {
    with(one -> {
      one.eachKept(principal, visitor);
      return one;
    });
  }

  /**
   * {@return the rights of a principal that are needed, young or not observed}
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public KeptRights kept(PrincipalKey principal) {
    return with(it -> it.kept(principal));
  }

  /** {@return the rights of a principal that were used}, held or not */
  public KeptRights used(PrincipalKey principal) {
    TreeMap<Integer, TreeMap<Integer, Long>> found = new TreeMap<>();
    use.each(
        principal,
        (p, r) -> {
          int position = positions[r];
          int bit = permissions[p] < 0 || position < 0 ? -1 : bit(permissions[p], position);
          if (bit >= 0) {
            int lane = it.rights.offset[it.places.type[position]] + (bit >> 6);
            found
                .computeIfAbsent(lane, _ -> new TreeMap<>())
                .merge(position, 1L << bit, (one, other) -> one | other);
          }
        });
    KeptRights.Builder used = new KeptRights.Builder();
    found.forEach((lane, bits) -> bits.forEach((position, mask) -> used.add(lane, position, mask)));
    return used.build();
  }

  private int bit(int permission, int position) {
    return it.rights.bit[it.places.type[position]][permission];
  }

  /** {@return the permission with a number} */
  public Permission permission(int number) {
    return it.rights.permissions.get(number);
  }

  /** {@return the resource at a position} */
  public ResourceKey resource(int position) {
    return it.places.key(position);
  }

  /** {@return the position of a resource}, -1 where there is none */
  public int position(ResourceKey resource) {
    return it.places.find(resource);
  }

  /** {@return whether a permission applies to the resource at a position} */
  public boolean applies(int permission, int position) {
    return bit(permission, position) >= 0;
  }

  /** {@return what a permission implies, by number, itself not among it} */
  public int[] implied(int permission) {
    return implied[permission].clone();
  }

  /**
   * {@return the same of some principals, in their order}, on all threads
   *
   * @throws IllegalArgumentException if one of them is unknown
   */
  public List<Excess> of(List<PrincipalKey> people) {
    return people.parallelStream().map(this::of).toList();
  }

  /**
   * Tells of some principals as they are found, on all threads.
   *
   * @param watch told how far it is, and asked whether to go on
   * @param found told of each; from any thread
   * @return whether it was not broken off
   * @throws IllegalArgumentException if one of them is unknown
   */
  public boolean each(List<PrincipalKey> people, Impact.Watch watch, Consumer<Excess> found) {
    return InBatches.of(people, BATCH, watch, some -> some.forEach(who -> found.accept(of(who))));
  }

  /** {@return everybody by key, and {@code anonymous} last} */
  public List<PrincipalKey> everybody() {
    List<PrincipalKey> all = new ArrayList<>();
    it.catalogue.principals().values().forEach(principal -> all.add(principal.key()));
    all.sort(Comparator.comparing(PrincipalKey::value));
    all.add(PrincipalKey.ANONYMOUS);
    return all;
  }
}
