package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Figure;
import mandala.core.question.Region;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Regions and figures say no more and no less than the verdicts that they fold. */
class WholeAccessTest {

  private static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");

  static LongStream seeds() {
    return LongStream.rangeClosed(1, 60);
  }

  /** What a region covers, read from its shape alone. */
  private static Set<ResourceKey> covered(Region region, AccessModel model, Catalogue catalogue) {
    Set<ResourceKey> covered = new HashSet<>();
    for (ResourceKey resource : AllPlaces.of(model)) {
      boolean inside =
          switch (region.shape()) {
            case TREE, ACCOUNT -> AllPlaces.isUnder(catalogue, resource, region.top());
            case ITSELF -> resource.equals(region.top());
            case ALIKE ->
                region.members().stream()
                    .anyMatch(it -> AllPlaces.isUnder(catalogue, resource, it));
            case ORGANISATION ->
                resource.implicit()
                    && region.account().equals(catalogue.accountOf(resource))
                    && (resource.equals(region.top()) || !resource.value().startsWith("account:"));
          };
      if (inside) {
        covered.add(resource);
      }
    }
    return covered;
  }

  private static void assertTrue(Region region, AccessModel model, Access access) {
    Catalogue catalogue = access.catalogue();
    Set<ResourceKey> covered = covered(region, model, catalogue);
    assertThat(region.counts().values().stream().mapToInt(Integer::intValue).sum())
        .as("size of %s %s", region.shape(), region.top())
        .isEqualTo(covered.size());
    assertThat(region.held())
        .isEqualTo(region.cells().stream().anyMatch(WholeAccessTest::saysSomething));
    for (Region.Cell cell : region.cells()) {
      Map<Verdict, Integer> counts = new HashMap<>();
      for (ResourceKey resource : covered) {
        counts.merge(access.verdict(cell.permission(), resource), 1, Integer::sum);
      }
      String what = cell.permission() + " in " + region.top();
      assertThat(cell.allowed()).as(what).isEqualTo(counts.getOrDefault(Verdict.ALLOWED, 0));
      assertThat(cell.blocked()).as(what).isEqualTo(counts.getOrDefault(Verdict.BLOCKED, 0));
      assertThat(cell.denied()).as(what).isEqualTo(counts.getOrDefault(Verdict.DENIED, 0));
      assertThat(cell.applicable())
          .as(what)
          .isEqualTo(covered.size() - counts.getOrDefault(Verdict.NOT_APPLICABLE, 0));
      Verdict strongest =
          cell.allowed() > 0
              ? Verdict.ALLOWED
              : cell.blocked() > 0
                  ? Verdict.BLOCKED
                  : cell.denied() > 0 ? Verdict.DENIED : Verdict.NONE;
      assertThat(access.verdict(cell.permission(), cell.sample())).as(what).isEqualTo(strongest);
      assertThat(covered).contains(cell.sample());
    }
    boolean folded = region.below().isEmpty() && region.shape() != Region.Shape.ORGANISATION;
    if (folded) {
      assertAlike(covered, access, catalogue);
    }
    Set<ResourceKey> within = new HashSet<>();
    for (Region below : region.below()) {
      Set<ResourceKey> part = covered(below, model, catalogue);
      assertThat(part).as("apart from its neighbours").noneMatch(within::contains);
      within.addAll(part);
      assertTrue(below, model, access);
    }
    assertThat(within.isEmpty() || within.equals(covered)).as("no gap").isTrue();
  }

  private static boolean saysSomething(Region.Cell cell) {
    return cell.allowed() > 0 || cell.blocked() > 0 || cell.denied() > 0;
  }

  /** Everything of one type in a folded region has the same verdicts. */
  private static void assertAlike(Set<ResourceKey> covered, Access access, Catalogue catalogue) {
    Map<TypeKey, Map<PermissionKey, Verdict>> first = new HashMap<>();
    for (ResourceKey resource : covered) {
      Map<PermissionKey, Verdict> verdicts = new HashMap<>();
      catalogue
          .permissions()
          .keySet()
          .forEach(it -> verdicts.put(it, access.verdict(it, resource)));
      Map<PermissionKey, Verdict> before = first.putIfAbsent(catalogue.typeOf(resource), verdicts);
      assertThat(before == null ? verdicts : before).as(resource.value()).isEqualTo(verdicts);
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void aPlaceIsReachedWhereAnythingIsAllowedOnIt(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    for (Principal principal : model.principals()) {
      Access access = engine.access(new Session(principal.key(), AT, true, null));
      for (ResourceKey resource : AllPlaces.of(model)) {
        boolean any =
            engine.catalogue().permissions().keySet().stream()
                .anyMatch(it -> access.verdict(it, resource) == Verdict.ALLOWED);
        assertThat(access.reaches(resource)).as("%s %s", principal.key(), resource).isEqualTo(any);
      }
    }
    assertThat(
            engine
                .access(new Session(model.principals().getFirst().key(), AT, true, null))
                .reaches(new ResourceKey("nowhere")))
        .isFalse();
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void regionsAndFigureAgreeWithTheVerdicts(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    for (Principal principal : model.principals()) {
      Access access = engine.access(new Session(principal.key(), AT, true, null));
      if (access.refusal().isPresent()) {
        assertThat(access.rights()).isZero();
        continue;
      }
      AccountKey in = model.accounts().getFirst().key();
      for (Extent extent : List.of(Extent.WHOLE, Extent.in(in), new Extent(in, true, null))) {
        List<Region> regions = access.regions(extent);
        regions.forEach(region -> assertTrue(region, model, access));
        assertThat(rows(regions).stream().mapToLong(WholeAccessTest::rights).sum())
            .as("the rows add up to the headline")
            .isEqualTo(access.rights(extent));
        assertFigure(access, extent, model);
      }
    }
  }

  /** The regions of which nothing is told below. */
  private static List<Region> rows(List<Region> regions) {
    return regions.stream()
        .flatMap(it -> (it.below().isEmpty() ? List.of(it) : rows(it.below())).stream())
        .toList();
  }

  private static long rights(Region region) {
    return region.cells().stream().mapToLong(Region.Cell::allowed).sum();
  }

  /** What is cut off and asked for piece by piece is what is told at once. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsInsideIsWhatWasCutOff(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    for (Principal principal : model.principals()) {
      Access access = engine.access(new Session(principal.key(), AT, true, null));
      Extent extent = Extent.in(model.accounts().getFirst().key());
      if (access.refusal().isEmpty()) {
        List<Region> whole = unfolded(access.regions(extent), access, extent);
        assertThat(unfolded(access.regions(extent, 0), access, extent)).isEqualTo(whole);
        assertThat(unfolded(access.regions(extent, 1), access, extent)).isEqualTo(whole);
        assertThat(access.size(extent))
            .isEqualTo(
                AllPlaces.of(model).stream()
                    .filter(it ->
                        AllPlaces.isUnder(access.catalogue(), it, ResourceKey.of(extent.in())))
                    .count());
      }
    }
  }

  /** Regions with all that is inside; any sample of the same strength will do. */
  private static List<Region> unfolded(List<Region> regions, Access access, Extent extent) {
    return regions.stream()
        .map(it ->
            new Region(
                it.shape(),
                it.top(),
                it.account(),
                it.members(),
                it.counts(),
                it.sealed(),
                it.cells().stream()
                    .map(cell ->
                        new Region.Cell(
                            cell.permission(),
                            cell.applicable(),
                            cell.allowed(),
                            cell.blocked(),
                            cell.denied(),
                            it.top()))
                    .toList(),
                unfolded(
                    it.more() ? access.inside(extent, it.top(), 0) : it.below(), access, extent),
                false))
        .toList();
  }

  private static void assertFigure(Access access, Extent extent, AccessModel model) {
    Catalogue catalogue = access.catalogue();
    long rights = 0;
    for (ResourceKey resource : AllPlaces.of(model)) {
      AccountKey account = catalogue.accountOf(resource);
      boolean told =
          extent.in() == null || extent.doors() || catalogue.isAtOrBelow(account, extent.in());
      for (Permission permission : catalogue.permissions().values()) {
        rights += told && access.verdict(permission.key(), resource) == Verdict.ALLOWED ? 1 : 0;
      }
    }
    Figure figure = access.figure(extent);
    assertThat(figure.rights()).isEqualTo(rights);
    Set<ResourceKey> drawn = new HashSet<>();
    for (Figure.Sector sector : figure.sectors()) {
      Set<ResourceKey> covered = covered(sector, model, catalogue);
      assertThat(covered).as("apart from others").noneMatch(drawn::contains);
      drawn.addAll(covered);
      assertThat(sector.size()).isEqualTo(covered.size());
      assertThat(sector.account()).isEqualTo(catalogue.accountOf(sector.top()));
      assertThat(sector.door())
          .isEqualTo(extent.in() != null && !catalogue.isAtOrBelow(sector.account(), extent.in()));
      for (Figure.Petal petal : sector.petals()) {
        assertThat(petal)
            .as("%s of %s", petal, sector.top())
            .isEqualTo(petal(petal, covered, access));
      }
      assertThat(sector.petals())
          .as("a door is drawn where something is reached")
          .anyMatch(it -> !sector.door() || it.reached() > 0);
    }
    for (ResourceKey resource : AllPlaces.of(model)) {
      boolean inside =
          extent.in() == null || catalogue.isAtOrBelow(catalogue.accountOf(resource), extent.in());
      boolean reached =
          extent.doors()
              && !resource.implicit()
              && catalogue.permissions().keySet().stream()
                  .anyMatch(it -> access.verdict(it, resource) == Verdict.ALLOWED);
      assertThat(drawn.contains(resource) || !(inside || reached)).as(resource.value()).isTrue();
    }
  }

  private static Set<ResourceKey> covered(
      Figure.Sector sector, AccessModel model, Catalogue catalogue) {
    Set<ResourceKey> covered = new HashSet<>();
    for (ResourceKey resource : AllPlaces.of(model)) {
      boolean organisation =
          resource.implicit()
              && sector.account().equals(catalogue.accountOf(resource))
              && (resource.equals(sector.top()) || !resource.value().startsWith("account:"));
      if (sector.organisation()
          ? organisation
          : AllPlaces.isUnder(catalogue, resource, sector.top())) {
        covered.add(resource);
      }
    }
    return covered;
  }

  /** A petal counted from single verdicts. */
  private static Figure.Petal petal(Figure.Petal of, Set<ResourceKey> covered, Access access) {
    int applicable = 0;
    int reached = 0;
    int blocked = 0;
    int denied = 0;
    Permission.Risk risk = null;
    for (ResourceKey resource : covered) {
      Set<Verdict> verdicts = new HashSet<>();
      for (Permission it : access.catalogue().permissions().values()) {
        if (it.accessClass() == of.accessClass()) {
          Verdict verdict = access.verdict(it.key(), resource);
          verdicts.add(verdict);
          if (verdict == Verdict.ALLOWED && (risk == null || it.risk().compareTo(risk) > 0)) {
            risk = it.risk();
          }
        }
      }
      verdicts.remove(Verdict.NOT_APPLICABLE);
      applicable += verdicts.isEmpty() ? 0 : 1;
      reached += verdicts.contains(Verdict.ALLOWED) ? 1 : 0;
      blocked += !verdicts.contains(Verdict.ALLOWED) && verdicts.contains(Verdict.BLOCKED) ? 1 : 0;
      denied += verdicts.contains(Verdict.DENIED) ? 1 : 0;
    }
    return new Figure.Petal(of.accessClass(), applicable, reached, blocked, denied, risk);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatMayNotBeToldIsNotTold(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    AccountKey only = model.accounts().getLast().key();
    for (Principal principal : model.principals()) {
      Access access = engine.access(new Session(principal.key(), AT, true, null));
      Extent extent = new Extent(null, true, Set.of(only));
      for (Region region : access.regions(extent)) {
        assertOnly(region, only, access.catalogue());
      }
      assertThat(access.rights(extent)).isLessThanOrEqualTo(access.rights());
    }
  }

  private static void assertOnly(Region region, AccountKey only, Catalogue catalogue) {
    region.cells().forEach(cell -> assertThat(catalogue.accountOf(cell.sample())).isEqualTo(only));
    region.below().forEach(below -> assertOnly(below, only, catalogue));
  }
}
