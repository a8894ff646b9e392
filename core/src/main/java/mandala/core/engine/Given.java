package mandala.core.engine;

import java.util.BitSet;

/** What a role, a set or a permission gives, closed over implications, as rows. */
final class Given {

  /** Allows that need no second factor, and all allows. */
  final long[] free;

  final long[] all;

  /** The same, of class view alone. */
  final long[] freeView;

  final long[] allView;
  final long[] deny;
  final boolean allows;
  final boolean denies;

  Given(Rights rights, Rights.Named named) {
    free = rights.row(closed(named.free, rights.down));
    all = rights.row(closed(named.all, rights.down));
    deny = rights.row(closed(named.deny, rights.up));
    freeView = and(free, rights.viewRow);
    allView = and(all, rights.viewRow);
    allows = !named.all.isEmpty();
    denies = !named.deny.isEmpty();
  }

  private static BitSet closed(BitSet named, BitSet[] closure) {
    BitSet closed = new BitSet();
    named.stream().forEach(p -> closed.or(closure[p]));
    return closed;
  }

  static long[] and(long[] a, long[] b) {
    long[] both = new long[a.length];
    for (int i = 0; i < both.length; i++) {
      both[i] = a[i] & b[i];
    }
    return both;
  }
}
