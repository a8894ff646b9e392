package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import mandala.core.analysis.HypotheticalPrincipal;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Extent;
import mandala.core.question.Region;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Accesses put together hold what single verdicts say that they hold, over one model or several.
 */
class CombinedTest {

  /** How often something held in one and not in the other: a test of nothing shows nothing. */
  private static long beyond;

  private static long cores;

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 60));
  }

  @AfterAll
  static void somethingWasCompared() {
    assertThat(beyond).isPositive();
    assertThat(cores).isPositive();
  }

  private static List<Access> accesses(Engine engine, Instant at, int most) {
    List<Access> all = new ArrayList<>();
    for (Principal it : engine.catalogue().model().principals()) {
      Access access = engine.access(new Session(it.key(), at, true, null));
      if (all.size() < most && access.refusal().isEmpty()) {
        all.add(access);
      }
    }
    return all;
  }

  private static boolean allows(Access access, Permission permission, ResourceKey resource) {
    Catalogue in = access.catalogue();
    return in.permissions().containsKey(permission.key())
        && in.has(resource)
        && access.verdict(permission.key(), resource) == Verdict.ALLOWED;
  }

  private static void holds(Access made, List<Access> parts, IntPredicate many) {
    Catalogue catalogue = made.catalogue();
    for (Permission permission : catalogue.permissions().values()) {
      for (ResourceKey place : AllPlaces.of(catalogue.model())) {
        int count = (int) parts.stream().filter(it -> allows(it, permission, place)).count();
        if (permission.on().contains(catalogue.typeOf(place))) {
          assertThat(allows(made, permission, place))
              .as("%s on %s, held by %d", permission.key(), place, count)
              .isEqualTo(many.test(count));
        }
      }
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void togetherHoldWhatAnyHoldsAndACoreWhatSoManyHold(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    List<Access> some = accesses(engine, RandomModels.anyTime(new Random(seed)), 5);
    if (some.isEmpty()) {
      return;
    }
    Access together = Access.together(some);
    holds(together, some, many -> many > 0);
    for (int least = 1; least <= some.size(); least++) {
      int wanted = least;
      Access shared = Access.shared(some, least);
      holds(shared, some, many -> many >= wanted);
      cores += shared.rights();
    }
    assertThatThrownBy(() -> Access.shared(some, some.size() + 1))
        .isInstanceOf(IllegalArgumentException.class);
    long inRegions =
        together.regions(Extent.WHOLE).stream()
            .flatMap(region -> region.cells().stream())
            .mapToLong(Region.Cell::allowed)
            .sum();
    assertThat(inRegions).isEqualTo(together.rights());
    assertThat(together.figure(Extent.WHOLE).rights()).isEqualTo(together.rights());
    assertThat(together.rights()).isEqualTo(Access.shared(some, 1).rights());
  }

  /** Denied stays what the first is denied and nobody else allows. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsDeniedAndNotAllowedForOthersStaysDenied(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    List<Access> some = accesses(engine, RandomModels.anyTime(new Random(seed)), 3);
    if (some.isEmpty()) {
      return;
    }
    Access together = Access.together(some);
    for (Permission permission : engine.catalogue().permissions().values()) {
      for (ResourceKey place : AllPlaces.of(engine.catalogue().model())) {
        Verdict first = some.getFirst().verdict(permission.key(), place);
        boolean any = some.stream().anyMatch(it -> allows(it, permission, place));
        if (first == Verdict.DENIED) {
          assertThat(together.verdict(permission.key(), place))
              .isEqualTo(any ? Verdict.ALLOWED : Verdict.DENIED);
        }
      }
    }
  }

  /** What is beyond is the difference, also where the other model numbers things otherwise. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsBeyondAnotherIsTheDifference(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Engine changed = engine;
    RandomChanges changes = new RandomChanges(seed);
    for (int i = 0; i < 8; i++) {
      try {
        changed = changed.after(List.of(changes.next(changed.catalogue().model())));
      } catch (IllegalArgumentException _) {
        // it leaves a faulty model
      }
    }
    Instant at = RandomModels.anyTime(new Random(seed));
    List<Engine> others =
        List.of(engine, changed, Engine.of(changed.catalogue().model()), Engine.of(model));
    for (Access one : accesses(engine, at, 2)) {
      for (Engine other : others) {
        for (Access two : accesses(other, at, 2)) {
          Difference difference = two.difference(one);
          Access more = one.beyond(two);
          long rights = more.rights();
          beyond += rights;
          assertThat(rights).isEqualTo(difference.gained());
          assertThat(more.figure(Extent.WHOLE).rights()).isEqualTo(rights);
          assertThat(two.beyond(one).rights()).isEqualTo(difference.lost());
          areas(more, difference);
          for (Permission permission : model.permissions()) {
            for (ResourceKey place : AllPlaces.of(model)) {
              assertThat(allows(more, permission, place))
                  .isEqualTo(allows(one, permission, place) && !allows(two, permission, place));
            }
          }
        }
      }
    }
  }

  /** Each area of a difference has what its resources, found by going up, have. */
  private static void areas(Access more, Difference difference) {
    Catalogue catalogue = more.catalogue();
    Map<ResourceKey, Long> expected = new HashMap<>();
    for (Permission permission : catalogue.permissions().values()) {
      for (ResourceKey place : AllPlaces.of(catalogue.model())) {
        if (allows(more, permission, place)) {
          ResourceKey top = ResourceKey.of(catalogue.accountOf(place));
          for (ResourceKey at = place; !at.implicit(); at = catalogue.parentOf(at)) {
            top = at;
          }
          expected.merge(top, 1L, Long::sum);
        }
      }
    }
    Map<ResourceKey, Long> gained = new HashMap<>();
    difference.areas().stream()
        .filter(it -> it.gained() > 0)
        .forEach(it -> gained.put(it.top(), it.gained()));
    assertThat(gained).isEqualTo(expected);
  }

  /** A stand-in for a role holds what any new person would who is assigned it. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void aStandInIsANewPersonWithTheRole(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Instant at = RandomModels.anyTime(new Random(seed));
    AccountKey in = model.accounts().getFirst().key();
    for (var role : model.roles()) {
      Access made = HypotheticalPrincipal.ofRole(engine, role.key(), in, at);
      Catalogue with = made.catalogue();
      assertThat(with.model().size()).isEqualTo(model.size() + 2);
      Reference reference = new Reference(with.model());
      PrincipalKey who = new PrincipalKey("somebody");
      for (Permission permission : model.permissions()) {
        for (ResourceKey place : AllPlaces.of(model)) {
          Session session = new Session(who, at, true, null);
          Verdict verdict = reference.verdict(session.asks(permission.key(), place));
          assertThat(allows(made, permission, place)).isEqualTo(verdict == Verdict.ALLOWED);
        }
      }
    }
    for (var pattern : model.patterns()) {
      Principal like = model.principals().getFirst();
      Access made = HypotheticalPrincipal.ofPattern(engine, pattern.key(), like, at);
      Principal who = made.catalogue().principals().get(new PrincipalKey("somebody"));
      assertThat(who.unit()).isEqualTo(like.unit());
      assertThat(who.attributes()).isEqualTo(like.attributes());
      assertThat(who.pattern()).isEqualTo(pattern.key());
    }
    assertThatThrownBy(() -> HypotheticalPrincipal.ofRole(engine, new RoleKey("no-such"), in, at))
        .hasMessageContaining("no-such");
    assertThat(engine.catalogue().model().things(Kind.PRINCIPALS)).isEqualTo(model.principals());
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void colleaguesAreActiveAtHomeInTheSameAccountAndAlike(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Instant at = RandomModels.anyTime(new Random(seed));
    for (Principal whose : model.principals()) {
      Peers found = Peers.of(engine, whose, at);
      Set<AccountKey> homes =
          found.people().stream()
              .map(it -> engine.catalogue().principals().get(it).account())
              .collect(Collectors.toSet());
      assertThat(found.people()).doesNotContain(whose.key());
      assertThat(found.people()).allMatch(it -> engine.isActive(it, at));
      if (found.basis() != Peers.Basis.NONE) {
        assertThat(homes).containsExactly(whose.account());
        assertThat(found.people()).hasSizeGreaterThanOrEqualTo(Peers.FEWEST);
        List<Access> theirs =
            found.people().stream()
                .map(it -> engine.access(new Session(it, at, true, null)))
                .toList();
        holds(found.core(engine, at), theirs, many -> 4 * many >= 3 * theirs.size());
      }
    }
  }
}
