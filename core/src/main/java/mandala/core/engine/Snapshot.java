package mandala.core.engine;

import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import mandala.core.model.Catalogue;
import mandala.core.table.Table;

/**
 * A checked model compiled for answering: dense, immutable once published, safe to share between
 * threads. {@link SnapshotBuild} makes one of a model, {@link SnapshotEdit} the next one of a
 * change, sharing all that did not change.
 */
final class Snapshot {

  private static final AtomicLong NUMBERS = new AtomicLong();

  /**
   * No other snapshot has it, and those that came of this one have greater ones. Several may come
   * of one: the model that goes on, and drafts laid over it.
   */
  final long number = NUMBERS.incrementAndGet();

  final Catalogue catalogue;
  final Rights rights;
  final Vocabulary vocabulary;
  Directory directory;
  People people;
  Places places;

  /** The accounts that are live, as spans. */
  Spans live;

  /** By unit: the one above, or -1. */
  int[] unitParents;

  /** What each number of the vocabulary comes to here. */
  Table<Given> given;

  Table<Ground> grounds;

  /** The same as rows and bits, laid out for speed. */
  Rows rows;

  /** By assignment: its window, where it has one. */
  Table<Times> times;

  /** By kind of subject, by its number: its lines that allow; that deny ({@link Lines}). */
  Table<long[]>[] allow;

  Table<long[]>[] deny;

  /** The same lines from the other side: by the position where a plain line begins; by ground. */
  Table<long[]> allowAt;

  Table<long[]> denyAt;
  Table<long[]> allowOf;
  Table<long[]> denyOf;
  Anchors anchors;

  /** By principal: the delegations in which it is acted for. */
  Table<List<Cover>> covers;

  /** Where places changed since the model was first compiled; what was compiled before minds. */
  PlaceLog placeLog;

  Snapshot(
      Catalogue catalogue,
      Rights rights,
      Vocabulary vocabulary,
      Directory directory,
      People people,
      Places places) {
    this.catalogue = catalogue;
    this.rights = rights;
    this.vocabulary = vocabulary;
    this.directory = directory;
    this.people = people;
    this.places = places;
    this.placeLog = PlaceLog.EMPTY;
    this.covers = Table.empty();
    this.live = Spans.EMPTY;
    this.unitParents = Directory.NONE;
    this.given = Table.empty();
    this.grounds = Table.empty();
    this.rows = Rows.none(rights);
    this.times = Table.empty();
    this.allow = tables();
    this.deny = tables();
    this.allowAt = Table.empty();
    this.denyAt = Table.empty();
    this.allowOf = Table.empty();
    this.denyOf = Table.empty();
    this.anchors = new Anchors.Builder().build();
  }

  /** A copy to be changed before it is published. */
  Snapshot(Snapshot before, Catalogue catalogue) {
    this.catalogue = catalogue;
    this.rights = before.rights;
    this.vocabulary = before.vocabulary;
    this.directory = new Directory(before.directory, catalogue);
    this.people = before.people;
    this.places = new Places(before.places, catalogue);
    this.live = before.live;
    this.unitParents = before.unitParents;
    this.given = before.given;
    this.grounds = before.grounds;
    this.rows = before.rows;
    this.times = before.times;
    this.allow = before.allow.clone();
    this.deny = before.deny.clone();
    this.allowAt = before.allowAt;
    this.denyAt = before.denyAt;
    this.allowOf = before.allowOf;
    this.denyOf = before.denyOf;
    this.anchors = before.anchors;
    this.covers = before.covers;
    this.placeLog = before.placeLog;
  }

  @SuppressWarnings({"unchecked", "rawtypes"}) // filled with tables of long[] only
  private static Table<long[]>[] tables() {
    Table<long[]>[] tables = new Table[Line.SUBJECT_KINDS];
    for (int kind = 0; kind < tables.length; kind++) {
      tables[kind] = Table.empty();
    }
    return tables;
  }

  /** {@return the lines of a subject that allow or deny}, or null */
  long @org.jspecify.annotations.Nullable [] lines(boolean denying, int subject) {
    return (denying ? deny : allow)[Line.kind(subject)].get(Line.number(subject));
  }

  /** Stands for the number of a principal that there is none of. */
  static final int UNKNOWN = -2;

  /** {@return the number of a principal}, -1 for anonymous, {@link #UNKNOWN} where there is none */
  int principal(mandala.core.model.Key.Principal key) {
    if (key.equals(mandala.core.model.Key.Principal.ANONYMOUS)) {
      return -1;
    }
    int number = catalogue.principals().number(key);
    return number < 0 ? UNKNOWN : number;
  }
}
