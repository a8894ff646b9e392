package mandala.core.evaluate;

import java.util.Arrays;
import java.util.concurrent.atomic.AtomicReferenceArray;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.Profile;
import mandala.core.compiled.directory.TimeSpan;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.space.ResourceChangeLog;
import mandala.core.model.Activation;
import mandala.core.model.Guest;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * Access maps of people who are asked about again and again, shared by a snapshot and those that
 * come of it by changes.
 *
 * <p>Nothing is dropped when something changes. An access map remembers what it was made of; when
 * it is wanted for another snapshot, {@link #isStillGood} compares: the same principal with the
 * same subjects, the same grant entries, the same things given, no change of places where its grant
 * entries reach. So a change costs nothing here, and who is not touched by it keeps the access map;
 * several drafts over one model share it likewise. An access map is given only for instants at
 * which no window that was looked at begins or ends.
 *
 * <p>Thread-safe; two threads may make the same access map. A principal has eight slots by hash; in
 * full ones who was asked about least makes room, and all grow older.
 */
public final class AccessMapCache {

  private static final int SET_BITS = 10;

  private static final int WAYS = 8;

  /** Keeps nothing. */
  public static final AccessMapCache NEVER = new AccessMapCache(false);

  private final boolean keeps;

  public AccessMapCache() {
    this(true);
  }

  private AccessMapCache(boolean keeps) {
    this.keeps = keeps;
  }

  /**
   * Who is asked about so often gets an access map; before, a decision looks at grant entries only.
   */
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

  /** An access map and what it was made of. */
  private static final class Made {
    final AccessMap accessMap;
    final boolean active;
    final TimeSpan good;
    final ResourceChangeLog placeLog;
    final @Nullable Profile profile;
    final int[] subjects;
    final long[] @Nullable [] lines;
    final Hanging links;
    final Table<EffectiveRights> given;
    final Table<int[]> reports;

    /** The last snapshot for which all this was found unchanged. */
    volatile long goodFor;

    Made(PrincipalAtInstant who, AccessMap accessMap) {
      this.accessMap = accessMap;
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
    static Hanging of(PrincipalAtInstant who) {
      return who.id < 0
          ? new Hanging(java.util.List.of(), java.util.List.of())
          : new Hanging(
              who.it.catalogue.links().guests(who.id),
              who.it.catalogue.links().activations(who.id));
    }
  }

  /** An answer of the cache: whether the principal is active, and its access map where it is. */
  public record Found(boolean active, AccessMap accessMap) {}

  /**
   * {@return the access map of a principal for itself}, null where it is not yet asked about often
   *
   * @param at seconds since the epoch
   * @param mfa whether a second factor counts
   */
  public @Nullable Found ifOften(Snapshot it, int id, long at, boolean mfa) {
    if (!keeps) {
      return null;
    }
    Entry entry = entry(id, mfa);
    Made made = entry.made;
    if (made != null && isGood(made, it, id, at)) {
      return new Found(made.active, made.accessMap);
    }
    return ++entry.asked < OFTEN ? null : make(it, id, at, mfa, entry);
  }

  /** {@return the access map of a principal for itself}, made where it is not at hand */
  public Found of(Snapshot it, int id, long at, boolean mfa) {
    Entry entry = entry(id, mfa);
    Made made = entry.made;
    return made != null && isGood(made, it, id, at)
        ? new Found(made.active, made.accessMap)
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
    PrincipalAtInstant who = PrincipalAtInstant.of(it, id, at);
    AccessMap accessMap = who.active ? accessMap(who, mfa) : AccessMap.EMPTY;
    entry.made = new Made(who, accessMap);
    return new Found(who.active, accessMap);
  }

  public static AccessMap accessMap(PrincipalAtInstant who, boolean mfa) {
    Segments pieces = new Segments();
    SegmentCollector gathering = new SegmentCollector(who, pieces);
    gathering.allows(mfa, true);
    gathering.denies();
    Sweep sweep = new Sweep(who.it);
    sweep.run(pieces);
    return new AccessMap(who.it, sweep.runs, null);
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
    PrincipalAtInstant who = PrincipalAtInstant.of(it, id, at);
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
    for (ResourceChangeLog.Entry entry : it.placeLog.entries()) {
      if (entry.number() > known) {
        for (int i = 0; i < n; i++) {
          if (GrantEntry.start(lines[i]) < entry.to() && entry.from() < GrantEntry.end(lines[i])) {
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
      int given = GrantEntry.given(what);
      if (made.given.get(given) != it.given.get(given)
          || (leads && (GrantEntry.flags(lines[i]) & GrantEntry.TEAM) != 0)) {
        return false;
      }
    }
    return true;
  }

  /** Tells of people whether two snapshots may tell different things of them. */
  public static final class Comparison {
    private final Snapshot before;
    private final Snapshot after;
    private final long at;

    public Comparison(Snapshot before, Snapshot after, long at) {
      this.before = before;
      this.after = after;
      this.at = at;
    }

    /** {@return whether a principal's access may differ} */
    public boolean mayDiffer(int p) {
      return before.grantIds != after.grantIds
          || !isStillGood(
              new Made(PrincipalAtInstant.of(before, p, at), AccessMap.EMPTY), after, p, at);
    }
  }
}
