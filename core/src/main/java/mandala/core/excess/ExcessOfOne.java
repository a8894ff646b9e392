package mandala.core.excess;

import java.util.List;
import java.util.function.Consumer;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.space.Spans;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.FarGates;
import mandala.core.evaluate.Givers;
import mandala.core.evaluate.KeptRights;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.RightsCounter;
import mandala.core.evaluate.SingleDecision;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Works out need, young and excess of one principal after the other (section 12), each in the same
 * memory. For one thread.
 *
 * <ol>
 *   <li>What is effective, as an access map; nothing outside of it counts.
 *   <li>Need: what was used and what is demanded, each with what comes with it.
 *   <li>Young: what is effective and was not when the window began, with what comes with it, but
 *       for what is needed.
 *   <li>What is not observed: the rest that no source of use reports, with what comes with it.
 *   <li>Excess is counted as the rest.
 * </ol>
 */
final class ExcessOfOne {

  private final ExcessStudy study;
  private final Snapshot it;
  private final PastAccess past;
  private final RightsCounter sweeping;
  private final RightsSet need;
  private final RightsSet young;
  private final RightsSet unobserved;
  private AccessMap held = AccessMap.EMPTY;

  /** Whose it is that was worked out last. */
  private @Nullable PrincipalKey whose;

  /** What was added and whose companions were not yet: pairs of position and permission. */
  private final IntList open = new IntList();

  ExcessOfOne(ExcessStudy study) {
    this.study = study;
    it = study.it;
    past = new PastAccess(it, study.then, study.window.youngSince().getEpochSecond(), study.past);
    sweeping = new RightsCounter(it);
    need = new RightsSet(it);
    young = new RightsSet(it);
    unobserved = new RightsSet(it);
  }

  Excess of(PrincipalKey principal) {
    workOut(principal);
    long[] all = new long[2];
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      int inLane = lane;
      held.runs(
          lane,
          0,
          it.places.count,
          (start, end, mask) -> {
            long allowed = held.allowed(mask);
            if (allowed != 0) {
              long places = it.places.count(it.rights.laneType[inLane], start, end);
              all[0] += Long.bitCount(allowed) * places;
              all[1] += it.rights.weight(inLane, allowed) * places;
            }
          });
    }
    return new Excess(
        principal,
        all[0],
        need.size(),
        young.size(),
        unobserved.size(),
        all[0] - need.size() - young.size() - unobserved.size(),
        all[1],
        all[1] - need.exposure() - young.exposure() - unobserved.exposure());
  }

  /** How many rights of each permission are effective, and how many of these are excess. */
  ExcessStudy.ByPermission byPermission(PrincipalKey principal) {
    workOut(principal);
    int many = it.rights.permissions.size();
    long[] effective = new long[many];
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      int type = it.rights.laneType[lane];
      int first = (lane - it.rights.offset[type]) << 6;
      held.runs(
          lane,
          0,
          it.places.count,
          (start, end, mask) -> {
            long allowed = held.allowed(mask);
            int places = allowed == 0 ? 0 : it.places.count(type, start, end);
            for (long rest = allowed; rest != 0; rest &= rest - 1) {
              int bit = first + Long.numberOfTrailingZeros(rest);
              effective[it.rights.ofType[type][bit]] += places;
            }
          });
    }
    long[] excess = new long[many];
    for (int p = 0; p < many; p++) {
      excess[p] = effective[p] - need.of(p) - young.of(p) - unobserved.of(p);
    }
    return new ExcessStudy.ByPermission(effective, excess, new Access(it, null, held));
  }

  /** Tells each right that is excess. */
  void each(PrincipalKey principal, Consumer<Excess.Right> found) {
    workOut(principal);
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      eachHeld(lane, (position, word, allowed) -> tellRest(position, word, allowed, found));
    }
  }

  private void tellRest(int position, int word, long allowed, Consumer<Excess.Right> found) {
    int[] permissions = it.rights.ofType[it.places.type[position]];
    long excess = allowed & ~kept(position, word);
    for (long rest = excess; rest != 0; rest &= rest - 1) {
      int bit = (word << 6) + Long.numberOfTrailingZeros(rest);
      found.accept(
          new Excess.Right(
              it.rights.permissions.get(permissions[bit]).key(), it.places.key(position)));
    }
  }

  private long kept(int position, int word) {
    return need.at(position, word) | young.at(position, word) | unobserved.at(position, word);
  }

  /** Tells each right that must stay, and what gives it. */
  void eachKept(PrincipalKey principal, ExcessStudy.KeptVisitor visitor) {
    workOut(principal);
    int id = it.principal(principal);
    SingleDecision decision =
        new SingleDecision(
            PrincipalAtInstant.of(it, id, study.window.at().getEpochSecond()), null, true);
    Givers givers = new Givers();
    for (RightsSet each : List.of(need, young, unobserved)) {
      each.each((position, word, kept) -> {
        int[] permissions = it.rights.ofType[it.places.type[position]];
        for (long rest = kept; rest != 0; rest &= rest - 1) {
          int permission = permissions[(word << 6) + Long.numberOfTrailingZeros(rest)];
          decision.givers(permission, position, givers);
          visitor.kept(permission, position, givers);
        }
      });
    }
  }

  KeptRights kept(PrincipalKey principal) {
    workOut(principal);
    KeptRights.Builder all = new KeptRights.Builder();
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      int inLane = lane;
      eachHeld(
          lane,
          (position, word, _) -> {
            long kept = kept(position, word);
            if (kept != 0) {
              all.add(inLane, position, kept);
            }
          });
    }
    return all.build();
  }

  /** What is effective, what of it is needed or young, and what of it must stay. */
  ExcessStudy.Shares shares(PrincipalKey principal) {
    workOut(principal);
    return new ExcessStudy.Shares(
        new Access(it, null, held),
        access((position, word) -> need.at(position, word) | young.at(position, word)),
        access(this::kept));
  }

  /** The rights on a position in one word of its type's row. */
  private interface Rights {
    long at(int position, int word);
  }

  /** Of what is held only, which is little of all places for most. */
  private Access access(Rights rights) {
    return new Access(
        it,
        null,
        new AccessMap(it.rights.rowLength, null, (lane, sink) -> tell(lane, rights, sink)));
  }

  private void tell(int lane, Rights rights, FarGates.Sink sink) {
    int type = it.rights.laneType[lane];
    int word = lane - it.rights.offset[type];
    int[] positions = it.places.ofType[type];
    int[] nothingFrom = new int[1];
    held.runs(
        lane,
        0,
        it.places.count,
        (start, end, mask) -> {
          int first = IntList.lowerBound(positions, start);
          if (held.allowed(mask) == 0 || first == positions.length || positions[first] >= end) {
            return;
          }
          if (nothingFrom[0] < positions[first]) {
            sink.put(nothingFrom[0], 0, 0, 0);
          }
          for (int i = first; i < positions.length && positions[i] < end; i++) {
            long bits = rights.at(positions[i], word);
            sink.put(positions[i], bits, bits, 0);
          }
          nothingFrom[0] = end;
        });
    if (nothingFrom[0] < it.places.count) {
      sink.put(nothingFrom[0], 0, 0, 0);
    }
  }

  /** Takes what is held on one position in one word of its type's row. */
  private interface Held {
    void at(int position, int word, long allowed);
  }

  private void eachHeld(int lane, Held sink) {
    int type = it.rights.laneType[lane];
    int word = lane - it.rights.offset[type];
    int[] positions = it.places.ofType[type];
    held.runs(
        lane,
        0,
        it.places.count,
        (start, end, mask) -> {
          long allowed = held.allowed(mask);
          for (int i = allowed == 0 ? positions.length : IntList.lowerBound(positions, start);
              i < positions.length && positions[i] < end;
              i++) {
            sink.at(positions[i], word, allowed);
          }
        });
  }

  private void workOut(PrincipalKey principal) {
    if (principal.equals(whose)) {
      return;
    }
    whose = null;
    need.clear();
    young.clear();
    unobserved.clear();
    int id = it.principal(principal);
    if (id < -1) {
      throw new IllegalArgumentException("There is no principal '" + principal + "'");
    }
    long at = study.window.at().getEpochSecond();
    PrincipalAtInstant who = PrincipalAtInstant.of(it, id, at);
    held = who.active ? sweeping.accessMap(who, who.hasFactor()) : AccessMap.EMPTY;
    whose = principal;
    if (!who.active) {
      return;
    }
    study.use.each(
        principal,
        (permission, resource) -> needed(study.permissions[permission], study.positions[resource]));
    for (ExcessStudy.Demand demand : study.demands) {
      if (demand.isOf(who.subjects)) {
        demanded(demand);
      }
    }
    if (!isAsItWas(who)) {
      Spans where = past.of(principal, who);
      for (int i = 0; i < where.size(); i++) {
        eachYoung(where.start[i], where.end[i]);
      }
    }
    if (study.observed != null) {
      leaveUnobserved(study.observed);
    }
  }

  private void leaveUnobserved(Observed observed) {
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      eachHeld(
          lane,
          (position, word, allowed) ->
              addAll(position, word, allowed & ~observed.at(position, word), unobserved));
    }
  }

  /** Whether nothing began or ended since the window did: then nothing is young. */
  @SuppressWarnings("ReferenceEquality") // one snapshot is asked about itself
  private boolean isAsItWas(PrincipalAtInstant who) {
    return it == study.then && who.good().holdsAt(study.window.youngSince().getEpochSecond());
  }

  private void needed(int permission, int position) {
    if (permission >= 0 && position >= 0) {
      add(permission, position, need);
      close(need);
    }
  }

  private void demanded(ExcessStudy.Demand demand) {
    for (int permission : demand.permissions) {
      for (int type = 0; type < it.rights.types.size(); type++) {
        int bit = it.rights.bit[type][permission];
        if (bit >= 0) {
          eachHeld(
              it.rights.offset[type] + (bit >> 6),
              (position, _, allowed) -> {
                if ((allowed & 1L << bit) != 0 && demand.places.get(position)) {
                  needed(permission, position);
                }
              });
        }
      }
    }
  }

  private void eachYoung(int from, int to) {
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      int type = it.rights.laneType[lane];
      int word = lane - it.rights.offset[type];
      int[] positions = it.places.ofType[type];
      held.runs(
          lane,
          from,
          to,
          (start, end, mask) -> {
            long allowed = held.allowed(mask);
            int i = allowed == 0 ? positions.length : IntList.lowerBound(positions, start);
            while (i < positions.length && positions[i] < end) {
              long fresh = allowed & ~past.allowed(positions[i], word);
              int until = Math.min(end, past.end(positions[i], word));
              do {
                young(positions[i], word, fresh);
                i++;
              } while (fresh != 0 && i < positions.length && positions[i] < until);
              if (fresh == 0) {
                i = IntList.lowerBound(positions, Math.max(until, positions[i - 1] + 1));
              }
            }
          });
    }
  }

  private void young(int position, int word, long fresh) {
    addAll(position, word, fresh, young);
  }

  private void addAll(int position, int word, long rights, RightsSet to) {
    int[] permissions = it.rights.ofType[it.places.type[position]];
    for (long rest = rights; rest != 0; rest &= rest - 1) {
      int bit = (word << 6) + Long.numberOfTrailingZeros(rest);
      add(permissions[bit], position, to);
      close(to);
    }
  }

  /**
   * Adds a right, as far as it is held and applies and an earlier set does not have it.
   *
   * @param to need, young or not observed, in this order
   */
  private void add(int permission, int position, RightsSet to) {
    int type = it.places.type[position];
    int bit = it.rights.bit[type][permission];
    if (bit < 0) {
      return;
    }
    int word = bit >> 6;
    long one = 1L << bit;
    int lane = it.rights.offset[type] + word;
    if ((held.allowed(held.maskAt(lane, position)) & one) == 0
        || (kept(position, word) & one) != 0) {
      return;
    }
    to.add(position, bit);
    open.add(position);
    open.add(permission);
  }

  /** Adds what comes with all that was added: what it implies, and its gates where they decide. */
  private void close(RightsSet to) {
    while (open.size() > 0) {
      int permission = open.removeLast();
      int position = open.removeLast();
      for (int implied : study.implied[permission]) {
        add(implied, position, to);
      }
      for (int gate : it.rights.gates[permission]) {
        int where = it.places.gateAt(it.rights, gate, position);
        if (where >= 0) {
          add(gate, where, to);
        }
      }
    }
  }
}
