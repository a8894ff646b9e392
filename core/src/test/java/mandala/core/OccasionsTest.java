package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Removal;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.review.ItemStudy;
import mandala.core.review.Occasions;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.core.shrink.Contents;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Nothing is given without a review that asks: where all that was given from one state to the next
 * is removed again, nobody has what they did not have before.
 */
class OccasionsTest {

  private static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");
  private static final Map<String, Integer> MET = new HashMap<>();

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 2);
  }

  @AfterAll
  static void eachOutcomeWasMet() {
    assertThat(MET).containsKeys("Assignment", "Group", "Guest", "Principal", "altered", "gains");
  }

  private static void met(String what) {
    MET.merge(what, 1, Integer::sum);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsGivenCoversAllThatAnybodyGains(long seed) {
    AccessModel model = RandomModels.model(seed);
    Catalogue after = new Catalogue(model);
    List<Change> back = earlier(after, new Random(seed));
    Catalogue before = Draft.of(back).appliedUnchecked(after);
    Engine was = Engine.of(before.model());
    Engine is = Engine.of(model);
    List<Change> changes = back.reversed().stream().map(Change::inverse).toList();
    List<ReviewItem> given =
        new Occasions(was.catalogue(), ReviewItems.of(is, AT), changes).given();
    assertThat(given).allMatch(it -> it.isIn(is.catalogue()));
    List<Removal> removals = given.stream().map(ReviewItem::removal).toList();
    Engine without =
        Engine.of(
            Draft.of(ItemStudy.changes(is.catalogue(), removals))
                .appliedUnchecked(is.catalogue())
                .model());
    for (PrincipalKey who : after.principals().keySet()) {
      Session session = new Session(who, AT, true, null);
      Access had = was.accessAfresh(session);
      if (rightsBeyond(is.accessAfresh(session), had) > 0) {
        met("gains");
      }
      assertThat(rightsBeyond(without.accessAfresh(session), had))
          .as("%s with %s not given", who, given)
          .isZero();
    }
  }

  /** The two are of two engines, so they are compared by the things that they name. */
  private static long rightsBeyond(Access more, Access less) {
    return more.permissions().stream()
        .flatMap(permission ->
            AllPlaces.of(more.catalogue().model()).stream()
                .filter(place ->
                    more.verdict(permission, place) == Verdict.ALLOWED
                        && less.verdict(permission, place) != Verdict.ALLOWED))
        .count();
  }

  /** Changes that lead back to a state in which some things were not given, or given otherwise. */
  private static List<Change> earlier(Catalogue after, Random random) {
    Contents contents = new Contents(after);
    List<Thing> possible = new ArrayList<>();
    after.assignments().values().stream()
        .filter(it -> contents.of(it).deny().isEmpty() && after.activations(it.key()).isEmpty())
        .forEach(possible::add);
    possible.addAll(after.guests());
    after.groups().values().stream().filter(it -> !it.members().isEmpty()).forEach(possible::add);
    after.principals().values().stream().filter(it -> it.pattern() != null).forEach(possible::add);
    List<Change> changes = new ArrayList<>();
    for (int i = 0; i < 3 && !possible.isEmpty(); i++) {
      Thing it = possible.remove(random.nextInt(possible.size()));
      met(it.getClass().getSimpleName());
      changes.add(
          switch (it) {
            case Assignment each -> earlier(each, after, random);
            case Group each -> new Change.Altered(each, fewer(each, random));
            case Principal each -> new Change.Altered(each, Rewritten.pattern(each, null));
            case Guest each -> new Change.Removed(each);
            default -> throw new IllegalStateException("Impossible state: " + it);
          });
    }
    return changes;
  }

  private static Change earlier(Assignment it, Catalogue after, Random random) {
    List<Assignment> others = List.copyOf(after.assignments().values());
    Assignment other = others.get(random.nextInt(others.size()));
    if (random.nextBoolean() || other.effect() == Assignment.Effect.DENY) {
      return new Change.Removed(it);
    }
    met("altered");
    Assignment was =
        new Assignment(
            it.key(),
            it.about(),
            it.subject(),
            it.gives(),
            it.effect(),
            other.scope(),
            other.viewScope(),
            random.nextBoolean() ? it.window() : other.window(),
            it.mode(),
            it.crossesSeals());
    Draft draft = Draft.of(List.of(new Change.Altered(it, was)));
    return ModelCheck.faultsOf(draft.appliedUnchecked(after).model()).isEmpty()
        ? new Change.Altered(it, was)
        : new Change.Removed(it);
  }

  private static Group fewer(Group it, Random random) {
    return Rewritten.without(it, it.members().get(random.nextInt(it.members().size())));
  }
}
