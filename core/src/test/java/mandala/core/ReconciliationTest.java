package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Term;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Decision;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.reconcile.Adoption;
import mandala.core.reconcile.Discrepancy;
import mandala.core.reconcile.HeldLine;
import mandala.core.reconcile.Reconciliation;
import mandala.core.reconcile.Terms;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What another system holds differs from the model exactly as the naive reference says. */
class ReconciliationTest {

  private static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");

  private static final Map<Class<?>, Integer> FOUND = new HashMap<>();

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 4);
  }

  /** A random part of what is allowed, some that is not, and some whom nobody knows. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void discrepanciesAreThoseOfTheReference(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed);
    Engine engine = Engine.of(model);
    Reference reference = new Reference(model);
    List<Resource> resources = some(model.resources(), 6, random);
    Map<String, Terms.Area> places = new LinkedHashMap<>();
    for (Resource it : resources) {
      places.put("P " + it.key(), new Terms.Area(it.key(), random.nextInt(3) == 0));
    }
    Map<String, List<PermissionKey>> entitlements = new LinkedHashMap<>();
    for (Permission it : some(model.permissions(), 5, random)) {
      entitlements.put("E " + it.key(), List.of(it.key()));
    }
    List<HeldLine> lines = lines(model, entitlements.keySet(), places.keySet(), random);
    Reconciliation.Answer answer =
        Reconciliation.of(engine, AT, new Terms(Map.of(), entitlements, places), lines);
    assertThat(answer.lines()).isEqualTo(lines.size());
    assertThat(answer.untranslated())
        .containsExactlyInAnyOrderEntriesOf(Map.of("entitlement other", 1, "place elsewhere", 1));
    Set<String> found = new TreeSet<>();
    for (Discrepancy it : answer.discrepancies()) {
      FOUND.merge(it.getClass(), 1, Integer::sum);
      found.add(it.toString());
    }
    Set<String> expected = new TreeSet<>();
    int agreeing = expected(model, reference, entitlements, places, lines, expected);
    assertThat(found).isEqualTo(expected);
    assertThat(answer.agreeing()).isEqualTo(agreeing);
    assertThat(answer.discrepancies().stream().map(Discrepancy::id)).doesNotHaveDuplicates();
  }

  private static final Map<String, Integer> ADOPTED = new HashMap<>();

  /** How often all below a place was denied, and some of it. */
  private static final Map<Boolean, Integer> DENIED = new HashMap<>();

  @AfterAll
  static void eachKindWasMet() {
    assertThat(ADOPTED.keySet()).containsExactlyInAnyOrder("settled", "left", "Added", "Removed");
    assertThat(ADOPTED.values()).as("%s", ADOPTED).allMatch(it -> it > 0);
    assertThat(DENIED).containsKeys(true, false);
    assertThat(FOUND.keySet())
        .containsExactlyInAnyOrder(Discrepancy.class.getPermittedSubclasses());
  }

  private static <T> List<T> some(List<T> all, int most, Random random) {
    List<T> some = new ArrayList<>(all);
    Collections.shuffle(some, random);
    return some.subList(0, Math.min(most, some.size()));
  }

  private static List<HeldLine> lines(
      AccessModel model, Set<String> entitlements, Set<String> places, Random random) {
    List<HeldLine> lines = new ArrayList<>();
    for (Principal who : model.principals()) {
      for (String entitlement : entitlements) {
        for (String place : places) {
          if (random.nextInt(4) == 0) {
            lines.add(new HeldLine(who.key().value(), entitlement, place));
          }
        }
      }
    }
    String any = model.principals().getFirst().key().value();
    lines.add(
        new HeldLine("nobody-known", entitlements.iterator().next(), places.iterator().next()));
    lines.add(new HeldLine(any, "other", places.iterator().next()));
    lines.add(new HeldLine(any, entitlements.iterator().next(), "elsewhere"));
    return lines;
  }

  /** The same, said by the reference right by right. */
  private static int expected(
      AccessModel model,
      Reference reference,
      Map<String, List<PermissionKey>> entitlements,
      Map<String, Terms.Area> places,
      List<HeldLine> lines,
      Set<String> expected) {
    Map<String, Integer> many = new HashMap<>();
    lines.forEach(it -> many.merge(it.identity(), 1, Integer::sum));
    expected.add(
        new Discrepancy.UnknownPerson("nobody-known", many.get("nobody-known")).toString());
    int agreeing = 0;
    for (Principal who : model.principals()) {
      boolean active =
          reference.verdict(
                  new Session(who.key(), AT, true, null)
                      .asks(
                          model.permissions().getFirst().key(), model.resources().getFirst().key()))
              != Verdict.INACTIVE;
      if (!active) {
        Integer its = many.get(who.key().value());
        if (its != null) {
          expected.add(new Discrepancy.Orphaned(who.key().value(), who.key(), its).toString());
        }
        continue;
      }
      for (Map.Entry<String, List<PermissionKey>> entitlement : entitlements.entrySet()) {
        PermissionKey permission = entitlement.getValue().getFirst();
        List<ResourceKey> missing = new ArrayList<>();
        List<ResourceKey> extra = new ArrayList<>();
        boolean allowedAny = false;
        boolean heldAny = false;
        for (Resource it :
            model.resources().stream()
                .sorted(Comparator.comparing(each -> each.key().value()))
                .toList()) {
          Set<String> covering = new HashSet<>();
          places.forEach((name, area) -> {
            if (area.top().equals(it.key())
                || (area.below() && reference.isWithin(it.key().value(), area.top().value()))) {
              covering.add(name);
            }
          });
          Verdict verdict =
              reference.verdict(new Session(who.key(), AT, true, null).asks(permission, it.key()));
          if (covering.isEmpty() || verdict == Verdict.NOT_APPLICABLE) {
            continue;
          }
          boolean allowed = verdict == Verdict.ALLOWED;
          boolean held =
              lines.stream()
                  .anyMatch(line ->
                      line.identity().equals(who.key().value())
                          && line.entitlement().equals(entitlement.getKey())
                          && covering.contains(line.place()));
          allowedAny |= allowed;
          heldAny |= held;
          if (allowed && !held) {
            missing.add(it.key());
          } else if (held && !allowed) {
            extra.add(it.key());
          }
        }
        if (missing.isEmpty() && extra.isEmpty()) {
          agreeing += allowedAny ? 1 : 0;
        } else if (!heldAny) {
          expected.add(new Discrepancy.Missing(who.key(), permission, missing).toString());
        } else if (!allowedAny) {
          expected.add(new Discrepancy.Extra(who.key(), permission, extra).toString());
        } else {
          expected.add(new Discrepancy.Different(who.key(), permission, missing, extra).toString());
        }
      }
    }
    return agreeing;
  }

  /** What is adopted agrees afterwards, the rest differs as before, and nobody else changes. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsAdoptedAgrees(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed);
    Engine engine = Engine.of(model);
    Map<String, Terms.Area> places = new LinkedHashMap<>();
    for (Resource it : some(model.resources(), 4, random)) {
      places.put("P " + it.key(), new Terms.Area(it.key(), random.nextInt(3) == 0));
    }
    Map<String, List<PermissionKey>> entitlements = new LinkedHashMap<>();
    for (Permission it : some(model.permissions(), 3, random)) {
      entitlements.put("E " + it.key(), List.of(it.key()));
    }
    Terms terms = new Terms(Map.of(), entitlements, places);
    List<HeldLine> lines = lines(model, entitlements.keySet(), places.keySet(), random);
    List<Discrepancy> before = Reconciliation.of(engine, AT, terms, lines).discrepancies();
    List<Discrepancy> chosen = some(before, 3, random);
    Adoption.Answer answer = Adoption.of(engine, AT, chosen);
    Set<Discrepancy> settled = new HashSet<>(chosen);
    settled.removeAll(answer.left());
    ADOPTED.merge("settled", settled.size(), Integer::sum);
    ADOPTED.merge("left", answer.left().size(), Integer::sum);
    answer.changes().forEach(ReconciliationTest::count);
    Engine after =
        Engine.of(Draft.of(answer.changes()).appliedUnchecked(engine.catalogue()).model());
    List<Discrepancy> now = Reconciliation.of(after, AT, terms, lines).discrepancies();
    Set<String> differing = new HashSet<>();
    now.forEach(it -> differing.addAll(rights(it)));
    assertThat(settled)
        .allSatisfy(it -> assertThat(differing).doesNotContainAnyElementsOf(rights(it)));
    Reference reference = new Reference(after.catalogue().model());
    for (Discrepancy it : settled) {
      if (it instanceof Discrepancy.Extra(var who, var permission, var added)) {
        assertThat(added)
            .allSatisfy(place ->
                assertThat(
                        reference.verdict(new Session(who, AT, true, null).asks(permission, place)))
                    .isEqualTo(Verdict.ALLOWED));
      }
    }
    for (Discrepancy it : settled) {
      if (it instanceof Discrepancy.Extra(var who, var permission, var added)) {
        Discrepancy opposite = new Discrepancy.Missing(who, permission, added);
        Adoption.Answer back = Adoption.of(after, AT, List.of(opposite));
        back.changes().forEach(ReconciliationTest::count);
        Engine again = after.after(back.changes());
        assertThat(back.left()).isEmpty();
        assertThat(added)
            .allSatisfy(place ->
                assertThat(again.decide(new Session(who, AT, true, null).asks(permission, place)))
                    .returns(false, Decision::allowed));
      }
    }
    assertThat(settled)
        .as("no change of the model settles an identity")
        .allMatch(it -> it.permission() != null);
    Set<PrincipalKey> concerned = new HashSet<>();
    settled.forEach(it -> concerned.add(it.who()));
    assertThat(now.stream().filter(it -> !isOf(it, concerned)))
        .containsExactlyElementsOf(before.stream().filter(it -> !isOf(it, concerned)).toList());
  }

  /** A deny takes what is missing and nothing else, by one place above where that has them all. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void aDenyNamesTheFewestPlaces(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed);
    Engine engine = Engine.of(model);
    for (Resource top : some(model.resources(), 4, random)) {
      for (Permission what : some(model.permissions(), 6, random)) {
        List<ResourceKey> all =
            covered(engine, List.of(Clause.of(new Term.Tree(top.key()))), what.key());
        for (Principal who : some(model.principals(), 4, random)) {
          Session session = new Session(who.key(), AT, true, null);
          List<ResourceKey> taken =
              all.stream()
                  .filter(it -> engine.decide(session.asks(what.key(), it)).allowed())
                  .toList();
          if (taken.size() > 1) {
            Discrepancy missing = new Discrepancy.Missing(who.key(), what.key(), taken);
            deniesOnly(missing, all.size() == taken.size(), engine);
          }
        }
      }
    }
  }

  private static void deniesOnly(Discrepancy missing, boolean whole, Engine engine) {
    for (Change it : Adoption.of(engine, AT, List.of(missing)).changes()) {
      if (it instanceof Change.Added(Assignment deny)) {
        List<Clause> scope = deny.scope();
        assertThat(missing.missing())
            .containsAll(covered(engine, scope, Objects.requireNonNull(missing.permission())));
        assertThat(scope).hasSizeLessThanOrEqualTo(whole ? 1 : missing.size());
        DENIED.merge(whole, 1, Integer::sum);
      }
    }
  }

  private static List<ResourceKey> covered(Engine engine, List<Clause> scope, PermissionKey what) {
    return engine.reach(scope, Set.of(what), null, Integer.MAX_VALUE).first();
  }

  /** Who differs in what, where: what is given may bring other permissions with it elsewhere. */
  private static List<String> rights(Discrepancy discrepancy) {
    List<String> rights = new ArrayList<>();
    String right = " " + discrepancy.who() + " " + discrepancy.permission() + " ";
    discrepancy.missing().forEach(it -> rights.add("missing" + right + it));
    discrepancy.extra().forEach(it -> rights.add("extra" + right + it));
    if (discrepancy.permission() == null) {
      rights.add(discrepancy.id());
    }
    return rights;
  }

  private static void count(Change it) {
    ADOPTED.merge(it.getClass().getSimpleName(), 1, Integer::sum);
  }

  private static boolean isOf(Discrepancy it, Set<PrincipalKey> some) {
    return it.permission() != null && some.contains(it.who());
  }

  private static final PrincipalKey ADA = new PrincipalKey("ada");

  private static Engine small() {
    return Engine.of(AccessModel.builder().build());
  }

  @Test
  void termsMustNameWhatThereIs() {
    Terms terms =
        new Terms(
            Map.of("a", ADA),
            Map.of(),
            Map.of("hall", new Terms.Area(new ResourceKey("gone"), true)));
    assertThatThrownBy(() -> Reconciliation.of(small(), AT, terms, List.of()))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("There is no place 'gone'");
    Terms others = new Terms(Map.of(), Map.of("all", List.of(new PermissionKey("lost"))), Map.of());
    assertThatThrownBy(() -> Reconciliation.of(small(), AT, others, List.of()))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("There is no permission 'lost'");
  }

  /** What agrees meanwhile needs no change. */
  @Test
  void whatIsAllowedAlreadyIsNotGivenAgain() {
    AccessModel model = RandomModels.model(7);
    Engine engine = Engine.of(model);
    int met = 0;
    for (Principal who : model.principals()) {
      for (Permission what : model.permissions()) {
        List<ResourceKey> allowed =
            model.resources().stream()
                .map(Resource::key)
                .filter(it ->
                    engine
                        .decide(new Session(who.key(), AT, true, null).asks(what.key(), it))
                        .allowed())
                .toList();
        if (!allowed.isEmpty()) {
          met++;
          Adoption.Answer answer =
              Adoption.of(
                  engine, AT, List.of(new Discrepancy.Extra(who.key(), what.key(), allowed)));
          assertThat(answer.changes()).isEmpty();
          assertThat(answer.left()).isEmpty();
        }
      }
    }
    assertThat(met).isPositive();
  }

  @Test
  void identitiesAreListedElseAddressesElseKeys() {
    AccessModel model = RandomModels.model(3);
    List<Principal> people =
        model.principals().stream()
            .filter(it -> it.status() == Principal.Status.ACTIVE && it.window().holdsAt(AT))
            .toList();
    Principal one = people.getFirst();
    Principal other = people.getLast();
    Terms terms = new Terms(Map.of("jdoe", one.key()), Map.of(), Map.of());
    Reconciliation.Answer answer =
        Reconciliation.of(
            Engine.of(model),
            AT,
            terms,
            List.of(
                new HeldLine("jdoe", "x", "y"),
                new HeldLine(other.key().value(), "x", "y"),
                new HeldLine("no such person", "x", "y"),
                new HeldLine("", "x", "y")));
    assertThat(answer.discrepancies())
        .containsExactly(
            new Discrepancy.UnknownPerson("", 1),
            new Discrepancy.UnknownPerson("no such person", 1));
    assertThat(answer.untranslated()).isEqualTo(Map.of("entitlement x", 4, "place y", 4));
  }
}
