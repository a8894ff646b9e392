package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.detect.Detection;
import mandala.core.detect.Detectors;
import mandala.core.detect.Inquiry;
import mandala.core.detect.Remedies;
import mandala.core.detect.Trouble;
import mandala.core.engine.Engine;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.shrink.Contents;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What detectors say of random models is so, by the naive reference; and what they keep silent on.
 */
class DetectorsTest {

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 20);
  }

  /** How often each test had something to say. */
  private static int effects;

  private static int unusedOnes;
  private static final Map<Boolean, Integer> gifts = new HashMap<>();
  private static int settled;

  @AfterAll
  static void allHadSomethingToSay() {
    assertThat(List.of(effects, unusedOnes, settled)).allMatch(it -> it > 0);
    assertThat(gifts).containsKeys(true, false);
  }

  private static final class Case {
    final AccessModel model;
    final Engine engine;
    final UseWindow window;
    final List<UseRecord> records;
    final Detectors.Answer answer;
    final Instant at;

    Case(long seed) {
      model = RandomModels.model(seed);
      engine = Engine.of(model);
      RandomUse random = new RandomUse(model, seed);
      window = random.window();
      at = window.at();
      records = random.records(engine, window, 60);
      answer = ask(engine, this);
    }
  }

  private static Detectors.Answer ask(Engine engine, Case it) {
    Use use = Use.of(it.records, it.window, engine.catalogue(), UseCoverage.COMPLETE).use();
    return Detectors.of(Inquiry.of(engine, it.window, use), Impact.Watch.TO_THE_END);
  }

  /** Every right of everybody, by the reference. */
  private static Set<List<String>> allowed(AccessModel model, Instant at) {
    return allowed(model, at, true);
  }

  private static Set<List<String>> allowed(AccessModel model, Instant at, boolean factor) {
    Reference reference = new Reference(model);
    Catalogue catalogue = new Catalogue(model);
    List<ResourceKey> places = AllPlaces.of(model);
    List<PrincipalKey> people = new ArrayList<>();
    model.principals().stream().map(Principal::key).forEach(people::add);
    people.add(PrincipalKey.ANONYMOUS);
    Set<List<String>> allowed = new HashSet<>();
    for (PrincipalKey who : people) {
      for (PermissionKey what : catalogue.permissions().keySet()) {
        for (ResourceKey where : places) {
          Verdict verdict = reference.verdict(new Question(who, what, where, at, factor, null));
          if (verdict == Verdict.ALLOWED) {
            allowed.add(List.of(who.value(), what.value(), where.value()));
          }
        }
      }
    }
    return allowed;
  }

  /** With the second factor, and without it. */
  private static List<Set<List<String>>> bothWays(AccessModel model, Instant at) {
    return List.of(allowed(model, at, true), allowed(model, at, false));
  }

  /** An assignment is said to give nothing where no holder may use anything that it may give. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatGivesNothingToItsHoldersIsFound(long seed) {
    Case it = new Case(seed);
    Catalogue catalogue = it.engine.catalogue();
    Set<AssignmentKey> said = new HashSet<>();
    Set<AssignmentKey> unused = new HashSet<>();
    for (Detection found : it.answer.found()) {
      if (found.trouble() instanceof Trouble.GivesNothing(AssignmentKey key, var why)
          && why.compareTo(Trouble.Nothing.DENIED_EVERYWHERE) >= 0) {
        said.add(key);
      }
      if (found.trouble() instanceof Trouble.UnusedAssignment(AssignmentKey key, int _)) {
        unused.add(key);
      }
    }
    Contents contents = new Contents(catalogue);
    for (Assignment each : it.model.assignments()) {
      boolean stands =
          each.effect() == Assignment.Effect.ALLOW
              && each.mode() == Assignment.Mode.STANDING
              && each.window().holdsAt(it.at);
      Contents.Content content = contents.of(each);
      List<Principal> holders =
          it.engine.having(each.subject(), it.at).stream()
              .filter(who -> it.engine.isActive(who.key(), it.at))
              .toList();
      if (stands && content.deny().isEmpty() && !holders.isEmpty()) {
        boolean gives = givesAny(each, content, holders, it);
        gifts.merge(gives, 1, Integer::sum);
        if (gives) {
          assertThat(said).as("seed %d: %s", seed, each).doesNotContain(each.key());
        } else {
          assertThat(unused).as("seed %d: %s", seed, each).doesNotContain(each.key());
        }
        boolean covers =
            content.size() > 0
                && it.engine.reach(scopes(each), allowed(content), null, 0).places() > 0;
        if (!gives && covers && !(each.subject() instanceof Subject.Public)) {
          assertThat(said).as("seed %d: %s", seed, each).contains(each.key());
        }
      }
    }
  }

  private static Set<PermissionKey> allowed(Contents.Content content) {
    Set<PermissionKey> all = new HashSet<>(content.free());
    all.addAll(content.factor());
    return all;
  }

  private static List<Clause> scopes(Assignment it) {
    List<Clause> all = new ArrayList<>(it.scope());
    all.addAll(it.viewScope());
    return all;
  }

  private static boolean givesAny(
      Assignment of, Contents.Content content, List<Principal> holders, Case it) {
    for (PermissionKey what : allowed(content)) {
      List<ResourceKey> places =
          it.engine.reach(scopes(of), Set.of(what), null, Integer.MAX_VALUE).first();
      for (Principal who : holders) {
        for (ResourceKey where : places) {
          if (it.engine.decide(new Question(who.key(), what, where, it.at, true, null)).allowed()) {
            return true;
          }
        }
      }
    }
    return false;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsSaidToHaveNoEffectHasNone(long seed) {
    Case it = new Case(seed);
    List<Set<List<String>>> before = null;
    int tried = 0;
    for (Detection found : it.answer.found()) {
      boolean none =
          switch (found.trouble()) {
            case Trouble.GivesNothing _,
                Trouble.DenyWithoutEffect _,
                Trouble.RedundantAssignment _,
                Trouble.UnusedRole _,
                Trouble.UnusedGroup _,
                Trouble.UnusedSet _ ->
                true;
            case Trouble.AlikeRoles(var _, var _, var likeness) ->
                likeness == Trouble.Likeness.EQUAL;
            default -> false;
          };
      List<Remedies.Remedy> remedies = Remedies.of(found.trouble(), it.engine, it.at);
      if (none && !remedies.isEmpty() && tried < 4) {
        tried++;
        before = before == null ? bothWays(it.model, it.at) : before;
        AccessModel after = after(it.engine, remedies.getFirst().changes());
        if (ModelCheck.faultsOf(after).isEmpty()) {
          effects++;
          assertThat(bothWays(after, it.at))
              .as("seed %d: %s", seed, found.trouble())
              .isEqualTo(before);
        }
      }
    }
  }

  private static AccessModel after(Engine engine, List<Change> changes) {
    return Draft.of(changes).appliedUnchecked(engine.catalogue()).model();
  }

  /** What is said to be unused may go, and nobody loses what they need. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsSaidToBeUnusedIsNeededByNobody(long seed) {
    Case it = new Case(seed);
    int tried = 0;
    for (Detection found : it.answer.found()) {
      boolean unused =
          found.trouble() instanceof Trouble.UnusedAssignment
              || found.trouble() instanceof Trouble.ScopeWiderThanUse
              || found.trouble() instanceof Trouble.RoleWiderThanUse;
      if (!unused || tried++ >= 4) {
        continue;
      }
      Remedies.Remedy remedy = Remedies.of(found.trouble(), it.engine, it.at).getFirst();
      AccessModel after = after(it.engine, remedy.changes());
      Set<List<String>> left = allowed(after, it.at);
      for (UseRecord used : it.records) {
        List<String> right =
            List.of(used.whose().value(), used.permission().value(), used.resource().value());
        boolean known = !isStranger(used, it.model);
        boolean held =
            known
                && new Reference(it.model)
                        .verdict(
                            new Question(
                                used.whose(),
                                used.permission(),
                                used.resource(),
                                it.at,
                                true,
                                null))
                    == Verdict.ALLOWED;
        if (held && it.window.contains(used.day())) {
          unusedOnes++;
          assertThat(left).as("seed %d: %s", seed, found.trouble()).contains(right);
        }
      }
    }
  }

  private static boolean isStranger(UseRecord it, AccessModel model) {
    return Use.isStranger(it, new Catalogue(model));
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void findingsAreKnownByTheirIdAndComeWorstFirst(long seed) {
    Case it = new Case(seed);
    List<Detection> found = it.answer.found();
    assertThat(it.answer.whole()).isTrue();
    assertThat(found).extracting(Detection::id).doesNotHaveDuplicates();
    assertThat(found).isSortedAccordingTo(Detectors.WORST_FIRST);
    assertThat(ask(Engine.of(it.model), it).found()).as("asked again").isEqualTo(found);
    Catalogue catalogue = new Catalogue(it.model);
    for (Detection each : found) {
      assertThat(each.weight()).as("%s", each).isPositive();
      assertThat(each.trouble().names()).as("%s", each).first().isEqualTo(each.trouble().about());
      if (each.trouble() instanceof Trouble.BroadScope(AssignmentKey key, var breadths, var _)) {
        Assignment assignment = catalogue.assignments().get(key);
        assertThat(assignment).isNotNull();
        assertThat(breadths.contains(Trouble.Breadth.THROUGH_SEALS))
            .isEqualTo(assignment != null && assignment.crossesSeals());
      }
    }
  }

  /** Once a remedy is made, the finding is gone, or there is less of it. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void aRemedySettlesItsFinding(long seed) {
    Case it = new Case(seed);
    List<Detection> found = it.answer.found();
    for (int i = 0; i < 5 && !found.isEmpty(); i++) {
      Detection one = found.get((int) ((seed * 7 + i * 13L) % found.size()));
      for (Remedies.Remedy remedy : Remedies.of(one.trouble(), it.engine, it.at)) {
        AccessModel after = after(it.engine, remedy.changes());
        if (ModelCheck.faultsOf(after).isEmpty()) {
          settled++;
          assertThat(ask(Engine.of(after), it).found())
              .as("seed %d: %s of %s", seed, remedy.act(), one)
              .noneMatch(left ->
                  left.id().equals(one.id())
                      && (left.trouble().equals(one.trouble())
                          || Detection.isWorse(
                              left.risk(), left.weight(), one.risk(), one.weight())));
        }
      }
    }
  }
}
