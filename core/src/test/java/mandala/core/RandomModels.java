package mandala.core;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.IntFunction;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import mandala.core.question.Question;

/**
 * Small random models that use everything in the access model, always the same for a seed, and
 * questions about them. They are valid: later things refer to earlier ones, so there are no cycles.
 */
public final class RandomModels {

  /** {@return an instant at which windows begin or end, or hold} */
  public static Instant anyTime(Random random) {
    return Instant.parse(TIMES.get(random.nextInt(TIMES.size())));
  }

  private static final List<String> TIMES =
      List.of(
          "2026-01-01T00:00:00Z",
          "2026-03-01T00:00:00Z",
          "2026-04-15T12:00:00Z",
          "2026-06-01T00:00:00Z",
          "2026-09-01T00:00:00Z",
          "2027-01-01T00:00:00Z");

  private final Random random;
  private final AccessModel.Builder model = AccessModel.builder();
  private final List<Account> accounts = new ArrayList<>();
  private final List<Unit> units = new ArrayList<>();
  private final List<PatternKey> patterns = new ArrayList<>();
  private final List<Principal> people = new ArrayList<>();
  private final List<Group> groups = new ArrayList<>();
  private final List<TypeKey> types = new ArrayList<>();
  private final List<PermissionKey> permissions = new ArrayList<>();
  private final List<PermissionSetKey> sets = new ArrayList<>();
  private final List<RoleKey> roles = new ArrayList<>();
  private final List<ResourceKey> resources = new ArrayList<>();
  private final Map<ResourceKey, AccountKey> where = new HashMap<>();
  private final List<CollectionKey> collections = new ArrayList<>();

  /** Types get more permissions than one word has bits for. */
  private final boolean wide;

  private RandomModels(long seed) {
    random = new Random(seed * 7919 + 17);
    wide = seed % 6 == 0;
  }

  /** {@return the model of a seed} */
  public static AccessModel model(long seed) {
    return new RandomModels(seed).make();
  }

  /** {@return questions about a model}, some of them about what does not exist */
  public static List<Question> questions(AccessModel model, long seed, int count) {
    Random random = new Random(seed * 104_729 + 5);
    List<PrincipalKey> who =
        new ArrayList<>(model.principals().stream().map(Principal::key).toList());
    who.add(PrincipalKey.ANONYMOUS);
    List<PermissionKey> what =
        new ArrayList<>(model.permissions().stream().map(Permission::key).toList());
    what.add(Supplied.DIRECTORY_READ);
    what.add(new PermissionKey("mandala.access.assign"));
    List<ResourceKey> places =
        new ArrayList<>(model.resources().stream().map(Resource::key).toList());
    model.accounts().forEach(it -> places.add(ResourceKey.of(it.key())));
    model.units().forEach(it -> places.add(ResourceKey.of(it.key())));
    model.groups().forEach(it -> places.add(ResourceKey.of(it.key())));
    Catalogue catalogue = new Catalogue(model);
    List<Question> questions = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      PrincipalKey asked = who.get(random.nextInt(who.size()));
      PrincipalKey actingFor = null;
      if (random.nextInt(3) == 0 && !model.delegations().isEmpty()) {
        Delegation it = model.delegations().get(random.nextInt(model.delegations().size()));
        asked = it.delegate();
        actingFor = random.nextInt(6) == 0 ? who.get(random.nextInt(who.size())) : it.principal();
      }
      boolean unknown = random.nextInt(60) == 0;
      PermissionKey permission = what.get(random.nextInt(what.size()));
      ResourceKey place = places.get(random.nextInt(places.size()));
      for (int tries = 0; tries < 12 && !applies(catalogue, permission, place); tries++) {
        place = places.get(random.nextInt(places.size()));
      }
      questions.add(
          new Question(
              unknown ? new PrincipalKey("nobody") : asked,
              permission,
              place,
              Instant.parse(TIMES.get(random.nextInt(TIMES.size()))),
              random.nextBoolean(),
              actingFor));
    }
    return questions;
  }

  private static boolean applies(Catalogue catalogue, PermissionKey what, ResourceKey where) {
    Permission permission = catalogue.permissions().get(what);
    return permission != null && permission.on().contains(catalogue.typeOf(where));
  }

  private boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  private <T> T any(List<T> from) {
    return from.get(random.nextInt(from.size()));
  }

  private <T> List<T> some(List<T> from, int most) {
    Set<T> some = new LinkedHashSet<>();
    for (int i = from.isEmpty() ? 0 : random.nextInt(most + 1); i > 0; i--) {
      some.add(any(from));
    }
    return new ArrayList<>(some);
  }

  private Window window() {
    if (chance(70)) {
      return Window.ALWAYS;
    }
    int from = random.nextInt(TIMES.size() - 1);
    int until = from + 1 + random.nextInt(TIMES.size() - from - 1);
    return new Window(
        chance(30) ? null : Instant.parse(TIMES.get(from)),
        chance(30) ? null : Instant.parse(TIMES.get(until)));
  }

  private AccessModel make() {
    repeat(2 + random.nextInt(4), this::account);
    repeat(random.nextInt(6), this::unit);
    repeat(random.nextInt(3), this::pattern);
    repeat(3, this::type);
    if (wide) {
      repeat(62, this::unusedPermission);
    }
    repeat(4 + random.nextInt(7), this::permission);
    repeat(3 + random.nextInt(4), this::set);
    repeat(2 + random.nextInt(4), this::role);
    repeat(4 + random.nextInt(6), this::person);
    repeat(random.nextInt(4), _ -> guest());
    repeat(2 + random.nextInt(5), this::group);
    repeat(6 + random.nextInt(14), this::resource);
    repeat(random.nextInt(3), this::collection);
    repeat(14 + random.nextInt(22), this::assignment);
    repeat(random.nextInt(4), this::bridge);
    repeat(random.nextInt(5), this::delegation);
    return model.build();
  }

  private void repeat(int times, java.util.function.IntConsumer make) {
    for (int i = 0; i < times; i++) {
      make.accept(i);
    }
  }

  private void account(int i) {
    Account parent = i == 0 || chance(20) ? null : any(accounts);
    Account it =
        new Account(
            new AccountKey("a" + i),
            About.NONE,
            parent == null ? null : parent.key(),
            parent != null && chance(12),
            chance(20));
    accounts.add(it);
    model.add(it);
  }

  private void unit(int i) {
    Account account = any(accounts);
    List<Unit> own = units.stream().filter(u -> u.account().equals(account.key())).toList();
    Unit it =
        new Unit(
            new UnitKey("u" + i),
            About.NONE,
            account.key(),
            own.isEmpty() || chance(40) ? null : any(own).key());
    units.add(it);
    model.add(it);
  }

  private void pattern(int i) {
    Pattern it =
        new Pattern(
            new PatternKey("w" + i),
            About.NONE,
            chance(60) ? any(accounts).key() : null,
            List.of());
    patterns.add(it.key());
    model.add(it);
  }

  private void type(int i) {
    types.add(new TypeKey("t" + i));
    model.add(new ResourceType(new TypeKey("t" + i), About.named("Type " + i), null));
  }

  private void unusedPermission(int i) {
    model.add(
        new Permission(
            new PermissionKey("unused" + i),
            About.NONE,
            null,
            types,
            Permission.AccessClass.VIEW,
            Permission.Risk.LOW,
            List.of(),
            List.of(),
            null));
  }

  private void permission(int i) {
    List<TypeKey> on = new ArrayList<>(some(types, 3));
    if (on.isEmpty()) {
      on.add(any(types));
    }
    if (chance(25)) {
      on.add(any(List.of(ResourceType.ACCOUNT, ResourceType.UNIT, ResourceType.GROUP)));
    }
    Permission it =
        new Permission(
            new PermissionKey("p" + i),
            About.NONE,
            null,
            on,
            any(List.of(Permission.AccessClass.values())),
            any(List.of(Permission.Risk.values())),
            some(permissions, 2),
            chance(40) ? some(permissions, 1) : List.of(),
            chance(50) ? null : chance(80));
    permissions.add(it.key());
    model.add(it);
  }

  private void set(int i) {
    PermissionSet it =
        new PermissionSet(
            new PermissionSetKey("s" + i),
            About.NONE,
            null,
            some(permissions, 3),
            chance(15) ? some(permissions, 1) : List.of(),
            chance(40) ? some(sets, 2) : List.of());
    sets.add(it.key());
    model.add(it);
  }

  private void role(int i) {
    Role it =
        new Role(
            new RoleKey("r" + i),
            About.NONE,
            null,
            "R" + i,
            null,
            chance(12),
            some(sets, 2),
            chance(50) ? some(roles, 2) : List.of(),
            chance(25),
            List.of(),
            null,
            null,
            List.of());
    roles.add(it.key());
    model.add(it);
  }

  private void person(int i) {
    Account home = chance(50) ? accounts.getFirst() : any(accounts);
    List<Unit> own = units.stream().filter(u -> u.account().equals(home.key())).toList();
    List<Principal.Reach> reach = new ArrayList<>();
    if (chance(30)) {
      some(units, 2)
          .forEach(
              u -> reach.add(new Principal.Reach(u.key(), any(List.of(Principal.Level.values())))));
    }
    Map<String, String> attributes = new HashMap<>();
    if (chance(60)) {
      attributes.put("job", any(List.of("clerk", "cleaner", "cook")));
    }
    if (chance(20)) {
      attributes.put("site", "");
    }
    Principal it =
        new Principal(
            new PrincipalKey("x" + i),
            About.NONE,
            chance(80) ? Principal.Kind.PERSON : Principal.Kind.SERVICE,
            home.key(),
            own.isEmpty() || chance(30) ? null : any(own).key(),
            people.isEmpty() || chance(40) ? null : any(people).key(),
            chance(90) ? Principal.Status.ACTIVE : any(List.of(Principal.Status.values())),
            chance(90) ? Window.ALWAYS : window(),
            chance(60),
            attributes,
            patterns.isEmpty() || chance(50) ? null : any(patterns),
            reach,
            null,
            null,
            null);
    people.add(it);
    model.add(it);
  }

  private void guest() {
    model.add(
        new Guest(About.NONE, any(people).key(), any(accounts).key(), chance(40), window(), null));
  }

  private void group(int i) {
    List<Group.Member> members = new ArrayList<>();
    some(people, 3).forEach(p -> members.add(new Group.Member.OfPrincipal(p.kind(), p.key())));
    some(groups, 2).forEach(g -> members.add(new Group.Member.OfGroup(g.key())));
    Group it =
        new Group(
            new GroupKey("g" + i),
            About.NONE,
            any(accounts).key(),
            chance(12),
            members,
            chance(50) ? rule() : null,
            List.of());
    groups.add(it);
    model.add(it);
  }

  private Rule rule() {
    List<Rule.Test> tests = new ArrayList<>();
    for (int i = 1 + random.nextInt(2); i > 0; i--) {
      tests.add(test());
    }
    return new Rule(any(List.of(Rule.Match.values())), tests);
  }

  private Rule.Test test() {
    return switch (random.nextInt(units.isEmpty() ? 7 : 9)) {
      case 0 -> new Rule.Test("job", Rule.Op.IS, List.of("clerk"));
      case 1 -> new Rule.Test("job", Rule.Op.IS_NOT, List.of("clerk"));
      case 2 -> new Rule.Test("job", Rule.Op.STARTS_WITH, List.of("c"));
      case 3 -> new Rule.Test("site", any(List.of(Rule.Op.PRESENT, Rule.Op.ABSENT)), List.of());
      case 4 -> new Rule.Test("job", Rule.Op.IN, List.of("cook", "cleaner"));
      case 5 ->
          new Rule.Test(any(List.of("kind", "status")), Rule.Op.IN, List.of("service", "active"));
      case 6 -> new Rule.Test("account", Rule.Op.IS, List.of(any(accounts).key().value()));
      case 7 -> new Rule.Test("unit", Rule.Op.UNDER, List.of(any(units).key().value()));
      default -> new Rule.Test("manager", Rule.Op.PRESENT, List.of());
    };
  }

  private void resource(int i) {
    Account account = any(accounts);
    List<ResourceKey> parents =
        new ArrayList<>(
            resources.stream().filter(r -> where.get(r).equals(account.key())).toList());
    List<Unit> own = units.stream().filter(u -> u.account().equals(account.key())).toList();
    own.forEach(u -> parents.add(ResourceKey.of(u.key())));
    ResourceKey key = new ResourceKey("n" + i);
    Map<String, String> labels = new HashMap<>();
    if (chance(30)) {
      labels.put("zone", any(List.of("red", "blue")));
    }
    model.add(
        new Resource(
            key,
            About.NONE,
            any(types),
            account.key(),
            parents.isEmpty() || chance(25) ? null : any(parents),
            chance(45) ? any(people).key() : null,
            own.isEmpty() || chance(60) ? null : any(own).key(),
            labels,
            chance(12)));
    resources.add(key);
    where.put(key, account.key());
  }

  private void collection(int i) {
    Account account = any(accounts);
    List<ResourceKey> own =
        resources.stream().filter(r -> where.get(r).equals(account.key())).toList();
    ResourceCollection it =
        new ResourceCollection(new CollectionKey("c" + i), About.NONE, account.key(), some(own, 3));
    collections.add(it.key());
    model.add(it);
  }

  private ResourceKey place() {
    return switch (random.nextInt(6)) {
      case 0 -> ResourceKey.of(any(accounts).key());
      case 1 -> units.isEmpty() ? any(resources) : ResourceKey.of(any(units).key());
      default -> any(resources);
    };
  }

  private Term term(boolean relative) {
    List<IntFunction<Term>> terms = new ArrayList<>();
    terms.add(_ -> new Term.Everything());
    terms.add(_ -> new Term.InAccount(any(accounts).key()));
    terms.add(_ -> new Term.Tree(place()));
    terms.add(_ -> new Term.Tree(place()));
    terms.add(_ -> new Term.Only(place()));
    terms.add(_ -> new Term.OfType(any(types)));
    terms.add(_ -> new Term.OwnedBy(Term.Owner.NONE));
    terms.add(_ -> new Term.Labelled(Map.of("zone", any(List.of("red", "blue")))));
    if (!collections.isEmpty()) {
      terms.add(_ -> new Term.InCollection(any(collections)));
    }
    if (!units.isEmpty()) {
      terms.add(_ -> new Term.InUnit(any(units).key()));
    }
    if (relative) {
      terms.add(_ -> new Term.OwnAccount());
      terms.add(_ -> new Term.OwnUnit());
      terms.add(_ -> new Term.OwnUnit());
      terms.add(_ -> new Term.OwnedBy(Term.Owner.SELF));
      terms.add(_ -> new Term.OwnedBy(Term.Owner.TEAM));
    }
    return any(terms).apply(0);
  }

  /** Which field of a clause a term is; a clause has each at most once. */
  private static String field(Term term) {
    return switch (term) {
      case Term.InAccount _, Term.OwnAccount _ -> "account";
      case Term.InUnit _, Term.OwnUnit _ -> "unit";
      default -> term.getClass().getSimpleName();
    };
  }

  private List<Clause> scope(boolean open) {
    List<Clause> scope = new ArrayList<>();
    for (int i = chance(5) ? 0 : 1 + random.nextInt(2); i > 0; i--) {
      Map<String, Term> terms = new HashMap<>();
      if (open) {
        Term named = any(List.of(new Term.Tree(place()), new Term.InAccount(any(accounts).key())));
        terms.put(field(named), named);
      }
      if (chance(40)) {
        ResourceKey top = ResourceKey.of(any(accounts).key());
        Term wide = chance(50) ? new Term.Everything() : new Term.Tree(top);
        terms.putIfAbsent(field(wide), wide);
      }
      if (terms.isEmpty() || chance(35)) {
        Term term = term(true);
        terms.putIfAbsent(field(term), term);
      }
      scope.add(new Clause(List.copyOf(terms.values())));
    }
    return scope;
  }

  private Gives gives() {
    return switch (random.nextInt(8)) {
      case 0, 1, 2 -> new Gives.OfRole(any(roles));
      case 3, 4 -> new Gives.OfSet(any(sets));
      case 5 -> chance(80) ? new Gives.OfRole(any(roles)) : new Gives.OfRole(Supplied.OWNER);
      default -> new Gives.OfPermission(any(permissions));
    };
  }

  private Subject subject() {
    return switch (random.nextInt(10)) {
      case 0, 1, 2, 3 -> {
        Principal who = any(people);
        yield new Subject.OfPrincipal(who.kind(), who.key());
      }
      case 4, 5, 6 -> new Subject.OfGroup(any(groups).key());
      case 7 -> new Subject.OfAccount(any(accounts).key());
      case 8 ->
          patterns.isEmpty()
              ? new Subject.OfAccount(any(accounts).key())
              : new Subject.OfPattern(any(patterns));
      default -> any(List.of(Subject.Public.values()));
    };
  }

  private void assignment(int i) {
    Subject subject = subject();
    Gives gives = gives();
    boolean open = subject instanceof Subject.Public;
    boolean deny = gives instanceof Gives.OfPermission && chance(25);
    boolean jit = chance(15);
    AssignmentKey key = new AssignmentKey("m" + i);
    model.add(
        new Assignment(
            key,
            About.NONE,
            subject,
            gives,
            deny ? Assignment.Effect.DENY : Assignment.Effect.ALLOW,
            scope(open),
            !deny && chance(20) ? scope(open) : List.of(),
            window(),
            jit ? Assignment.Mode.JUST_IN_TIME : Assignment.Mode.STANDING,
            chance(12)));
    if (jit && chance(70)) {
      PrincipalKey who = subject instanceof Subject.OfPrincipal it ? it.key() : any(people).key();
      model.add(
          new Activation(
              About.NONE,
              who,
              key,
              new Window(null, Instant.parse(any(TIMES.subList(1, TIMES.size()))))));
    }
  }

  private void bridge(int i) {
    Group group = any(groups);
    List<Account> targets =
        accounts.stream().filter(a -> !a.key().equals(group.account())).toList();
    if (!targets.isEmpty()) {
      model.add(
          new Bridge(
              new BridgeKey("b" + i),
              About.NONE,
              any(targets).key(),
              group.key(),
              gives(),
              scope(false),
              window(),
              chance(80) ? Bridge.Status.ACCEPTED : Bridge.Status.OFFERED));
    }
  }

  private void delegation(int i) {
    Principal who = any(people);
    Principal delegate = any(people);
    if (!who.key().equals(delegate.key())) {
      List<Gives> listed = new ArrayList<>(List.of(gives(), gives()));
      model.add(
          new Delegation(
              new DelegationKey("d" + i),
              About.NONE,
              who.key(),
              delegate.key(),
              chance(50) ? new Delegation.Limit.All() : new Delegation.Limit.Listed(listed),
              chance(60) ? List.of(Clause.of(new Term.Everything())) : scope(false),
              window()));
    }
  }
}
