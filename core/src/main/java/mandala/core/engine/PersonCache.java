package mandala.core.engine;

import java.util.Arrays;
import java.util.concurrent.atomic.AtomicReferenceArray;
import mandala.core.model.Activation;
import mandala.core.model.Guest;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * Sheets of people who are asked about again and again, shared by a snapshot and those that come of
 * it by changes.
 *
 * <p>Nothing is dropped when something changes. A sheet remembers what it was made of; when it is
 * wanted for another snapshot, {@link #isStillGood} compares: the same principal with the same
 * subjects, the same lines, the same things given, no change of places where its lines reach. So a
 * change costs nothing here, and who is not touched by it keeps the sheet; several drafts over one
 * model share it likewise. A sheet is given only for instants at which no window that was looked at
 * begins or ends.
 *
 * <p>Thread-safe; two threads may make the same sheet. A principal has eight slots by hash; in full
 * ones who was asked about least makes room, and all grow older.
 */
final class PersonCache {

  private static final int SET_BITS = 10;

  private static final int WAYS = 8;

  /** Keeps nothing. */
  static final PersonCache NEVER = new PersonCache(false);

  private final boolean keeps;

  PersonCache() {
    this(true);
  }

  private PersonCache(boolean keeps) {
    this.keeps = keeps;
  }

  /** Who is asked about so often gets a sheet; before, a decision looks at lines only. */
  private static final int OFTEN = 16;

  private final AtomicReferenceArray<@Nullable Entry> entries =
      new AtomicReferenceArray<>(WAYS << SET_BITS);

  /** By slot: which entry stands there, to look at one array only. */
  private final int[] keys = new int[WAYS << SET_BITS];

  /** What is known of one principal with or without a second factor. */
  private static final class Entry {
    final int id;
    final boolean mfa;
    int asked;
    volatile @Nullable Made made;

    Entry(int id, boolean mfa) {
      this.id = id;
      this.mfa = mfa;
    }
  }

  /** A sheet and what it was made of. */
  private static final class Made {
    final Sheet sheet;
    final boolean active;
    final Times good;
    final PlaceLog placeLog;
    final @Nullable Profile profile;
    final int[] subjects;
    final long[] @Nullable [] lines;
    final Hanging links;
    final Table<Given> given;
    final Table<int[]> reports;

    /** The last snapshot for which all this was found unchanged. */
    volatile long goodFor;

    Made(Who who, Sheet sheet) {
      this.sheet = sheet;
      active = who.active;
      good = who.good();
      placeLog = who.it.placeLog;
      profile = who.profile;
      subjects = who.subjects;
      lines = new long[subjects.length * 2][];
      for (int i = 0; i < subjects.length; i++) {
        lines[i * 2] = who.it.lines(false, subjects[i]);
        lines[i * 2 + 1] = who.it.lines(true, subjects[i]);
      }
      links = Hanging.of(who);
      given = who.it.given;
      reports = who.it.directory.reports;
      goodFor = who.it.number;
    }
  }

  /** What hangs on a principal, compared by identity. */
  private record Hanging(java.util.List<Guest> guests, java.util.List<Activation> activations) {
    static Hanging of(Who who) {
      return who.id < 0
          ? new Hanging(java.util.List.of(), java.util.List.of())
          : new Hanging(
              who.it.catalogue.links().guests(who.id),
              who.it.catalogue.links().activations(who.id));
    }
  }

  /** An answer of the cache: whether the principal is active, and its sheet where it is. */
  record Found(boolean active, Sheet sheet) {}

  /**
   * {@return the sheet of a principal for itself}, null where it is not yet asked about often
   *
   * @param at seconds since the epoch
   * @param mfa whether a second factor counts
   */
  @Nullable Found ifOften(Snapshot it, int id, long at, boolean mfa) {
    if (!keeps) {
      return null;
    }
    Entry entry = entry(id, mfa);
    Made made = entry.made;
    if (made != null && isGood(made, it, id, at)) {
      return new Found(made.active, made.sheet);
    }
    return ++entry.asked < OFTEN ? null : make(it, id, at, mfa, entry);
  }

  /** {@return the sheet of a principal for itself}, made where it is not at hand */
  Found of(Snapshot it, int id, long at, boolean mfa) {
    Entry entry = entry(id, mfa);
    Made made = entry.made;
    return made != null && isGood(made, it, id, at)
        ? new Found(made.active, made.sheet)
        : make(it, id, at, mfa, entry);
  }

  private Entry entry(int id, boolean mfa) {
    int key = id * 2 + (mfa ? 1 : 0) + 4;
    int set = (key * 0x9E3779B9) >>> (32 - SET_BITS);
    for (int slot = set * WAYS; slot < (set + 1) * WAYS; slot++) {
      if (keys[slot] == key) {
        Entry entry = entries.get(slot);
        if (entry != null && entry.id == id && entry.mfa == mfa) {
          return entry;
        }
      }
    }
    return enter(new Entry(id, mfa), key, set);
  }

  private Entry enter(Entry fresh, int key, int set) {
    int least = set * WAYS;
    for (int slot = set * WAYS; slot < (set + 1) * WAYS; slot++) {
      Entry entry = entries.get(slot);
      if (entry == null) {
        least = slot;
        break;
      }
      Entry known = entries.get(least);
      if (known != null && entry.asked < known.asked) {
        least = slot;
      }
      entry.asked -= entry.asked >> 2;
    }
    entries.set(least, fresh);
    keys[least] = key;
    return fresh;
  }

  private static Found make(Snapshot it, int id, long at, boolean mfa, Entry entry) {
    Who who = Who.of(it, id, at);
    Sheet sheet = who.active ? sheet(who, mfa) : Sheet.EMPTY;
    entry.made = new Made(who, sheet);
    return new Found(who.active, sheet);
  }

  static Sheet sheet(Who who, boolean mfa) {
    Pieces pieces = new Pieces();
    Gathering gathering = new Gathering(who, pieces);
    gathering.allows(mfa, true);
    gathering.denies();
    Sweep sweep = new Sweep(who.it);
    sweep.run(pieces);
    return new Sheet(who.it, sweep.runs, null);
  }

  private static boolean isGood(Made made, Snapshot it, int id, long at) {
    if (!made.good.holdsAt(at)) {
      return false;
    }
    if (made.goodFor == it.number) {
      return true;
    }
    if (!isStillGood(made, it, id, at)) {
      return false;
    }
    made.goodFor = it.number;
    return true;
  }

  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private static boolean isStillGood(Made made, Snapshot it, int id, long at) {
    if (id >= 0 && it.directory.profiles.get(id) == null) {
      return false;
    }
    Who who = Who.of(it, id, at);
    Hanging links = Hanging.of(who);
    if (who.profile != made.profile
        || links.guests() != made.links.guests()
        || links.activations() != made.links.activations()
        || !Arrays.equals(who.subjects, made.subjects)
        || it.placeLog.forgottenUpTo() > made.placeLog.head()
        || !it.placeLog.goesOnFrom(made.placeLog)) {
      return false;
    }
    boolean leads =
        id >= 0
            && made.reports != it.directory.reports
            && (made.reports.get(id) != null || it.directory.reports.get(id) != null);
    for (int i = 0; i < made.subjects.length; i++) {
      for (int side = 0; side < 2; side++) {
        long[] lines = it.lines(side == 1, made.subjects[i]);
        if (lines != made.lines[i * 2 + side]
            || (lines != null && !areStillGood(lines, made, it, leads))) {
          return false;
        }
      }
    }
    return true;
  }

  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private static boolean areStillGood(long[] lines, Made made, Snapshot it, boolean leads) {
    int n = lines.length / 3;
    boolean sameGiven = made.given == it.given;
    long known = made.placeLog.head();
    for (PlaceLog.Entry entry : it.placeLog.entries()) {
      if (entry.number() > known) {
        for (int i = 0; i < n; i++) {
          if (Line.start(lines[i]) < entry.to() && entry.from() < Line.end(lines[i])) {
            return false;
          }
        }
      }
    }
    if (sameGiven && !leads) {
      return true;
    }
    for (int i = 0; i < n; i++) {
      long what = lines[n + i];
      int given = Line.given(what);
      if (made.given.get(given) != it.given.get(given)
          || (leads && (Line.flags(lines[i]) & Line.TEAM) != 0)) {
        return false;
      }
    }
    return true;
  }

  /** Tells of people whether two snapshots may tell different things of them. */
  static final class Comparison {
    private final Snapshot before;
    private final Snapshot after;
    private final long at;

    Comparison(Snapshot before, Snapshot after, long at) {
      this.before = before;
      this.after = after;
      this.at = at;
    }

    /** {@return whether a principal's access may differ} */
    boolean mayDiffer(int p) {
      return before.vocabulary != after.vocabulary
          || !isStillGood(new Made(Who.of(before, p, at), Sheet.EMPTY), after, p, at);
    }
  }
}
