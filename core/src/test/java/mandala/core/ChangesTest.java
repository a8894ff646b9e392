package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.change.Changes;
import mandala.core.engine.Engine;
import mandala.core.explain.Explanation;
import mandala.core.explain.Routes;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Extent;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** An engine that took changes one after the other answers as one built of the model after them. */
class ChangesTest {

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 150));
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void incrementalSnapshotsEqualRebuiltOnes(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    RandomChanges changes = new RandomChanges(seed);
    List<Change> applied = new ArrayList<>();
    for (int step = 0; step < 24; step++) {
      Change change = changes.next(engine.catalogue().model());
      try {
        engine = engine.after(List.of(change));
        applied.add(change);
      } catch (IllegalArgumentException refused) {
        assertThat(refused).hasMessageMatching("(?s).*(faulty|already|not there).*");
        continue;
      }
      AccessModel now = engine.catalogue().model();
      assertThat(ModelCheck.faultsOf(now)).isEmpty();
      assertSame(engine, now, seed + step * 1000L, applied);
    }
  }

  /**
   * Drafts over one model are engines that come of one engine, and share what is known of people:
   * each must tell of itself only, however often and in which order they are asked.
   */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void enginesThatBranchOffAreToldApart(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    RandomChanges changes = new RandomChanges(seed + 5);
    List<Engine> branches = new ArrayList<>(List.of(engine));
    for (int step = 0; step < 40 && branches.size() < 7; step++) {
      Engine from = branches.get(step % 3 == 0 ? 0 : branches.size() - 1);
      try {
        branches.add(from.after(List.of(changes.next(from.catalogue().model()))));
      } catch (IllegalArgumentException _) {
        // refused: another is tried
      }
    }
    for (Question question : RandomModels.questions(engine.catalogue().model(), seed, 6)) {
      for (int round = 0; round < 20; round++) {
        for (int i = 0; i < branches.size(); i++) {
          Engine branch = branches.get((i * 3 + round) % branches.size());
          assertThat(branch.decide(question).verdict())
              .as("%s in branch %d", question, branches.indexOf(branch))
              .isEqualTo(branch.decideAfresh(question).verdict());
        }
      }
    }
  }

  /**
   * What several revisions did is put in at once, there and back: things that came and went
   * meanwhile, that went and came back, and that were changed twice.
   */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatManyRevisionsDidIsPutInAtOnce(long seed) {
    Engine first = Engine.of(RandomModels.model(seed));
    RandomChanges changes = new RandomChanges(seed + 7);
    List<Change> all = new ArrayList<>();
    Engine last = first;
    for (int step = 0; step < 30; step++) {
      Change change =
          step % 5 == 4 && !all.isEmpty()
              ? all.get(all.size() - 1 - step % Math.min(3, all.size())).inverse()
              : changes.next(last.catalogue().model());
      try {
        last = last.after(List.of(change));
        all.add(change);
      } catch (IllegalArgumentException _) {
        // refused: another is tried
      }
    }
    assertSame(first.after(all), last.catalogue().model(), seed, all);
    List<Change> back = all.reversed().stream().map(Change::inverse).toList();
    assertSame(last.after(back), first.catalogue().model(), seed + 1, back);
  }

  @Test
  void whoCameAndWentMeanwhileIsOfNoAccount() {
    Engine engine = Engine.of(RandomModels.model(1));
    AccountKey account = engine.catalogue().accounts().keySet().iterator().next();
    Principal another = Somebody.at(account, new PrincipalKey("came-and-went"));
    List<Change> changes = List.of(new Change.Added(another), new Change.Removed(another));
    assertThat(engine.after(changes).catalogue().model()).isEqualTo(engine.catalogue().model());
  }

  private static void assertSame(
      Engine incremental, AccessModel now, long seed, List<Change> applied) {
    Engine rebuilt = Engine.of(now);
    Reference reference = new Reference(now);
    for (Question question : RandomModels.questions(now, seed, 12)) {
      Verdict expected = rebuilt.decide(question).verdict();
      assertThat(reference.verdict(question)).as("rebuilt, %s", question).isEqualTo(expected);
      assertThat(incremental.decide(question).verdict())
          .as("%s after %s", question, applied)
          .isEqualTo(expected);
      if (expected != Verdict.ERROR) {
        assertThat(
                incremental
                    .access(question.session())
                    .verdict(question.permission(), question.resource()))
            .as("whole access, %s after %s", question, applied)
            .isEqualTo(expected);
        assertThat(incremental.access(question.session()).rights())
            .as("rights, %s after %s", question, applied)
            .isEqualTo(rebuilt.access(question.session()).rights());
        assertThat(incremental.rights(question.session()))
            .isEqualTo(rebuilt.rights(question.session()));
        assertThat(incremental.access(question.session()).figure(Extent.WHOLE))
            .isEqualTo(rebuilt.access(question.session()).figure(Extent.WHOLE));
      }
    }
  }

  /** Listings from the other side are kept by changes too: members, holders, who is where. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whoCanAndRoutesAreThoseOfAnEngineBuiltAnew(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    RandomChanges changes = new RandomChanges(seed + 3);
    for (int step = 0; step < 24; step++) {
      Change change = changes.next(engine.catalogue().model());
      try {
        engine = engine.after(List.of(change));
      } catch (IllegalArgumentException _) {
        continue; // refused: as before
      }
      AccessModel now = engine.catalogue().model();
      Engine rebuilt = Engine.of(now);
      for (Question it : RandomModels.questions(now, seed + step * 1000L, 5)) {
        if (!rebuilt.catalogue().permissions().containsKey(it.permission())) {
          continue;
        }
        WhoQuestion on = WhoQuestion.of(it.permission(), it.resource(), it.at(), it.mfa());
        WhoQuestion below =
            new WhoQuestion(
                Set.of(it.permission()),
                new WhoQuestion.Where.Below(it.resource()),
                it.at(),
                it.mfa());
        for (WhoQuestion question : List.of(on, below)) {
          assertThat(engine.whoCan(question))
              .as("%s after %s", question, change)
              .isEqualTo(rebuilt.whoCan(question));
        }
        if (rebuilt.decide(it).verdict() != Verdict.ERROR
            && rebuilt.decide(it).verdict() != Verdict.NOT_APPLICABLE) {
          Explanation mine = Routes.of(engine).explain(it);
          Explanation other = Routes.of(rebuilt).explain(it);
          assertThat(mine.live()).containsExactlyInAnyOrderElementsOf(other.live());
          assertThat(mine.near()).containsExactlyInAnyOrderElementsOf(other.near());
        }
      }
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void takingBackEveryChangeLeavesTheModelAsItWas(long seed) {
    Catalogue start = new Catalogue(RandomModels.model(seed));
    Catalogue now = start;
    RandomChanges changes = new RandomChanges(seed + 7);
    List<Change> applied = new ArrayList<>();
    for (int step = 0; step < 15; step++) {
      Change change = changes.next(now.model());
      try {
        now = Changes.apply(now, List.of(change));
        applied.addFirst(change.inverse());
      } catch (IllegalArgumentException _) {
        // refused: the model is as it was
      }
    }
    assertThat(Changes.apply(now, applied).model().sorted()).isEqualTo(start.model().sorted());
  }

  @Test
  void whatIsThereCannotBeAddedAndWhatIsNotCannotGo() {
    AccessModel model = RandomModels.model(1);
    Engine engine = Engine.of(model);
    var thing = model.assignments().getFirst();
    assertThatThrownBy(() -> engine.after(List.of(new Change.Added(thing))))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("already");
    Engine without = engine.after(List.of(new Change.Removed(thing)));
    assertThat(without.catalogue().assignments()).doesNotContainKey(thing.key());
    assertThat(engine.catalogue().assignments()).containsKey(thing.key());
    assertThatThrownBy(() -> without.after(List.of(new Change.Removed(thing))))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("not there");
  }

  @Test
  void whatIsSuppliedIsLocked() {
    Engine engine = Engine.of(RandomModels.model(1));
    var owner = engine.catalogue().roles().get(Supplied.OWNER);
    assertThatThrownBy(() -> engine.after(List.of(new Change.Removed(owner))))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessage("The role 'mandala.owner' is supplied and locked; copy it and change the copy");
    assertThatThrownBy(() -> engine.after(List.of(new Change.Altered(owner, owner))))
        .hasMessageContaining("locked");
  }

  @Test
  void aModelWithFaultsNeverBecomesAnEngine() {
    AccessModel model = RandomModels.model(2);
    AccessModel faulty =
        AccessModel.builder().addAll(model.principals()).addAll(model.units()).build();
    assertThatThrownBy(() -> Engine.of(faulty))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("faults");
    AccountKey used = model.principals().getFirst().account();
    var account = model.accounts().stream().filter(a -> a.key().equals(used)).findFirst();
    assertThatThrownBy(
            () -> Engine.of(model).after(List.of(new Change.Removed(account.orElseThrow()))))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("faulty");
  }
}
