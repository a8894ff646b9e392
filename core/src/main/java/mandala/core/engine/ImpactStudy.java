package mandala.core.engine;

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
import java.util.stream.IntStream;
import mandala.core.change.Change;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Group;
import mandala.core.model.Key;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import org.jspecify.annotations.Nullable;

/**
 * Computes an impact. 1. {@link #concerned} finds who may be concerned: members of the subjects
 * whose lines, or what they give, changed; members of changed groups; where anything else changed,
 * everybody whose sheet would be made of something else. 2. For each of these people {@link
 * Narrowing} tells where and in which lanes anything can differ. 3. {@link #run} sweeps each before
 * and after, there only, on all threads.
 */
final class ImpactStudy {

  /** People to a piece of work. */
  private static final int BATCH = 64;

  private final Snapshot before;
  private final Snapshot after;
  private final List<Change> changes;
  private final long at;
  private final boolean mfa;
  private final boolean routes;
  private final Narrowing narrowing;

  ImpactStudy(
      Snapshot before, Snapshot after, List<Change> changes, long at, boolean mfa, boolean routes) {
    this.before = before;
    this.after = after;
    this.changes = changes;
    this.at = at;
    this.mfa = mfa;
    this.routes = routes && Rerouting.isTold(before, after);
    this.narrowing = new Narrowing(before, after, changes);
  }

  /** Whether only lines and what they give can have changed, so that subjects tell who it is. */
  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private boolean onlyGrants() {
    return before.vocabulary == after.vocabulary
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
  private List<Key.Principal> concerned() {
    Set<Key.Principal> people = new LinkedHashSet<>();
    people.add(Key.Principal.ANONYMOUS);
    if (onlyGrants()) {
      for (Snapshot it : List.of(before, after)) {
        Column column = new Column(it, at, mfa);
        BitSet found = new BitSet();
        for (int subject : subjects(it)) {
          column.members(subject, new BitSet(), found::set);
        }
        found.stream().forEach(p -> people.add(key(it, p)));
      }
      return List.copyOf(people);
    }
    PersonCache.Comparison comparison = new PersonCache.Comparison(before, after, at);
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
   * The subjects in a snapshot that the changes name, or whose lines give something that changed.
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
            !(subject instanceof Subject.OfGroup(Key.Group key))
                || it.catalogue.groups().containsKey(key);
        if (subject != null && there) {
          subjects.add(Line.code(subject, it.catalogue));
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

  private static Key.Principal key(Snapshot it, int p) {
    return it.directory.profiles.require(p).principal.key();
  }

  /** Looks at everybody who may be concerned. */
  Impact run(Impact.Watch watch) {
    return run(concerned(), watch);
  }

  /** Looks at these principals only; one that is neither before nor after has nothing. */
  Impact run(List<Key.Principal> people, Impact.Watch watch) {
    Differing total = differing();
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
            Differing sum = batch(people, batch, some, total.another());
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
  boolean overTime(
      @Nullable List<Key.Principal> people, Impact.Watch watch, Impact.Visitor visitor) {
    List<Key.Principal> all = people == null ? concernedEver() : people;
    Differing none = differing();
    AtomicBoolean goesOn = new AtomicBoolean(true);
    AtomicInteger done = new AtomicInteger();
    int batches = (all.size() + BATCH - 1) / BATCH;
    IntStream.range(0, batches)
        .parallel()
        .forEach(batch -> {
          Counting first = new Counting(before);
          Counting second = new Counting(after);
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

  private void overTime(
      Key.Principal key, Counting first, Counting second, Differing empty, Impact.Visitor visitor) {
    long now = at;
    while (now < Long.MAX_VALUE) {
      Who was = who(before, key, now);
      Who is = who(after, key, now);
      Differing sum = empty.another();
      compare(was, is, first, second, sum, null);
      if ((sum.gained() > 0 || sum.lost() > 0)
          && !visitor.visit(key, Instant.ofEpochSecond(now), sum.result())) {
        return;
      }
      now = Math.min(until(was), until(is));
    }
  }

  private static long until(@Nullable Who who) {
    return who == null ? Long.MAX_VALUE : who.good().until();
  }

  /** Everybody who may be concerned now or later: whose subjects change with time, too. */
  private List<Key.Principal> concernedEver() {
    Set<Key.Principal> people = new LinkedHashSet<>(concerned());
    for (Snapshot it : List.of(before, after)) {
      for (int p : it.people.varying()) {
        people.add(key(it, p));
      }
    }
    return List.copyOf(people);
  }

  private Differing differing() {
    return new Differing(before, after, Spans.of(0, before.places.count, Spans.NO_FLOOR));
  }

  private Differing batch(
      List<Key.Principal> people, int batch, List<Impact.Person> found, Differing sum) {
    Counting first = new Counting(before);
    Counting second = new Counting(after);
    Rerouting rerouting = routes ? new Rerouting(before, after, narrowing) : null;
    for (int i = batch * BATCH; i < Math.min(people.size(), (batch + 1) * BATCH); i++) {
      Key.Principal key = people.get(i);
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
      @Nullable Who was,
      @Nullable Who is,
      Counting first,
      Counting second,
      Differing sum,
      @Nullable Rerouting rerouting) {
    if (was == null || is == null || !was.active || !is.active) {
      sum.add(
          sheet(first, was, null, Gathering.ALL_LANES),
          sheet(second, is, null, Gathering.ALL_LANES));
      return 0;
    }
    Narrowing.Reach reach = narrowing.of(was, is);
    if (reach.isEmpty()) {
      return 0;
    }
    Sheet one = sheet(first, was, reach.ranges(before), reach.lanes);
    Sheet two = sheet(second, is, reach.ranges(after), reach.lanes);
    sum.add(one, two, reach.where, reach.lanes);
    return rerouting == null
        ? 0
        : rerouting.count(
            new Rerouting.Side(was, mfa && was.hasFactor(), one),
            new Rerouting.Side(is, mfa && is.hasFactor(), two),
            reach);
  }

  private static @Nullable Who who(Snapshot it, Key.Principal key, long at) {
    int p = it.principal(key);
    return p == Snapshot.UNKNOWN ? null : Who.of(it, p, at);
  }

  private Sheet sheet(Counting counting, @Nullable Who who, @Nullable Ranges ranges, long lanes) {
    return who == null || !who.active
        ? Sheet.EMPTY
        : counting.within(who, mfa && who.hasFactor(), ranges, lanes);
  }
}
