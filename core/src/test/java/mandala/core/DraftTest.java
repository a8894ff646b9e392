package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.change.Changes;
import mandala.core.change.Draft;
import mandala.core.change.PlaceMerge;
import mandala.core.change.Rebase;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Drafts: changes that are made together. */
class DraftTest {

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 120));
  }

  private static Account account(String key, String name) {
    return new Account(new AccountKey(key), About.named(name), null, false, false);
  }

  private static Group group(String... members) {
    return group(false, members);
  }

  private static Group group(boolean retired, String... members) {
    List<Group.Member> all = new ArrayList<>();
    for (String member : members) {
      all.add(new Group.Member.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey(member)));
    }
    return new Group(
        new GroupKey("g"), About.NONE, new AccountKey("a"), retired, all, null, List.of());
  }

  /** A guest membership or activation that is there already: no screen can put it into a draft. */
  private static boolean addsWhatIsThere(Change change, Catalogue now) {
    return change.things().getLast() instanceof Guest it && now.guests().contains(it);
  }

  /** Changes of a random model, one after the other, that leave it without faults together. */
  private static Draft randomDraft(Engine engine, long seed, int steps, Set<Draft.Id> spared) {
    RandomChanges changes = new RandomChanges(seed);
    Catalogue now = engine.catalogue();
    Draft draft = Draft.EMPTY;
    for (int step = 0; step < steps; step++) {
      Change change = changes.next(now.model());
      if (spared.contains(Draft.Id.of(change)) || addsWhatIsThere(change, now)) {
        continue;
      }
      try {
        Draft next = draft.with(change); // refuses a second one of two that are equal and keyless
        now = Changes.apply(now, List.of(change));
        draft = next;
      } catch (IllegalArgumentException _) {
        // refused: the draft stays as it was
      }
    }
    return draft;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void applyingADraftThenItsInverseIsTheIdentity(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    Draft draft = randomDraft(engine, seed, 12, Set.of());
    Catalogue there = Changes.apply(engine.catalogue(), draft.inOrder());
    Catalogue back = Changes.apply(there, draft.inverse().inOrder());
    assertThat(back.model().sorted()).isEqualTo(engine.catalogue().model().sorted());
    assertThat(draft.inverse().inverse().sameAs(draft)).isTrue();
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void aDraftDoesWhatItsChangesDoOneAfterTheOther(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    RandomChanges changes = new RandomChanges(seed + 5);
    Catalogue now = engine.catalogue();
    Draft draft = Draft.EMPTY;
    for (int step = 0; step < 20; step++) {
      Change change = changes.next(now.model());
      try {
        Draft next = draft.with(change); // refuses a second one of two that are equal and keyless
        now = Changes.apply(now, List.of(change));
        draft = next;
      } catch (IllegalArgumentException _) {
        // refused
      }
    }
    assertThat(Changes.apply(engine.catalogue(), draft.inOrder()).model().sorted())
        .isEqualTo(now.model().sorted());
    assertThat(engine.after(draft.inOrder()).catalogue().model().sorted())
        .isEqualTo(now.model().sorted());
  }

  /** Where the second still leaves a sound model after the first, order does not matter. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void draftsThatTouchDifferentThingsCommute(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    Draft one = randomDraft(engine, seed, 6, Set.of());
    Set<Draft.Id> touched = new HashSet<>();
    one.changes().forEach(change -> touched.add(Draft.Id.of(change)));
    Draft other = randomDraft(engine, seed + 1000, 6, touched);
    Catalogue first = one.appliedUnchecked(engine.catalogue());
    Catalogue second = other.appliedUnchecked(engine.catalogue());
    Rebase onFirst = Rebase.of(other, first);
    Rebase onSecond = Rebase.of(one, second);
    assertThat(onFirst.clashes()).isEmpty();
    assertThat(onSecond.clashes()).isEmpty();
    assertThat(onFirst.draft().appliedUnchecked(first).model().sorted())
        .isEqualTo(onSecond.draft().appliedUnchecked(second).model().sorted());
  }

  @Nested
  class OppositeEdits {

    @Test
    void cancel() {
      Change join = new Change.Altered(group(), group("noor"));
      Change leave = new Change.Altered(group("noor"), group());
      assertThat(Draft.EMPTY.with(join).with(leave).isEmpty()).isTrue();
      Change comes = new Change.Added(account("a", "A"));
      assertThat(Draft.EMPTY.with(comes).with(comes.inverse()).isEmpty()).isTrue();
      assertThat(Draft.EMPTY.with(comes.inverse()).with(comes).isEmpty()).isTrue();
    }

    @Test
    void joinToOneChangeOfAThing() {
      Thing a = account("a", "A");
      Thing b = account("a", "B");
      Thing c = account("a", "C");
      assertThat(Draft.of(List.of(new Change.Altered(a, b), new Change.Altered(b, c))).changes())
          .containsExactly(new Change.Altered(a, c));
      assertThat(Draft.of(List.of(new Change.Added(a), new Change.Altered(a, b))).changes())
          .containsExactly(new Change.Added(b));
      assertThat(Draft.of(List.of(new Change.Altered(a, b), new Change.Removed(b))).changes())
          .containsExactly(new Change.Removed(a));
      assertThat(Draft.of(List.of(new Change.Removed(a), new Change.Added(b))).changes())
          .containsExactly(new Change.Altered(a, b));
    }

    @Test
    void thatCannotFollowAreRefused() {
      Thing a = account("a", "A");
      Draft added = Draft.EMPTY.with(new Change.Added(a));
      assertThatThrownBy(() -> added.with(new Change.Added(a)))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessage("The account 'a' is added by this draft already");
      Draft removed = Draft.EMPTY.with(new Change.Removed(a));
      assertThatThrownBy(() -> removed.with(new Change.Altered(a, a)))
          .hasMessage("The account 'a' is removed by this draft");
      assertThatThrownBy(() -> new Draft(List.of(new Change.Added(a), new Change.Removed(a))))
          .hasMessageContaining("one change for each thing");
    }
  }

  @Nested
  class Rebasing {

    private final Catalogue base =
        new Catalogue(
            mandala.core.model.AccessModel.builder()
                .add(account("a", "A"), group("x"))
                .add(person("x"), person("mine"), person("theirs"))
                .build());

    private static Principal person(String key) {
      return Somebody.at(new AccountKey("a"), new PrincipalKey(key));
    }

    private Rebase rebase(Change mine, Thing... theirs) {
      Catalogue now = base;
      for (Thing thing : theirs) {
        now = now.with(thing);
      }
      return Rebase.of(Draft.EMPTY.with(mine), now);
    }

    @Test
    void joinsMembersThatBothAdded() {
      Rebase rebase =
          rebase(new Change.Altered(group("x"), group("x", "mine")), group("x", "theirs"));
      assertThat(rebase.clashes()).isEmpty();
      assertThat(rebase.draft().changes())
          .containsExactly(new Change.Altered(group("x", "theirs"), group("x", "mine", "theirs")));
    }

    @Test
    void whomTheOtherTookOutStaysOut() {
      Rebase rebase = rebase(new Change.Altered(group("x"), group("x", "mine")), group());
      assertThat(rebase.draft().changes())
          .containsExactly(new Change.Altered(group(), group("mine")));
    }

    @Test
    void joinsDifferentFields() {
      Rebase rebase =
          rebase(new Change.Altered(group("x"), group(true, "x")), group("x", "theirs"));
      assertThat(rebase.draft().changes())
          .containsExactly(new Change.Altered(group("x", "theirs"), group(true, "x", "theirs")));
    }

    @Test
    void oneFieldAlteredTwiceClashesAndNeitherIsLost() {
      Change mine = new Change.Altered(account("a", "A"), account("a", "Mine"));
      Rebase rebase = rebase(mine, account("a", "Theirs"));
      assertThat(rebase.draft().isEmpty()).isTrue();
      Rebase.Clash clash = rebase.clashes().getFirst();
      assertThat(clash.fields()).containsExactly("name");
      assertThat(clash.theirs()).isEqualTo(account("a", "Theirs"));
      assertThat(clash.mineOverTheirs())
          .isEqualTo(new Change.Altered(account("a", "Theirs"), account("a", "Mine")));
    }

    @Test
    void whatTheOtherRemovedOrAlteredBeforeIRemoveItIsAsked() {
      Change alters = new Change.Altered(group("x"), group("x", "mine"));
      Rebase gone = Rebase.of(Draft.EMPTY.with(alters), base.without(group("x")));
      assertThat(gone.clashes()).hasSize(1);
      assertThat(gone.clashes().getFirst().mineOverTheirs())
          .isEqualTo(new Change.Added(group("x", "mine")));
      Rebase altered = rebase(new Change.Removed(group("x")), group("x", "theirs"));
      assertThat(altered.clashes().getFirst().fields()).containsExactly("members");
      assertThat(altered.clashes().getFirst().mineOverTheirs())
          .isEqualTo(new Change.Removed(group("x", "theirs")));
    }

    @Test
    void whatIsAsWantedAlreadyDropsOut() {
      Change mine = new Change.Altered(account("a", "A"), account("a", "Same"));
      Rebase rebase = rebase(mine, account("a", "Same"));
      assertThat(rebase.draft().isEmpty()).isTrue();
      assertThat(rebase.clashes()).isEmpty();
      assertThat(rebase.done()).containsExactly(Draft.Id.of(mine));
    }

    @Test
    void labelsAreJoinedNameByName() {
      Resource was = resource(Map.of("floor", "1"));
      Catalogue now = base.with(resource(Map.of("floor", "1", "wing", "east")));
      Change mine = new Change.Altered(was, resource(Map.of("floor", "2")));
      assertThat(Rebase.of(Draft.EMPTY.with(mine), now).draft().changes().getFirst().things())
          .last()
          .isEqualTo(resource(Map.of("floor", "2", "wing", "east")));
    }

    private static Resource resource(Map<String, String> labels) {
      return new Resource(
          new ResourceKey("r"),
          About.NONE,
          new TypeKey("room"),
          new AccountKey("a"),
          null,
          null,
          null,
          labels,
          false);
    }
  }

  @Nested
  class MergingPlaces {

    private static Resource place(String key, @Nullable String parent) {
      return new Resource(
          new ResourceKey(key),
          About.NONE,
          new TypeKey("t"),
          new AccountKey("a"),
          parent == null ? null : new ResourceKey(parent),
          null,
          null,
          java.util.Map.of(),
          false);
    }

    private static Assignment over(Term... terms) {
      return new Assignment(
          new AssignmentKey("s"),
          About.NONE,
          Subject.Public.SIGNED_IN,
          new Gives.OfPermission(new PermissionKey("see")),
          Assignment.Effect.ALLOW,
          java.util.Arrays.stream(terms).map(Clause::of).toList(),
          List.of(),
          Window.ALWAYS,
          Assignment.Mode.STANDING,
          false);
    }

    private static AccessModel model() {
      return AccessModel.builder()
          .add(account("a", "A"))
          .add(new ResourceType(new TypeKey("t"), About.NONE, null))
          .add(
              new Permission(
                  new PermissionKey("see"),
                  About.NONE,
                  null,
                  List.of(new TypeKey("t")),
                  Permission.AccessClass.VIEW,
                  Permission.Risk.LOW,
                  List.of(),
                  List.of(),
                  null))
          .addAll(
              List.of(place("old", null), place("new", null), place("x", "old"), place("y", "x")))
          .add(
              new ResourceCollection(
                  new CollectionKey("c"),
                  About.NONE,
                  new AccountKey("a"),
                  List.of(new ResourceKey("old"), new ResourceKey("new"))))
          .add(over(new Term.Tree(new ResourceKey("old")), new Term.Tree(new ResourceKey("new"))))
          .build();
    }

    @Test
    void takesAlongWhatLiesBelowAndWhateverNamedIt() {
      Engine engine = Engine.of(model());
      Draft draft =
          Draft.of(
              PlaceMerge.of(engine.catalogue(), new ResourceKey("old"), new ResourceKey("new")));
      AccessModel merged = engine.after(draft.inOrder()).catalogue().model();
      assertThat(merged.resources())
          .containsExactlyInAnyOrder(place("new", null), place("x", "new"), place("y", "x"));
      assertThat(merged.collections().getFirst().members()).containsExactly(new ResourceKey("new"));
      assertThat(merged.assignments()).containsExactly(over(new Term.Tree(new ResourceKey("new"))));
    }

    @Test
    void intoItsAccountLeavesNoParent() {
      Catalogue before = new Catalogue(model());
      List<Change> changes =
          PlaceMerge.of(before, new ResourceKey("x"), new ResourceKey("account:a"));
      assertThat(Draft.of(changes).appliedUnchecked(before).resources().get(new ResourceKey("y")))
          .isEqualTo(place("y", null));
    }

    @Test
    void refusesWhatLiesBelowItAndWhatIsNoListedPlace() {
      Catalogue before = new Catalogue(model());
      assertThatThrownBy(() -> PlaceMerge.of(before, new ResourceKey("old"), new ResourceKey("y")))
          .hasMessageContaining("merge the other way round");
      assertThatThrownBy(
              () -> PlaceMerge.of(before, new ResourceKey("account:a"), new ResourceKey("y")))
          .hasMessageContaining("no listed place");
    }
  }
}
