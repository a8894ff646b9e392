package mandala.core.compiled.rights;

import java.util.Arrays;

/**
 * What each thing given comes to, laid out twice for speed: as rows in a few large arrays, for the
 * sweep, which reads a lane of a thousand things; and for each permission as bits by the number of
 * the thing given, for the point, which asks a thousand things about one permission. Immutable.
 */
public final class EffectiveRightsTable {

  private static final int BITS = 6;
  private static final int MASK = (1 << BITS) - 1;

  private final int rowLength;

  /** In chunks of so many rows: allows without a second factor, all allows, denies. */
  private final long[][] free;

  private final long[][] all;
  private final long[][] deny;

  /** By permission: bits by number. */
  private final long[][] freeBits;

  private final long[][] allBits;
  private final long[][] denyBits;

  /** By number, in chunks: the lanes in which it gives or denies anything, folded. */
  private final long[][] lanes;

  private EffectiveRightsTable(
      int rowLength,
      long[][] free,
      long[][] all,
      long[][] deny,
      long[][] lanes,
      long[][] freeBits,
      long[][] allBits,
      long[][] denyBits) {
    this.rowLength = rowLength;
    this.free = free;
    this.all = all;
    this.deny = deny;
    this.lanes = lanes;
    this.freeBits = freeBits;
    this.allBits = allBits;
    this.denyBits = denyBits;
  }

  public static EffectiveRightsTable none(Rights rights) {
    int permissions = rights.permissions.size();
    return new EffectiveRightsTable(
        rights.rowLength,
        new long[0][],
        new long[0][],
        new long[0][],
        new long[0][],
        new long[permissions][0],
        new long[permissions][0],
        new long[permissions][0]);
  }

  /** {@return rows of all things given}, built at once */
  public static EffectiveRightsTable of(
      Rights rights, mandala.core.table.Table<EffectiveRights> given) {
    int many = given.size();
    int chunks = (many + MASK) >> BITS;
    int words = (many + 63) >> 6;
    int permissions = rights.permissions.size();
    EffectiveRightsTable rows =
        new EffectiveRightsTable(
            rights.rowLength,
            new long[chunks][rights.rowLength << BITS],
            new long[chunks][rights.rowLength << BITS],
            new long[chunks][rights.rowLength << BITS],
            new long[chunks][1 << BITS],
            new long[permissions][words],
            new long[permissions][words],
            new long[permissions][words]);
    for (int number = 0; number < many; number++) {
      EffectiveRights it = given.get(number);
      if (it != null) {
        rows.write(rights, number, it);
      }
    }
    return rows;
  }

  /** {@return rows with one thing that came or changed} */
  public EffectiveRightsTable with(
      Rights rights, int number, EffectiveRights before, EffectiveRights now) {
    int c = number >> BITS;
    int words = (number >> 6) + 1;
    EffectiveRightsTable rows =
        new EffectiveRightsTable(
            rowLength,
            opened(free, c, rowLength),
            opened(all, c, rowLength),
            opened(deny, c, rowLength),
            opened(lanes, c, 1),
            widened(rights, freeBits, words, before.free, now.free),
            widened(rights, allBits, words, before.all, now.all),
            widened(rights, denyBits, words, before.deny, now.deny));
    rows.write(rights, number, now);
    return rows;
  }

  private static long[][] opened(long[][] chunks, int c, int width) {
    long[][] changed = Arrays.copyOf(chunks, Math.max(chunks.length, c + 1));
    for (int i = chunks.length; i < changed.length; i++) {
      changed[i] = new long[width << BITS];
    }
    changed[c] = changed[c].clone();
    return changed;
  }

  /** The bits of permissions in which two rows differ are copied; all are lengthened if need be. */
  private static long[][] widened(
      Rights rights, long[][] bits, int words, long[] before, long[] now) {
    long[][] changed = bits.clone();
    for (int lane = 0; lane < now.length; lane++) {
      int type = rights.laneType[lane];
      for (long differ = before[lane] ^ now[lane]; differ != 0; differ &= differ - 1) {
        int bit = ((lane - rights.offset[type]) << 6) + Long.numberOfTrailingZeros(differ);
        int permission = rights.ofType[type][bit];
        changed[permission] =
            Arrays.copyOf(changed[permission], Math.max(words, changed[permission].length));
      }
    }
    return changed;
  }

  private void write(Rights rights, int number, EffectiveRights given) {
    int at = (number & MASK) * rowLength;
    System.arraycopy(given.free, 0, free[number >> BITS], at, rowLength);
    System.arraycopy(given.all, 0, all[number >> BITS], at, rowLength);
    System.arraycopy(given.deny, 0, deny[number >> BITS], at, rowLength);
    long some = 0;
    for (int lane = 0; lane < rowLength; lane++) {
      some |= (given.all[lane] | given.deny[lane]) != 0 ? Rights.fold(lane) : 0;
    }
    lanes[number >> BITS][number & MASK] = some;
    for (int p = 0; p < rights.permissions.size(); p++) {
      int lane = rights.anyLane[p];
      if (lane >= 0) {
        long bit = rights.anyBit[p];
        put(freeBits, p, number, (given.free[lane] & bit) != 0);
        put(allBits, p, number, (given.all[lane] & bit) != 0);
        put(denyBits, p, number, (given.deny[lane] & bit) != 0);
      }
    }
  }

  private static void put(long[][] bits, int permission, int number, boolean on) {
    int word = number >> 6;
    boolean known =
        word < bits[permission].length && (bits[permission][word] & (1L << number)) != 0;
    if (known != on) {
      bits[permission][word] ^= 1L << number;
    }
  }

  /** {@return the array in which a row lies}, from {@link #offset} on */
  public long[] array(int number, boolean denying, boolean mfa) {
    return (denying ? deny : mfa ? all : free)[number >> BITS];
  }

  /** {@return the lanes in which a thing gives or denies anything}, folded ({@link Rights#fold}) */
  public long lanes(int number) {
    return lanes[number >> BITS][number & MASK];
  }

  public int offset(int number) {
    return (number & MASK) * rowLength;
  }

  /** {@return by number: which things give or deny a permission}; shorter where none of the rest */
  public long[] bits(int permission, boolean denying, boolean mfa) {
    return (denying ? denyBits : mfa ? allBits : freeBits)[permission];
  }
}
