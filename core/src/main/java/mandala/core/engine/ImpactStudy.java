package mandala.core.engine;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import mandala.core.change.Change;
import mandala.core.model.Assignment;
import mandala.core.model.Key;
import mandala.core.model.Thing;

/**
 * Computes an impact. 1. {@link #concerned} finds who may be concerned: the subjects of changed
 * assignments, members of changed groups, else everybody whose lines or profile are others. 2.
 * {@link #places} finds where: the spans of the changed assignments, or everywhere. 3. {@link #run}
 * sweeps each of these people before and after, within these places only, on all threads.
 */
final class ImpactStudy {

  /** People to a piece of work. */
  private static final int BATCH = 64;

  private final Snapshot before;
  private final Snapshot after;
  private final List<Change> changes;
  private final long at;
  private final boolean mfa;

  ImpactStudy(Snapshot before, Snapshot after, List<Change> changes, long at, boolean mfa) {
    this.before = before;
    this.after = after;
    this.changes = changes;
    this.at = at;
    this.mfa = mfa;
  }

  private static List<Thing> things(Change change) {
    return switch (change) {
      case Change.Added(Thing thing) -> List.of(thing);
      case Change.Removed(Thing thing) -> List.of(thing);
      case Change.Altered(Thing was, Thing is) -> List.of(was, is);
    };
  }

  private boolean onlyAssignments() {
    return before.vocabulary == after.vocabulary
        && changes.stream()
            .flatMap(change -> things(change).stream())
            .allMatch(Assignment.class::isInstance);
  }

  /** Who may be concerned, before or after. */
  private List<Key.Principal> concerned() {
    Set<Key.Principal> people = new LinkedHashSet<>();
    if (onlyAssignments()) {
      for (Snapshot it : List.of(before, after)) {
        Column column = new Column(it, at, mfa);
        for (Change change : changes) {
          for (Thing thing : things(change)) {
            int subject = Line.code(((Assignment) thing).subject(), it.catalogue);
            column.members(subject, new BitSet(), p -> people.add(key(it, p)));
          }
        }
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

  private static Key.Principal key(Snapshot it, int p) {
    return it.directory.profiles.require(p).principal.key();
  }

  /** Where to look: every place that a changed assignment spans, with all below it. */
  private Spans places() {
    if (!onlyAssignments()) {
      return Spans.of(0, before.places.count, Spans.NO_FLOOR);
    }
    BitSet positions = new BitSet();
    for (Snapshot it : List.of(before, after)) {
      LineReader reader =
          new LineReader(
              new Snapshot(it, it.catalogue),
              (_, _, span, _, _) -> {
                for (int p = Line.start(span); p < Line.end(span); ) {
                  int end = Math.min(Line.end(span), Math.max(p + 1, it.places.end[p]));
                  positions.set(p, Math.max(end, it.places.end[p]));
                  p = end;
                }
              },
              (_, _) -> {},
              (_, _) -> {});
      for (Change change : changes) {
        for (Thing thing : things(change)) {
          Assignment assignment = (Assignment) thing;
          if (assignment.equals(it.catalogue.assignments().get(assignment.key()))) {
            reader.read(it.catalogue.assignments().require(assignment.key()), assignment);
          }
        }
      }
    }
    Spans.Builder spans = new Spans.Builder();
    for (int from = positions.nextSetBit(0); from >= 0; ) {
      int to = positions.nextClearBit(from);
      spans.add(from, to, Spans.NO_FLOOR);
      from = positions.nextSetBit(to);
    }
    return spans.build();
  }

  Impact run(Impact.Watch watch) {
    List<Key.Principal> people = concerned();
    Spans where = places();
    Differing total = new Differing(before, after, where);
    List<Impact.Person> found = new ArrayList<>();
    AtomicBoolean goesOn = new AtomicBoolean(true);
    AtomicInteger done = new AtomicInteger();
    int batches = (people.size() + BATCH - 1) / BATCH;
    IntStream.range(0, batches)
        .parallel()
        .forEach(batch -> {
          if (goesOn.get()) {
            List<Impact.Person> some = new ArrayList<>();
            Differing sum = batch(people, batch, where, some);
            synchronized (found) {
              total.join(sum);
              found.addAll(some);
              int many = done.addAndGet(Math.min(BATCH, people.size() - batch * BATCH));
              goesOn.compareAndSet(true, watch.goOn(many, people.size()));
            }
          }
        });
    found.sort(
        Comparator.comparingLong((Impact.Person person) -> -person.gained() - person.lost())
            .thenComparing(person -> person.principal().value()));
    return new Impact(people.size(), found, total.result(), done.get() == people.size());
  }

  private Differing batch(
      List<Key.Principal> people, int batch, Spans where, List<Impact.Person> found) {
    Counting first = new Counting(before);
    Counting second = new Counting(after);
    Ranges places = new Ranges(before, where);
    Ranges placesAfter = new Ranges(after, where);
    Differing sum = new Differing(before, after, where);
    for (int i = batch * BATCH; i < Math.min(people.size(), (batch + 1) * BATCH); i++) {
      Key.Principal key = people.get(i);
      long gained = sum.gained();
      long lost = sum.lost();
      sum.add(
          sheet(before, first, before.principal(key), places),
          sheet(after, second, after.principal(key), placesAfter));
      if (sum.gained() > gained || sum.lost() > lost) {
        found.add(new Impact.Person(key, sum.gained() - gained, sum.lost() - lost));
      }
    }
    return sum;
  }

  private Sheet sheet(Snapshot it, Counting counting, int p, Ranges where) {
    if (p < 0) {
      return Sheet.EMPTY;
    }
    Who who = Who.of(it, p, at);
    return who.active ? counting.within(who, mfa && who.hasFactor(), where) : Sheet.EMPTY;
  }
}
