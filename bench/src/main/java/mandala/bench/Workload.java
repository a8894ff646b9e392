package mandala.bench;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.Session;

/** What happens now and then: building, sweeping everybody, changes, impact; and the heap. */
final class Workload {

  private static final int SMALL = 100;

  private final Size size;
  private final Results results;

  Workload(Size size, Results results) {
    this.size = size;
    this.results = results;
  }

  private interface Work {
    Object run();
  }

  private static double millis(Work work) {
    long start = System.nanoTime();
    Object result = work.run();
    double took = (System.nanoTime() - start) / 1e6;
    if (result == null) {
      throw new IllegalStateException("Impossible state: work without a result");
    }
    return took;
  }

  private static double median(double[] values) {
    Arrays.sort(values);
    return values[values.length / 2];
  }

  void build() {
    AccessModel model = Settlement.of(size, World.SEED);
    double[] checks = new double[3];
    double[] builds = new double[3];
    for (int i = 0; i < builds.length; i++) {
      checks[i] = millis(() -> ModelCheck.faultsOf(model));
      builds[i] = millis(() -> Engine.of(model));
    }
    results.put("first build", "ms", builds[0] - checks[0], median(builds) - median(checks));
    results.put("build, check included", "ms", median(builds));
    results.put("check of the whole model", "ms", checks[0], median(checks));
    Heap.measure(model, Engine.of(model), results);
  }

  void everybody() {
    World world = Worlds.of(size);
    List<Session> sessions = world.model.principals().stream().map(World::session).toList();
    double[] took = new double[3];
    for (int i = 0; i < took.length; i++) {
      took[i] = millis(() -> world.engine.rightsOfAll(sessions));
    }
    results.put("everyone's whole access, counted, all threads", "s", median(took) / 1e3);
  }

  /** Each change is made on the same engine, timed from the change to an engine that knows it. */
  void changes() {
    World world = Worlds.of(size);
    results.sampled("change: an assignment comes", changed(world, this::assignment));
    results.sampled("change: somebody joins a group", changed(world, this::membership));
    results.sampled("change: a role gets another set", changed(world, this::role));
    results.sampled("change: a resource is sealed", changed(world, this::seal));
  }

  private interface Maker {
    Change make(World world, Random random, int number);
  }

  private static double[] changed(World world, Maker maker) {
    int many = 400;
    double[] micros = new double[many];
    for (int i = 0; i < many * 2; i++) {
      List<Change> change = List.of(maker.make(world, world.random(), i));
      double took = millis(() -> world.engine.after(change)) * 1e3;
      micros[i % many] = took;
    }
    return micros;
  }

  private static <T> T any(List<T> list, Random random) {
    return list.get(random.nextInt(list.size()));
  }

  private Change assignment(World world, Random random, int number) {
    Assignment like = any(world.model.assignments(), random);
    return new Change.Added(
        new Assignment(
            new AssignmentKey("new-" + number),
            like.about(),
            like.subject(),
            like.gives(),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Tree(any(world.model.resources(), random).key()))),
            List.of(),
            like.window(),
            Assignment.Mode.STANDING,
            false));
  }

  private Change membership(World world, Random random, int number) {
    Group group = any(world.model.groups(), random);
    Principal who = world.person();
    List<Group.Member> members = new ArrayList<>(group.members());
    Group.Member member = new Group.Member.OfPrincipal(who.kind(), who.key());
    if (!members.remove(member)) {
      members.add(member);
    }
    return new Change.Altered(group, with(group, members));
  }

  private static Group with(Group group, List<Group.Member> members) {
    return new Group(
        group.key(),
        group.about(),
        group.account(),
        group.retired(),
        members,
        group.rule(),
        group.owners());
  }

  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  private Change role(World world, Random random, int number) {
    Role role = any(world.model.roles(), random);
    List<PermissionSetKey> sets = new ArrayList<>(role.sets());
    PermissionSet set = any(world.model.permissionSets(), random);
    while (!set.deny().isEmpty() || !set.includes().isEmpty()) {
      set = any(world.model.permissionSets(), random);
    }
    sets.add(set.key());
    return new Change.Altered(
        role,
        new Role(
            role.key(),
            role.about(),
            role.account(),
            role.code(),
            role.basedOn(),
            role.retired(),
            sets,
            role.inherits(),
            role.requiresMfa(),
            role.prerequisites(),
            role.minHolders(),
            role.maxHolders(),
            role.owners()));
  }

  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  private Change seal(World world, Random random, int number) {
    var it = any(world.model.resources(), random);
    return new Change.Altered(
        it,
        new Resource(
            it.key(),
            it.about(),
            it.type(),
            it.account(),
            it.parent(),
            it.owner(),
            it.unit(),
            it.labels(),
            !it.sealed()));
  }

  /** What giving a role to a wide group does to everybody, within scopes of different sizes. */
  void impact() {
    World world = Worlds.of(size);
    Catalogue catalogue = world.engine.catalogue();
    AccountKey account = catalogue.accounts().keySet().iterator().next();
    Group wide =
        world.model.groups().stream()
            .filter(it -> it.account().equals(account) && it.rule() != null)
            .findFirst()
            .orElseThrow();
    ResourceKey small = small(world, account);
    impact(world, wide, Clause.of(new Term.Tree(small)), "impact: a small scope");
    impact(world, wide, Clause.of(new Term.InAccount(account)), "impact: a whole account");
    Group outer =
        world.model.groups().stream()
            .filter(it ->
                it.account().equals(account)
                    && it.rule() == null
                    && !it.retired()
                    && it.members().stream().noneMatch(Group.Member.OfGroup.class::isInstance))
            .skip(size.groups / size.accounts / 2)
            .findFirst()
            .orElseThrow();
    List<Group.Member> members = new ArrayList<>(outer.members());
    members.add(new Group.Member.OfGroup(wide.key()));
    impact(
        world, List.of(new Change.Altered(outer, with(outer, members))), "impact: nesting a group");
  }

  /** The largest tree of an account that has no more than a hundred resources. */
  private static ResourceKey small(World world, AccountKey account) {
    Map<ResourceKey, Integer> sizes = new HashMap<>();
    List<Resource> all =
        world.model.resources().stream().filter(it -> it.account().equals(account)).toList();
    for (Resource it : all) {
      for (ResourceKey at = it.key(); at != null; at = world.engine.catalogue().parentOf(at)) {
        sizes.merge(at, 1, Integer::sum);
      }
    }
    return all.stream()
        .map(Resource::key)
        .filter(key -> sizes.getOrDefault(key, 0) <= SMALL)
        .max(Comparator.comparing(key -> sizes.getOrDefault(key, 0)))
        .orElseThrow();
  }

  private void impact(World world, Group group, Clause scope, String name) {
    Assignment assignment =
        new Assignment(
            new AssignmentKey("tried"),
            group.about(),
            new Subject.OfGroup(group.key()),
            world.model.assignments().stream()
                .map(Assignment::gives)
                .filter(Gives.OfRole.class::isInstance)
                .skip(10)
                .findFirst()
                .orElseThrow(),
            Assignment.Effect.ALLOW,
            List.of(scope),
            List.of(),
            mandala.core.model.Window.ALWAYS,
            Assignment.Mode.STANDING,
            false);
    impact(world, List.of(new Change.Added(assignment)), name);
  }

  private void impact(World world, List<Change> changes, String name) {
    Engine after = world.engine.after(changes);
    double[] took = new double[3];
    int[] people = new int[1];
    for (int i = 0; i < took.length; i++) {
      took[i] =
          millis(() -> {
            Impact impact =
                world.engine.impact(after, changes, Settlement.NOW, true, Impact.Watch.TO_THE_END);
            people[0] = impact.asked();
            return impact;
          });
    }
    results.put(name + " (" + people[0] + " people)", "ms", median(took));
  }
}
