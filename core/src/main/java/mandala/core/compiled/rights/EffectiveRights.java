package mandala.core.compiled.rights;

import java.util.Arrays;
import java.util.BitSet;

/** What a role, a set or a permission gives, closed over implications, as rows (section 3). */
public final class EffectiveRights {

  /** Allows that need no second factor, and all allows; one array where they are the same. */
  final long[] free;

  public final long[] all;

  public final long[] deny;
  final boolean allows;
  public final boolean denies;

  /** A retired role is in it, which would give more if it were not. */
  public final boolean retired;

  /** What is named before closing: allows that need no second factor, all allows, denies. */
  static final class Named {
    final BitSet free = new BitSet();
    final BitSet all = new BitSet();
    final BitSet deny = new BitSet();
    public boolean retired;
  }

  EffectiveRights(Rights rights, Named named) {
    all = rights.row(closed(named.all, rights.down));
    free = named.free.equals(named.all) ? all : rights.row(closed(named.free, rights.down));
    retired = named.retired;
    allows = !named.all.isEmpty();
    denies = !named.deny.isEmpty();
    deny = denies ? rights.row(closed(named.deny, rights.up)) : rights.noRow;
  }

  /** {@return what gives nothing} */
  public static EffectiveRights nothing(Rights rights) {
    return new EffectiveRights(rights, new Named());
  }

  private static BitSet closed(BitSet named, BitSet[] closure) {
    BitSet closed = new BitSet();
    named.stream().forEach(p -> closed.or(closure[p]));
    return closed;
  }

  public static long[] and(long[] a, long[] b) {
    long[] both = new long[a.length];
    for (int i = 0; i < both.length; i++) {
      both[i] = a[i] & b[i];
    }
    return both;
  }

  /** {@return whether this gives all that another does, and asks no more for it} */
  public boolean covers(EffectiveRights other) {
    return isWithin(other.free, free) && isWithin(other.all, all) && isWithin(other.deny, deny);
  }

  private static boolean isWithin(long[] some, long[] all) {
    for (int i = 0; i < some.length; i++) {
      if ((some[i] & ~all[i]) != 0) {
        return false;
      }
    }
    return true;
  }

  /** {@return whether a permission that applies to something is allowed} */
  public boolean allows(int permission, Rights rights) {
    return has(all, permission, rights);
  }

  /** {@return whether it is allowed without a second factor} */
  public boolean allowsFreely(int permission, Rights rights) {
    return has(free, permission, rights);
  }

  /** {@return whether it is denied} */
  public boolean isDenied(int permission, Rights rights) {
    return has(deny, permission, rights);
  }

  private static boolean has(long[] row, int permission, Rights rights) {
    int lane = rights.anyLane[permission];
    return lane >= 0 && (row[lane] & rights.anyBit[permission]) != 0;
  }

  public boolean equalsRows(EffectiveRights other) {
    return Arrays.equals(free, other.free)
        && Arrays.equals(all, other.all)
        && Arrays.equals(deny, other.deny);
  }

  /** {@return a number that is the same where {@link #equalsRows} holds} */
  public int hashRows() {
    return 31 * (31 * Arrays.hashCode(free) + Arrays.hashCode(all)) + Arrays.hashCode(deny);
  }
}
