package mandala.core.detect;

import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.InBatches;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.model.Assignment;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.rule.Exposure;
import mandala.core.rule.Guests;
import org.jspecify.annotations.Nullable;

/** What people hold, beside what they use and what their colleagues hold. */
final class UnusedSearch {

  /** Fewer colleagues are no comparison. */
  static final int FEWEST_COLLEAGUES = 5;

  /** A permission is rare where at most one colleague in this many holds it. */
  static final int RARE = 10;

  /** Number of people between two looks at the watch. */
  private static final int BATCH = 256;

  private final Basis basis;
  private final Consumer<Detection> found;

  /** By number of a permission. */
  private final int[] weights;

  private final BitSet risky = new BitSet();

  /** What each active principal holds, by number of the permission. */
  private final Map<PrincipalKey, BitSet> held = new ConcurrentHashMap<>();

  private UnusedSearch(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
    int many = basis.study.permissions();
    weights = new int[many];
    for (int p = 0; p < many; p++) {
      Permission.Risk risk = basis.study.permission(p).risk();
      weights[p] = Exposure.of(risk);
      risky.set(p, risk.compareTo(Permission.Risk.HIGH) >= 0);
    }
  }

  static void search(Basis basis, Consumer<Detection> found, Impact.Watch watch) {
    UnusedSearch search = new UnusedSearch(basis, found);
    if (search.people(watch)) {
      search.colleagues();
      if (basis.observes()) {
        search.guests();
        search.notAllowed();
        search.notObserved();
      }
    }
  }

  // ---- unused -----------------------------------------------------------------------------------

  /** {@return whether all were looked at} */
  private boolean people(Impact.Watch watch) {
    List<Principal> people =
        basis.catalogue.principals().values().stream().filter(basis::isActive).toList();
    basis.verdicts.begin();
    if (basis.observes()) {
      AssignmentNeeds.Part needs = basis.needs.new Part();
      basis.study.eachKept(PrincipalKey.ANONYMOUS, needs.reader(PrincipalKey.ANONYMOUS));
      needs.close();
    }
    return InBatches.of(
        people,
        BATCH,
        watch,
        some -> {
          AssignmentNeeds.Part needs = basis.needs.new Part();
          some.forEach(who -> unused(who, needs));
          needs.close();
        });
  }

  private void unused(Principal who, AssignmentNeeds.Part needed) {
    ExcessStudy.ByPermission rights =
        basis.observes()
            ? basis.study.byPermission(who.key(), needed.reader(who.key()))
            : basis.study.byPermission(who.key());
    BitSet holds = new BitSet();
    long unused = 0;
    long unusedRisky = 0;
    long exposure = 0;
    boolean needs = false;
    int worst = -1;
    for (int p = 0; p < weights.length; p++) {
      long excess = rights.excess()[p];
      if (rights.effective()[p] > 0) {
        holds.set(p);
      }
      needs |= excess < rights.effective()[p];
      unused += excess;
      exposure += excess * weights[p];
      if (excess > 0 && risky.get(p)) {
        unusedRisky += excess;
        worst = worst < 0 || isWorse(p, worst, rights.excess()) ? p : worst;
      }
    }
    held.put(who.key(), holds);
    basis.verdicts.read(who.key(), rights.held());
    if (!basis.observes() || unused == 0) {
      return;
    }
    if (!needs && who.kind() == Principal.Kind.PERSON) {
      found.accept(
          Detection.of(
              who.key(),
              new Trouble.Dormant(who.key(), unused),
              worst < 0 ? Permission.Risk.MODERATE : basis.study.permission(worst).risk(),
              exposure));
    } else if (worst >= 0) {
      PermissionKey most = basis.study.permission(worst).key();
      found.accept(
          Detection.of(
              who.key(),
              new Trouble.UnusedRights(who.key(), most, unusedRisky),
              basis.risk(most),
              exposure));
    }
  }

  private boolean isWorse(int one, int other, long[] rights) {
    return weights[one] != weights[other]
        ? weights[one] > weights[other]
        : rights[one] > rights[other];
  }

  // ---- colleagues -------------------------------------------------------------------------------

  /** Colleagues of one home account and kind with one trait. */
  private record Job(AccountKey account, Principal.Kind kind, Peers.Basis basis, Object trait) {}

  private void colleagues() {
    Map<Job, List<PrincipalKey>> jobs = new HashMap<>();
    for (Principal it : basis.catalogue.principals().values()) {
      if (held.containsKey(it.key())) {
        for (Job job : jobs(it)) {
          jobs.computeIfAbsent(job, _ -> new ArrayList<>()).add(it.key());
        }
      }
    }
    Map<Job, int[]> counts = new HashMap<>();
    jobs.forEach((job, people) -> {
      if (people.size() > FEWEST_COLLEAGUES) {
        int[] many = new int[weights.length];
        people.forEach(who -> held.getOrDefault(who, NOTHING).stream().forEach(p -> many[p]++));
        counts.put(job, many);
      }
    });
    for (Principal it : basis.catalogue.principals().values()) {
      Job job = jobs(it).stream().filter(counts::containsKey).findFirst().orElse(null);
      BitSet holds = held.get(it.key());
      if (job != null && holds != null) {
        int colleagues = jobs.getOrDefault(job, List.of()).size() - 1;
        rare(it, job, holds, counts.getOrDefault(job, new int[0]), colleagues);
      }
    }
  }

  private static final BitSet NOTHING = new BitSet();

  private static List<Job> jobs(Principal it) {
    List<Job> jobs = new ArrayList<>();
    for (Peers.Basis each : List.of(Peers.Basis.PATTERN, Peers.Basis.TITLE, Peers.Basis.UNIT)) {
      Object trait = Peers.trait(each, it);
      if (trait != null) {
        jobs.add(new Job(it.account(), it.kind(), each, trait));
      }
    }
    return jobs;
  }

  private void rare(Principal who, Job job, BitSet holds, int[] counts, int colleagues) {
    int rare = 0;
    int worst = -1;
    long exposure = 0;
    BitSet some = (BitSet) holds.clone();
    some.and(risky);
    for (int p = some.nextSetBit(0); p >= 0; p = some.nextSetBit(p + 1)) {
      if ((counts[p] - 1) * RARE <= colleagues) {
        rare++;
        exposure += weights[p];
        boolean worse =
            worst < 0
                || weights[p] > weights[worst]
                || (weights[p] == weights[worst] && counts[p] < counts[worst]);
        worst = worse ? p : worst;
      }
    }
    if (worst >= 0) {
      found.accept(
          new Detection(
              new Trouble.RareAmongColleagues(
                  who.key(),
                  basis.study.permission(worst).key(),
                  rare,
                  counts[worst] - 1,
                  colleagues,
                  job.basis()),
              basis.study.permission(worst).risk(),
              exposure,
              Set.of(who.key()),
              Set.of(),
              Set.of(who.account())));
    }
  }

  // ---- guests -----------------------------------------------------------------------------------

  private void guests() {
    Instant since = basis.inquiry.window().youngSince();
    for (Guest it : basis.catalogue.guests()) {
      boolean old = it.window().from() == null || !it.window().from().isAfter(since);
      if (old && it.window().holdsAt(basis.at) && held.containsKey(it.principal())) {
        Set<AccountKey> covered = new HashSet<>();
        for (AccountKey account : basis.catalogue.accounts().keySet()) {
          if (Guests.covers(it, account, basis.catalogue)) {
            covered.add(account);
          }
        }
        guest(it, covered);
      }
    }
  }

  private void guest(Guest it, Set<AccountKey> covered) {
    Extent extent = new Extent(null, false, covered);
    var access = basis.engine.access(basis.session(it.principal()));
    long rights = access.rights(extent);
    boolean[] needs = {false};
    if (rights > 0) {
      basis.study.eachKept(
          it.principal(),
          (_, position, _) ->
              needs[0] |=
                  covered.contains(basis.catalogue.accountOf(basis.study.resource(position))));
    }
    if (rights > 0 && !needs[0]) {
      found.accept(
          Detection.ofGuest(
              it.principal(),
              covered,
              new Trouble.GuestPastPurpose(it.principal(), it.account(), rights),
              basis.risk(permissions(access, extent)),
              access.exposure(extent)));
    }
  }

  private Set<PermissionKey> permissions(Access access, Extent extent) {
    Set<PermissionKey> all = new HashSet<>();
    for (int p = 0; p < weights.length; p++) {
      PermissionKey key = basis.study.permission(p).key();
      boolean there =
          access.intervals(key).stream()
              .anyMatch(it -> isIn(extent, basis.catalogue.accountOf(it.first())));
      if (there) {
        all.add(key);
      }
    }
    return all;
  }

  private static boolean isIn(Extent extent, @Nullable AccountKey account) {
    return extent.only() != null && account != null && extent.only().contains(account);
  }

  // ---- use --------------------------------------------------------------------------------------

  private void notAllowed() {
    Engine on = basis.engine.switchedOn();
    for (Principal it : basis.catalogue.principals().values()) {
      List<Use.Used> wrong = new ArrayList<>();
      for (Use.Used used : basis.inquiry.use().of(it.key())) {
        boolean known =
            basis.catalogue.permissions().containsKey(used.permission())
                && basis.catalogue.has(used.resource());
        if (known && !isAllowed(on, it.key(), used, basis.at) && !wasAllowed(it.key(), used)) {
          wrong.add(used);
        }
      }
      if (!wrong.isEmpty()) {
        notAllowed(it.key(), wrong);
      }
    }
  }

  private void notAllowed(PrincipalKey who, List<Use.Used> wrong) {
    Use.Used worst =
        wrong.stream()
            .max(
                Comparator.comparing((Use.Used it) -> basis.risk(it.permission()))
                    .thenComparing(Use.Used::last)
                    .thenComparing(it -> it.permission().value() + " " + it.resource().value()))
            .orElseThrow();
    long exposure = wrong.stream().mapToLong(it -> Exposure.of(basis.risk(it.permission()))).sum();
    found.accept(
        Detection.of(
            who,
            new Trouble.UseNotAllowed(
                who, worst.permission(), worst.resource(), worst.last(), wrong.size()),
            basis.risk(worst.permission()),
            exposure));
  }

  private static boolean isAllowed(Engine engine, PrincipalKey who, Use.Used used, Instant at) {
    return engine.catalogue().principals().containsKey(who)
        && engine.catalogue().permissions().containsKey(used.permission())
        && engine.catalogue().has(used.resource())
        && engine
            .decide(new Question(who, used.permission(), used.resource(), at, true, null))
            .allowed();
  }

  /** Whether it was allowed at the beginning or the end of the day, by any model of that day. */
  private boolean wasAllowed(PrincipalKey who, Use.Used used) {
    Instant morning = used.last().atStartOfDay(ZoneOffset.UTC).toInstant();
    Instant evening = used.last().atTime(LocalTime.of(23, 59, 59)).toInstant(ZoneOffset.UTC);
    List<Engine> models = new ArrayList<>(basis.inquiry.past().apply(morning));
    if (models.isEmpty()) {
      models.add(basis.engine);
    }
    return models.stream()
        .map(Engine::switchedOn)
        .anyMatch(it -> isAllowed(it, who, used, morning) || isAllowed(it, who, used, evening));
  }

  private void notObserved() {
    Set<PermissionKey> observed = new HashSet<>();
    for (UseCoverage.Part part : basis.inquiry.use().coverage().over(basis.inquiry.window())) {
      if (part.permissions() == null) {
        return;
      }
      observed.addAll(part.permissions());
    }
    Map<PermissionKey, Integer> given = new HashMap<>();
    for (Assignment it : basis.catalogue.assignments().values()) {
      if (it.effect() == Assignment.Effect.ALLOW && basis.isInForce(it)) {
        basis.given(it).permissions.forEach(key -> given.merge(key, 1, Integer::sum));
      }
    }
    given.forEach((key, many) -> {
      if (!observed.contains(key)) {
        found.accept(Detection.ofModel(new Trouble.NotObserved(key, many), basis.risk(key), many));
      }
    });
  }
}
