package mandala.bench;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Rule;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * Makes models of any size, always the same for a size and a seed, with everything of the access
 * model in use: accounts of very different sizes, deep managers, wide and nested groups, rules,
 * guests, seals, labels, gates, relative scopes, windows, just-in-time, bridges and delegations.
 *
 * <p>Things are shared where models share them (scopes, what is given, subjects), as a reader of
 * tables would.
 */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
public final class Settlement {

  /** The instant that questions are asked at. */
  public static final Instant NOW = Instant.parse("2026-06-15T10:00:00Z");

  final Random random;
  final Size size;
  final AccessModel.Builder model = AccessModel.builder();
  final List<AccountKey> accounts = new ArrayList<>();
  final List<List<UnitKey>> units = new ArrayList<>();
  final List<List<Principal>> people = new ArrayList<>();
  final List<List<GroupKey>> groups = new ArrayList<>();
  final List<List<ResourceKey>> containers = new ArrayList<>();
  final List<List<ResourceKey>> leaves = new ArrayList<>();
  final List<CollectionKey> collections = new ArrayList<>();
  final List<PatternKey> patterns = new ArrayList<>();
  final Definitions definitions;
  private double[] weights = {};

  private Settlement(Size size, long seed) {
    this.size = size;
    this.random = new Random(seed);
    definitions = new Definitions(random, size, model);
  }

  /** {@return a model of a size} */
  public static AccessModel of(Size size, long seed) {
    Settlement settlement = new Settlement(size, seed);
    settlement.definitions.make();
    settlement.organisation();
    settlement.population();
    settlement.things();
    settlement.circles();
    new Grants(settlement).make();
    return settlement.model.build();
  }

  boolean chance(double percent) {
    return random.nextDouble() * 100 < percent;
  }

  <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  /** Low numbers far more often than high ones. */
  int skewed(int bound) {
    double u = random.nextDouble();
    return Math.min(bound - 1, (int) (bound * u * u * u));
  }

  /** A share of a whole, larger for the first accounts. */
  private int share(int whole, int account) {
    return Math.max(2, (int) (whole * weight(account)));
  }

  private double weight(int account) {
    if (weights.length == 0) {
      double sum = 0;
      weights = new double[size.accounts];
      for (int a = 0; a < size.accounts; a++) {
        weights[a] = 1.0 / (a + 8);
        sum += weights[a];
      }
      for (int a = 0; a < size.accounts; a++) {
        weights[a] /= sum;
      }
    }
    return weights[account];
  }

  /** An account, the larger ones more often, as they have more people. */
  int anyAccount() {
    double dice = random.nextDouble();
    int a = 0;
    for (double sum = weight(0); a + 1 < size.accounts && sum < dice; sum += weight(a)) {
      a++;
    }
    return a;
  }

  private void organisation() {
    for (int a = 0; a < size.accounts; a++) {
      AccountKey key = new AccountKey("acc-" + a);
      AccountKey parent = a < 3 || chance(20) ? null : accounts.get(random.nextInt(a));
      boolean quiet = a > size.accounts / 2;
      model.add(
          new Account(
              key,
              About.NONE,
              parent,
              parent != null && quiet && chance(8),
              parent != null && chance(15)));
      accounts.add(key);
      List<UnitKey> own = new ArrayList<>();
      for (int u = 0; u < Math.max(6, share(size.people, a) / 60); u++) {
        UnitKey unit = new UnitKey("u-" + a + "-" + u);
        UnitKey above = u == 0 || chance(10) ? null : own.get(random.nextInt(Math.min(u, 30)));
        model.add(new Unit(unit, About.NONE, key, above));
        own.add(unit);
      }
      units.add(own);
    }
    for (int p = 0; p < Math.max(5, size.roles / 40); p++) {
      PatternKey key = new PatternKey("job-" + p);
      model.add(new Pattern(key, About.NONE, chance(70) ? any(accounts) : null, List.of()));
      patterns.add(key);
    }
  }

  private void population() {
    int number = 0;
    for (int a = 0; a < size.accounts; a++) {
      List<Principal> staff = new ArrayList<>();
      int many = share(size.people, a);
      for (int i = 0; i < many; i++) {
        Principal principal = principal(number++, a, staff);
        staff.add(principal);
        model.add(principal);
      }
      people.add(staff);
    }
    for (int g = 0; g < size.people / 50; g++) {
      Principal who = any(people.get(anyAccount()));
      AccountKey door = any(accounts);
      if (!door.equals(who.account())) {
        model.add(new Guest(About.NONE, who.key(), door, chance(20), window(30), null));
      }
    }
  }

  private static final List<String> SITES = List.of("north", "south", "east", "west", "harbour");

  private Principal principal(int number, int a, List<Principal> staff) {
    boolean service = chance(4);
    int span = staff.size();
    @Nullable PrincipalKey manager =
        service || span == 0
            ? null
            : staff.get(chance(2) ? span - 1 : Math.max(0, (span - 1) / 7)).key();
    Map<String, String> attributes =
        service
            ? Map.of()
            : Map.of(
                "department",
                "d" + random.nextInt(12),
                "site",
                any(SITES),
                "grade",
                "g" + skewed(9));
    List<Principal.Reach> reach = new ArrayList<>();
    if (chance(3)) {
      reach.add(
          new Principal.Reach(
              any(units.get(anyAccount())),
              chance(60) ? Principal.Level.VIEW : Principal.Level.FULL));
    }
    return new Principal(
        new PrincipalKey("p-" + number),
        About.NONE,
        service ? Principal.Kind.SERVICE : Principal.Kind.PERSON,
        accounts.get(a),
        any(units.get(a)),
        manager,
        chance(3) ? Principal.Status.SUSPENDED : Principal.Status.ACTIVE,
        window(3),
        !service && chance(60),
        attributes,
        chance(30) ? any(patterns) : null,
        reach,
        null,
        null,
        null);
  }

  private static final List<Instant> TIMES =
      List.of(
          Instant.parse("2026-01-01T00:00:00Z"),
          Instant.parse("2026-03-01T00:00:00Z"),
          Instant.parse("2026-09-01T00:00:00Z"),
          Instant.parse("2027-01-01T00:00:00Z"));

  Window window(double percent) {
    if (!chance(percent)) {
      return Window.ALWAYS;
    }
    int from = random.nextInt(TIMES.size());
    return chance(50)
        ? new Window(null, TIMES.get(from))
        : new Window(TIMES.get(from), from + 1 < TIMES.size() ? TIMES.getLast() : null);
  }

  private void things() {
    int number = 0;
    List<ResourceKey> all = new ArrayList<>();
    for (int a = 0; a < size.accounts; a++) {
      List<ResourceKey> places = new ArrayList<>();
      List<ResourceKey> ends = new ArrayList<>();
      Map<ResourceKey, Integer> depth = new HashMap<>();
      int many = share(size.resources, a);
      for (int i = 0; i < many; i++) {
        boolean container = i < 3 || chance(11);
        @Nullable ResourceKey parent = i < 3 ? null : places.get(random.nextInt(places.size()));
        int down = parent == null ? 0 : depth.getOrDefault(parent, 0) + 1;
        ResourceKey key = new ResourceKey("r-" + number++);
        model.add(thing(key, container && down < 8, a, parent));
        if (container && down < 8) {
          places.add(key);
          depth.put(key, down);
        } else {
          ends.add(key);
        }
      }
      containers.add(places);
      leaves.add(ends);
      all.addAll(places);
      for (int c = 0; c < Math.max(1, many / 400); c++) {
        Set<ResourceKey> members = new LinkedHashSet<>();
        for (int m = 0; m < 3 + random.nextInt(20); m++) {
          members.add(chance(30) || ends.isEmpty() ? any(places) : any(ends));
        }
        CollectionKey key = new CollectionKey("c-" + a + "-" + c);
        model.add(new ResourceCollection(key, About.NONE, accounts.get(a), List.copyOf(members)));
        collections.add(key);
      }
    }
    if (all.size() > number) {
      throw new IllegalStateException("Impossible state: more containers than resources");
    }
  }

  private Resource thing(ResourceKey key, boolean container, int a, @Nullable ResourceKey parent) {
    Map<String, String> labels =
        chance(container ? 20 : 2)
            ? Map.of(any(Definitions.LABELS), "v" + random.nextInt(4))
            : Map.of();
    return new Resource(
        key,
        About.NONE,
        container ? definitions.anyContainer() : definitions.anyLeaf(),
        accounts.get(a),
        parent,
        !container && chance(50) ? any(people.get(a)).key() : null,
        chance(container ? 10 : 3) ? any(units.get(a)) : null,
        labels,
        container && chance(1.5));
  }

  private void circles() {
    int number = 0;
    for (int a = 0; a < size.accounts; a++) {
      List<GroupKey> own = new ArrayList<>();
      List<Integer> height = new ArrayList<>();
      int many = share(size.groups, a);
      for (int i = 0; i < many; i++) {
        GroupKey key = new GroupKey("g-" + number++);
        Set<Group.Member> members = new LinkedHashSet<>();
        int tall = 0;
        if (i > 4 && chance(40)) {
          for (int inner = 0; inner < 1 + random.nextInt(2); inner++) {
            int which = random.nextInt(i);
            if (height.get(which) < 3) {
              members.add(new Group.Member.OfGroup(own.get(which)));
              tall = Math.max(tall, height.get(which) + 1);
            }
          }
        }
        @Nullable Rule rule = i == 0 || chance(4) ? rule(i == 0) : null;
        for (int m = members(i, many, a); m > 0 && rule == null; m--) {
          Principal who = any(people.get(chance(97) ? a : anyAccount()));
          members.add(new Group.Member.OfPrincipal(who.kind(), who.key()));
        }
        model.add(
            new Group(
                key,
                About.NONE,
                accounts.get(a),
                i > 0 && chance(1),
                List.copyOf(members),
                rule,
                List.of()));
        own.add(key);
        height.add(tall);
      }
      groups.add(own);
    }
  }

  /** Most groups are small, one in fifty takes in a tenth of the account. */
  private int members(int i, int many, int a) {
    int staff = people.get(a).size();
    if (i % 50 == 7) {
      return staff / 10;
    }
    return 3 + skewed(Math.max(4, Math.min(120, staff * 14 / Math.max(1, many))));
  }

  private Rule rule(boolean everyone) {
    if (everyone) {
      return new Rule(
          Rule.Match.ALL, List.of(new Rule.Test("kind", Rule.Op.IS, List.of("person"))));
    }
    return new Rule(
        chance(70) ? Rule.Match.ALL : Rule.Match.ANY,
        List.of(
            new Rule.Test("department", Rule.Op.IS, List.of("d" + random.nextInt(12))),
            new Rule.Test("site", Rule.Op.IN, List.of(any(SITES), any(SITES)))));
  }
}
