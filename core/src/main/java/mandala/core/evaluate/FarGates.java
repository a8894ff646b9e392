package mandala.core.evaluate;

import mandala.core.compiled.Snapshot;
import mandala.core.compiled.rights.GateTable;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.table.IntList;

/**
 * Opens gates that lie elsewhere: on a resource above, or in another lane (section 6).
 *
 * <p>A run says what is granted on a stretch. Where some of it has far gates, the stretch falls
 * apart into resources of one parent: these have the same gate resources, so the gates are asked
 * once for each parent. Cost: the resources of the lane's type in such runs, and for each change of
 * parent a search for each gate.
 */
public final class FarGates {

  /** Takes what came out, in ascending order. */
  public interface Sink {
    void put(int start, long usable, long granted, long denied);
  }

  private final ResourceSpace places;
  private final Rights rights;
  private final Intervals runs;

  FarGates(Snapshot it, Intervals runs) {
    this.places = it.places;
    this.rights = it.rights;
    this.runs = runs;
  }

  /** Tells the runs of a lane with what is usable in them. */
  void resolve(int lane, Sink sink) {
    GateTable gates = rights.gatesOfLane[lane];
    for (int i = 0; i < runs.size[lane]; i++) {
      int start = runs.start[lane][i];
      long granted = runs.granted[lane][i];
      long denied = runs.denied[lane][i];
      if ((granted & gates.far) == 0) {
        sink.put(start, gates.near(granted), granted, denied);
      } else {
        int end = i + 1 < runs.size[lane] ? runs.start[lane][i + 1] : places.count;
        divide(lane, start, end, granted, denied, sink);
      }
    }
  }

  private void divide(int lane, int start, int end, long granted, long denied, Sink sink) {
    int type = rights.laneType[lane];
    int[] positions = places.ofType[type];
    boolean alike = rights.words[type] == 1;
    int parent = Integer.MIN_VALUE;
    long usable = 0;
    int first = start;
    for (int i = IntList.lowerBound(positions, start);
        i < positions.length && positions[i] < end;
        i++) {
      int at = positions[i];
      if (!alike || places.parent[at] != parent) {
        usable = usable(lane, at, granted);
        parent = places.parent[at];
        sink.put(first, usable, granted, denied);
      }
      first = at + 1;
    }
    if (parent == Integer.MIN_VALUE) {
      sink.put(start, 0, granted, denied);
    }
  }

  private long usable(int lane, int at, long granted) {
    int type = rights.laneType[lane];
    long usable = rights.gatesOfLane[lane].near(granted);
    int word = lane - rights.offset[type];
    for (int permission : rights.gated[type]) {
      int bit = rights.bit[type][permission];
      if (bit >> 6 == word
          && (usable & 1L << bit) != 0
          && (rights.gatesOfLane[lane].far & 1L << bit) != 0
          && !open(permission, at)) {
        usable &= ~(1L << bit);
      }
    }
    return usable;
  }

  private boolean open(int permission, int at) {
    for (int gate : rights.gates[permission]) {
      int where = places.gateAt(rights, gate, at);
      if (where < 0 || !isUsable(gate, where)) {
        return false;
      }
    }
    return true;
  }

  private boolean isUsable(int permission, int at) {
    int type = places.type[at];
    int bit = rights.bit[type][permission];
    long granted = runs.grantedAt(rights.offset[type] + (bit >> 6), at);
    return (granted & 1L << bit) != 0 && open(permission, at);
  }

  /** {@return the number of usable pairs of a lane} */
  long count(int lane) {
    Counting counting = new Counting(rights.laneType[lane]);
    resolve(lane, counting);
    counting.put(places.count, 0, 0, 0);
    return counting.sum;
  }

  private final class Counting implements Sink {
    private final int type;
    private int from;
    private long mask;
    private long sum;

    Counting(int type) {
      this.type = type;
    }

    @Override
    public void put(int start, long usable, long granted, long denied) {
      if (mask != 0 && start > from) {
        sum += (long) Long.bitCount(mask) * places.count(type, from, start);
      }
      from = start;
      mask = usable;
    }
  }
}
