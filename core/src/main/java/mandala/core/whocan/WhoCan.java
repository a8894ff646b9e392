package mandala.core.whocan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.TreeSet;
import mandala.core.compiled.CompiledDelegation;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.PrincipalSets;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.space.Spans;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.Ranges;
import mandala.core.evaluate.RightsCounter;
import mandala.core.evaluate.SessionResolution;
import mandala.core.evaluate.SingleDecision;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import mandala.core.table.IntList;

/**
 * Answers who can. Few pairs of permission and resource are asked column by column ({@link
 * PermissionHolders}). Of many, the columns only tell who may have anything: resources are asked by
 * what stands above them, and people then swept one by one within the places asked about ({@link
 * Ranges}).
 */
public final class WhoCan {

  /** So many pairs are asked column by column. */
  public static final int FEW = 48;

  private final int few;

  private final Snapshot it;
  private final WhoQuestion question;
  private final long at;
  private final int[] permissions;
  private final Spans where;

  /**
   * A question to be answered.
   *
   * @param few up to how many pairs to go by columns
   */
  public WhoCan(Snapshot it, WhoQuestion question, int few) {
    this.few = few;
    this.it = it;
    this.question = question;
    this.at = question.at().getEpochSecond();
    this.permissions =
        question.permissions().stream()
            .sorted(Comparator.comparing(PermissionKey::value))
            .mapToInt(this::permission)
            .toArray();
    this.where =
        switch (question.where()) {
          case WhoQuestion.Where.On(ResourceKey key) -> {
            int position = position(key);
            yield Spans.of(position, position + 1, Spans.NO_FLOOR);
          }
          case WhoQuestion.Where.Below(ResourceKey key) -> {
            int position = position(key);
            yield Spans.of(position, it.places.end[position], Spans.NO_FLOOR);
          }
          case WhoQuestion.Where.Within(CollectionKey key) -> collection(key);
        };
  }

  private int permission(PermissionKey key) {
    Integer p = it.rights.permissionId.get(key);
    if (p == null) {
      throw new IllegalArgumentException("There is no permission '" + key + "'");
    }
    return p;
  }

  private int position(ResourceKey key) {
    int position = it.places.find(key);
    if (position < 0) {
      throw new IllegalArgumentException("There is no resource '" + key + "'");
    }
    return position;
  }

  private Spans collection(CollectionKey key) {
    if (!it.catalogue.collections().containsKey(key)) {
      throw new IllegalArgumentException("There is no collection '" + key + "'");
    }
    ClauseCompiler reader = new ClauseCompiler(it.catalogue, it.places, it.rights);
    return reader
        .read(mandala.core.model.Clause.of(new mandala.core.model.Term.InCollection(key)), -1)
        .spans();
  }

  /** A pair to ask about. */
  private record Pair(int permission, int position) {}

  private List<Pair> pairs() {
    List<Pair> pairs = new ArrayList<>();
    for (int permission : permissions) {
      for (int t = 0; t < it.rights.types.size(); t++) {
        if (it.rights.bit[t][permission] >= 0) {
          for (int i = 0; i < where.size(); i++) {
            int[] positions = it.places.ofType[t];
            for (int j = IntList.lowerBound(positions, where.start[i]);
                j < positions.length && positions[j] < where.end[i];
                j++) {
              pairs.add(new Pair(permission, positions[j]));
            }
          }
        }
      }
    }
    return pairs;
  }

  private long count() {
    long sum = 0;
    for (int permission : permissions) {
      for (int t = 0; t < it.rights.types.size(); t++) {
        for (int i = 0; i < where.size() && it.rights.bit[t][permission] >= 0; i++) {
          sum += it.places.count(t, where.start[i], where.end[i]);
        }
      }
    }
    return sum;
  }

  public WhoQuestion.Answer answer() {
    long many = count();
    Tally tally = many <= few ? byColumns() : byPeople();
    return new WhoQuestion.Answer(
        many,
        tally.allowed(),
        tally.blocked(),
        tally.denied(),
        anonymous(many),
        delegates(many, tally));
  }

  /** What was found of each principal. */
  private final class Tally {
    private final int[] rights = new int[it.people.words << 6];
    private final long[] anyAllowed = new long[it.people.words];
    private final long[] anyBlocked = new long[it.people.words];
    private final long[] anyDenied = new long[it.people.words];

    void add(int p, Found found) {
      rights[p] += (int) found.rights;
      if (found.rights > 0) {
        PrincipalSets.set(anyAllowed, p);
      }
      if (found.blocked) {
        PrincipalSets.set(anyBlocked, p);
      }
      if (found.denied) {
        PrincipalSets.set(anyDenied, p);
      }
    }

    private PrincipalKey key(int p) {
      return it.directory.profiles.require(p).principal.key();
    }

    List<WhoQuestion.Holder> allowed() {
      List<WhoQuestion.Holder> holders = new ArrayList<>();
      each(anyAllowed, p -> holders.add(new WhoQuestion.Holder(key(p), rights[p])));
      holders.sort(
          Comparator.comparingLong(WhoQuestion.Holder::rights)
              .reversed()
              .thenComparing(holder -> holder.principal().value()));
      return holders;
    }

    private List<PrincipalKey> listed(long[] set, long[] but) {
      List<PrincipalKey> keys = new ArrayList<>();
      each(
          set,
          p -> {
            if (!PrincipalSets.has(anyAllowed, p) && !PrincipalSets.has(but, p)) {
              keys.add(key(p));
            }
          });
      keys.sort(Comparator.comparing(PrincipalKey::value));
      return keys;
    }

    List<PrincipalKey> blocked() {
      return listed(anyBlocked, new long[0]);
    }

    List<PrincipalKey> denied() {
      return listed(anyDenied, anyBlocked);
    }
  }

  private static void each(long[] set, java.util.function.IntConsumer principals) {
    for (int w = 0; w < set.length; w++) {
      for (long bits = set[w]; bits != 0; bits &= bits - 1) {
        principals.accept((w << 6) + Long.numberOfTrailingZeros(bits));
      }
    }
  }

  private Tally byColumns() {
    Tally tally = new Tally();
    PermissionHolders column = new PermissionHolders(it, at, question.mfa());
    for (Pair pair : pairs()) {
      long[] usable = column.usable(pair.permission(), pair.position());
      boolean gated = it.rights.gates[pair.permission()].length > 0;
      long[] granted = gated ? column.granted(pair.permission(), pair.position()) : usable;
      long[] denied = column.deny(pair.permission(), pair.position());
      each(usable, p -> tally.rights[p]++);
      for (int w = 0; w < usable.length; w++) {
        tally.anyAllowed[w] |= usable[w];
        tally.anyBlocked[w] |= granted[w] & ~usable[w];
        tally.anyDenied[w] |= denied[w] & column.active()[w];
      }
    }
    return tally;
  }

  private Tally byPeople() {
    Tally tally = new Tally();
    PermissionHolders column = new PermissionHolders(it, at, question.mfa());
    Ranges ranges = new Ranges(it, where);
    RightsCounter counting = new RightsCounter(it);
    each(
        column.active(),
        p -> {
          PrincipalAtInstant who = PrincipalAtInstant.of(it, p, at);
          boolean factor = question.mfa() && who.hasFactor();
          tally.add(p, found(counting.within(who, factor, ranges)));
        });
    return tally;
  }

  /** What an access map says of the places and permissions asked about. */
  private static final class Found {
    private long rights;
    private boolean blocked;
    private boolean denied;
  }

  private Found found(AccessMap accessMap) {
    Found found = new Found();
    for (int permission : permissions) {
      for (int t = 0; t < it.rights.types.size(); t++) {
        int bit = it.rights.bit[t][permission];
        int type = t;
        for (int i = 0; i < where.size() && bit >= 0; i++) {
          accessMap.runs(
              it.rights.offset[t] + (bit >> 6),
              where.start[i],
              where.end[i],
              (start, end, mask) -> {
                int many = it.places.count(type, start, end);
                if (many > 0) {
                  found.rights += (accessMap.allowed(mask) & 1L << bit) != 0 ? many : 0;
                  found.blocked |= (accessMap.blocked(mask) & 1L << bit) != 0;
                  found.denied |= (accessMap.denied(mask) & 1L << bit) != 0;
                }
              });
        }
      }
    }
    return found;
  }

  private boolean anonymous(long many) {
    PrincipalAtInstant nobody = PrincipalAtInstant.of(it, -1, at);
    if (many <= few) {
      SingleDecision point = new SingleDecision(nobody, null, false);
      return pairs().stream()
          .anyMatch(pair -> point.verdict(pair.permission(), pair.position()) == Verdict.ALLOWED);
    }
    return found(new RightsCounter(it).within(nobody, false, new Ranges(it, where))).rights > 0;
  }

  /**
   * Delegations in force that let something through which is allowed so. Only who may for
   * themselves can have another do it.
   */
  private List<WhoQuestion.Delegate> delegates(long many, Tally tally) {
    TreeSet<WhoQuestion.Delegate> found =
        new TreeSet<>(
            Comparator.comparing((WhoQuestion.Delegate it) -> it.actor().value())
                .thenComparing(it -> it.actedFor().value()));
    each(
        tally.anyAllowed,
        p -> {
          for (CompiledDelegation cover : it.covers.getOr(p, List.of())) {
            PrincipalKey actor = it.directory.profiles.require(cover.delegate).principal.key();
            Session session = new Session(actor, question.at(), question.mfa(), tally.key(p));
            if (mayPass(cover)
                && SessionResolution.of(it, session) instanceof SessionResolution.For standing
                && passes(standing, many)) {
              found.add(new WhoQuestion.Delegate(actor, tally.key(p)));
            }
          }
        });
    return List.copyOf(found);
  }

  private boolean passes(SessionResolution.For standing, long many) {
    return many <= few
        ? pairs().stream()
            .anyMatch(pair ->
                SessionResolution.verdict(standing, pair.permission(), pair.position())
                    == Verdict.ALLOWED)
        : found(SessionResolution.accessMap(standing)).rights > 0;
  }

  private boolean mayPass(CompiledDelegation cover) {
    long[] row = cover.times.holdsAt(at) ? cover.row(it) : it.rights.noRow;
    boolean passes = false;
    for (int permission : permissions) {
      int lane = it.rights.anyLane[permission];
      passes |= lane >= 0 && (row[lane] & it.rights.anyBit[permission]) != 0;
    }
    if (passes) {
      for (int ground : cover.grounds) {
        for (int i = 0; i < where.size(); i++) {
          if (it.grounds.require(ground).spans().meet(where.start[i], where.end[i])) {
            return true;
          }
        }
      }
    }
    return false;
  }
}
