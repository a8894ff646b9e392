package mandala.core.engine;

import java.util.Arrays;
import java.util.List;

/**
 * One pass over all resources in pre-order that tells for each what is allowed, blocked and denied.
 *
 * <p>1. {@link #events} sorts where pieces begin and end. 2. Between two events the pieces in force
 * are the same: {@link #fill} takes each resource of that stretch. 3. {@link #masks} joins the rows
 * once for each type and nearest seal in a stretch, denies taken off. 4. {@link #close} takes off
 * what lacks a gate; ancestors come earlier in pre-order, so their answers stand already.
 *
 * <p>Invariant: after position i everything at and before i is final. Cost: events times the pieces
 * in force, plus a few operations for each resource. Source: section 6.
 */
final class Sweep {

  /** By position, {@code mostWords} words each: what is allowed, blocked, denied. */
  final long[] allowed;

  final long[] blocked;
  final long[] denied;

  private final Snapshot it;
  private final int words;

  /** As {@link #allowed}, before a delegation's cover: gates need not be covered (section 7). */
  private long[] usable;

  private final long[] typeGranted;
  private final long[] typeDenied;
  private final long[] typeCover;
  private final int[] typeStretch;
  private final int[] typeSeal;

  Sweep(Snapshot it) {
    this.it = it;
    words = it.rights.mostWords;
    int size = it.places.count * words;
    allowed = new long[size];
    blocked = new long[size];
    denied = new long[size];
    usable = allowed;
    int types = it.rights.types.size();
    typeGranted = new long[types * words];
    typeDenied = new long[types * words];
    typeCover = new long[types * words];
    typeStretch = new int[types];
    typeSeal = new int[types];
  }

  /** The pieces in force on a stretch, of one list. */
  private static final class Running {
    final Pieces pieces;
    final int[] slot;
    final int[] active;
    int count;

    Running(Pieces pieces) {
      this.pieces = pieces;
      slot = new int[pieces.count];
      active = new int[pieces.count];
    }

    void begin(int piece) {
      slot[piece] = count;
      active[count++] = piece;
    }

    void finish(int piece) {
      int moved = active[--count];
      active[slot[piece]] = moved;
      slot[moved] = slot[piece];
    }
  }

  private record Lists(
      List<Running> allows, List<Running> denies, List<Running> cover, List<Running> all) {}

  void run(View view) {
    if (view.cover() != null) {
      usable = new long[allowed.length];
    }
    List<Running> allows = view.allows().stream().map(Running::new).toList();
    List<Running> denies = view.denies().stream().map(Running::new).toList();
    List<Running> cover = view.cover() == null ? List.of() : List.of(new Running(view.cover()));
    List<Running> all =
        java.util.stream.Stream.of(allows, denies, cover).flatMap(List::stream).toList();
    Lists lists = new Lists(allows, denies, cover, all);
    long[] events = events(all);
    int stretch = 0;
    int next = 0;
    while (next < events.length) {
      int at = (int) (events[next] >>> 34);
      while (next < events.length && (int) (events[next] >>> 34) == at) {
        int list = (int) (events[next] >>> 29) & 7;
        int piece = (int) events[next] & 0xFFFFFFF;
        if ((events[next] & 1L << 28) == 0) {
          all.get(list).finish(piece);
        } else {
          all.get(list).begin(piece);
        }
        next++;
      }
      if (next < events.length && all.stream().anyMatch(running -> running.count > 0)) {
        stretch++;
        fill(at, (int) (events[next] >>> 34), stretch, lists, view);
      }
    }
  }

  /** Position (30 bits), list (3 bits and 2 spare), begins (1 bit), piece (28 bits); ends first. */
  private static long[] events(List<Running> lists) {
    int count = lists.stream().mapToInt(running -> running.pieces.count).sum();
    long[] events = new long[count * 2];
    int next = 0;
    for (int list = 0; list < lists.size(); list++) {
      Pieces pieces = lists.get(list).pieces;
      for (int i = 0; i < pieces.count; i++) {
        long low = ((long) list << 29) | i;
        events[next++] = ((long) pieces.start[i] << 34) | low | 1L << 28;
        events[next++] = ((long) pieces.end[i] << 34) | low;
      }
    }
    Arrays.sort(events);
    return events;
  }

  private void fill(int from, int to, int stretch, Lists lists, View view) {
    Places places = it.places;
    for (int at = from; at < to; at++) {
      int type = places.type[at];
      int seal = places.seal[at];
      if (typeStretch[type] != stretch || typeSeal[type] != seal) {
        typeStretch[type] = stretch;
        typeSeal[type] = seal;
        masks(type, seal, lists, view.mfa());
      }
      int base = at * words;
      for (int w = 0; w < it.rights.words[type]; w++) {
        int source = type * words + w;
        denied[base + w] = typeDenied[source];
        usable[base + w] = typeGranted[source];
      }
      close(at, type);
      if (view.cover() != null) {
        for (int w = 0; w < it.rights.words[type]; w++) {
          allowed[base + w] = usable[base + w] & typeCover[type * words + w];
          blocked[base + w] &= typeCover[type * words + w];
        }
      }
    }
  }

  private void masks(int type, int seal, Lists lists, boolean mfa) {
    int base = type * words;
    Arrays.fill(typeGranted, base, base + words, 0);
    Arrays.fill(typeDenied, base, base + words, 0);
    Arrays.fill(typeCover, base, base + words, 0);
    lists.allows.forEach(running -> join(running, type, seal, mfa, typeGranted));
    lists.denies.forEach(running -> join(running, type, seal, true, typeDenied));
    lists.cover.forEach(running -> join(running, type, seal, true, typeCover));
    for (int w = 0; w < words; w++) {
      typeGranted[base + w] &= ~typeDenied[base + w];
    }
  }

  private void join(Running running, int type, int seal, boolean mfa, long[] into) {
    Pieces pieces = running.pieces;
    int offset = it.rights.offset[type];
    for (int i = 0; i < running.count; i++) {
      int piece = running.active[i];
      if (seal <= pieces.floor[piece] && (pieces.type[piece] < 0 || pieces.type[piece] == type)) {
        long[] row = mfa ? pieces.all[piece] : pieces.free[piece];
        for (int w = 0; w < it.rights.words[type]; w++) {
          into[type * words + w] |= row[offset + w];
        }
      }
    }
  }

  private void close(int at, int type) {
    int base = at * words;
    for (int permission : it.rights.gated[type]) {
      int bit = it.rights.bit[type][permission];
      long mask = 1L << bit;
      if ((usable[base + (bit >> 6)] & mask) != 0 && !open(permission, at)) {
        usable[base + (bit >> 6)] &= ~mask;
        blocked[base + (bit >> 6)] |= mask;
      }
    }
  }

  private boolean open(int permission, int at) {
    for (int gate : it.rights.gates[permission]) {
      int where = View.gateAt(it, gate, at);
      if (where < 0) {
        return false;
      }
      int bit = it.rights.bit[it.places.type[where]][gate];
      if ((usable[where * words + (bit >> 6)] & 1L << bit) == 0) {
        return false;
      }
    }
    return true;
  }
}
