package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.LongStream;
import mandala.core.change.Draft;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Question;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.review.Deciders;
import mandala.core.review.ItemEffect;
import mandala.core.review.ItemStudy;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.core.review.ReviewScope;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What an item says it takes is the difference of full evaluations by the naive reference, alone
 * and together; what else must go for it to end is enough, and no less is.
 */
class ReviewTest {

  private static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");

  private static final ReviewScope ALL =
      new ReviewScope(
          EnumSet.allOf(ReviewScope.Content.class), Set.of(), null, Permission.Risk.LOW);

  /** How often each kind of item, and each outcome, was met. */
  private static final Map<String, Integer> MET = new HashMap<>();

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 4);
  }

  @AfterAll
  static void eachKindWasMet() {
    for (Class<?> it : Removal.class.getPermittedSubclasses()) {
      boolean elsewhere = // what no item is, and what no random model has
          it == Removal.OutOfRole.class
              || it == Removal.OutOfSet.class
              || it == Removal.EndExemption.class;
      if (!elsewhere) {
        assertThat(MET).as("%s", MET).containsKey(it.getSimpleName());
      }
    }
    assertThat(MET).containsKeys("takes", "takes nothing", "stays", "sufficient", "together");
  }

  private static void met(String what) {
    MET.merge(what, 1, Integer::sum);
  }

  /** What somebody is allowed by the naive reference. */
  private static Set<String> rights(AccessModel model, Session who) {
    Reference reference = new Reference(model);
    Set<String> rights = new TreeSet<>();
    for (Permission permission : new Catalogue(model).permissions().values()) {
      for (ResourceKey place : AllPlaces.of(model)) {
        Question question = who.asks(permission.key(), place);
        if (reference.verdict(question) == Verdict.ALLOWED) {
          rights.add(permission.key() + " " + place);
        }
      }
    }
    return rights;
  }

  private static Set<String> rights(Access access, AccessModel model) {
    Set<String> rights = new TreeSet<>();
    for (Permission permission : new Catalogue(model).permissions().values()) {
      for (ResourceKey place : AllPlaces.of(model)) {
        if (access.verdict(permission.key(), place) == Verdict.ALLOWED) {
          rights.add(permission.key() + " " + place);
        }
      }
    }
    return rights;
  }

  private static AccessModel without(AccessModel model, List<ReviewItem> items) {
    Catalogue catalogue = new Catalogue(model);
    List<Removal> removals = items.stream().map(ReviewItem::removal).toList();
    return Draft.of(ItemStudy.changes(catalogue, removals)).appliedUnchecked(catalogue).model();
  }

  private static Session session(ReviewItem item, ItemEffect effect, Catalogue catalogue) {
    PrincipalKey whom =
        item.removal() instanceof Removal.Undelegate(var key)
            ? Optional.ofNullable(catalogue.delegations().get(key)).orElseThrow().principal()
            : null;
    return new Session(effect.whose(), AT, true, whom);
  }

  private static Set<String> minus(Set<String> some, Set<String> others) {
    Set<String> rest = new TreeSet<>(some);
    rest.removeAll(others);
    return rest;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatAnItemTakesIsTheDifferenceOfFullEvaluations(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    ReviewItems items = ReviewItems.of(engine, AT);
    ItemStudy study = new ItemStudy(engine, items, AT);
    List<ReviewItem> all = new ArrayList<>(items.in(ALL));
    assertThat(all.stream().map(ReviewItem::id)).doesNotHaveDuplicates();
    assertThat(all).allMatch(it -> it.isIn(engine.catalogue()));
    all.forEach(it -> met(it.removal().getClass().getSimpleName()));
    Collections.shuffle(all, new Random(seed));
    int looked = 0;
    for (ReviewItem item : all) {
      ItemEffect effect = study.effect(item).orElse(null);
      if (effect == null || effect.activated() || looked++ >= 8) {
        continue; // just-in-time access counts as activated: see ReviewSpec
      }
      Session who = session(item, effect, engine.catalogue());
      Set<String> before = rights(model, who);
      Set<String> after = rights(without(model, List.of(item)), who);
      assertThat(rights(effect.taken(), model)).as(item.id()).isEqualTo(minus(before, after));
      assertThat(effect.takes()).isEqualTo(minus(before, after).size());
      assertThat(effect.gives()).as(item.id()).isEqualTo(minus(after, before).size());
      met(effect.takes() > 0 ? "takes" : "takes nothing");
      if (!(item.removal() instanceof Removal.Undelegate)) {
        whatStays(model, items, study, item, effect, who, after);
      }
    }
  }

  private static void whatStays(
      AccessModel model,
      ReviewItems items,
      ItemStudy study,
      ReviewItem item,
      ItemEffect effect,
      Session who,
      Set<String> after) {
    Access staying = study.staying(item, effect);
    Set<String> stays = rights(staying, model);
    assertThat(after).as(item.id()).containsAll(stays);
    if (stays.isEmpty()) {
      return;
    }
    met("stays");
    List<ReviewItem> others = new ArrayList<>(items.of(effect.whose()));
    others.removeIf(it -> it.id().equals(item.id()) || it.removal() instanceof Removal.EndGuest);
    assertThat(rights(without(model, others), who)).as("alone").containsAll(stays);
    List<ReviewItem> set = study.sufficient(item, effect, staying);
    if (set.isEmpty()) {
      return;
    }
    met("sufficient");
    List<ReviewItem> gone = new ArrayList<>(set);
    gone.add(item);
    assertThat(rights(without(model, gone), who)).as("%s", gone).doesNotContainAnyElementsOf(stays);
    for (ReviewItem each : set) {
      List<ReviewItem> fewer = new ArrayList<>(gone);
      fewer.remove(each);
      assertThat(rights(without(model, fewer), who))
          .as("%s is needed", each)
          .containsAnyElementsOf(stays);
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void severalTogetherTakeWhatFullEvaluationsSay(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    List<ReviewItem> some = new ArrayList<>(ReviewItems.of(engine, AT).in(ALL));
    Collections.shuffle(some, new Random(seed));
    some = some.subList(0, Math.min(4, some.size()));
    List<Removal> removals = some.stream().map(ReviewItem::removal).toList();
    Engine after;
    try {
      after = engine.after(ItemStudy.changes(engine.catalogue(), removals));
    } catch (IllegalArgumentException _) {
      return; // together they leave a model with faults
    }
    AccessModel left = without(model, some);
    for (Principal each : model.principals()) {
      Session who = new Session(each.key(), AT, true, null);
      assertThat(rights(after.access(who), left)).as("%s", some).isEqualTo(rights(left, who));
    }
    met("together");
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void nobodyDecidesAboutThemselves(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    ReviewItems items = ReviewItems.of(engine, AT);
    Deciders deciders = new Deciders(engine, items, AT);
    Random random = new Random(seed);
    List<PrincipalKey> people = model.principals().stream().map(Principal::key).toList();
    PrincipalKey fallback = people.get(random.nextInt(people.size()));
    PrincipalKey deputy = people.get(random.nextInt(people.size()));
    List<Deciders.By> order =
        List.of(
            new Deciders.By.Manager(),
            new Deciders.By.Sponsor(),
            new Deciders.By.PlaceOwner(),
            new Deciders.By.ThingOwner(),
            new Deciders.By.AccountOwner(),
            new Deciders.By.Named(fallback));
    for (ReviewItem item : items.in(ALL)) {
      Deciders.Chosen chosen =
          deciders
              .of(
                  item,
                  order,
                  who -> who.equals(fallback) ? Optional.of(deputy) : Optional.empty(),
                  who -> false)
              .orElse(null);
      if (chosen != null) {
        Principal who = engine.catalogue().principals().get(chosen.who());
        assertThat(item.parties(engine.catalogue())).doesNotContain(chosen.who());
        assertThat(who).isNotNull();
        assertThat(who.kind()).isEqualTo(Principal.Kind.PERSON);
        assertThat(engine.isActive(chosen.who(), AT)).isTrue();
        if (chosen.insteadOf() != null) {
          assertThat(chosen.insteadOf()).isEqualTo(fallback);
          assertThat(item.parties(engine.catalogue())).doesNotContain(fallback);
        }
      }
    }
  }
}
