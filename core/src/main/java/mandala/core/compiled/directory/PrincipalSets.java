package mandala.core.compiled.directory;

import java.util.Arrays;
import java.util.concurrent.atomic.AtomicReferenceArray;
import mandala.core.model.Guest;
import mandala.core.table.IntList;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * Sets of principals as bits by number: who is active, who has a second factor, who belongs where.
 * Immutable once published; what belongs to an account by its home is drawn up when first asked.
 */
public final class PrincipalSets {

  /** Words in a set. */
  public final int words;

  /** Enabled and without a window; enabled with one, which must be asked. */
  private final long[] always;

  private final int[] timed;
  private final long[] factor;

  /** Who has a guest membership, in force or not. */
  private final int[] guests;

  private final AtomicReferenceArray<long @Nullable []> atHome;

  /** By account: who has a guest membership, in force or not, that covers it. */
  private final AtomicReferenceArray<int @Nullable []> atDoor;

  private PrincipalSets(
      int words, long[] always, int[] timed, long[] factor, int[] guests, int accounts) {
    this.words = words;
    this.always = always;
    this.timed = timed;
    this.factor = factor;
    this.guests = guests;
    this.atHome = new AtomicReferenceArray<>(accounts);
    this.atDoor = new AtomicReferenceArray<>(accounts);
  }

  public static PrincipalSets of(Directory directory) {
    Table<Profile> profiles = directory.profiles;
    int words = (profiles.size() + 63) >> 6;
    long[] always = new long[words];
    long[] factor = new long[words];
    IntList timed = new IntList();
    IntList guests = new IntList();
    for (int p = 0; p < profiles.size(); p++) {
      Profile profile = profiles.get(p);
      if (profile != null) {
        if (profile.enabled && profile.times.equals(TimeSpan.ALWAYS)) {
          set(always, p);
        } else if (profile.enabled) {
          timed.add(p);
        }
        if (profile.factor) {
          set(factor, p);
        }
        if (!directory.catalogue.links().guests(p).isEmpty()) {
          guests.add(p);
        }
      }
    }
    return new PrincipalSets(
        words, always, timed.toArray(), factor, guests.toArray(), directory.accounts());
  }

  /** {@return the sets after one principal changed, came or went} */
  public PrincipalSets with(int p, Directory directory) {
    Profile profile = directory.profiles.get(p);
    int size = Math.max(words, (p >> 6) + 1);
    long[] nowAlways = Arrays.copyOf(always, size);
    long[] nowFactor = Arrays.copyOf(factor, size);
    boolean on = profile != null && profile.enabled;
    boolean windowed = on && profile != null && !profile.times.equals(TimeSpan.ALWAYS);
    put(nowAlways, p, on && !windowed);
    put(nowFactor, p, profile != null && profile.factor);
    return new PrincipalSets(
        size,
        nowAlways,
        put(timed, p, windowed),
        nowFactor,
        put(guests, p, profile != null && !directory.catalogue.links().guests(p).isEmpty()),
        atHome.length());
  }

  public static void set(long[] set, int p) {
    set[p >> 6] |= 1L << p;
  }

  public static boolean has(long[] set, int p) {
    return p >> 6 < set.length && (set[p >> 6] & 1L << p) != 0;
  }

  private static void put(long[] set, int p, boolean in) {
    set[p >> 6] = in ? set[p >> 6] | 1L << p : set[p >> 6] & ~(1L << p);
  }

  private static int[] put(int[] list, int p, boolean in) {
    int[] without = Arrays.stream(list).filter(it -> it != p).toArray();
    if (!in) {
      return without;
    }
    int[] with = Arrays.copyOf(without, without.length + 1);
    with[without.length] = p;
    return with;
  }

  /** {@return who is active at an instant}; the caller's own */
  public long[] active(Directory directory, long at) {
    long[] set = always.clone();
    for (int p : timed) {
      if (directory.profiles.require(p).times.holdsAt(at)) {
        set(set, p);
      }
    }
    return set;
  }

  /** {@return those whose subjects or activity change with time}: by a window or as guests */
  public int[] varying() {
    return java.util.stream.IntStream.concat(Arrays.stream(timed), Arrays.stream(guests))
        .distinct()
        .toArray();
  }

  /** {@return who may use a second factor}; not to be changed */
  public long[] factor() {
    return factor;
  }

  /** {@return who belongs to an account by home or as a guest at an instant}; the caller's own */
  public long[] belonging(Directory directory, int account, long at) {
    long[] set = home(directory, account).clone();
    guests(directory, account, at, p -> set(set, p));
    return set;
  }

  /** Names the guests of an account at an instant. */
  public void guests(
      Directory directory, int account, long at, java.util.function.IntConsumer each) {
    for (int p : atDoor(directory, account)) {
      for (Guest guest : directory.catalogue.links().guests(p)) {
        if (TimeSpan.of(guest.window()).holdsAt(at) && covers(directory, guest, account)) {
          each.accept(p);
          break;
        }
      }
    }
  }

  private int[] atDoor(Directory directory, int account) {
    int[] known = atDoor.get(account);
    if (known != null) {
      return known;
    }
    int[] list =
        Arrays.stream(guests)
            .filter(p ->
                directory.catalogue.links().guests(p).stream()
                    .anyMatch(guest -> covers(directory, guest, account)))
            .toArray();
    atDoor.set(account, list);
    return list;
  }

  /** {@return whether a guest membership covers an account} (section 2) */
  static boolean covers(Directory directory, Guest guest, int account) {
    int door = directory.catalogue.accounts().require(guest.account());
    return door == account || (guest.withSubaccounts() && directory.isAtOrBelow(account, door));
  }

  private long[] home(Directory directory, int account) {
    long[] known = atHome.get(account);
    if (known != null) {
      return known;
    }
    long[] set = new long[words];
    for (int a = 0; a < directory.accounts(); a++) {
      if (directory.isAtOrBelow(account, a)) {
        for (int p : directory.staff.getOr(a, Directory.NONE)) {
          set(set, p);
        }
      }
    }
    atHome.set(account, set);
    return set;
  }
}
