package mandala.core.compare;

import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;
import java.util.stream.IntStream;
import mandala.core.change.Change;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.Spans;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.AccessMapCache;
import mandala.core.evaluate.KeptRights;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.Ranges;
import mandala.core.evaluate.RightsCounter;
import mandala.core.evaluate.SegmentCollector;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Impact;
import mandala.core.whocan.PermissionHolders;
import org.jspecify.annotations.Nullable;

/**
 * Computes an impact. 1. {@link #concerned} finds who may be concerned: members of the subjects
 * whose grant entries, or what they give, changed; members of changed groups; where anything else
 * changed, everybody whose access map would be made of something else. 2. For each of these people
 * {@link ChangeScope} tells where and in which lanes anything can differ. 3. {@link #run} sweeps
 * each before and after, there only, on all threads.
 */
public final class ImpactStudy {

  /** People to a piece of work. */
  private static final int BATCH = 64;

  private final Snapshot before;
  private final Snapshot after;
  private final List<Change> changes;
  private final long at;
  private final boolean mfa;
  private final boolean routes;
  private final ChangeScope narrowing;

  public ImpactStudy(
      Snapshot before, Snapshot after, List<Change> changes, long at, boolean mfa, boolean routes) {
    this.before = before;
    this.after = after;
    this.changes = changes;
    this.at = at;
    this.mfa = mfa;
    this.routes = routes && RouteChanges.isTold(before, after);
    this.narrowing = new ChangeScope(before, after, changes);
  }

  /**
   * Whether only grant entries and what they give can have changed, so that subjects tell who it
   * is.
   */
  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private boolean onlyGrants() {
    return before.grantIds == after.grantIds
        && before.placeLog == after.placeLog
        && changes.stream()
            .flatMap(change -> change.things().stream())
            .allMatch(it ->
                it instanceof Assignment
                    || it instanceof Group
                    || it instanceof Bridge
                    || it instanceof Role
                    || it instanceof PermissionSet);
  }

  /** Who may be concerned, before or after; {@code anonymous} always, as it is one principal. */
  private List<PrincipalKey> concerned() {
    Set<PrincipalKey> people = new LinkedHashSet<>();
    people.add(PrincipalKey.ANONYMOUS);
    if (onlyGrants()) {
      for (Snapshot it : List.of(before, after)) {
        PermissionHolders column = new PermissionHolders(it, at, mfa);
        BitSet found = new BitSet();
        for (int subject : subjects(it)) {
          column.members(subject, new BitSet(), found::set);
        }
        found.stream().forEach(p -> people.add(key(it, p)));
      }
      return List.copyOf(people);
    }
    AccessMapCache.Comparison comparison = new AccessMapCache.Comparison(before, after, at);
    int[] differing =
        IntStream.range(0, before.directory.profiles.size())
            .parallel()
            .filter(p -> before.directory.profiles.get(p) != null)
            .filter(comparison::mayDiffer)
            .toArray();
    for (int p : differing) {
      people.add(key(before, p));
    }
    for (int p = 0; p < after.directory.profiles.size(); p++) {
      if (after.directory.profiles.get(p) != null && before.principal(key(after, p)) < 0) {
        people.add(key(after, p));
      }
    }
    return List.copyOf(people);
  }

  /**
   * The subjects in a snapshot that the changes name, or whose grant entries give something that
   * changed.
   */
  private Set<Integer> subjects(Snapshot it) {
    Set<Integer> subjects = new LinkedHashSet<>();
    for (Change change : changes) {
      for (Thing thing : change.things()) {
        Subject subject =
            switch (thing) {
              case Assignment assignment -> assignment.subject();
              case Group group -> new Subject.OfGroup(group.key());
              case Bridge bridge -> new Subject.OfGroup(bridge.group());
              default -> null;
            };
        boolean there =
            !(subject instanceof Subject.OfGroup(GroupKey key))
                || it.catalogue.groups().containsKey(key);
        if (subject != null && there) {
          subjects.add(GrantEntry.code(subject, it.catalogue));
        }
      }
    }
    BitSet other = givenOtherwise();
    if (!other.isEmpty()) {
      it.allowAt.forEach(list -> holders(list, other, subjects));
      it.allowOf.forEach(list -> holders(list, other, subjects));
      it.denyAt.forEach(list -> holders(list, other, subjects));
      it.denyOf.forEach(list -> holders(list, other, subjects));
    }
    return subjects;
  }

  private static void holders(long[] list, BitSet given, Set<Integer> subjects) {
    for (int i = 0; i < list.length / 3; i++) {
      if (given.get((int) list[i])) {
        subjects.add((int) (list[i] >>> 32));
      }
    }
  }

  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private BitSet givenOtherwise() {
    BitSet other = new BitSet();
    int many = before.given == after.given ? 0 : Math.max(before.given.size(), after.given.size());
    for (int given = 0; given < many; given++) {
      other.set(given, before.given.get(given) != after.given.get(given));
    }
    return other;
  }

  private static PrincipalKey key(Snapshot it, int p) {
    return it.directory.profiles.require(p).principal.key();
  }

  /** Looks at everybody who may be concerned. */
  public Impact run(Impact.Watch watch) {
    return run(concerned(), watch);
  }

  /** Looks at these principals only; one that is neither before nor after has nothing. */
  public Impact run(List<PrincipalKey> people, Impact.Watch watch) {
    AccessDiff total = differing();
    AtomicLong rerouted = new AtomicLong();
    List<Impact.Person> found = new ArrayList<>();
    AtomicBoolean goesOn = new AtomicBoolean(true);
    AtomicInteger done = new AtomicInteger();
    int batches = (people.size() + BATCH - 1) / BATCH;
    IntStream.range(0, batches)
        .parallel()
        .forEach(batch -> {
          if (goesOn.get()) {
            List<Impact.Person> some = new ArrayList<>();
            AccessDiff sum = batch(people, batch, some, total.another());
            synchronized (found) {
              total.join(sum);
              found.addAll(some);
              some.forEach(it -> rerouted.addAndGet(it.rerouted()));
              int many = done.addAndGet(Math.min(BATCH, people.size() - batch * BATCH));
              goesOn.compareAndSet(true, watch.goOn(many, people.size()));
            }
          }
        });
    found.sort(
        Comparator.comparingLong((Impact.Person person) -> -person.gained() - person.lost())
            .thenComparingLong(person -> -person.rerouted())
            .thenComparing(person -> person.principal().value()));
    return new Impact(
        people.size(),
        found,
        total.result(),
        routes ? rerouted.get() : Impact.UNTOLD,
        done.get() == people.size());
  }

  /**
   * Visits what the changes do to each principal from the study's instant on. For each one the same
   * is done again and again: compare before and after at an instant, and go on to the next at which
   * a window that was looked at begins or ends. So a principal costs as many comparisons as there
   * are edges that matter to it, however many the model has.
   *
   * @param people whom to look at, or null for everybody
   * @return whether it was not broken off
   */
  public boolean overTime(
      @Nullable List<PrincipalKey> people, Impact.Watch watch, Impact.Visitor visitor) {
    List<PrincipalKey> all = people == null ? concernedEver() : people;
    AccessDiff none = differing();
    AtomicBoolean goesOn = new AtomicBoolean(true);
    AtomicInteger done = new AtomicInteger();
    int batches = (all.size() + BATCH - 1) / BATCH;
    IntStream.range(0, batches)
        .parallel()
        .forEach(batch -> {
          RightsCounter first = new RightsCounter(before);
          RightsCounter second = new RightsCounter(after);
          int end = Math.min(all.size(), (batch + 1) * BATCH);
          for (int i = batch * BATCH; i < end && goesOn.get(); i++) {
            overTime(all.get(i), first, second, none, visitor);
          }
          if (goesOn.get()) {
            int many = done.addAndGet(end - batch * BATCH);
            synchronized (done) {
              goesOn.compareAndSet(true, watch.goOn(many, all.size()));
            }
          }
        });
    return goesOn.get();
  }

  /** Tells whether rights that somebody loses must stay. */
  @FunctionalInterface
  public interface Keeping {
    /**
     * Asked of what one principal loses, once for each stretch of places in which it is the same.
     *
     * @param lane of the rights of both snapshots
     * @param from the first position
     * @param to the position after the last
     * @param lost which bits of the lane
     * @return whether any of these must stay
     */
    boolean has(PrincipalKey who, long instant, int lane, int from, int to, long lost);
  }

  /**
   * {@return who gains anything, or loses what must stay}, from the study's instant on, at that or
   * a later one; in no order
   *
   * @param people whom to look at
   * @throws IllegalStateException if the snapshots number things differently
   */
  public List<PrincipalKey> gainingOrLosing(List<PrincipalKey> people, Keeping keeping) {
    if (!RouteChanges.isTold(before, after)) {
      throw new IllegalStateException("Impossible state: two models without one numbering");
    }
    return failing(people, (key, first, second) -> onlyLoses(key, first, second, keeping));
  }

  /** A test of one principal, with the memory for it. */
  private interface Test {
    boolean holds(PrincipalKey key, RightsCounter first, RightsCounter second);
  }

  private List<PrincipalKey> failing(List<PrincipalKey> people, Test test) {
    List<PrincipalKey> failing = new ArrayList<>();
    int batches = (people.size() + BATCH - 1) / BATCH;
    IntStream.range(0, batches)
        .parallel()
        .forEach(batch -> {
          RightsCounter first = new RightsCounter(before);
          RightsCounter second = new RightsCounter(after);
          for (PrincipalKey key :
              people.subList(batch * BATCH, Math.min(people.size(), (batch + 1) * BATCH))) {
            if (!test.holds(key, first, second)) {
              synchronized (failing) {
                failing.add(key);
              }
            }
          }
        });
    return failing;
  }

  private boolean onlyLoses(
      PrincipalKey key, RightsCounter first, RightsCounter second, Keeping keeping) {
    long now = at;
    while (now < Long.MAX_VALUE) {
      PrincipalAtInstant was = who(before, key, now);
      PrincipalAtInstant is = who(after, key, now);
      if (was == null || is == null) {
        return was == is;
      }
      if (was.active && is.active && !onlyLoses(key, was, is, first, second, keeping)) {
        return false;
      }
      now = Math.min(until(was), until(is));
    }
    return true;
  }

  private boolean onlyLoses(
      PrincipalKey key,
      PrincipalAtInstant was,
      PrincipalAtInstant is,
      RightsCounter first,
      RightsCounter second,
      Keeping keeping) {
    ChangeScope.Reach reach = narrowing.of(was, is);
    if (reach.isEmpty()) {
      return true;
    }
    AccessMap one = accessMap(first, was, reach.ranges(before), reach.lanes);
    AccessMap two = accessMap(second, is, reach.ranges(after), reach.lanes);
    for (int lane = 0; lane < before.rights.rowLength; lane++) {
      for (int i = 0; i < reach.where.size() && (reach.lanes & Rights.fold(lane)) != 0; i++) {
        int at = reach.where.start[i];
        while (at < reach.where.end[i]) {
          int end = Math.min(reach.where.end[i], Math.min(one.end(lane, at), two.end(lane, at)));
          long had = one.allowed(one.maskAt(lane, at));
          long has = two.allowed(two.maskAt(lane, at));
          if (((has & ~had) != 0 && before.places.count(before.rights.laneType[lane], at, end) > 0)
              || ((had & ~has) != 0 && keeping.has(key, was.at, lane, at, end, had & ~has))) {
            return false;
          }
          at = end;
        }
      }
    }
    return true;
  }

  /**
   * {@return who loses what must stay}, from the study's instant on; what is gained is not looked
   * for: for changes that only take away
   *
   * @param people whom to look at
   * @param kept what must stay of whom
   */
  public List<PrincipalKey> losing(
      List<PrincipalKey> people, Function<PrincipalKey, KeptRights> kept) {
    return failing(people, (key, first, second) -> keeps(key, kept.apply(key), first, second));
  }

  /** What is missing after is compared with what there was; mostly nothing is. */
  private boolean keeps(
      PrincipalKey key, KeptRights kept, RightsCounter first, RightsCounter second) {
    Spans places = Ranges.runs(kept.positions());
    if (places.size() == 0) {
      return true;
    }
    Ranges ranges = new Ranges(after, places);
    long now = at;
    while (now < Long.MAX_VALUE) {
      PrincipalAtInstant is = who(after, key, now);
      AccessMap left = accessMap(second, is, ranges, SegmentCollector.ALL_LANES);
      long next = until(is);
      if (kept.isMissing(left)) {
        PrincipalAtInstant was = who(before, key, now);
        AccessMap had =
            accessMap(first, was, new Ranges(before, places), SegmentCollector.ALL_LANES);
        if (kept.isLost(had, left)) {
          return false;
        }
        next = Math.min(next, until(was));
      }
      now = next;
    }
    return true;
  }

  private void overTime(
      PrincipalKey key,
      RightsCounter first,
      RightsCounter second,
      AccessDiff empty,
      Impact.Visitor visitor) {
    long now = at;
    while (now < Long.MAX_VALUE) {
      PrincipalAtInstant was = who(before, key, now);
      PrincipalAtInstant is = who(after, key, now);
      AccessDiff sum = empty.another();
      compare(was, is, first, second, sum, null);
      if ((sum.gained() > 0 || sum.lost() > 0)
          && !visitor.visit(key, Instant.ofEpochSecond(now), sum.result())) {
        return;
      }
      now = Math.min(until(was), until(is));
    }
  }

  private static long until(@Nullable PrincipalAtInstant who) {
    return who == null ? Long.MAX_VALUE : who.good().until();
  }

  /** {@return everybody who may be concerned now or later}: whose subjects change with time, too */
  public List<PrincipalKey> concernedEver() {
    Set<PrincipalKey> people = new LinkedHashSet<>(concerned());
    for (Snapshot it : List.of(before, after)) {
      for (int p : it.people.varying()) {
        people.add(key(it, p));
      }
    }
    return List.copyOf(people);
  }

  private AccessDiff differing() {
    return new AccessDiff(before, after, Spans.of(0, before.places.count, Spans.NO_FLOOR));
  }

  private AccessDiff batch(
      List<PrincipalKey> people, int batch, List<Impact.Person> found, AccessDiff sum) {
    RightsCounter first = new RightsCounter(before);
    RightsCounter second = new RightsCounter(after);
    RouteChanges rerouting = routes ? new RouteChanges(before, after, narrowing) : null;
    for (int i = batch * BATCH; i < Math.min(people.size(), (batch + 1) * BATCH); i++) {
      PrincipalKey key = people.get(i);
      long gained = sum.gained();
      long lost = sum.lost();
      long rerouted =
          compare(who(before, key, at), who(after, key, at), first, second, sum, rerouting);
      if (sum.gained() > gained || sum.lost() > lost || rerouted > 0) {
        found.add(new Impact.Person(key, sum.gained() - gained, sum.lost() - lost, rerouted));
      }
    }
    return sum;
  }

  /** Adds what differs of one principal; {@return how many rights it keeps by another route}. */
  private long compare(
      @Nullable PrincipalAtInstant was,
      @Nullable PrincipalAtInstant is,
      RightsCounter first,
      RightsCounter second,
      AccessDiff sum,
      @Nullable RouteChanges rerouting) {
    if (was == null || is == null || !was.active || !is.active) {
      sum.add(
          accessMap(first, was, null, SegmentCollector.ALL_LANES),
          accessMap(second, is, null, SegmentCollector.ALL_LANES));
      return 0;
    }
    ChangeScope.Reach reach = narrowing.of(was, is);
    if (reach.isEmpty()) {
      return 0;
    }
    AccessMap one = accessMap(first, was, reach.ranges(before), reach.lanes);
    AccessMap two = accessMap(second, is, reach.ranges(after), reach.lanes);
    sum.add(one, two, reach.where, reach.lanes);
    return rerouting == null
        ? 0
        : rerouting.count(
            new RouteChanges.Side(was, mfa && was.hasFactor(), one),
            new RouteChanges.Side(is, mfa && is.hasFactor(), two),
            reach);
  }

  private static @Nullable PrincipalAtInstant who(Snapshot it, PrincipalKey key, long at) {
    int p = it.principal(key);
    return p == Snapshot.UNKNOWN ? null : PrincipalAtInstant.of(it, p, at);
  }

  private AccessMap accessMap(
      RightsCounter counting,
      @Nullable PrincipalAtInstant who,
      @Nullable Ranges ranges,
      long lanes) {
    return who == null || !who.active
        ? AccessMap.EMPTY
        : counting.within(who, mfa && who.hasFactor(), ranges, lanes);
  }
}
